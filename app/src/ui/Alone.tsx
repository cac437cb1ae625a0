import type { ReactNode } from 'react';
import { ScrollView, View, type ViewStyle } from 'react-native';
import { useLook } from './look.ts';

interface AloneProps extends Pick<ViewStyle, 'alignItems'> {
  gap?: number;
  maxWidth?: number;
  children: ReactNode;
}

/** A page that stands alone, without the tabs: for who is not signed in. */
export function Alone({ gap = 16, maxWidth = 400, alignItems, children }: AloneProps) {
  const look = useLook();
  return (
    <ScrollView
      style={{ flex: 1, backgroundColor: look.paper }}
      contentContainerStyle={{ alignItems: 'center', padding: 24, paddingTop: 56 }}
      role="main"
    >
      <View style={{ width: '100%', maxWidth, gap, alignItems }}>{children}</View>
    </ScrollView>
  );
}

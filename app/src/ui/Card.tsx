import type { ReactNode } from 'react';
import { View, type StyleProp, type ViewStyle } from 'react-native';
import { useLook } from './look.ts';

interface CardProps {
  children: ReactNode;
  /** What it is called for screen readers, where it is a group of controls. */
  label?: string;
  style?: StyleProp<ViewStyle>;
}

/** Something that opened in place, set off from what stands around it. */
export function Card({ children, label, style }: CardProps) {
  const look = useLook();
  return (
    <View
      {...(label === undefined ? {} : { role: 'group' as const, 'aria-label': label })}
      style={[
        {
          backgroundColor: look.card,
          borderWidth: 1,
          borderColor: look.line,
          borderRadius: 12,
          paddingHorizontal: 14,
        },
        style,
      ]}
    >
      {children}
    </View>
  );
}

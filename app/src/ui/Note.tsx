import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Action } from './Action.tsx';
import { Words } from './Words.tsx';
import { useLook } from './look.ts';

interface NoteProps {
  words: ReactNode;
  /** A short verb, and what it does. */
  action?: { label: string; name?: string; onPress: () => void };
}

/** Something said in place, with at most one thing to do about it. */
export function Note({ words, action }: NoteProps) {
  const look = useLook();
  return (
    <View
      style={{
        backgroundColor: look.slateFill,
        borderRadius: 10,
        paddingVertical: 8,
        paddingHorizontal: 14,
        minHeight: 48,
        flexDirection: 'row',
        alignItems: 'center',
        gap: 12,
      }}
    >
      <Words size={15} style={{ flex: 1 }}>
        {words}
      </Words>
      {action ? <Action {...action} /> : null}
    </View>
  );
}

import type { ReactNode } from 'react';
import { View } from 'react-native';
import { useLook } from '../../ui/look.ts';

/** Something that is looked at before the days: a proposal, the bundles. */
export function Framed({ label, children }: { label: string; children: ReactNode }) {
  const look = useLook();
  return (
    <View
      role="region"
      aria-label={label}
      style={{
        marginHorizontal: 20,
        marginVertical: 10,
        padding: 14,
        borderWidth: 1.5,
        borderColor: look.ink,
        borderRadius: 12,
        backgroundColor: look.card,
        gap: 6,
      }}
    >
      {children}
    </View>
  );
}

import type { ReactNode } from 'react';
import { View } from 'react-native';
import { VirtualRows } from './VirtualRows.tsx';
import { useLook } from './look.ts';
import type { VirtualRowsProps } from './virtual.ts';

interface LongListProps<T> extends VirtualRowsProps<T> {
  /** What stands above the rows, and scrolls with them. */
  head: ReactNode;
  width?: number;
}

/** A screen of rows, however many there are, with what stands above them. */
export function LongList<T>({ head, width, ...rows }: LongListProps<T>) {
  const look = useLook();
  return (
    <View style={{ flex: 1, overflow: 'scroll', backgroundColor: look.paper }}>
      <View style={{ padding: 20, width: '100%', ...(width ? { maxWidth: width } : {}) }}>
        {head}
        <VirtualRows {...rows} />
      </View>
    </View>
  );
}

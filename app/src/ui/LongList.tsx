import { useVirtualizer } from '@tanstack/react-virtual';
import { useRef, type ReactElement, type ReactNode } from 'react';
import { View } from 'react-native';
import { useLook } from './look.ts';

interface LongListProps<T> {
  label: string;
  rows: readonly T[];
  keyOf: (row: T) => string;
  /** About how high a row is, in px, until it is drawn. */
  height: number;
  /** What stands above the rows, and scrolls with them. */
  head: ReactNode;
  children: (row: T) => ReactElement;
  width?: number;
}

/** Rows of which only those in sight are drawn, however many there are. */
export function LongList<T>({
  label,
  rows,
  keyOf,
  height,
  head,
  children,
  width,
}: LongListProps<T>) {
  const look = useLook();
  const scroller = useRef<HTMLDivElement>(null);
  const top = useRef<HTMLDivElement>(null);
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    getItemKey: (i) => keyOf(rows[i]!),
    scrollMargin: top.current?.offsetHeight ?? 0,
    overscan: 8,
  });
  const margin = list.options.scrollMargin;
  return (
    <View
      ref={scroller as never}
      style={{ flex: 1, overflow: 'scroll', backgroundColor: look.paper }}
    >
      <View style={{ padding: 20, width: '100%', ...(width ? { maxWidth: width } : {}) }}>
        <View ref={top as never}>{head}</View>
        <View role="list" aria-label={label} style={{ height: list.getTotalSize() }}>
          {list.getVirtualItems().map(({ key, index, start }) => (
            <View
              key={key as string}
              role="listitem"
              ref={list.measureElement as never}
              {...({ dataSet: { index } } as object)}
              {...({
                'aria-posinset': index + 1,
                'aria-setsize': rows.length,
              } as object)}
              style={{
                position: 'absolute',
                left: 0,
                right: 0,
                transform: [{ translateY: start - margin }],
              }}
            >
              {children(rows[index]!)}
            </View>
          ))}
        </View>
      </View>
    </View>
  );
}

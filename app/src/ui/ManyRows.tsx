import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import type { VirtualRowsProps } from './virtual.ts';

/** Of very many rows those in sight. */
export default function ManyRows<T>({ label, rows, keyOf, height, children }: VirtualRowsProps<T>) {
  const own = useRef<View>(null);
  const [at, setAt] = useState<{ scroller: HTMLElement; margin: number } | null>(null);
  useLayoutEffect(() => {
    const list = own.current as unknown as HTMLElement;
    const scroller = scrollerOf(list);
    if (!scroller) return;
    const look = () => {
      const margin =
        list.getBoundingClientRect().top -
        scroller.getBoundingClientRect().top +
        scroller.scrollTop;
      setAt((before) =>
        before?.scroller === scroller && Math.abs(before.margin - margin) < 1
          ? before
          : { scroller, margin },
      );
    };
    look();
    // What stands above it may grow.
    const observer = new ResizeObserver(look);
    for (const child of scroller.children) observer.observe(child);
    return () => observer.disconnect();
  }, []);
  const list = useVirtualizer({
    count: rows.length,
    getScrollElement: () => at?.scroller ?? null,
    estimateSize: () => height,
    getItemKey: (i) => keyOf(rows[i]!),
    scrollMargin: at?.margin ?? 0,
    overscan: 8,
  });
  return (
    <View ref={own} role="list" aria-label={label} style={{ height: list.getTotalSize() }}>
      {list.getVirtualItems().map(({ key, index, start }) => (
        <View
          key={key as string}
          role="listitem"
          ref={list.measureElement as never}
          {...({ dataSet: { index } } as object)}
          {...({ 'aria-posinset': index + 1, 'aria-setsize': rows.length } as object)}
          style={{
            position: 'absolute',
            left: 0,
            right: 0,
            transform: [{ translateY: start - (at?.margin ?? 0) }],
          }}
        >
          {children(rows[index]!, index)}
        </View>
      ))}
    </View>
  );
}

function scrollerOf(from: HTMLElement): HTMLElement | null {
  for (let it = from.parentElement; it; it = it.parentElement)
    if (/auto|scroll/u.test(getComputedStyle(it).overflowY)) return it;
  return null;
}

import { useEffect, useRef, type RefObject } from 'react';
import type { View } from 'react-native';

/** Brings into sight, above the bar, what has opened below what is in sight; nothing moves where it is in sight. */
export function useInSight(): RefObject<View | null> {
  const at = useRef<View>(null);
  useEffect(() => {
    const it = at.current as unknown as HTMLElement | null;
    it?.scrollIntoView?.({ block: 'nearest' });
  }, []);
  return at;
}

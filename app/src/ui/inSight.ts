import type { View } from 'react-native';

/** Brings into sight, above the bar, what has opened below what is in sight; nothing moves where it is in sight. */
export function inSight(view: View | null): void {
  const it = view as unknown as HTMLElement | null;
  it?.scrollIntoView?.({ block: 'nearest' });
}

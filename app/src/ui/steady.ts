import { useCallback, useLayoutEffect, useRef, useState } from 'react';

/** A function that stays the same one from drawing to drawing and does what the newest does, so that what it is handed to need not be drawn again. */
export function useSteady<A extends unknown[], R>(newest: (...args: A) => R): (...args: A) => R {
  const ref = useRef(newest);
  useLayoutEffect(() => {
    ref.current = newest;
  });
  return useCallback((...args: A) => ref.current(...args), []);
}

/** A list that stays the same one while what is in it does. */
export function useSameList<T>(list: readonly T[]): readonly T[] {
  const [kept, setKept] = useState(list);
  if (kept.length === list.length && list.every((it, i) => it === kept[i])) return kept;
  setKept(list);
  return list;
}

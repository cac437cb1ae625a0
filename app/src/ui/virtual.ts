import type { ReactElement } from 'react';

/** Rows of which those in sight alone are drawn, where there are many. */
export interface VirtualRowsProps<T> {
  /** What the list is called. */
  label?: string;
  rows: readonly T[];
  keyOf: (row: T) => string;
  /** About how high a row is, in px, until it is drawn. */
  height: number;
  children: (row: T, i: number) => ReactElement;
}

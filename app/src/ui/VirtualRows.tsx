import { Suspense, lazy, type ReactElement } from 'react';
import { View } from 'react-native';
import { Waiting } from './Waiting.tsx';

/** Loaded where there are many: most people’s lists are short. */
const Many = lazy(() => import('./ManyRows.tsx'));

export interface VirtualRowsProps<T> {
  rows: readonly T[];
  keyOf: (row: T) => string;
  /** About how high a row is, in px, until it is drawn. */
  height: number;
  children: (row: T, i: number) => ReactElement;
}

/** Up to so many are simply drawn. */
const FEW = 60;

/** Rows within a screen that scrolls: of very many, those in sight alone are drawn. */
export function VirtualRows<T>(props: VirtualRowsProps<T>) {
  const { rows, keyOf, children } = props;
  if (rows.length > FEW)
    return (
      <Suspense fallback={<Waiting lines={8} label="The rows" />}>
        <Many {...(props as unknown as VirtualRowsProps<unknown>)} />
      </Suspense>
    );
  return rows.map((row, i) => <View key={keyOf(row)}>{children(row, i)}</View>);
}

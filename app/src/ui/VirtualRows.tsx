import { Suspense, lazy } from 'react';
import { View } from 'react-native';
import { Waiting } from './Waiting.tsx';
import type { VirtualRowsProps } from './virtual.ts';

/** Loaded where there are many: most people’s lists are short. */
const Many = lazy(() => import('./ManyRows.tsx'));

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

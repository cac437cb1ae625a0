import { Suspense, lazy } from 'react';
import { Waiting } from './Waiting.tsx';
import type { VirtualRowsProps } from './virtual.ts';

/** Loaded where there are many: most people’s lists are short. */
const Many = lazy(() => import('./ManyRows.tsx'));

/** Very many rows within a screen that scrolls: those in sight alone are drawn. */
export const VirtualRows = <T,>(props: VirtualRowsProps<T>) => (
  <Suspense fallback={<Waiting lines={8} label="The rows are on their way" />}>
    <Many {...(props as unknown as VirtualRowsProps<unknown>)} />
  </Suspense>
);

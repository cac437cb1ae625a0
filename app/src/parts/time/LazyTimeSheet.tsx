import { Suspense, lazy, type ComponentProps } from 'react';
import type { TimeSheet } from './TimeSheet.tsx';

const Loaded = lazy(async () => ({ default: (await import('./TimeSheet.tsx')).TimeSheet }));

/** What can be done with one time, once it is asked for: no screen loads it before. */
export function LazyTimeSheet(props: ComponentProps<typeof TimeSheet>) {
  return (
    <Suspense fallback={null}>
      <Loaded {...props} />
    </Suspense>
  );
}

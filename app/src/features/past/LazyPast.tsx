import { Suspense, lazy, type ComponentType } from 'react';
import type * as Screens from './screens.ts';
import { Waiting } from '../../ui/Waiting.tsx';

/** A screen that looks back, loaded when one is first shown. */
export function lazyPast(name: keyof typeof Screens): ComponentType {
  const Screen = lazy(async () => ({
    default: (await import('./screens.ts'))[name] as ComponentType,
  }));
  return function Past() {
    return (
      <Suspense fallback={<Waiting lines={6} label="What happened is on its way" />}>
        <Screen />
      </Suspense>
    );
  };
}

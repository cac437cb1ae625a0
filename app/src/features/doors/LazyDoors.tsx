import { Suspense, lazy, type ComponentType } from 'react';
import type * as Screens from './screens.ts';
import { Waiting } from '../../ui/Waiting.tsx';

/** A screen of what goes in and out, loaded when one is first shown. */
export function lazyDoors(name: keyof typeof Screens): ComponentType {
  const Screen = lazy(async () => ({
    default: (await import('./screens.ts'))[name] as ComponentType,
  }));
  return function Doors() {
    return (
      <Suspense fallback={<Waiting lines={5} label="The page is on its way" />}>
        <Screen />
      </Suspense>
    );
  };
}

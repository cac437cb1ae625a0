import { Suspense, lazy, type ComponentType } from 'react';

type Screens = typeof import('./screens.ts');

/** A screen that looks back, loaded when one is first shown. */
export function lazyPast(name: keyof Screens): ComponentType {
  const Screen = lazy(async () => ({
    default: (await import('./screens.ts'))[name] as ComponentType,
  }));
  return function Past() {
    return (
      <Suspense fallback={null}>
        <Screen />
      </Suspense>
    );
  };
}

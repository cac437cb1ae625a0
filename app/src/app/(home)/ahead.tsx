import { Suspense, lazy } from 'react';
import { LazyStory } from '../../features/todo/LazyStory.tsx';
import { Waiting } from '../../ui/Waiting.tsx';

const Screen = lazy(async () => ({
  default: (await import('../../features/ahead/AheadScreen.tsx')).AheadScreen,
}));

export default function Ahead() {
  return (
    <Suspense fallback={<Waiting lines={6} label="The days ahead is on its way" />}>
      <Screen story={(id) => <LazyStory id={id} />} />
    </Suspense>
  );
}

import { Suspense, lazy } from 'react';
import { LazyStory } from '../../features/todo/LazyStory.tsx';

const Screen = lazy(async () => ({
  default: (await import('../../features/ahead/AheadScreen.tsx')).AheadScreen,
}));

export default function Ahead() {
  return (
    <Suspense fallback={null}>
      <Screen story={(id) => <LazyStory id={id} />} />
    </Suspense>
  );
}

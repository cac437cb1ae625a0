import { Suspense, lazy } from 'react';
import { Waiting } from '../../ui/Waiting.tsx';

const Story = lazy(async () => ({ default: (await import('./Story.tsx')).Story }));

/** The story of a to-do, loaded when one is first shown beside a list. */
export function LazyStory({ id }: { id: string | null }) {
  return (
    <Suspense fallback={<Waiting lines={6} label="The to-do is on its way" />}>
      <Story id={id} />
    </Suspense>
  );
}

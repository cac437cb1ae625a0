import { Suspense, lazy } from 'react';

const Story = lazy(async () => ({ default: (await import('./Story.tsx')).Story }));

/** The story of a to-do, loaded when one is first shown beside a list. */
export function LazyStory({ id }: { id: string | null }) {
  return (
    <Suspense fallback={null}>
      <Story id={id} />
    </Suspense>
  );
}

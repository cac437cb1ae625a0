import { soak } from './soak.ts';

// A short form of `npm run check:soak`: of so few days the memory says nothing.

test('some weeks of a few people, with restarts: nothing differs from the core alone', async () => {
  const { actions } = await soak({ people: 6, days: 45, restarts: 2 });
  expect(actions).toBeGreaterThan(100);
}, 120_000);

import { soak } from './soak.ts';

// `npm run check:soak`; SOAK_PEOPLE and SOAK_DAYS make it shorter.

test('a year of many people: memory flat, and nothing differs from the core alone', async () => {
  const people = Number(process.env.SOAK_PEOPLE ?? 200);
  const days = Number(process.env.SOAK_DAYS ?? 365);
  const { second, last } = await soak({ people, days, restarts: 12 });
  expect(last).toBeLessThan(second * 1.1);
}, 3_600_000);

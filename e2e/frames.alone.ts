import { randomUUID } from 'node:crypto';
import { expect, test } from './program.ts';

// Twelve months of 2,000 to-dos are scrolled through: no frame is held up for more than 50 ms by the
// program. How fast a machine draws is its own matter, so that this is run alone (`npm run check:frames`).

const MANY = 2000;
const REPEATS = [
  { by: 'calendar', rule: 'FREQ=DAILY' },
  { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=TU,TH' },
  { by: 'completion', every: 'P14D' },
  { by: 'calendar', rule: 'FREQ=MONTHLY;BYMONTHDAY=31;SKIP=BACKWARD' },
  { by: 'quota', times: 3, per: 'week' },
  { by: 'calendar', rule: 'FREQ=YEARLY;BYMONTH=9;BYMONTHDAY=4' },
  null,
];

test('twelve months of 2,000 to-dos scroll without a frame over 50 ms', async ({
  page,
  someone,
}) => {
  await someone();
  const create = (i: number) =>
    page.request.post('/api/actions', {
      data: {
        id: randomUUID(),
        do: 'create',
        todo: randomUUID(),
        series: {
          start: `2026-11-${String((i % 28) + 1).padStart(2, '0')}`,
          repeat: REPEATS[i % REPEATS.length],
        },
        details: { title: `Look at no. ${i}`, takes: 5 * (1 + (i % 12)) },
      },
    });
  for (let i = 0; i < MANY; i += 20)
    await Promise.all(Array.from({ length: 20 }, (_, k) => create(i + k)));
  await page.goto('/ahead');
  await page.getByRole('tab', { name: 'Month' }).click();
  await expect(page.getByRole('button', { name: /^Friday 27 November, \d+ to do/ })).toBeVisible({
    timeout: 30_000,
  });
  await page.waitForLoadState('networkidle');
  const measured = await page.evaluate(async () => {
    const list = Array.from(document.querySelectorAll<HTMLElement>('div')).find(
      (it) => getComputedStyle(it).overflowY === 'auto' && it.scrollHeight > it.clientHeight,
    )!;
    const held: number[] = [];
    new PerformanceObserver((all) =>
      held.push(...all.getEntries().map((it) => it.duration)),
    ).observe({
      type: 'longtask',
    });
    const frames: number[] = [];
    let last = performance.now();
    const months = () => document.querySelectorAll('[role=group][aria-label]').length;
    const end = last + 60_000;
    await new Promise<void>((done) => {
      const step = (now: number) => {
        frames.push(now - last);
        last = now;
        list.scrollTop += 24;
        if ((months() >= 13 && list.scrollTop > 12 * 330) || now > end) done();
        else requestAnimationFrame(step);
      };
      requestAnimationFrame(step);
    });
    frames.shift();
    frames.sort((a, b) => a - b);
    return {
      months: months(),
      frames: frames.length,
      median: frames[Math.floor(frames.length / 2)]!,
      slow: frames.filter((it) => it > 50).map(Math.round),
      held: held.map(Math.round),
    };
  });
  console.log(`Frames of twelve months: ${JSON.stringify(measured)}`);
  expect(measured.months).toBeGreaterThanOrEqual(12);
  expect(measured.slow).toEqual([]);
});

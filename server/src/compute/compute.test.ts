import { NO_DETAILS, begin, checkSeries, formatInstant, parseInstant } from '@back-again/core';
import { compute, readyFor, restMachine } from './compute.ts';
import { doTask, plannerFor, type Kept } from './tasks.ts';

const MADE = parseInstant('2027-06-01T10:00:00Z');
const DAY = 86_400_000;
const settings = { zone: 'UTC', dayStart: '00:00', weekStart: 'MO' } as const;
const hours = Array.from({ length: 24 }, (_, i) => `${String(i).padStart(2, '0')}:30`);
const often = checkSeries({
  title: 'Look at the gauge',
  start: '2027-06-01',
  at: hours,
  repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
});
const kept: Kept = {
  id: 'x',
  made: MADE,
  details: { ...NO_DETAILS, title: 'Look at the gauge' },
  progress: begin(plannerFor(settings), often, MADE),
  settings,
};

/** How often other work had its turn while something was worked out. */
async function turnsDuring(work: Promise<unknown>): Promise<number> {
  let turns = 0;
  let isOver = false;
  const settled = work.then(
    () => void (isOver = true),
    () => void (isOver = true),
  );
  while (!isOver) {
    turns++;
    await new Promise(setImmediate);
  }
  await settled;
  return turns;
}

afterAll(restMachine);

test('what takes long is worked out beside, to the same, while others have their turn', async () => {
  const given = { todo: kept, to: MADE + 3 * 366 * DAY, from: null };
  const work = compute('pass', given);
  expect(await turnsDuring(work)).toBeGreaterThan(50);
  expect(await work).toEqual(doTask('pass', given));
});

test('what goes on regardless is stopped, in words, and the next is worked out again', async () => {
  const work = compute('pass', {
    todo: kept,
    to: parseInstant('2427-06-01T00:00:00Z'),
    from: null,
  });
  expect(await turnsDuring(work)).toBeGreaterThan(50);
  await expect(work).rejects.toMatchObject({ code: 'machine.long' });
  const { outcome } = await compute('pass', { todo: kept, to: MADE + DAY, from: null });
  expect(formatInstant(outcome.progress.through!)).toBe('2027-06-02T10:00:00Z');
});

test('what the core refuses is refused the same from the worker', async () => {
  await expect(readyFor({ ...settings, holidays: 'QQ' })).rejects.toMatchObject({
    code: 'holidays.region',
  });
});

test('the holidays of a region are worked out beside, once for all who ask', async () => {
  const asking = ['US-CA', 'US-CA'].map((holidays) => readyFor({ ...settings, holidays }));
  expect(await turnsDuring(Promise.all(asking))).toBeGreaterThan(50);
  expect(plannerFor({ ...settings, holidays: 'US-CA' }).clock).toBeDefined();
});

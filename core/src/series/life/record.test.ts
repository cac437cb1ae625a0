import { formatDay } from '../../calendar/day.ts';
import { chance } from '../../chance.ts';
import { CoreError } from '../../errors.ts';
import { checkSeries } from '../../definition/check.ts';
import type { Deed } from '../deeds/deeds.ts';
import type { Series } from '../definition/definition.ts';
import { Life } from './life.ts';
import type { Step } from './record.ts';
import { checkSettings } from '../person/settings.ts';
import { plannerOf } from '../plan/planner.ts';
import type { Planner } from '../plan/plan.ts';

// R14 and R7: whatever was done, entered earlier and taken back, the record is that of what is left,
// done from the start. A few lives in each run; RECORDS names how many in a long one.

const RECORDS = Number(process.env.RECORDS ?? 1500);
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const BORN = Date.UTC(2027, 5, 1, 10);

const rule = (text: string) => ({ by: 'calendar', rule: text });
const DEFINITIONS: Series[] = [
  { repeat: rule('FREQ=DAILY') },
  { repeat: rule('FREQ=DAILY'), owe: 'every' },
  { repeat: rule('FREQ=DAILY'), at: ['08:00', '13:00', '20:00'], opensBefore: 'P2D' },
  { repeat: rule('FREQ=WEEKLY;BYDAY=TU,FR'), late: 'wait', opensBefore: 'P3D' },
  { repeat: rule('FREQ=DAILY;INTERVAL=2'), late: 'lapse', grace: 'P1D', ends: { after: 6 } },
  { repeat: { by: 'completion', every: 'P3D' } },
  { repeat: { by: 'completion', every: 'P2D' }, late: 'lapse', grace: 'P1D' },
  { repeat: { by: 'completion', every: 'PT9H' } },
  { repeat: { by: 'quota', times: 3, per: 'week' } },
  { repeat: { by: 'quota', times: 1, per: 'day' } },
  { repeat: { by: 'dates', dates: ['2027-06-02', '2027-06-03', '2027-06-08'] } },
  { repeat: null },
].map((parts) => checkSeries({ title: 'Weigh the hives', start: '2027-05-30', ...parts }));

const PLANNERS = [
  plannerOf(checkSettings()),
  plannerOf(checkSettings({ zone: 'Europe/London', dayStart: '04:00' })),
];

type Below = ReturnType<typeof chance>;
const one = <T>(below: Below, all: readonly T[]): T => all[below(all.length)]!;

/** Anything that a person might do, most often to a time that there is, open or ended. */
function anyDeed(below: Below, life: Life, at: number): Deed {
  const slots = life.times.map((time) => time.slot);
  const day = (n: number) => formatDay(Math.floor(at / DAY) + n);
  slots.push(day(below(4)), day(1 + below(4)));
  const slot = below(4) ? { slot: one(below, slots) } : {};
  return one<Deed>(below, [
    { do: 'done', ...slot },
    { do: 'done', ...slot },
    { do: 'done' },
    { do: 'skip', ...slot },
    { do: 'tally', ...slot },
    { do: 'move', ...slot, plan: day(below(5)) },
    { do: 'move', ...slot, due: day(below(5)) },
    { do: 'move', ...slot, due: `${day(below(5))}T11:00`, plan: day(below(5)) },
    { do: 'part', ...slot, part: below(100) },
    { do: 'note', ...slot, note: `Heavy ${below(9)}` },
    { do: 'note', ...slot, note: below(2) ? 'Light' : '' },
    { do: 'tick', ...slot, step: one(below, ['a', 'b', 'c']), on: below(3) > 0 },
    { do: 'addStep', ...slot, step: { id: 'c', text: below(3) ? `Lift ${below(9)}` : '' } },
    { do: 'answer', ...slot, answers: { litres: below(3) ? below(90) : null }, spent: below(50) },
    { do: 'done', ...slot, answers: { litres: below(90) }, spent: below(2) ? 5 : null },
    { do: 'later', ...slot, to: new Date(at + 5 * HOUR).toISOString() },
    { do: 'drop', ...slot },
    { do: 'pause', to: day(below(4)) },
    { do: 'pause', from: day(2) },
    { do: 'resume' },
    { do: 'end', ...(below(2) ? slot : {}) },
    { do: 'reopen' },
    {
      do: 'change',
      ...slot,
      series: { repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=3' } },
    },
    { do: 'change', ...slot, series: { repeat: { by: 'completion', every: 'P2D' }, at: [] } },
    { do: 'change', ...slot, series: { repeat: { by: 'quota', times: 2, per: 'week' }, at: [] } },
    { do: 'change', ...slot, series: { owe: 'every' } },
  ]);
}

/** What there would be, had only these steps been done, one after another. */
function anew(planner: Planner, series: Series, steps: readonly Step[], now: number): Life {
  const life = new Life(planner, { series, at: Math.min(BORN, steps[0]?.at ?? BORN) });
  for (const step of steps) expect([step, life.do(step)]).toEqual([step, true]);
  life.pass(now);
  return life;
}

const state = ({ progress, times, log }: Life) => ({
  progress,
  times: times.sort((a, b) => a.number - b.number),
  before: log.map(({ before, touched }) => [before, touched]),
});

/** Lives one; gives how many steps were taken back, and entered earlier. */
function live(seed: number): { undone: number; earlier: number } {
  const below = chance(seed);
  const series = one(below, DEFINITIONS);
  const planner = one(below, PLANNERS);
  const life = new Life(planner, { series, at: BORN });
  const counts = { undone: 0, earlier: 0 };
  let now = BORN;
  life.pass(now);
  for (let i = 0, end = 4 + below(8); i < end; i++) {
    now += below(3) ? below(30) * HOUR : 0;
    try {
      if (life.log.length && below(3) === 0) {
        life.undo(one(below, life.log).step.key, now);
        counts.undone++;
      } else {
        const isEarlier = below(5) === 0;
        const at = isEarlier ? now - (1 + below(100)) * HOUR : now;
        const step = { key: String(i), at, deed: anyDeed(below, life, at) };
        if (isEarlier) counts.earlier += life.doEarlier(step, now) ? 1 : 0;
        else life.do(step);
      }
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
    }
    life.pass(now);
    const steps = life.log.map(({ step }) => step);
    expect({ seed, i, ...state(life) }).toEqual({
      seed,
      i,
      ...state(anew(planner, series, steps, now)),
    });
  }
  return counts;
}

test('whatever is done, entered earlier and taken back: the record is that of what is left', () => {
  let undone = 0;
  let earlier = 0;
  for (let seed = 1; seed <= RECORDS; seed++) {
    const counts = live(seed);
    undone += counts.undone;
    earlier += counts.earlier;
  }
  expect(undone).toBeGreaterThan(RECORDS);
  expect(earlier).toBeGreaterThan(RECORDS / 4);
});

describe('a finish that was forgotten, with something done to it since (R7)', () => {
  const [weekly] = [
    checkSeries({ title: 'Weigh the hives', start: '2027-06-01', repeat: rule('FREQ=WEEKLY') }),
  ];
  const at = (text: string) => Date.parse(text);
  const lived = (deed: Deed) => {
    const life = new Life(PLANNERS[0]!, { series: weekly!, at: at('2027-05-30T10:00Z') });
    life.do({ key: 'a', at: at('2027-06-02T10:00Z'), deed });
    life.pass(at('2027-06-04T10:00Z'));
    return life;
  };
  const done: Step = {
    key: 'b',
    at: at('2027-06-01T12:00Z'),
    deed: { do: 'done', slot: '2027-06-01' },
  };
  const NOW = at('2027-06-04T10:00Z');

  it.each([
    [
      { do: 'move', slot: '2027-06-01', plan: '2027-06-05' },
      'when.moved',
      'It was moved to Sat 5 Jun on Wed 2 Jun, after that day.',
    ],
    [
      { do: 'part', slot: '2027-06-01', part: 40 },
      'when.moved',
      'Part of it was done on Wed 2 Jun, after that day.',
    ],
    [
      { do: 'skip', slot: '2027-06-01' },
      'when.conflict',
      'It was skipped on Wed 2 Jun, after that day.',
    ],
  ] as const)('says which stands in the way: %j', (deed, code, message) => {
    const life = lived(deed);
    const before = JSON.stringify(life.times);
    expect(() => life.doEarlier(done, NOW)).toThrow(
      expect.objectContaining({ code, message, where: 'a' }),
    );
    expect(JSON.stringify(life.times)).toBe(before);
  });

  it('lets go of a move, which counts again once the finish is taken back', () => {
    const life = lived({ do: 'move', slot: '2027-06-01', plan: '2027-06-05' });
    const before = JSON.stringify(life.times);
    life.doEarlier(done, NOW, true);
    expect(life.times[0]).toMatchObject({ status: 'done', closedAt: done.at });
    // What is done after that does not stumble over it, nor does taking that back.
    life.do({ key: 'c', at: NOW, deed: { do: 'note', slot: '2027-06-01', note: 'Heavy' } });
    life.undo('c', NOW);
    life.undo('b', NOW);
    expect(JSON.stringify(life.times)).toBe(before);
  });
});

import fc from 'fast-check';
import { dayOf, formatDay, parseDay } from '../../calendar/day.ts';
import type { Instant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import type { Deed } from '../deeds/deeds.ts';
import { hasEnded, wakeAt } from './advance.ts';
import { begin } from './begin.ts';
import { checkSeries } from '../../definition/check.ts';
import { Life } from './life.ts';
import { checkSettings } from '../person/settings.ts';
import type { Series } from '../definition/definition.ts';
import { plannerOf } from '../plan/planner.ts';
import { isSlotted, type Planner } from '../plan/plan.ts';

const HOUR = 3600000;
const ORIGIN = Date.UTC(2027, 0, 1);

const anySeries = fc
  .record({
    title: fc.constant('Turn the frames'),
    start: fc.integer({ min: -20, max: 60 }).map((n) => formatDay(dayOf(2027, 1, 1 + n))),
    at: fc.option(fc.subarray(['01:30', '03:00', '09:00', '13:15', '23:45'], { minLength: 1 })),
    late: fc.constantFrom('roll', 'wait', 'lapse'),
    grace: fc.option(fc.constantFrom('P3D', 'PT7H')),
    owe: fc.option(fc.constantFrom('latest', 'every')),
    pauses: fc.array(
      fc.record({ from: fc.integer({ min: 0, max: 150 }), days: fc.option(fc.nat(40)) }),
      { maxLength: 2 },
    ),
    opensBefore: fc.option(fc.constantFrom('P2D', 'P1W', 'P1M', 'PT3H')),
    repeat: fc.oneof(
      fc.constant(null),
      fc.constantFrom('day', 'week', 'month').map((per) => ({ by: 'quota', times: 2, per })),
      fc
        .constantFrom(
          'FREQ=DAILY',
          'FREQ=DAILY;INTERVAL=9',
          'FREQ=WEEKLY;BYDAY=TU,TH,SA',
          'FREQ=MONTHLY;BYMONTHDAY=31;SKIP=BACKWARD',
          'FREQ=WEEKLY;INTERVAL=3;COUNT=4',
        )
        .map((rule) => ({ by: 'calendar', rule })),
      fc
        .constantFrom('P1D', 'P14D', 'P1M', 'PT36H', 'PT5H')
        .map((every) => ({ by: 'completion', every })),
    ),
    ends: fc.option(
      fc.oneof(
        fc.constant({ after: 3 }),
        fc.constant({ on: '2027-06-01' }),
        fc.constant({ within: 'P50D' }),
      ),
    ),
  })
  .map(({ at, opensBefore, ends, repeat, late, grace, owe, pauses, ...rest }) => {
    const quota = repeat?.by === 'quota';
    const after = repeat?.by === 'completion' && 'every' in repeat;
    const hourly = after && repeat.every.startsWith('PT');
    return checkSeries({
      ...rest,
      repeat,
      pauses: pauses.map(({ from, days }) => ({
        from: formatDay(dayOf(2027, 1, 1 + from)),
        to: days === null ? null : formatDay(dayOf(2027, 1, 1 + from + days)),
      })),
      ...(quota ? {} : { late }),
      ...(grace && late === 'lapse' && !quota ? { grace } : {}),
      ...(owe && !quota ? { owe } : {}),
      ...(at && !quota && !hourly ? { at: after ? at.slice(0, 1) : at } : {}),
      ...(opensBefore && !quota ? { opensBefore } : {}),
      ...(ends && repeat ? { ends } : {}),
    });
  });
const anySettings = fc
  .record({
    zone: fc.constantFrom('UTC', 'Europe/London', 'America/New_York', 'Australia/Lord_Howe'),
    dayStart: fc.constantFrom('00:00', '04:00'),
  })
  .map(checkSettings);
interface Setting {
  series: Series;
  planner: Planner;
}
const anyPlan: fc.Arbitrary<Setting> = fc
  .tuple(anySeries, anySettings)
  .map(([series, settings]) => ({ series, planner: plannerOf(settings) }));
const anyMoment = fc
  .integer({ min: 0, max: 220 * 24 * 4 })
  .map((quarters) => ORIGIN + quarters * (HOUR / 4));

type Given = { at: Instant; deed: Deed };
const anySlot = fc
  .tuple(
    fc.integer({ min: 0, max: 200 }),
    fc.constantFrom('', 'T01:30', 'T03:00', 'T09:00', 'T13:15', 'T23:45'),
  )
  .map(([n, time]) => `${formatDay(dayOf(2027, 1, 1 + n))}${time}`);
const anyDeed: fc.Arbitrary<Deed> = fc.oneof(
  fc.constant<Deed>({ do: 'done' }),
  fc.constant<Deed>({ do: 'skip' }),
  fc
    .integer({ min: 0, max: 200 })
    .map((n): Deed => ({ do: 'move', plan: formatDay(dayOf(2027, 1, 1 + n)) })),
  fc
    .integer({ min: 0, max: 200 })
    .map((n): Deed => ({ do: 'move', due: formatDay(dayOf(2027, 1, 1 + n)) })),
  anySlot.map((slot): Deed => ({ do: 'done', slot })),
  anySlot.map((slot): Deed => ({ do: 'skip', slot })),
  fc
    .record({ slot: anySlot, plan: anySlot, due: anySlot, which: fc.nat(2) })
    .map(({ slot, plan, due, which }): Deed => ({
      do: 'move',
      slot,
      ...(which !== 1 ? { due } : {}),
      ...(which !== 0 ? { plan } : {}),
    })),
  fc.constantFrom<Deed>(
    { do: 'tally' },
    { do: 'part', part: 40 },
    { do: 'note', note: 'The frames were heavy.' },
    { do: 'resume' },
    { do: 'reopen' },
    { do: 'end' },
    { do: 'drop' },
    { do: 'pause' },
    { do: 'change', series: { repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=5' } } },
    { do: 'change', series: { repeat: { by: 'completion', every: 'P6D' }, at: ['09:00'] } },
    { do: 'change', series: { owe: 'every', ends: { after: 5 } } },
  ),
  anySlot.map((slot): Deed => ({ do: 'drop', slot })),
  anySlot.map((slot): Deed => ({ do: 'end', slot })),
  anySlot.map((slot): Deed => ({
    do: 'change',
    slot,
    series: { repeat: { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=MO,FR' }, at: [] },
  })),
  fc.nat(20).chain((n) =>
    anySlot.map((slot): Deed => ({
      do: 'pause',
      from: slot.slice(0, 10),
      to: formatDay(parseDay(slot.slice(0, 10)) + n),
    })),
  ),
);
const anyGiven: fc.Arbitrary<Given[]> = fc
  .array(fc.record({ at: anyMoment, deed: anyDeed }), { maxLength: 8 })
  .map((given) => given.sort((a, b) => a.at - b.at));

/** A life from the same beginning, in which what is refused changes nothing. */
class Played extends Life {
  constructor({ series, planner }: Setting) {
    super(planner, { series, at: ORIGIN });
  }

  play({ at, deed }: Given) {
    try {
      this.do({ key: String(this.log.length), at, deed });
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      this.pass(at);
    }
  }

  get state() {
    return { progress: this.progress, times: [...this.times].sort((a, b) => a.number - b.number) };
  }
}

test('advancing in one leap, in random steps or day by day gives the same', () => {
  fc.assert(
    fc.property(
      anyPlan,
      anyGiven,
      fc.array(anyMoment, { maxLength: 30 }),
      anyMoment,
      (plan, given, stops, end) => {
        const leap = new Played(plan);
        const steps = new Played(plan);
        const daily = new Played(plan);
        const deeds = given.filter(({ at }) => at <= end);
        for (const it of deeds) leap.play(it);
        leap.pass(end);
        const events = [...deeds, ...stops.filter((at) => at <= end)].sort(
          (a, b) => atOf(a) - atOf(b),
        );
        for (const it of events)
          if (typeof it === 'number') steps.pass(it);
          else steps.play(it);
        steps.pass(end);
        let next = 0;
        for (let at = ORIGIN - 30 * 24 * HOUR; at <= end; at += 24 * HOUR) {
          for (; next < deeds.length && deeds[next]!.at < at; next++) daily.play(deeds[next]!);
          daily.pass(at);
        }
        for (; next < deeds.length; next++) daily.play(deeds[next]!);
        daily.pass(end);
        expect(steps.state).toEqual(leap.state);
        expect(daily.state).toEqual(leap.state);
      },
    ),
    { numRuns: 400, seed: 7 },
  );
});

const atOf = (it: Given | number) => (typeof it === 'number' ? it : it.at);

test('waking exactly at wakeAt, and never else, gives the same', () => {
  fc.assert(
    fc.property(anyPlan, anyMoment, (plan, end) => {
      const leap = new Played(plan);
      leap.pass(end);
      const woken = new Played(plan);
      for (let n = 0; n < 3000; n++) {
        const at = wakeAt(plan.planner, woken.progress);
        if (at === null || at > end) break;
        woken.pass(at);
      }
      expect(woken.state.times).toEqual(leap.state.times);
      const at = wakeAt(plan.planner, leap.progress);
      expect(at === null || at > end).toBe(true);
    }),
    { numRuns: 200, seed: 8 },
  );
});

test('undo gives what would have been without the step, or says why it cannot', () => {
  let undone = 0;
  fc.assert(
    fc.property(anyPlan, anyGiven, fc.nat(7), anyMoment, (plan, given, which, end) => {
      const deeds = given.filter(({ at }) => at <= end);
      const played = new Played(plan);
      const did: Given[] = [];
      for (const it of deeds) {
        const before = played.log.length;
        played.play(it);
        if (played.log.length > before) did.push(it);
      }
      played.pass(end);
      if (!did.length) return;
      const index = which % did.length;
      const without = new Played(plan);
      for (const it of did.filter((_, i) => i !== index)) without.play(it);
      without.pass(end);
      if (without.log.length < did.length - 1) {
        expect(() => played.undo(played.log[index]!.step.key, end)).toThrow(
          expect.objectContaining({ code: 'undo.conflict' }),
        );
        return;
      }
      played.undo(played.log[index]!.step.key, end);
      undone++;
      expect(played.state).toEqual(without.state);
    }),
    { numRuns: 400, seed: 9 },
  );
  expect(undone).toBeGreaterThan(100);
});

test('with latest at most one unmoved time is open, no slot opens twice, what ended stays ended', () => {
  fc.assert(
    fc.property(anyPlan, anyGiven, (plan, given) => {
      const played = new Played(plan);
      const ended = new Map<number, string>();
      const counts = given.every(
        ({ deed }) => !['change', 'drop', 'end', 'reopen'].includes(deed.do),
      );
      const reshaped = given.some(({ deed }) => deed.do === 'change');
      const { count, open } = begin(plan.planner, plan.series, ORIGIN);
      const unrecorded = count - open.length;
      for (const it of given) {
        played.play(it);
        const { times, progress } = played.state;
        for (const time of times) {
          const was = ended.get(time.number);
          if (was && was !== 'missed') expect(time.status).toBe(was);
          if (time.status !== 'open') ended.set(time.number, time.status);
        }
        const numbers = times.map((time) => time.number);
        expect(new Set(numbers).size).toBe(numbers.length);
        if (isSlotted(plan.planner(progress.series))) {
          const slots = times.map((time) => time.slot);
          expect(new Set(slots).size).toBe(slots.length);
        }
        if (!reshaped && !plan.series.opensBefore && plan.series.owe !== 'every')
          expect(progress.open.filter((time) => !time.moved).length).toBeLessThanOrEqual(1);
        if (counts && isSlotted(plan.planner(progress.series)))
          expect(progress.count - unrecorded).toBe(
            times.filter((time) => progress.passed !== null && time.slot <= progress.passed).length,
          );
        expect(progress.done).toBe(times.filter((time) => time.status === 'done').length);
        if (hasEnded(plan.planner, progress)) expect(wakeAt(plan.planner, progress)).toBeNull();
      }
    }),
    { numRuns: 300, seed: 10 },
  );
});

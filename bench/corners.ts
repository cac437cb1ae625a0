import {
  WEEKDAYS,
  advance,
  begin,
  checkSeries,
  checkSettings,
  CoreError,
  formatDay,
  forecast,
  hasEnded,
  hasReminders,
  nextDue,
  nextReminderAt,
  parseInstant,
  plannerOf,
  newestRemindersIn,
  wakeAt,
  wayOf,
  type Progress,
  type Series,
} from '@back-again/core';
import { chance } from '@back-again/core/rehearsal';

/**
 * The corners of every limit: what the most extreme definitions cost that are let through, all pairs
 * of extreme parts and 2,000 random ones. The slowest of each piece of work, in milliseconds.
 */

type Parts = Record<string, unknown>;
interface Extreme {
  name: string;
  parts: Parts;
}

const of = (name: string, parts: Parts): Extreme => ({ name, parts });
const MADE = parseInstant('2027-06-01T10:00:00Z');
const YEAR = 366 * 86_400_000;
const times = (n: number) =>
  Array.from(
    { length: n },
    (_, i) => `${String(Math.floor((i * 24) / n)).padStart(2, '0')}:${i % 2 ? '30' : '00'}`,
  );
const rule = (text: string, more: Parts = {}) => ({ by: 'calendar', rule: text, ...more });
const dates = (n: number, every: number, from = 0) =>
  Array.from({ length: n }, (_, i) => formatDay(20_900 + from + i * every));
const again = (every: string, atMost: number) => ({ again: { every, atMost } });
const many = (n: number, make: (i: number) => Parts) =>
  Array.from({ length: n }, (_, i) => make(i));

/** Parts that are extreme, by what they are about; two of one group do not go together. */
const GROUPS: Extreme[][] = [
  [
    of('from 1900', { start: '1900-01-01' }),
    of('from a year ago', { start: '2026-06-01' }),
    of('from today', { start: '2027-06-01' }),
    of('from 2200', { start: '2200-12-31' }),
  ],
  [
    of('daily', { repeat: rule('FREQ=DAILY') }),
    of('each working day', { repeat: { by: 'calendar', everyWorkdays: 1 } }),
    of('1,000 dates', { repeat: { by: 'dates', dates: dates(1000, 1) } }),
    of('daily, 1,000 left out, 1,000 more', {
      repeat: rule('FREQ=DAILY', { except: dates(1000, 1, 1), extra: dates(1000, 2) }),
    }),
    of('29 February', { repeat: rule('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29') }),
    of('never', { repeat: rule('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30') }),
    of('Christmas Day', { repeat: rule('FREQ=YEARLY;BYMONTH=12;BYMONTHDAY=25') }),
    of('the last Friday 13th', { repeat: rule('FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;BYSETPOS=-1') }),
    of('daily, a billion times', { repeat: rule('FREQ=DAILY;COUNT=1000000000') }),
    of('every week on each day, sixty thousand times', {
      repeat: rule('FREQ=MONTHLY;BYMONTHDAY=-1,1,31;COUNT=60000'),
    }),
    of('366th working day', { repeat: { by: 'calendar', workday: 366, per: 'year' } }),
    of('999 times a day', { repeat: { by: 'quota', times: 999, per: 'day' } }),
    of('a quarter of an hour after', { repeat: { by: 'completion', every: 'PT15M' } }),
    of('a day after', { repeat: { by: 'completion', every: 'P1D' } }),
    of('a working day after', { repeat: { by: 'completion', every: 'P1D', workdays: true } }),
    of('a hundred years after', { repeat: { by: 'completion', every: 'P100Y' } }),
    of('a day after, onto 29 February', {
      repeat: { by: 'completion', every: 'P1D', onto: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29' },
    }),
    of('once', { repeat: null }),
  ],
  [
    of('24 times a day', { at: times(24) }),
    of('at three', { at: ['03:00'] }),
    of('twice', { at: ['01:30', '23:59'] }),
  ],
  [
    of('opens a year before', { opensBefore: 'P365D' }),
    of('opens two years before', { opensBefore: 'P2Y' }),
    of('opens an hour before', { opensBefore: 'PT1H' }),
    of('opens 17,544 hours before', { opensBefore: 'PT17544H' }),
  ],
  [of('owed', { owe: 'every' })],
  [
    of('waits', { late: 'wait' }),
    of('lapses', { late: 'lapse' }),
    of('lapses after a minute', { late: 'lapse', grace: 'PT1M' }),
    of('lapses after a hundred years', { late: 'lapse', grace: 'P100Y' }),
  ],
  [
    of('100,000 times', { ends: { after: 100_000 } }),
    of('once at most', { ends: { after: 1 } }),
    of('for a hundred years', { ends: { within: 'P100Y' } }),
    of('to the end', { ends: { on: '9999-12-31' } }),
  ],
  [
    of('paused to 9999', { pauses: [{ from: '2027-07-01', to: '9999-12-31' }] }),
    of('paused for good', { pauses: [{ from: '2027-07-01', to: null }] }),
    of('50 pauses', {
      pauses: many(50, (i) => ({
        from: formatDay(20_000 + 40 * i),
        to: formatDay(20_038 + 40 * i),
      })),
    }),
    of('paused since 1900', { pauses: [{ from: '1900-01-01', to: '2027-05-30' }] }),
  ],
  [
    of('closed days left out', { closedDays: 'drop' }),
    of('nearest', { closedDays: 'nearest' }),
    of('after', { closedDays: 'after' }),
  ],
  [
    of('8 reminders two years before', {
      reminders: many(8, (i) => ({ before: 'P2Y', at: times(24)[i] })),
    }),
    of('2 said 99 times again each minute', {
      reminders: [again('PT1M', 99), { before: 'PT1M', ...again('PT1M', 99) }],
    }),
    of('2 said 99 times again each two years', {
      reminders: [again('P2Y', 99), { of: 'plan', ...again('P1D', 99) }],
    }),
    of('7 a minute again', {
      reminders: many(8, (i) => ({ before: `P${i + 1}W`, ...again('PT1M', 24) })),
    }),
    of('of opening, two years before', {
      reminders: many(8, (i) => ({ of: 'opens', before: `P${i + 720}D` })),
    }),
  ],
];

const SETTINGS = [
  { zone: 'UTC' },
  { zone: 'Europe/London', dayStart: '04:00', quiet: { from: '22:00', to: '21:59' } },
  { zone: 'Africa/Casablanca', dayStart: '11:59', workdays: ['SU' as const] },
  { zone: 'Australia/Lord_Howe', workdays: [] },
  { zone: 'America/New_York', workdays: [...WEEKDAYS], quiet: { from: '00:00', to: '00:01' } },
].map((given) => checkSettings(given));
const HOLIDAYS = Array.from({ length: 400 }, (_, i) => formatDay(16_800 + i * 28));

const WORK = [
  'create',
  'advance of a year',
  'catching up a year',
  'what stands beside it',
  'forecast',
  'nextReminderAt',
  'reminders of a year',
  'Today',
] as const;
type Work = (typeof WORK)[number];
const slowest = new Map<Work, { name: string; ms: number }>();
let measured = 0;
let refused = 0;
let over = 0;

const LIMIT = 5000;

/** Plays one definition through all that is asked of it; gives the milliseconds of each piece of work. */
function play(series: Series, settings: (typeof SETTINGS)[number]): Map<Work, number> {
  const took = new Map<Work, number>();
  let until = Infinity;
  let n = 0;
  const spend = () => {
    if ((++n & 63) === 0 && performance.now() > until) throw new RangeError('too long');
  };
  const planner = plannerOf(settings, HOLIDAYS, spend);
  const timed = <T>(name: Work, work: () => T): T => {
    const from = performance.now();
    until = from + LIMIT;
    try {
      return work();
    } finally {
      took.set(name, performance.now() - from);
    }
  };
  try {
    const made = timed(
      'create',
      () => advance(planner, begin(planner, series, MADE), MADE).progress,
    );
    const beside = (it: Progress) => [
      wakeAt(planner, it),
      nextDue(planner, it),
      hasEnded(planner, it),
    ];
    timed('what stands beside it', () => beside(made));
    const at = MADE + YEAR;
    const { progress } = timed('advance of a year', () => advance(planner, made, at));
    timed('catching up a year', () => {
      const now = advance(planner, made, at).progress;
      if (hasReminders(now)) newestRemindersIn(planner, now, settings, MADE, at);
      return beside(now);
    });
    timed('forecast', () => forecast(planner, progress, at, undefined, 1000));
    if (hasReminders(progress)) {
      timed('nextReminderAt', () => nextReminderAt(planner, progress, settings, at));
      timed('reminders of a year', () => newestRemindersIn(planner, progress, settings, MADE, at));
    }
    timed('Today', () => {
      const now = advance(planner, progress, at + 3600_000).progress;
      const [next] = forecast(planner, now, at, undefined, 1);
      return [next, hasEnded(planner, now), now.open.map((time) => wayOf(planner, now, time, at))];
    });
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    over++;
  }
  return took;
}

function measure(
  chosen: readonly Extreme[],
  settings = SETTINGS[measured % SETTINGS.length]!,
): void {
  const parts = Object.assign({ title: 'Weigh the hives' }, ...chosen.map((it) => it.parts));
  const name = chosen.map((it) => it.name).join(', ');
  let series: Series;
  try {
    series = checkSeries({ start: '2027-06-01', repeat: null, ...parts });
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    refused++;
    return;
  }
  measured++;
  for (const [work, ms] of play(series, settings)) {
    const before = slowest.get(work);
    if (!before || ms > before.ms) slowest.set(work, { name: `${name} (${settings.zone})`, ms });
    if (ms > 1000)
      process.stdout.write(
        `OVER A SECOND: ${work}, ${Math.round(ms)} ms: ${name} (${settings.zone})\n`,
      );
  }
}

for (const [i, group] of GROUPS.entries())
  for (const other of GROUPS.slice(i + 1))
    for (const a of group)
      for (const b of other) {
        // Most parts need something that repeats.
        const repeats = group === GROUPS[1] || other === GROUPS[1];
        for (const settings of SETTINGS.slice(0, repeats ? 5 : 1))
          measure(repeats ? [a, b] : [GROUPS[1]![0]!, a, b], settings);
      }
const below = chance(11);
for (const end = measured + 2000; measured < end;) {
  const chosen = GROUPS.flatMap((group, i) => {
    const it = group[below(Math.floor(group.length * (i < 2 ? 1 : 1.6)))];
    return it ? [it] : [];
  });
  measure(chosen);
}

process.stdout.write(
  `\nCorners: ${measured} extreme definitions, ${refused} more refused; the slowest, in ms\n`,
);
for (const work of WORK) {
  const { ms, name } = slowest.get(work)!;
  process.stdout.write(`${work.padEnd(24)}${ms.toFixed(1).padStart(8)}  ${name}\n`);
}
if (over) process.stdout.write(`${over} definitions went on for over ${LIMIT} ms\n`);
if (over || [...slowest.values()].some(({ ms }) => ms > 1000)) process.exitCode = 1;

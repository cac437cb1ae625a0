import { ORDINAL_NAMES, ordinalText } from '../grammar/words.ts';
import type { OfMonths, Speech } from './speech.ts';

const list = (items: readonly string[], link: 'and' | 'or' = 'and') =>
  items.length < 2 ? items.join('') : `${items.slice(0, -1).join(', ')} ${link} ${items.at(-1)}`;

const count = (n: number, unit: string) => `${n} ${unit}${n === 1 ? '' : 's'}`;

/** “first”, “last”, “second-last”. */
function place(nth: number): string | null {
  const name = ORDINAL_NAMES[Math.abs(nth) - 1];
  if (name === undefined) return null;
  return nth > 0 ? name : nth === -1 ? 'last' : `${name}-last`;
}

function ofText({ n, named, inMonths }: OfMonths): string {
  if (named.length) return `of ${list(named)}`;
  return (n === 1 ? 'of each month' : `of every ${ordinalText(n)} month`) + inMonths;
}

const ON_OF = { due: '', plan: ' on the day I planned', opens: ' when it opens' } as const;
const BEFORE_OF = { due: '', plan: ' the day I planned', opens: ' it opens' } as const;
const CHANNELS = {
  email: ' by e-mail',
  text: ' by text message',
  browser: ' in the browser',
  app: ' in the app',
} as const;

/** English; every stretch of it is read again as what it was said from. */
export const ENGLISH: Speech = {
  language: 'en',
  locale: 'en-GB',
  list,
  count,
  workdays: (n) => count(n, 'working day'),
  joints: {
    comesBack: ' comes back ',
    undated: ' has ',
    once: ', ',
    onDay: ', on ',
    mode: ' ',
    at: ' at ',
    until: ', until ',
    within: ', for ',
    first: ', first on ',
    from: ', from ',
    counted: ', counted from ',
    opens: ', opens ',
    remind: ', remind me ',
    takes: ', takes ',
    place: ', belongs to ',
    and: ' and ',
  },
  undated: 'no date yet',
  once: 'once',
  mode: 'after you finish it',
  times: (n) => count(n, 'time'),

  every: (n, unit) => (n === 1 ? `every ${unit}` : `every ${n} ${unit}s`),
  onDays: (names, isMondayToFriday) => `every ${isMondayToFriday ? 'weekday' : list(names)}`,
  weeksOn: (n, names) => `every ${n} weeks on ${list(names)}`,
  inMonths: (names) => `in ${list(names)}`,
  exceptMonths: (names) => `except in ${list(names)}`,
  monthDays(days, of, lacking) {
    const said = days.map((day) => (day < 0 ? `${place(day)!} day` : ordinalText(day)));
    const text = `on the ${list(said.map((day, i) => (i && days[i]! < 0 ? `the ${day}` : day)))} ${ofText(of)}`;
    if (lacking === null) return text;
    return lacking === 'last' ? `${text} or its last day` : `${text} that has it`;
  },
  positions: (groups, of) =>
    `on ${list(groups.map(({ nth, names }) => `the ${list(nth.map((n) => place(n)!))} ${list(names)}`))} ${ofText(of)}`,
  ofSet: (nth, set, of) =>
    `on the ${list(nth.map((n) => place(n)!))} ${set === 'weekday' ? 'weekday' : 'weekend day'} ${ofText(of)}`,
  isPlace: (nth) => place(nth) !== null,
  yearlyOn: (n, day, month) => `${n === 1 ? 'every year' : `every ${n} years`} on ${day} ${month}`,
  yearly: (n, what) => `${n === 1 ? 'every year' : `every ${n} years`} ${what}`,
  nthWorkday(nth, per) {
    const said = place(nth);
    if (said) return `on the ${said} working day of each ${per}`;
    const end = nth < 0 ? ' from the end' : '';
    return `on the ${ordinalText(Math.abs(nth))} working day${end} of each ${per}`;
  },
  everyWorkday: (n) => (n === 1 ? 'every working day' : `every ${n} working days`),
  onDates: (dates) => `on ${dates}`,
  onSomeDates: (n) => `on ${n === 1 ? '1 date' : `${n} dates`}`,
  quota: (n, per) => `${n === 1 ? 'once' : n === 2 ? 'twice' : `${n} times`} a ${per}`,
  except: (dates) => `except on ${dates}`,
  extra: (dates) => `and also on ${dates}`,
  exceptAt: (moments) => `but not ${moments}`,
  extraAt: (moments) => `and also ${moments}`,
  momentOn: ({ time, date }) => `at ${time} on ${date}`,
  thenOn: (names) => `then on the next ${list(names, 'or')}`,
  thenBy: (rule) => `then on the next date by the rule ${rule}`,
  by: (rule) => `by the rule ${rule}`,

  closed: {
    keep: 'if closed, that day all the same',
    before: 'if closed, the working day before',
    after: 'if closed, the working day after',
    nearest: 'if closed, the nearest working day',
    drop: 'if closed, not at all',
  },
  opens: (span) => `${span} before`,
  waits: 'stays on its day when late',
  lapses: (grace) =>
    grace === null ? 'missed once it is over' : `missed ${grace} after it is due`,
  owes: 'each one is owed',
  reminder({ before: span, isAtDue, on, at, of, channel, again }) {
    const before = on === null ? span : `on the ${on}`;
    const when = isAtDue
      ? 'when it is due'
      : before === null
        ? of === 'due'
          ? at === null
            ? 'on the day'
            : ''
          : ON_OF[of].trim()
        : `${before} before${BEFORE_OF[of]}`;
    const clock = at === null ? '' : `${when ? ' ' : ''}at ${at}`;
    // “every day”, not “every 1 day”.
    const repeated = again
      ? ` and again every ${again.every.replace(/^1 (\w+)$/u, '$1')} up to ${count(again.atMost, 'time')}`
      : '';
    return `${when}${clock}${channel ? CHANNELS[channel] : ''}${repeated}`;
  },
  paused: (from, to) => (to === null ? `paused from ${from}` : `paused from ${from} to ${to}`),
  what: {
    importance: { high: 'important', low: 'less important' },
    tagged: (tags) => `tagged ${tags}`,
    steps: (steps) => `steps: ${steps}`,
    asks: {
      number: (asks, unit) =>
        `ask for ${asks}${unit === null || unit === asks ? '' : ` in ${unit}`}`,
      scale: (asks, to) => `ask ${asks} from 1 to ${to}`,
      yesno: (asks) => `ask whether ${asks}`,
      choice: (asks, of) => `ask which ${asks}: ${of}`,
      text: (asks) => `ask ${asks}`,
      minutes: () => 'ask how long it took',
    },
    between: (from, to) => `between ${from} and ${to}`,
    slack: (before, after) =>
      before === null
        ? `may be ${after} late`
        : `may be ${before} early${after === null ? '' : ` or ${after} late`}`,
    then: (title, after) => `then ${title} ${after} later`,
    someday: 'someday',
    takingUp: 'taking it up',
  },
};

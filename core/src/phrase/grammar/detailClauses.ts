import { dateOf, dayOf } from '../../calendar/day.ts';
import { addToDay, parseSpan } from '../../calendar/span.ts';
import {
  boundDate,
  date,
  dayAndMonth,
  month,
  resolve,
  shortDate,
  weekday,
  weekdayFrom,
} from './dates.ts';
import type { Clause, Context, Fact, Read, WrittenDate } from './facts.ts';
import { beginning, fixed, line, lines } from './lines.ts';
import { clockMinutes, done, number, span, unit, words } from './numbers.ts';
import { BEHIND_TIME, openHour, time, times as timesOfDay, withPart } from './times.ts';
import { remind } from './reminderClauses.ts';
import { unquoted, type Token } from './tokens.ts';
import { MONTHS_BY_WORD, PARTS_OF_DAY } from './words.ts';

/** The clauses that say when it begins and ends, its time of day, and what goes with each time. */

const EDGE = 'the? end|start|beginning|weekend';

const plainDate: Clause = (tokens, at, context) => {
  const isAt = words(tokens, at, 'at') !== null && words(tokens, at + 1, EDGE) !== null;
  const lead = isAt ? at + 1 : words(tokens, at, 'on|due|by');
  // “Call May” and “Plan the weekend” are titles: such words need another before them.
  if (lead === null && words(tokens, at, EDGE) !== null) return null;
  const on = lead ?? at;
  const isBound = tokens[at]!.low === 'by' || tokens[at]!.low === 'due';
  const short = tokens[at]!.low === 'on' ? shortDate(tokens, on, context.dateOrder) : null;
  const read = isBound ? boundDate(tokens, on, context) : (date(tokens, on, context) ?? short);
  if (!read) return null;
  const bare = read.next === on + 1 ? weekday(tokens, on) : null;
  if (bare && lead === null) return null;
  return withPart([{ fact: 'date', date: read.value }], tokens, read.next, true);
};

const PARTS = [...PARTS_OF_DAY.keys()];
const partFact = (part: string): Fact => ({ fact: 'part', minute: PARTS_OF_DAY.get(part)! });
const todayFact = ({ today }: Context): Fact => ({
  fact: 'date',
  date: { kind: 'day', day: today },
});

const dayParts: readonly Clause[] = [
  line('tonight', (_, context) => [todayFact(context), partFact('night')]),
  ...PARTS.flatMap((part) => [
    line(`this ${part}`, (_, context) => [todayFact(context), partFact(part)]),
    line(`in the ${part}|${part}s`, () => partFact(part)),
  ]),
  ...['night', 'lunchtime'].map((part) => line(`at ${part}`, () => partFact(part))),
];

const start: Clause = (tokens, at, context) => {
  const now =
    words(tokens, at, 'starting|beginning|from this week') ??
    words(tokens, at, 'starting|beginning|from now on?|onwards?');
  // “within 3 years from now” is something else.
  if (
    now !== null &&
    words(tokens, at - 1, 'yr|yrs|year|years|month|months|week|weeks|day|days') === null
  )
    return { facts: [{ fact: 'start', date: { kind: 'day', day: context.today } }], next: now };
  const since = words(tokens, at, 'since');
  const past = since === null ? null : pastDate(tokens, since, context);
  if (past) return { facts: [{ fact: 'start', date: past.value }], next: past.next };
  const from = words(tokens, at, 'starting|beginning|first on|from|in?');
  if (from !== null) {
    const read = boundDate(tokens, from, context);
    return read && { facts: [{ fact: 'start', date: read.value }], next: read.next };
  }
  const plain = words(tokens, at, 'from');
  const read = plain === null ? null : boundDate(tokens, plain, context);
  if (!read) return null;
  // “A letter from May” is a title; “from May until September” is not.
  const isWeak =
    read.value.kind === 'month' && words(tokens, read.next, 'until|till|to|on|onwards') === null;
  const next = words(tokens, read.next, 'on|onwards') ?? read.next;
  return { facts: [{ fact: 'start', date: read.value, ...(isWeak ? { isWeak } : {}) }], next };
};

/** “last done 15 October”: what was done is counted from there. */
const lastDone: Clause = (tokens, at, context) => {
  const from =
    words(tokens, at, 'and|it|i? was? last done|did|finished|had it|this|that? on?') ??
    words(tokens, at, 'and? the? last time was? on?');
  const read = from === null ? null : pastDate(tokens, from, context);
  return read && { facts: [{ fact: 'lastDone', date: read.value }], next: read.next };
};

/** A date that is gone by: one without its year is the last such day up to today. */
function pastDate(tokens: readonly Token[], at: number, context: Context): Read<WrittenDate> {
  const ago = span(tokens, at);
  const back = ago && words(tokens, ago.next, 'ago');
  const yesterday = words(tokens, at, 'yesterday');
  const { today } = context;
  const day = (value: number, next: number): Read<WrittenDate> =>
    done({ kind: 'day', day: value }, next);
  if (yesterday !== null) return day(today - 1, yesterday);
  if (ago && back !== null && clockMinutes(ago.value) === null)
    return day(addToDay(today, parseSpan(ago.value), -1), back);
  const last = words(tokens, at, 'last');
  const named = weekday(tokens, last ?? at);
  if (named && !dayAndMonth(tokens, named.next))
    return day(weekdayFrom(today - 7, named.value), named.next);
  const read = boundDate(tokens, at, context);
  if (!read || read.value.kind === 'impossible' || read.value.kind === 'dayOfMonth') return null;
  if (read.value.kind === 'day') return read;
  const { year } = dateOf(today);
  const base = dayOf(year, 1, 1);
  const found = resolve(read.value, base);
  return day(found <= today ? found : resolve(read.value, dayOf(year - 1, 1, 1)), read.next);
}

/** Two dates with the first one's month left out: “from 3 to 8 August”. */
const rangeInMonth = line(
  'from|between the? {day} to|until|till|and|-|– {dayMonth}',
  ({ day, dayMonth }) =>
    dayMonth.kind === 'yearless' && day >= 1 && day <= 31
      ? { fact: 'range', from: { ...dayMonth, day }, to: dayMonth }
      : null,
);

const daysInMonth = line('{day} to|until|till|-|– {dayMonth}', ({ day, dayMonth }) =>
  dayMonth.kind === 'yearless' && day >= 1 && day < dayMonth.day
    ? { fact: 'range', from: { ...dayMonth, day }, to: dayMonth }
    : null,
);

/** “every day 1 to 8 December”: without a word before it, behind what repeats. */
const rangeBehind: Clause = (tokens, at, context) => {
  if (!context.isBehind(words(tokens, at - 1, ',') === null ? at : at - 1)) return null;
  return daysInMonth(tokens, at, context) ?? monthsBehind(tokens, at);
};

/** “weekly, May to September”. */
function monthsBehind(tokens: readonly Token[], at: number) {
  const first = month(tokens, at);
  const to = first && words(tokens, first.next, 'to|until|till|through|thru|-|–');
  const last = to === null ? null : month(tokens, to);
  if (!first || !last) return null;
  const of = ({ value }: { value: number }): WrittenDate => ({ kind: 'month', month: value });
  return { facts: [{ fact: 'range', from: of(first), to: of(last) } as Fact], next: last.next };
}

const range: Clause = (tokens, at, context) => {
  const from = words(tokens, at, 'from|between');
  const first = from === null || weekday(tokens, from) ? null : boundDate(tokens, from, context);
  const to = first && words(tokens, first.next, 'to|till|until|through|thru|and|-|–');
  const last = to === null ? null : boundDate(tokens, to, context);
  if (!first || !last) return null;
  return { facts: [{ fact: 'range', from: first.value, to: last.value }], next: last.next };
};

const until: Clause = (tokens, at, context) => {
  const bound = words(tokens, at, 'until|till|ending on?|in?');
  const from = bound ?? words(tokens, at, 'up to');
  if (from === null) return null;
  const read = bound === null ? date(tokens, from, context) : boundDate(tokens, from, context);
  return read && { facts: [{ fact: 'until', date: read.value }], next: read.next };
};

const times: Clause = (tokens, at) => {
  const stop = words(tokens, at, ',|and? stop|stopping|end|ends|ending after');
  const lead = stop ?? words(tokens, at, 'for') ?? at;
  const n = number(tokens, lead);
  const next = n && words(tokens, n.next, 'times|time in? all|total?');
  if (!n || next === null) return null;
  // “4 times a week” is another kind of repeat.
  const per = words(tokens, next, 'a|each|every|per');
  if (per !== null && unit(tokens, per)) return null;
  return { facts: [{ fact: 'times', n: n.value }], next };
};

/** “at 8 and 20”, “13:00”, “8 pm”, “by 18:00”. */
const atTime: Clause = (tokens, at) => {
  const lead =
    words(tokens, at, 'at|@') ??
    (time(tokens, at + 1)?.value.bare === false ? words(tokens, at, 'by') : null);
  const half =
    (tokens[at]!.kind === 'number' || tokens[at]!.kind === 'time') &&
    words(tokens, at + 1, 'am|pm') !== null;
  // “Version 2.10” is a title: without “at”, a time is written as 2:10.
  const isColon =
    (tokens[at]!.kind === 'time' && tokens[at]!.low.includes(':')) ||
    (tokens[at]!.kind === 'number' && /^0\d[0-5]\d$/u.test(tokens[at]!.low));
  const isNoon = /^(noon|midday)$/u.test(tokens[at]!.low);
  if (lead === null && !isColon && !half && !isNoon) return null;
  const read = timesOfDay(tokens, lead ?? at);
  if (!read || (isNoon && lead === null && read.value.length < 2)) return null;
  const value = [...read.value];
  let { next } = read;
  // “8am 2pm 8pm”: hours in a row, each with its half of the day.
  for (let more = hourInRow(tokens, next); more; more = hourInRow(tokens, next)) {
    value.push(more.value);
    next = more.next;
  }
  const isBare = value.every(({ bare, isOpen }) => bare || isOpen);
  const fact: Fact = {
    fact: 'at',
    minutes: value.map(({ minute }) => minute),
    ...(value.length === 1 ? openHour(value[0]!) : {}),
    ...(isBare ? { isBare } : {}),
  };
  return { facts: [fact], next };
};

/** An hour that says its half of the day. */
const hourInRow = (tokens: readonly Token[], at: number) => {
  const read =
    tokens[at]?.kind === 'number' || tokens[at]?.kind === 'time' ? time(tokens, at) : null;
  return read && !read.value.bare && /^[ap]m$/u.test(tokens[read.next - 1]!.low) ? read : null;
};

/** “from 18:00 to 20:00”, “18:00-20:00”: when it begins, and how long it takes. */
const fromTo: Clause = (tokens, at) => {
  const lead = words(tokens, at, 'from');
  const first = time(tokens, lead ?? at);
  const joint = lead === null ? 'to|until|till|-|–' : 'to|until|till|and|-|–';
  const to = first && words(tokens, first.next, joint);
  const last = to === null ? null : time(tokens, to);
  if (!first || !last || (first.value.bare && last.value.bare)) return null;
  // “4-6pm”: both are of that half of the day.
  // “4-6pm”, “2.30 to 3.30pm”: both are of that half of the day.
  const isSaid = (read: { next: number }) => /^[ap]m$/u.test(tokens[read.next - 1]!.low);
  const isFirstOpen = first.value.bare || (first.value.minute < 780 && !isSaid(first));
  const isOfHalf = isFirstOpen && !last.value.bare && isSaid(last);
  if (lead === null && last.value.bare) return null;
  if (lead === null && first.value.bare && !isOfHalf) return null;
  const isLate =
    isOfHalf && last.value.minute >= 720 && first.value.minute + 720 < last.value.minute;
  const begins = first.value.minute + (isLate ? 720 : 0);
  const minutes = last.value.minute - begins;
  if (first.value.minute < 0 || minutes <= 0) return null;
  return {
    facts: [
      { fact: 'at', minutes: [begins] },
      { fact: 'part of it', part: 'takes', value: minutes },
    ],
    next: last.next,
  };
};

/** What becomes of a closed day: “if closed, the working day before”, “on the nearest working day”. */
const closed: readonly Clause[] = [
  'if closed|shut ,? ',
  'if it is closed ,? ',
  'but|and? if it|that falls on a public|bank? holiday ,? ',
  "but|and? if it's|that's a public|bank? holiday ,? ",
  'but|and? if it|that is a public|bank? holiday ,? ',
  'if it|that is a holiday or a? weekend ,? ',
].flatMap((lead) => [
  ...fixed([`${lead}then? on? the working? day before`], { fact: 'closed', how: 'before' }),
  ...fixed(
    [
      `${lead}then? on? the next? working? day after`,
      `${lead}then? on? the next|following working? day`,
    ],
    {
      fact: 'closed',
      how: 'after',
    },
  ),
  ...fixed([`${lead}then? on? the nearest working? day`], { fact: 'closed', how: 'nearest' }),
  ...fixed([`${lead}not at all`, `${lead}skip it`], { fact: 'closed', how: 'drop' }),
  ...fixed([`${lead}that day all the same`], { fact: 'closed', how: 'keep' }),
]);

const IF_CLOSED = [
  '',
  ' if closed|shut',
  " if it's|we're closed|shut",
  ' if it|that is closed|shut',
];

const closedShort: readonly Clause[] = [
  ...fixed(['on|or the nearest working day'], { fact: 'closed', how: 'nearest' }),
  ...fixed([',? before if closed|shut', ',? before if it is closed'], {
    fact: 'closed',
    how: 'before',
  }),
  ...IF_CLOSED.flatMap((tail) => [
    ...fixed([`or on? the working day before${tail}`, ...(tail ? [`or before${tail}`] : [])], {
      fact: 'closed',
      how: 'before',
    }),
    ...fixed(
      [`or on? the working day after${tail}`, `or on? the? next|following working day${tail}`],
      { fact: 'closed', how: 'after' },
    ),
  ]),
  ...fixed(
    [
      'but|and? not on public|bank? holidays',
      'except for|on? public|bank? holidays',
      'apart|aside from public|bank? holidays',
      'but? not on closed days',
      'skip|skipping public|bank? holidays',
      "unless it's|it a? public|bank? holiday",
      'unless it is|falls on? a public|bank? holiday',
    ],
    { fact: 'closed', how: 'drop' },
  ),
];

const opens: readonly Clause[] = [
  ...lines(
    [
      'it? opens|open {span} before|early|earlier',
      'can be done from? {span} before|early|earlier',
      'and? i? can? start it? from? {span} before|early|earlier|ahead|beforehand',
      'and? show|list it|this? from? {span} before|early|earlier|ahead|beforehand',
    ],
    ({ span: before }) => ({
      fact: 'opens',
      before,
    }),
  ),
  ...fixed(['it? opens|open the day before'], { fact: 'opens', before: 'P1D' }),
];

const unfinished: readonly Clause[] = [
  ...fixed(['stays on its day when late', 'stays where it is when late'], { fact: 'waits' }),
  ...fixed(
    [
      'missed once it is over',
      'missed if not done',
      'missed if not done the|that same? day',
      'missed if it is not done',
    ],
    { fact: 'lapses', grace: null },
  ),
  ...lines(
    ['missed {span} after it is due', 'missed if not done within {span}'],
    ({ span: grace }) => ({
      fact: 'lapses',
      grace,
    }),
  ),
  ...fixed(['each|every one is owed', 'each|every one counts'], { fact: 'owes' }),
];

const within = line('for the? next? {span}', ({ span: text }) =>
  clockMinutes(text) === null ? { fact: 'within', within: text } : null,
);

const placeFact = (name: string): Fact => ({ fact: 'part of it', part: 'place', value: name });

/** “belongs to Bees”; “in Bees”, where the person has such a place. */
const place: Clause = (tokens, at, context) => {
  const named = words(tokens, at, 'belongs to|in');
  const token = named === null ? undefined : tokens[named];
  if (named !== null && token && (token.kind === 'word' || token.kind === 'quote')) {
    const own = context.text.slice(token.from, token.to);
    const known = token.kind === 'quote' ? null : knownPlace(tokens, named, context);
    const name = token.kind === 'quote' ? unquoted(own) : own;
    const id = known?.id ?? placeNamed(name, context);
    return { facts: [placeFact(id)], next: known?.next ?? named + 1 };
  }
  const inside = words(tokens, at, 'in');
  const known = inside === null ? null : knownPlace(tokens, inside, context);
  return known && { facts: [placeFact(known.id)], next: known.next };
};

/** The place of that name; one that the person does not have stands by its name. */
function placeNamed(name: string, { places }: Context): string {
  const low = name.toLowerCase();
  return places.find((it) => it.name.toLowerCase() === low)?.id ?? name;
}

function knownPlace(tokens: readonly Token[], at: number, { places, text }: Context) {
  for (const { id, name, words: wanted } of places) {
    const next = at + wanted.length;
    if (!wanted.length || !wanted.every((word, i) => tokens[at + i]?.low === word)) continue;
    // “in work boots” is a title; “in Work” and “in work every week” are not.
    const behind = tokens[next];
    const own = text.slice(tokens[at]!.from, tokens[next - 1]!.to);
    const isFree = !behind || behind.kind === 'sign' || BEHIND_TIME.has(behind.low);
    if (own === name || isFree) return { id, next };
  }
  return null;
}

const pause: Clause = (tokens, at, context) => {
  const from = words(tokens, at, 'paused from');
  const first = from === null ? null : date(tokens, from, context);
  if (!first) return null;
  const to = words(tokens, first.next, 'to|until');
  const last = to === null ? null : date(tokens, to, context);
  return {
    facts: [{ fact: 'pause', from: first.value, to: last?.value ?? null }],
    next: last?.next ?? first.next,
  };
};

/** “once”, but for “once and for all” and “once more”. */
const once = beginning('once', (tokens, at) =>
  words(tokens, at, 'once and|more|again|upon|in') === null
    ? { facts: [{ fact: 'once' }], next: at + 1 }
    : null,
);

export const DETAIL_CLAUSES: readonly Clause[] = [
  beginning('starting beginning first from since', start),
  beginning('last it i was and the', lastDone),
  line('counted|counting from {date}', ({ date: from }) => ({ fact: 'counted', date: from })),
  rangeInMonth,
  beginning(`# ${[...MONTHS_BY_WORD.keys()].join(' ')}`, rangeBehind),
  beginning('from between', range),
  beginning('until till ending up', until),
  times,
  within,
  plainDate,
  ...dayParts,
  ...closed,
  ...closedShort,
  beginning('from noon midday #', fromTo),
  beginning('at @ by noon midday #', atTime),
  ...opens,
  ...unfinished,
  beginning(
    "and but please remind notify ping alert tell warn nudge let i i'd we with a reminder reminders",
    remind,
  ),
  beginning('belongs in', place),
  beginning('paused', pause),
  once,
  ...fixed(['just once', 'one time only'], { fact: 'once' }),
  ...fixed(['with|has? no date yet?'], { fact: 'undated' }),
  ...fixed(['comes|come back'], { fact: 'filler' }),
];

import { WEEKDAYS, type Weekday } from '../../calendar/day.ts';
import type { Span } from '../../calendar/span.ts';
import { formatTime, type LocalTime } from '../../calendar/time.ts';
import {
  AT_DUE,
  type Channel,
  type Reminder,
  type ReminderOf,
} from '../../series/reminding/reminders.ts';
import { dayAndMonth } from './dates.ts';
import type { Clause, Read } from './facts.ts';
import { done, number, span, spanOf, unit, words } from './numbers.ts';
import { partOfDay, times as timesOfDay } from './times.ts';
import type { Token } from './tokens.ts';
import { PLURAL_WEEKDAYS, WEEKDAYS_BY_WORD } from './words.ts';

/** The clauses that ask to be told: how long before, at what hour, how often, in which way. */

const CHANNEL_WORDS: readonly [pattern: string, channel: Channel][] = [
  ['by e-mail|email', 'email'],
  ['by text message?', 'text'],
  ['in the browser', 'browser'],
  ['in the app', 'app'],
];

/** One reminder, or one for each of several times or lengths: “2 days before at 18:00”. */
function reminderTail(tokens: readonly Token[], at: number): Read<Reminder[]> {
  const first = channelAt(tokens, at);
  const start = first?.next ?? at;
  const atDue =
    words(tokens, start, 'at the due moment|hour|time') ??
    words(tokens, start, "when it's|it is? due") ??
    words(tokens, start, "at the time|moment it's|it is? due") ??
    words(tokens, start, "when it's|it is? time");
  const day = words(tokens, start, 'the|a day before|earlier|prior');
  const weekday = weekdayBefore(tokens, start);
  const evening = partBefore(tokens, start);
  const oneDay = day ?? evening?.next ?? null;
  const away = oneDay === null ? span(tokens, start) : done('P1D', oneDay);
  const before =
    oneDay ??
    weekday?.next ??
    (away && words(tokens, away.next, 'before|beforehand|earlier|early|ahead|prior that?'));
  const spans = atDue !== null ? [AT_DUE] : before === null || !away ? [null] : apart(away.value);
  let i = atDue ?? before ?? start;
  let of: ReminderOf | undefined;
  for (const [pattern, named] of before === null ? ON : BEFORE) {
    const next = words(tokens, i, pattern);
    if (next === null) continue;
    of = named;
    i = next;
    break;
  }
  const early = first ?? channelAt(tokens, i);
  i = Math.max(i, early?.next ?? i);
  const clock = words(tokens, i, 'at');
  const read = clock === null ? null : timesOfDay(tokens, clock);
  const part = read || evening ? null : partOfDay(tokens, words(tokens, i, 'in? the|that') ?? i);
  const minute = evening?.value ?? part?.value.minute;
  const minutes = read?.value.map((it) => it.minute) ?? (minute === undefined ? [] : [minute]);
  if (minutes.some((it) => it < 0)) return null;
  i = read?.next ?? part?.next ?? i;
  if (read) i = words(tokens, i, 'on? that|the same? day') ?? i;
  if (i === at) return null;
  const channel = early ?? channelAt(tokens, i);
  i = Math.max(i, channel?.next ?? i);
  const tail: Pick<Reminder, 'channel' | 'again'> = channel ? { channel: channel.value } : {};
  const again = words(tokens, i, 'and? again every');
  const every = again === null ? null : (span(tokens, again) ?? oneUnit(tokens, again));
  if (every) {
    const up = words(tokens, every.next, 'up to');
    const n = up === null ? null : number(tokens, up);
    const counted = n && words(tokens, n.next, 'times|time');
    tail.again = { every: every.value, atMost: counted ? n.value : OFTEN };
    i = counted ?? every.next;
  }
  const at_: (LocalTime | null)[] = minutes.length ? minutes.map(formatTime) : [null];
  const reminders = spans.flatMap((span_) =>
    at_.map((time_): Reminder => ({
      ...(span_ === null ? {} : { before: span_ }),
      ...(weekday ? { on: weekday.value } : {}),
      ...(time_ === null ? {} : { at: time_ }),
      ...(of && of !== 'due' ? { of } : {}),
      ...tail,
    })),
  );
  return done(reminders, i);
}

/** “the evening before”: its hour, on the day before. */
function partBefore(tokens: readonly Token[], at: number): Read<number> {
  const the = words(tokens, at, 'on? the');
  const part = the === null ? null : partOfDay(tokens, the);
  const next = part && words(tokens, part.next, 'before|beforehand|earlier');
  return part && next !== null ? done(part.value.minute, next) : null;
}

/** “on the Friday before”. */
function weekdayBefore(tokens: readonly Token[], at: number): Read<Weekday> | null {
  const on = words(tokens, at, 'on') ?? at;
  const the = words(tokens, on, 'the|each|every') ?? on;
  const low = tokens[the]?.low ?? '';
  const index = WEEKDAYS_BY_WORD.get(low);
  if (index === undefined || dayAndMonth(tokens, the + 1)) return null;
  const next = words(tokens, the + 1, 'before|beforehand');
  // “remind me Saturdays at 10”: of each time the last Saturday before it.
  const isEach = PLURAL_WEEKDAYS.has(low) || the > on;
  if (next !== null) return done(WEEKDAYS[index]!, next);
  return isEach ? done(WEEKDAYS[index]!, the + 1) : null;
}

/** “by e-mail”: in which way it is said. */
function channelAt(tokens: readonly Token[], at: number): Read<Channel> | null {
  for (const [pattern, channel] of CHANNEL_WORDS) {
    const next = words(tokens, at, pattern);
    if (next !== null) return done(channel, next);
  }
  return null;
}

/** How often it is said again where nobody says so. */
const OFTEN = 3;

const ON: readonly [pattern: string, of: ReminderOf][] = [
  ['when it opens', 'opens'],
  ['on the day i planned|plan', 'plan'],
  ['on the same? day', 'due'],
  ['the same day', 'due'],
];
const BEFORE: readonly [pattern: string, of: ReminderOf][] = [
  ['it opens', 'opens'],
  ['the day i planned|plan', 'plan'],
  ["it's|it is? due", 'due'],
];

/** “hour” in “every hour”. */
function oneUnit(tokens: readonly Token[], at: number): Read<Span> {
  const of = unit(tokens, at);
  if (!of) return null;
  return done(spanOf(new Map([[of.value.unit, of.value.n]])), of.next);
}

/** Days and hours before are two reminders: “a day and 2 hours before”. */
function apart(text: Span): Span[] {
  const [days, clock] = text.split('T') as [string, string?];
  return clock === undefined || days === 'P' ? [text] : [days, `PT${clock}`];
}

/** How a sentence asks to be told. */
const TELL: readonly string[] = [
  'and|but? please? remind|notify|ping|alert|tell|warn|nudge me please?',
  'and|but? let me know',
  "and|but? i|i'd|we want|need|like|would|should|must|have like|to|want|be? to|be? be? reminded|told|reminding|notified",
  'and|but? i|we want|need|would|should|must be? reminded|told|reminding',
  "and|but? i|i'd want|need|would|like like? a? reminder|reminders",
  'with? a? reminder|reminders',
];

export const remind: Clause = (tokens, at, context) => {
  const lead = TELL.map((pattern) => words(tokens, at, pattern))
    .filter((it) => it !== null)
    .sort((a, b) => b - a)[0];
  if (lead === undefined) return null;
  const said = reminderTail(tokens, lead);
  // “remind me on Friday to …” is about the to-do itself.
  const isAbout = said && tokens[said.next]?.low === 'to' && tokens[said.next + 1]?.kind === 'word';
  if (isAbout && tokens[lead - 1]!.low === 'me') return null;
  const isOver = !tokens[lead] || tokens[lead].kind === 'sign' || tokens[lead].low === 'and';
  // “remind me” alone: at its hour, else at the usual one.
  const isAlone = isOver && at > 0 && /me|reminder|reminded/u.test(tokens[lead - 1]!.low);
  const plain = isAlone ? done<Reminder[]>([{ before: AT_DUE }], lead) : null;
  const first = said ?? plain;
  if (!first || (at > 0 && !context.isBehind(at) && !said && tokens[at - 1]!.kind !== 'sign'))
    return null;
  const reminders = [...first.value];
  let { next } = first;
  for (;;) {
    const and = words(tokens, next, ',? and');
    const comma = and === null ? words(tokens, next, ',') : null;
    const link = and ?? comma;
    const more = link === null ? null : reminderTail(tokens, link);
    // Behind a comma alone only “… before” is another one: “, at 8” may be its time of day.
    if (!more || (comma !== null && more.value.every(({ before }) => before === undefined)))
      return { facts: [{ fact: 'remind', reminders }], next };
    reminders.push(...more.value);
    next = more.next;
  }
};

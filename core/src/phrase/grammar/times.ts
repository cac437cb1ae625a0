import type { Fact, Read } from './facts.ts';
import { done, number, several, unit, words } from './numbers.ts';
import type { Token } from './tokens.ts';
import { PARTS_OF_DAY } from './words.ts';

/** Readers of times of day. */

export interface WrittenTime {
  /** Minutes since midnight; −1 where there is no such time. */
  minute: number;
  /** Whether it is an hour alone, which may be meant before or after noon. */
  bare: boolean;
  /** “3.15”: it has its minutes, and may be meant after noon all the same. */
  isOpen?: boolean;
}

/**
 * One time of day or several: “8, 13 and 20”, “8:00 and 8 pm”. A bare number goes on a list of
 * bare numbers alone, and where no word follows that it may belong to: “at 8:00, 5 December”.
 */
export function times(tokens: readonly Token[], at: number): Read<WrittenTime[]> {
  const first = time(tokens, at);
  if (!first) return null;
  const isBare = (i: number, next: number) => next === i + 1 && tokens[i]!.kind === 'number';
  const bare = isBare(at, first.next);
  return several(tokens, at, (list, i) => {
    const read = time(list, i);
    if (!read || i === at || !isBare(i, read.next)) return read;
    const behind = list[read.next];
    const free = !behind || behind.kind === 'sign' || BEHIND_TIME.has(behind.low);
    return bare && free ? read : null;
  });
}

/** Words that begin another clause: what stands before one of them has ended. */
export const BEHIND_TIME = new Set(
  'and or on in every each daily weekly monthly from starting first until till for except if opens then with stays comes by remind takes belongs missed paused counted but'.split(
    ' ',
  ),
);

/** “13:00”, “8”, “8 am”, “8:30 pm”, “noon”, “half past 9”, “quarter to ten”, “7 in the evening”. */
export function time(tokens: readonly Token[], at: number): Read<WrittenTime> {
  const token = tokens[at];
  if (!token || token.kind === 'quote') return null;
  if (token.low === 'noon' || token.low === 'midday')
    return done({ minute: 720, bare: false }, at + 1);
  if (token.low === 'midnight') return done({ minute: 0, bare: false }, at + 1);
  const spoken = pastOrTo(tokens, at) ?? clock(tokens, at);
  if (!spoken) return null;
  const { minute, next, whole } = spoken;
  if (minute < 0) return done({ minute, bare: false }, next);
  for (const [pattern, isLate] of HALVES) {
    const behind = words(tokens, next, pattern);
    if (behind === null) continue;
    const hour = Math.floor(minute / 60);
    // “9 in the evening” is 21:00; “20:00 in the evening” is said twice. At twelve noon and night change over.
    if (hour > 12 || (hour === 12 && pattern.includes('night'))) return null;
    const half = hour === 12 ? 0 : hour;
    return done({ minute: (half + (isLate ? 12 : 0)) * 60 + (minute % 60), bare: false }, behind);
  }
  const isOpen = next === at + 1 && /^[1-6][:.]/u.test(token.low);
  return done({ minute, bare: whole, ...(isOpen ? { isOpen } : {}) }, next);
}

const HALVES: readonly [pattern: string, isLate: boolean][] = [
  ['in the morning', false],
  ['in the afternoon|evening', true],
  ['at night', true],
];

interface Clocked {
  minute: number;
  next: number;
  /** An hour alone, without minutes, a zero before it or a half of the day. */
  whole: boolean;
}

/** “13:00”, “8”, “8 pm”, “8 o'clock”. */
function clock(tokens: readonly Token[], at: number): Clocked | null {
  const token = tokens[at]!;
  const plain = token.kind === 'number' && !token.ordinal;
  const named = token.kind === 'word' ? number(tokens, at) : null;
  // “at one go” is no time; nor is a number of something: “at 8 days”.
  const isNamed = named && named.next === at + 1 && named.value > 1 && named.value <= 12;
  if (!plain && token.kind !== 'time' && !isNamed) return null;
  const [hour, minute] = isNamed
    ? [named.value, undefined]
    : (token.low.split(/[:.]/).map(Number) as [number, number?]);
  const minutes = isNamed && minute === undefined ? spokenMinutes(tokens, at + 1) : null;
  const spoken = minutes?.value;
  const behind = minutes?.next ?? at + 1;
  for (const [pattern, isLate] of HALF_DAYS) {
    const next = words(tokens, behind, pattern);
    if (next === null) continue;
    if (hour < 1 || hour > 12) return { minute: -1, next, whole: false };
    const end = words(tokens, next, 'sharp|prompt') ?? next;
    return checked((hour % 12) + (isLate ? 12 : 0), minute ?? spoken, end, false);
  }
  // “0730”; “1430” only where a word says that it is an hour.
  const isFour = plain && FOUR.test(token.low);
  const isLed = /^(at|@|by)$/u.test(tokens[at - 1]?.low ?? '');
  // “0730 and 1930”
  const isListed =
    /^(and|or|&|,)$/u.test(tokens[at - 1]?.low ?? '') && FOUR.test(tokens[at - 2]?.low ?? '');
  if (isFour && (token.low.startsWith('0') || isLed || isListed))
    return checked(Math.floor(hour / 100), hour % 100, at + 1, false);
  if (minutes) return checked(hour, minutes.value, behind, hour < SPOKEN_LATE);
  const sharp = words(tokens, at + 1, "o'clock|sharp");
  if (token.kind !== 'time' && sharp === null && unit(tokens, at + 1)) return null;
  const whole = minute === undefined && !token.low.startsWith('0');
  return checked(hour, minute, sharp ?? at + 1, whole);
}

/** Up to which hour a spoken one may be of the evening: “half past seven”. */
const SPOKEN_LATE = 8;

/** “ten thirty”, “six forty five”: the minutes as they are spoken. */
function spokenMinutes(tokens: readonly Token[], at: number): Read<number> {
  const read = tokens[at]?.kind === 'word' ? number(tokens, at) : null;
  const isMinutes = read && read.value % 5 === 0 && read.value >= 10 && read.value < 60;
  return isMinutes && !unit(tokens, read.next) && words(tokens, read.next, 'times|more') === null
    ? read
    : null;
}

const FOUR = /^([01]\d|2[0-3])[0-5]\d$/u;

const HALF_DAYS: readonly [pattern: string, isLate: boolean][] = [
  ['am', false],
  ['a . m .?', false],
  ['pm', true],
  ['p . m .?', true],
];

function checked(hour: number, minute: number | undefined, next: number, whole: boolean): Clocked {
  const value = hour * 60 + (minute ?? 0);
  return { minute: hour > 23 || (minute ?? 0) > 59 ? -1 : value, next, whole };
}

/** “half past 9”, “quarter to ten”, “20 past 7”. */
function pastOrTo(tokens: readonly Token[], at: number): Clocked | null {
  const half = words(tokens, at, 'half');
  const quarter = words(tokens, at, 'a? quarter');
  const counted = half === null && quarter === null ? number(tokens, at) : null;
  const from = half ?? quarter ?? counted?.next;
  const minutes = half === null ? (quarter === null ? counted?.value : 15) : 30;
  if (from === undefined || minutes === undefined || minutes > 30) return null;
  // “from 9 to 17” is from one hour to another.
  if (minutes % 5 || FROM.has(tokens[at - 1]?.low ?? '')) return null;
  const link = tokens[from]?.low;
  if (link !== 'past' && (link !== 'to' || half !== null)) return null;
  const hour = number(tokens, from + 1);
  if (!hour || hour.value < 1 || hour.value > 23) return null;
  const before = hour.value * 60 + (link === 'past' ? minutes : -minutes);
  const late = tokens[hour.next]?.low === 'pm' && hour.value < 12 ? 720 : 0;
  const isHalf = tokens[hour.next]?.low === 'pm' || tokens[hour.next]?.low === 'am';
  return {
    minute: before + late,
    next: isHalf ? hour.next + 1 : hour.next,
    whole: !isHalf,
  };
}

/** Whether an hour that stands alone may be of the other half of the day. */
export function openHour({ minute, bare, isOpen }: WrittenTime) {
  // “at half past seven” as well: who types 7:30 says which.
  const earliest = (minute % 60 > 0 ? 8 : 7) * 60;
  const bareHour = (bare || isOpen === true) && minute > 0 && minute < earliest;
  return bareHour ? { bareHour } : {};
}

/** Whether another hour goes on there: “and 4pm”, “, 18:00”. */
export const isTimeNext = (tokens: readonly Token[], at: number): boolean =>
  time(tokens, words(tokens, at, ',? and|or|&?') ?? at) !== null;

const FROM = new Set(['from', 'between']);

/** “morning”, “evenings”: a part of the day, and whether it is said of many. */
export function partOfDay(
  tokens: readonly Token[],
  at: number,
): Read<{ minute: number; plural: boolean }> {
  const low = tokens[at]?.kind === 'word' ? tokens[at].low : '';
  const plural = low.endsWith('s');
  const minute = PARTS_OF_DAY.get(plural ? low.slice(0, -1) : low);
  return minute === undefined ? null : done({ minute, plural }, at + 1);
}

/**
 * What a clause says, with a part of the day that stands behind it: “every Tuesday night”, “tomorrow
 * morning”. A date has one such part: “mornings” is no part of it.
 */
export function withPart(facts: Fact[], tokens: readonly Token[], next: number, isDate = false) {
  const part = partOfDay(tokens, next);
  // “tomorrow noon and 4pm”: hours of their own.
  const isHour = /^(noon|midday)$/u.test(tokens[next]?.low ?? '');
  if (isHour && isTimeNext(tokens, next + 1)) return { facts, next };
  return part && !(isDate && part.value.plural)
    ? { facts: [...facts, { fact: 'part', minute: part.value.minute } as const], next: part.next }
    : { facts, next };
}

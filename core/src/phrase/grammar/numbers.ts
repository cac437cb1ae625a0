import { parseSpan, type Span } from '../../calendar/span.ts';
import { CoreError } from '../../errors.ts';
import type { Context, Read, Reader } from './facts.ts';
import type { Token } from './tokens.ts';
import { NUMBERS_BY_WORD, ORDINALS_BY_WORD, UNITS_BY_WORD, type Unit } from './words.ts';

/** Readers of numbers, places and lengths of time. */

export const done = <T>(value: T, next: number): Read<T> => ({ value, next });

/** The given words one after another; each may be one of several, split by “|”, and optional with “?”. */
export function words(tokens: readonly Token[], at: number, pattern: string): number | null {
  let i = at;
  for (const { choices, optional } of wordPattern(pattern)) {
    const token = tokens[i];
    if (token && choices.has(token.low) && token.kind !== 'quote') i++;
    else if (!optional) return null;
  }
  return i;
}

interface WordPiece {
  choices: ReadonlySet<string>;
  optional: boolean;
}
const PATTERNS = new Map<string, WordPiece[]>();

function wordPattern(pattern: string): WordPiece[] {
  const known = PATTERNS.get(pattern);
  if (known) return known;
  const made = pattern.split(' ').map((piece) => {
    const optional = piece.endsWith('?') && piece.length > 1;
    const choices = new Set((optional ? piece.slice(0, -1) : piece).split('|'));
    return { choices, optional };
  });
  PATTERNS.set(pattern, made);
  return made;
}

/** A whole number in figures or as a word, “a couple of” and “a dozen” among them. */
export function number(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  if (!token) return null;
  if (token.kind === 'number') return token.ordinal ? null : done(token.value, at + 1);
  if (token.kind !== 'word') return null;
  const couple = words(tokens, at, 'a? couple of?');
  if (couple !== null) return done(2, couple);
  const dozen = words(tokens, at, 'a|one dozen');
  if (dozen !== null) return done(12, dozen);
  const hundred = words(tokens, at, 'a|one hundred');
  if (hundred !== null) return done(100, hundred);
  const named = numberWord(token.low);
  if (named === undefined) return null;
  // “forty five”
  const units = TENS.has(named) ? NUMBERS_BY_WORD.get(tokens[at + 1]?.low ?? '') : undefined;
  return units !== undefined && units < 10 ? done(named + units, at + 2) : done(named, at + 1);
}

const TENS: ReadonlySet<number> = new Set([20, 30, 40, 50, 60, 90]);

/** “twelve”, “forty-five”. */
function numberWord(low: string): number | undefined {
  const [tens, units] = low.split('-').map((word) => NUMBERS_BY_WORD.get(word));
  const isJoined = low.includes('-') && tens && units && TENS.has(tens) && units < 10;
  return isJoined ? tens + units : NUMBERS_BY_WORD.get(low);
}

/** “12th”, “third”, “twenty first”. */
export function ordinal(tokens: readonly Token[], at: number): Read<number> {
  const token = tokens[at];
  if (token?.kind === 'number' && token.ordinal) return done(token.value, at + 1);
  if (token?.kind !== 'word') return null;
  const named = ORDINALS_BY_WORD.get(token.low);
  if (named !== undefined) return done(named, at + 1);
  const tens = NUMBERS_BY_WORD.get(token.low);
  const units =
    tens === 20 || tens === 30 ? ORDINALS_BY_WORD.get(tokens[at + 1]?.low ?? '') : undefined;
  return units !== undefined && units < 10 ? done(tens! + units, at + 2) : null;
}

const JOINED_LAST = /^(\w+)-(?:to-)?last$/u;

/** “first” to “thirty-first”, “12th”, “last”, “second-last”, “third to last”: 1 and more, or −1 and less. */
export function position(tokens: readonly Token[], at: number): Read<number> {
  const low = tokens[at]?.low ?? '';
  if (low === 'last') {
    const but = words(tokens, at, 'last but one');
    return but === null ? done(-1, at + 1) : done(-2, but);
  }
  const joined = JOINED_LAST.exec(low);
  if (joined) {
    const named = joined[1] === 'next' ? 2 : ORDINALS_BY_WORD.get(joined[1]!);
    return named === undefined ? null : done(-named, at + 1);
  }
  const nth = ordinal(tokens, at);
  const last = nth && words(tokens, nth.next, 'to? last');
  return nth && last !== null ? done(-nth.value, last) : nth;
}

/** A unit of time; a fortnight is two weeks and a quarter three months. */
export function unit(tokens: readonly Token[], at: number): Read<{ n: number; unit: Unit }> {
  const token = tokens[at];
  const found = token?.kind === 'word' ? UNITS_BY_WORD.get(token.low) : undefined;
  return found ? done(found, at + 1) : null;
}

/** “half an hour”, “half a year”, “quarter of an hour”, in the unit below. */
function fraction(
  tokens: readonly Token[],
  at: number,
): { n: number; unit: Unit; next: number } | null {
  for (const [pattern, n, unit] of FRACTIONS) {
    const next = words(tokens, at, pattern);
    if (next !== null) return { n, unit, next };
  }
  return null;
}

const FRACTIONS: readonly [pattern: string, n: number, unit: Unit][] = [
  ['three quarters of an hour', 45, 'minute'],
  ['a? quarter of an hour', 15, 'minute'],
  ['an? half an? hour', 30, 'minute'],
  ['an hour and a half', 90, 'minute'],
  ['a? half a? year', 6, 'month'],
  ['a year and a half', 18, 'month'],
];

/** “14 days”, “a week”, “1 month and 3 days”, “half an hour”, as an ISO 8601 span. */
export function span(tokens: readonly Token[], at: number): Read<Span> {
  const part = fraction(tokens, at);
  if (part) return done(spanOf(new Map([[part.unit, part.n]])), part.next);
  const parts = new Map<Unit, number>();
  let i = at;
  for (;;) {
    const piece = spanPiece(tokens, i);
    if (!piece || parts.has(piece.unit)) break;
    parts.set(piece.unit, piece.n);
    i = piece.next;
    const and = words(tokens, i, 'and');
    if (and === null || !spanPiece(tokens, and)) {
      // “1 h 30 min”
      if (!(number(tokens, i) && spanPiece(tokens, i))) break;
      continue;
    }
    i = and;
  }
  return parts.size ? done(spanOf(parts), i) : null;
}

function spanPiece(tokens: readonly Token[], at: number) {
  const counted = number(tokens, at);
  const article = counted ? null : words(tokens, at, 'a|an');
  const n = article === null ? counted : done(1, article);
  const of = n && unit(tokens, n.next);
  return n && of ? { n: n.value * of.value.n, unit: of.value.unit, next: of.next } : null;
}

/** Counts of units as an ISO 8601 span. */
export function spanOf(parts: ReadonlyMap<Unit, number>): Span {
  const part = (name: Unit, letter: string) =>
    parts.has(name) ? `${parts.get(name)}${letter}` : '';
  const days = part('year', 'Y') + part('month', 'M') + part('week', 'W') + part('day', 'D');
  const clock = part('hour', 'H') + part('minute', 'M');
  return `P${days}${clock && `T${clock}`}`;
}

/** The minutes of a span of hours and minutes alone; null for another, and for one that is none. */
export function clockMinutes(text: Span): number | null {
  try {
    const { days, months, minutes } = parseSpan(text);
    return minutes > 0 && !days && !months ? minutes : null;
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

/** What joins the items of a list. */
const LINK = 'and|or|&|/|+ on? the?';

/** One item or several: “a, b and c”, “a/b”. */
export function several<T>(
  tokens: readonly Token[],
  at: number,
  item: (tokens: readonly Token[], at: number) => Read<T>,
): Read<T[]> {
  const first = item(tokens, at);
  if (!first) return null;
  const found = [first.value];
  let i = first.next;
  for (;;) {
    const comma = words(tokens, i, ',') ?? i;
    const link = words(tokens, comma, LINK) ?? comma;
    const more = link === i ? null : item(tokens, link);
    if (!more) return done(found, i);
    found.push(more.value);
    i = more.next;
  }
}

/** A reader that needs no context, as one that is given it. */
export const plain =
  <T>(reader: (tokens: readonly Token[], at: number) => Read<T>): Reader<T> =>
  (tokens, at, _context: Context) =>
    reader(tokens, at);

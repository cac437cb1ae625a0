import type { Span } from '../../calendar/span.ts';
import {
  FIGURES,
  type Clause,
  type Context,
  type Fact,
  type Reader,
  type WrittenDate,
} from './facts.ts';
import { date, dayAndMonth, dayNumber, monthList } from './dates.ts';
import { number, plain, span } from './numbers.ts';
import { time, type WrittenTime } from './times.ts';
import type { Token } from './tokens.ts';

/**
 * A line of the grammar is a pattern with what it says. In a pattern, words stand for themselves:
 * `a|b` is one of several, `a?` may be left out, `[…]` may be left out as a whole, and `{n}` is
 * read by the reader of that name.
 */
interface Slots {
  n: number;
  m: number;
  span: Span;
  time: WrittenTime;
  to: WrittenTime;
  date: WrittenDate;
  dayMonth: WrittenDate;
  day: number;
  months: number[];
}

const READERS: { [K in keyof Slots]: Reader<Slots[K]> } = {
  n: plain(number),
  m: plain(number),
  span: plain(span),
  time: plain(time),
  to: plain(time),
  date,
  dayMonth: plain(dayAndMonth),
  day: plain(dayNumber),
  months: plain(monthList),
};

type Names<P extends string> = P extends `${string}{${infer N}}${infer R}` ? N | Names<R> : never;
type Outside<P extends string> = P extends `${infer A}[${string}]${infer B}`
  ? `${A}${Outside<B>}`
  : P;
type Must<P extends string> = Names<Outside<P>> & keyof Slots;
type May<P extends string> = Exclude<Names<P>, Must<P>> & keyof Slots;
/** What a pattern gives: its slots, those in brackets perhaps. */
export type Given<P extends string> = { [K in Must<P>]: Slots[K] } & { [K in May<P>]?: Slots[K] };

type Element =
  | { kind: 'words'; choices: ReadonlySet<string>; optional: boolean }
  | { kind: 'slot'; name: keyof Slots }
  | { kind: 'group'; elements: Element[] };

/**
 * A clause of the grammar from its pattern; `make` gives what it says, or null where the words say
 * nothing together.
 * @example line('opens {span} before|early', ({ span }) => ({ fact: 'opens', before: span }))
 */
export function line<const P extends string>(
  pattern: P,
  make: (given: Given<P>, context: Context) => Fact | readonly Fact[] | null,
): Clause {
  const elements = elementsOf(pattern);
  const clause: Clause = (tokens, at, context) => {
    const given: Record<string, unknown> = {};
    const next = matched(elements, tokens, at);
    if (next === null || next === at) return null;
    const facts = make(given as Given<P>, context);
    return facts && { facts: Array.isArray(facts) ? (facts as Fact[]) : [facts as Fact], next };

    function matched(all: readonly Element[], list: readonly Token[], from: number): number | null {
      let i = from;
      for (const element of all) {
        if (element.kind === 'words') {
          const token = list[i];
          if (token && token.kind !== 'quote' && element.choices.has(token.low)) i++;
          else if (!element.optional) return null;
        } else if (element.kind === 'slot') {
          const read = READERS[element.name](list, i, context);
          if (!read) return null;
          given[element.name] = read.value;
          i = read.next;
        } else {
          const behind = matched(element.elements, list, i);
          if (behind !== null) i = behind;
        }
      }
      return i;
    }
  };
  const starts = startsOf(elements);
  if (starts) clause.starts = starts;
  return clause;
}

/** The words that a pattern can begin with; null where it may begin with something that is read. */
function startsOf(elements: readonly Element[]): Set<string> | null {
  const starts = new Set<string>();
  for (const element of elements) {
    if (element.kind !== 'words') return null;
    for (const word of element.choices) starts.add(word);
    if (!element.optional) return starts;
  }
  return null;
}

/** A clause that begins with one of these words and no other. */
export function beginning(words: string, clause: Clause): Clause {
  const starts = new Set(words.split(' '));
  const checked: Clause = (tokens, at, context) => {
    const { kind, low } = tokens[at]!;
    return starts.has(kind === 'word' || kind === 'sign' ? low : FIGURES)
      ? clause(tokens, at, context)
      : null;
  };
  checked.starts = starts;
  return checked;
}

/** The same for several patterns that say the same. */
export function lines<const P extends string>(
  patterns: readonly P[],
  make: (given: Given<P>, context: Context) => Fact | readonly Fact[] | null,
): Clause[] {
  return patterns.map((pattern) => line<P>(pattern, make));
}

/** Patterns without slots, each with what it says. */
export function fixed(patterns: readonly string[], fact: Fact): Clause[] {
  return patterns.map((pattern) => line(pattern, () => fact));
}

function elementsOf(pattern: string): Element[] {
  const elements: Element[] = [];
  for (const [piece] of pattern.matchAll(/\[[^\]]*\]|\S+/gu)) {
    if (piece.startsWith('['))
      elements.push({ kind: 'group', elements: elementsOf(piece.slice(1, -1)) });
    else if (piece.startsWith('{'))
      elements.push({ kind: 'slot', name: piece.slice(1, -1) as keyof Slots });
    else {
      const optional = piece.length > 1 && piece.endsWith('?');
      const choices = new Set((optional ? piece.slice(0, -1) : piece).split('|'));
      elements.push({ kind: 'words', choices, optional });
    }
  }
  return elements;
}

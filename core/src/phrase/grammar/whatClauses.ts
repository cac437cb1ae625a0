import type { Importance } from '../../definition/details.ts';
import type { Clause, Context, Fact } from './facts.ts';
import { hangs, ownList, ownWords } from './items.ts';
import { beginning } from './lines.ts';
import { number, span, words } from './numbers.ts';
import type { Token } from './tokens.ts';

/** The clauses that say what a to-do is, with words of a person’s own in them. */

const part = (name: string, value: unknown): Fact => ({ fact: 'part of it', part: name, value });

/** Whether a clause of one word stands where the title has ended. */
const isLast = (tokens: readonly Token[], next: number, context: Context) =>
  !tokens[next] ||
  tokens[next].kind === 'sign' ||
  tokens[next].low === 'and' ||
  context.begins(tokens, next);

const IMPORTANCE: readonly [pattern: string, importance: Importance][] = [
  ['it? is? very? important', 'high'],
  ['( important )', 'high'],
  ['of high importance', 'high'],
  ['less|not important', 'low'],
  ['not so important', 'low'],
  ['of low importance', 'low'],
];

/** “, important”, “it is important”, “Important: …”. */
const important: Clause = (tokens, at, context) => {
  for (const [pattern, importance] of IMPORTANCE) {
    const next = words(tokens, at, pattern);
    if (next === null) continue;
    const heads = at === 0 && tokens[next]?.low === ':';
    const isAside = tokens[at]!.low === '(';
    if (!heads && !isAside && !(hangs(tokens, at, context) && isLast(tokens, next, context)))
      continue;
    return { facts: [part('importance', importance)], next: heads ? next + 1 : next };
  }
  return null;
};

const YES: readonly [pattern: string, name: string][] = [
  ['for? someday', 'someday'],
  ['for? some day', 'someday'],
  ['i? take|taking it up', 'takingUp'],
  ['i am taking it up', 'takingUp'],
];

const plainly: Clause = (tokens, at, context) => {
  for (const [pattern, name] of YES) {
    const next = words(tokens, at, pattern);
    if (next !== null && hangs(tokens, at, context) && isLast(tokens, next, context))
      return { facts: [part(name, true)], next };
  }
  // At the very end “someday” says when, as “tomorrow” does.
  const last = words(tokens, at, 'for? someday');
  return last !== null && at > 0 && last === tokens.length
    ? { facts: [part('someday', true)], next: last }
    : null;
};

/** “tagged bees and honey” */
const tagged: Clause = (tokens, at, context) => {
  const from = words(tokens, at, 'tagged with|as?');
  if (from === null || !hangs(tokens, at, context)) return null;
  const read = ownList(tokens, from, context);
  return read && { facts: [part('tags', read.value)], next: read.next };
};

/** “steps: the oil, the filter and the belt” */
const steps: Clause = (tokens, at, context) => {
  const from = at === 0 ? null : words(tokens, at, 'with? the? steps|step :');
  const read = from === null ? null : ownList(tokens, from, context);
  return (
    read && {
      facts: [
        part(
          'steps',
          read.value.map((text) => ({ text })),
        ),
      ],
      next: read.next,
    }
  );
};

/** What is counted in, where the question is no more than that. */
const UNITS = new Set(
  'litres liters kilos kilograms kg grams g hours minutes km kilometres miles metres m cm degrees volts bar percent pieces'.split(
    ' ',
  ),
);
const CLAUSE_ENDS = ['and', 'then'];

/** “ask for litres”, “ask how it went from 1 to 5”, “ask whether it rained”, “ask which berth: north or south”. */
const ask: Clause = (tokens, at, context) => {
  const from = words(tokens, at, 'and? ask me?');
  if (from === null || !hangs(tokens, tokens[at]!.low === 'and' ? at + 1 : at, context))
    return null;
  const read =
    askNumber(tokens, from, context) ??
    askMinutes(tokens, from) ??
    askYesNo(tokens, from, context) ??
    askChoice(tokens, from, context) ??
    askScale(tokens, from, context) ??
    askText(tokens, from, context);
  return read && { facts: [part('questions', [read.question])], next: read.next };
};

type Asked = { question: Record<string, unknown>; next: number } | null;
type Asks = (tokens: readonly Token[], at: number, context: Context) => Asked;

const askNumber: Asks = (tokens, at, context) => {
  const from = words(tokens, at, 'for');
  const asks = from === null ? null : ownWords(tokens, from, context, [...CLAUSE_ENDS, 'in']);
  if (!asks) return null;
  const inUnit = words(tokens, asks.next, 'in');
  const unit = inUnit === null ? null : ownWords(tokens, inUnit, context, CLAUSE_ENDS);
  const own = UNITS.has(asks.value.toLowerCase()) ? asks.value : '';
  return {
    question: { asks: asks.value, kind: 'number', unit: unit?.value ?? own },
    next: unit?.next ?? asks.next,
  };
};

const askMinutes = (tokens: readonly Token[], at: number): Asked => {
  const next = words(tokens, at, 'how long it took|takes');
  return next === null ? null : { question: { asks: 'how long it took', kind: 'minutes' }, next };
};

const askYesNo: Asks = (tokens, at, context) => {
  const from = words(tokens, at, 'whether|if');
  const asks = from === null ? null : ownWords(tokens, from, context, CLAUSE_ENDS);
  return asks && { question: { asks: asks.value, kind: 'yesno' }, next: asks.next };
};

const askChoice: Asks = (tokens, at, context) => {
  const from = words(tokens, at, 'which');
  const asks = from === null ? null : ownWords(tokens, from, context, CLAUSE_ENDS);
  const colon = asks && words(tokens, asks.next, ':');
  const of = colon === null ? null : ownList(tokens, colon, context, 'or');
  if (!asks || !of || of.value.length < 2) return null;
  return { question: { asks: asks.value, kind: 'choice', of: of.value }, next: of.next };
};

const askScale: Asks = (tokens, at, context) => {
  const asks = ownWords(tokens, at, context, [...CLAUSE_ENDS, 'from']);
  const low = asks && words(tokens, asks.next, 'from');
  const one = low === null ? null : number(tokens, low);
  const to = one?.value === 1 ? words(tokens, one.next, 'to') : null;
  const high = to === null ? null : number(tokens, to);
  if (!asks || !high || ![3, 5, 7, 10].includes(high.value)) return null;
  return { question: { asks: asks.value, kind: 'scale', to: high.value }, next: high.next };
};

const askText: Asks = (tokens, at, context) => {
  const asks = ownWords(tokens, at, context, CLAUSE_ENDS);
  return asks && { question: { asks: asks.value, kind: 'text' }, next: asks.next };
};

/** “then send the invoice 3 days later” */
const then: Clause = (tokens, at, context) => {
  const from = words(tokens, at, 'and? then');
  if (from === null || !tokens[from]) return null;
  const behind = (i: number) => {
    const after = span(tokens, i);
    const next = after && words(tokens, after.next, 'later|afterwards');
    return after && next !== null ? { after: after.value, next } : null;
  };
  const isQuote = tokens[from].kind === 'quote';
  for (let i = from + 1; i < tokens.length; i++) {
    const found = behind(i);
    if (found) {
      const own = isQuote
        ? ownWords(tokens, from, context)!.value
        : context.text.slice(tokens[from].from, tokens[i - 1]!.to);
      return { facts: [part('then', { title: own, after: found.after })], next: found.next };
    }
    if (isQuote || tokens[i]!.kind === 'sign' || tokens[i]!.kind === 'quote') return null;
  }
  return null;
};

export const WHAT_CLAUSES: readonly Clause[] = [
  beginning('it is very important of less not (', important),
  beginning('for someday some i take taking', plainly),
  beginning('tagged', tagged),
  beginning('with the steps step', steps),
  beginning('and ask', ask),
  beginning('and then', then),
];

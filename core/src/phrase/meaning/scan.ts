import { partOf } from '../../definition/parts.ts';
import { clausesAt } from '../grammar/clauses.ts';
import type { Context, Fact, FactOf } from '../grammar/facts.ts';
import { tokensOf, unquoted, type Token } from '../grammar/tokens.ts';

/** One clause of a text: what it says, and the words that say it. */
export interface Matched {
  facts: readonly Fact[];
  from: number;
  to: number;
  text: string;
}

const BEGUN = new WeakMap<readonly Token[], Map<number, boolean>>();

/** Whether a clause begins at a token; found once for each. */
export function begins(tokens: readonly Token[], at: number, context: Context): boolean {
  const token = tokens[at];
  if (token === undefined) return false;
  let known = BEGUN.get(tokens);
  if (!known) BEGUN.set(tokens, (known = new Map()));
  const before = known.get(at);
  if (before !== undefined) return before;
  const found = clausesAt(token).some((clause) => clause(tokens, at, context) !== null);
  known.set(at, found);
  return found;
}

export interface Scanned {
  tokens: readonly Token[];
  /** In the order of the text. */
  matched: readonly Matched[];
  /** Words that look like a clause and could not be read. */
  doubtful: readonly string[];
}

const TRIGGERS = new Set(
  'every each until starting daily weekly fortnightly monthly quarterly yearly remind'.split(' '),
);

/** Finds the clauses of a text, the longest at each place; the rest is title (see {@link titleOf}). */
export function scan(text: string, given: Context): Scanned {
  const tokens = tokensOf(text);
  let last = -1;
  const context: Context = { ...given, isBehind: (at) => at === last };
  const matched: Matched[] = [];
  const doubtful: string[] = [];
  for (let i = 0; i < tokens.length;) {
    let best: { facts: Fact[]; next: number } | null = null;
    for (const clause of clausesAt(tokens[i]!)) {
      const found = clause(tokens, i, context);
      if (found && found.next > i && found.next > (best?.next ?? i)) best = found;
    }
    const { from } = tokens[i]!;
    if (best) {
      const { to } = tokens[best.next - 1]!;
      matched.push({ facts: best.facts, from, to, text: text.slice(from, to) });
      i = best.next;
      last = i;
      continue;
    }
    if (TRIGGERS.has(tokens[i]!.low)) {
      const end = tokens[Math.min(i + 2, tokens.length - 1)]!.to;
      doubtful.push(text.slice(from, end));
    }
    i++;
  }
  return { tokens, matched, doubtful };
}

/** What a text of clauses alone says; null where some of it is none. */
export function factsOf(words: string, context: Context): Fact[] | null {
  const { tokens, matched } = scan(words, { ...context, text: words });
  const isWhole = tokens.every(
    ({ kind, from }) => kind === 'sign' || matched.some((it) => it.from <= from && from < it.to),
  );
  return isWhole ? matched.flatMap(({ facts }) => facts) : null;
}

/** The title of a text: what stands between its clauses. */
export function titleOf(
  text: string,
  tokens: readonly Token[],
  matched: readonly Matched[],
): string {
  const rest: { from: number; to: number }[] = [];
  let next = 0;
  let last: Token | null = null;
  for (const token of tokens) {
    while (matched[next] && matched[next]!.to <= token.from) next++;
    const isRead = matched[next] !== undefined && matched[next]!.from <= token.from;
    // “rent due on the 3rd”: the word belongs to what is said behind it.
    const behind = matched[next];
    if (
      !isRead &&
      token.low === 'due' &&
      behind &&
      !text.slice(token.to, behind.from).trim() &&
      last
    )
      continue;
    const before = rest.at(-1);
    if (isRead) {
      last = null;
      continue;
    }
    if (before && last) before.to = token.to;
    else rest.push({ from: token.from, to: token.to });
    last = token;
  }
  const only = onlyQuote(tokens, rest);
  return only === null
    ? tidy(
        rest.map(({ from, to }) => text.slice(from, to)),
        (matched.at(-1)?.from ?? 0) > (rest.at(-1)?.to ?? 0),
      )
    : unquoted(text.slice(only.from, only.to));
}

/** The quote that is the whole title, but for signs; null where there are other words. */
function onlyQuote(
  tokens: readonly Token[],
  rest: readonly { from: number; to: number }[],
): Token | null {
  const left = tokens.filter(
    (token) =>
      token.kind !== 'sign' && rest.some(({ from, to }) => token.from >= from && token.to <= to),
  );
  return left.length === 1 && left[0]!.kind === 'quote' ? left[0]! : null;
}

/** Joins what is left over, without the signs and joining words on which clauses hung. */
export function tidy(pieces: readonly string[], isTorn = false): string {
  return pieces
    .map((piece) => piece.replace(/^[,;:.\s–-]+|[,;:.\s–-]+$/gu, ''))
    .map((piece, i, all) =>
      i < all.length - 1 || isTorn ? piece.replace(/(?<=\S)\s+(?:and|and then|but)$/iu, '') : piece,
    )
    .filter((piece) => piece && !/^(and|then|on|it|but)$/iu.test(piece))
    .join(' ');
}

/** The facts of a sentence by their kind, with the words behind each. */
export class Facts {
  /** Clauses that say something a second time, or that have no meaning beside the others. */
  readonly left = new Set<Matched>();
  private readonly taken = new Map<string, { fact: Fact; it: Matched }[]>();

  constructor(matched: readonly Matched[]) {
    for (const it of matched)
      for (const fact of it.facts) {
        if (fact.fact === 'filler') continue;
        const key = fact.fact === 'part of it' ? `${fact.fact} ${fact.part}` : fact.fact;
        const before = this.taken.get(key);
        if (!before) this.taken.set(key, [{ fact, it }]);
        else if (SEVERAL.has(fact.fact) || isList(fact)) before.push({ fact, it });
        else this.left.add(it);
      }
  }

  has(kind: Fact['fact']): boolean {
    return this.taken.has(kind);
  }

  get<K extends Fact['fact']>(kind: K): FactOf<K> | undefined {
    return this.taken.get(kind)?.[0]!.fact as FactOf<K> | undefined;
  }

  all<K extends Fact['fact']>(kind: K): FactOf<K>[] {
    return (this.taken.get(kind) ?? []).map(({ fact }) => fact as FactOf<K>);
  }

  /** The parts of the definition that are said as the table of parts has them read. */
  parts(): FactOf<'part of it'>[] {
    return [...this.taken.values()].flatMap((all) => {
      const facts = all.flatMap(({ fact }) => (fact.fact === 'part of it' ? [fact] : []));
      const [first] = facts;
      if (!first || facts.length === 1) return first ?? [];
      return { ...first, value: facts.flatMap(({ value }) => value as unknown[]) };
    });
  }

  /** The clause behind a fact. */
  clause(kind: Fact['fact']): Matched | null {
    return this.taken.get(kind)?.[0]!.it ?? null;
  }

  textOf(kind: Fact['fact']): string {
    return this.clause(kind)?.text ?? '';
  }

  /** Takes facts out, as said but of no use here. */
  leave(...kinds: Fact['fact'][]): void {
    for (const kind of kinds) for (const { it } of this.taken.get(kind) ?? []) this.left.add(it);
  }
}

const isList = (fact: Fact) => fact.fact === 'part of it' && partOf(fact.part)?.isList === true;

/** What may be said several times in one sentence. */
const SEVERAL: ReadonlySet<Fact['fact']> = new Set(['remind', 'pause', 'vague']);

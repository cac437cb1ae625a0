import type { Token } from '../grammar/tokens.ts';
import type { Matched } from './scan.ts';
import {
  BEHIND,
  ENDS,
  JOINTS,
  LINKS,
  TIED,
  TORN,
  isDayWord,
  isOfName,
  isTimeWord,
  saysWhen,
  setOf,
  tornLead,
} from './timeWords.ts';

/** What is left of a text beside what was understood, and could say when. */

export interface Span {
  from: number;
  to: number;
}

/** The stretches of tokens that are left over, each with whether a clause stands before it and behind it. */
function chunksOf(tokens: readonly Token[], used: readonly Matched[]) {
  const chunks: { tokens: Token[]; isBehind: boolean; isBefore: boolean }[] = [];
  let open: Token[] = [];
  let isBehind = false;
  const close = (isBefore: boolean) => {
    if (open.length) chunks.push({ tokens: open, isBehind, isBefore });
    open = [];
  };
  for (const token of tokens) {
    const it = used.find(({ from, to }) => token.from >= from && token.to <= to);
    if (it) {
      const saysSomething = it.facts.some(({ fact }) => fact !== 'filler');
      close(saysSomething);
      isBehind ||= saysSomething;
    } else open.push(token);
  }
  close(false);
  return chunks;
}

/** Words that go before what says when. */
const LEADS = setOf(
  'but apart from except on at by before after in about around or if unless not until till the last first next in early late a an',
);

const isCapital = (text: string, { from }: Token) => /\p{Lu}/u.test(text[from]!);

/** “Bins out – 3”, “Weigh the hives, second”: what stands alone behind a sign. */
function aloneBehindSign(chunk: readonly Token[], left: readonly Token[]): Token | null {
  const i = left.findLastIndex(({ low }) => !JOINTS.has(low));
  const token = left[i];
  if (!token || i === 0) return null;
  const isPair =
    token.kind === 'number' && LINKS.has(left[i - 1]!.low) && left[i - 2]?.kind === 'number';
  const first = isPair ? left[i - 2]! : token;
  const before = chunk[chunk.indexOf(first) - 1];
  const says = first.kind === 'number' || isTimeWord(first.low);
  return before?.kind === 'sign' && says ? first : null;
}

/** The word that a name begins with, where others go before it: the first with a capital that is no day. */
function nameOf(left: readonly Token[], text: string): Token | undefined {
  const name = left.find((token) => isCapital(text, token) && !isDayWord(token.low));
  const isFirst = name === left.find(({ kind }) => kind !== 'sign');
  return isFirst ? undefined : name;
}

/** The stretches that could say when. */
export function remnantsOf(
  tokens: readonly Token[],
  used: readonly Matched[],
  text: string,
): Span[] {
  const found: Span[] = [];
  const behindSign = new Set(tokens.filter((_, i) => tokens[i - 1]?.kind === 'sign'));
  const chunks = chunksOf(tokens, used);
  const name = nameOf(
    chunks.flatMap((it) => it.tokens),
    text,
  );
  for (const { tokens: chunk, isBehind, isBefore } of chunks) {
    const left = chunk.filter(({ kind }) => kind !== 'sign');
    const first = left[0];
    const last = left.findLast(({ low }) => !JOINTS.has(low)) ?? left.at(-1);
    if (!first || !last) continue;
    const isJoint = left.length === 1 && /^(and|then|on|it|but)$/u.test(first.low);
    const isTail =
      isBehind &&
      !isJoint &&
      (BEHIND.has(first.low) || (first.low === 'and' && left.length > 1 && left.length < 4));
    const hangs = left.findIndex(({ low }, i) => i > 0 && (low === 'if' || low === 'unless'));
    if (isTail || (used.length && hangs > 0)) {
      found.push({ from: left[isTail ? 0 : hangs]!.from, to: last.to });
      continue;
    }
    // “after the rain, every Monday, the hives”
    const isTied = !isBehind && isBefore && TIED.has(first.low) && chunks.length > 1;
    const lead = isTied ? left : tornLead(left, name);
    if (lead) {
      found.push({ from: lead[0]!.from, to: lead.at(-1)!.to });
      continue;
    }
    const isOnly = left.every((token) => token === first || JOINTS.has(token.low));
    const isLone =
      isTimeWord(first.low) &&
      (isOnly ? chunks.length > 1 : chunk[1]?.kind === 'sign' && chunk[0] === first);
    const isTiedOn = TIED.has(first.low) && left.some(({ low }) => low === 'then');
    if (isLone || isTiedOn) {
      found.push({ from: first.from, to: first.to });
      continue;
    }
    const alone = used.length || isBehind ? aloneBehindSign(chunk, left) : null;
    if (alone) {
      found.push({ from: alone.from, to: last.to });
      continue;
    }
    const at = left.findIndex(
      (_, i) => saysWhen(left, i, isBehind, behindSign) && (used.length > 0 || !isOfName(left, i)),
    );
    if (at >= 0) {
      let from = at;
      while (from > 0 && LEADS.has(left[from - 1]!.low)) from--;
      // Near the end it is a clause with all that follows; else the words themselves.
      const end = left.length - at <= 5 ? left.length - 1 : Math.min(at + 1, left.length - 1);
      found.push({ from: left[from]!.from, to: left[end]!.to });
      continue;
    }
    const isAtEnd = left.at(-1) === tokens.at(-1) && left.length > 1 && ENDS.has(last.low);
    if ((isBefore && left.length > 1 && TORN.has(last.low) && !JOINTS.has(last.low)) || isAtEnd)
      found.push({ from: last.from, to: last.to });
  }
  return found;
}

import type { Context, Read } from './facts.ts';
import { words } from './numbers.ts';
import { unquoted, type Token } from './tokens.ts';

/** Words of a person’s own inside a sentence: a step, a question, what comes then. */

/** Words at which such words end, wherever they stand. */
const STOPS = new Set('every takes remind until starting belongs tagged'.split(' '));

/** Where words of one’s own end. */
export function endsWords(token: Token | undefined): boolean {
  return (
    !token ||
    token.kind === 'quote' ||
    (token.kind === 'sign' && /^[,;.:()]$/u.test(token.low)) ||
    STOPS.has(token.low)
  );
}

/** A quoted stretch, or words up to a sign or one of these words. */
export function ownWords(
  tokens: readonly Token[],
  at: number,
  { text }: Context,
  until: readonly string[] = [],
): Read<string> {
  const first = tokens[at];
  if (!first) return null;
  if (first.kind === 'quote')
    return { value: unquoted(text.slice(first.from, first.to)), next: at + 1 };
  let i = at;
  while (!endsWords(tokens[i]) && !until.includes(tokens[i]!.low)) i++;
  if (i === at) return null;
  return { value: text.slice(first.from, tokens[i - 1]!.to), next: i };
}

/** Several of them: “a, b and c”. A comma behind which another clause begins ends them. */
export function ownList(
  tokens: readonly Token[],
  at: number,
  context: Context,
  link: 'and' | 'or' = 'and',
): Read<string[]> {
  const first = ownWords(tokens, at, context, [link]);
  if (!first) return null;
  const found = [first.value];
  let { next } = first;
  for (;;) {
    const comma = words(tokens, next, ',') ?? next;
    const behind = words(tokens, comma, link) ?? comma;
    if (behind === next || context.begins(tokens, behind)) return { value: found, next };
    const more = ownWords(tokens, behind, context, [link]);
    if (!more) return { value: found, next };
    found.push(more.value);
    ({ next } = more);
  }
}

/**
 * Whether what stands at a token hangs on the sentence: behind a sign or another clause, or with its
 * last words. “Sort the important letters” is a title.
 */
export function hangs(tokens: readonly Token[], at: number, context: Context): boolean {
  const before = tokens[at - 1];
  if (!before) return false;
  return before.kind === 'sign' || before.low === 'and' || context.isBehind(at);
}

import { slipOf } from './slips.ts';

/** A piece of typed text: a word, a number, a sign, or a quoted stretch that is never read. */
export interface Token {
  kind: 'word' | 'number' | 'date' | 'time' | 'sign' | 'quote';
  /** Lower case, with a straight apostrophe. */
  low: string;
  from: number;
  to: number;
  /** For numbers, and whether an ordinal ending follows (“12th”). */
  value: number;
  ordinal: boolean;
  /** For a slip of the key: the word as it was typed; `low` is the one that was meant perhaps. */
  typed?: string;
}

const PIECE =
  /(?<date>\d{4}-\d{2}-\d{2}(?!\d))|(?<time>\d{1,2}[:.]\d{2}(?![\d:]|\.\d))|(?<number>\d+)(?<ordinal>st|nd|rd|th)?(?![\p{N}])|(?<word>\p{L}[\p{L}\p{N}'’-]*)|(?<quote>(?<![^\s])“(?:[^”]|””)*”(?![^\s,.;:])|(?<![^\s])"[^"]*"(?![^\s,.;:]))|(?<sign>\S)/giu;

/** Cuts text into tokens; everything but white space is in one. */
export function tokensOf(text: string): Token[] {
  const tokens: Token[] = [];
  for (const found of text.matchAll(PIECE)) {
    const groups = found.groups!;
    const kind = (['date', 'time', 'number', 'word', 'quote', 'sign'] as const).find(
      (name) => groups[name] !== undefined,
    )!;
    const own = found[0].toLowerCase().replaceAll('’', "'");
    const meant = kind === 'word' ? slipOf(own) : null;
    tokens.push({
      kind,
      low: meant ?? own,
      ...(meant ? { typed: own } : {}),
      from: found.index,
      to: found.index + found[0].length,
      value: kind === 'number' ? Number(groups.number) : Number.NaN,
      ordinal: groups.ordinal !== undefined,
    });
  }
  return tokens;
}

/** The title that a quoted stretch stands for. */
export function unquoted(text: string): string {
  const inner = text.slice(1, -1);
  return text.startsWith('“') ? inner.replaceAll('””', '”') : inner;
}

/** Text as a quoted stretch, so that nothing in it is read. */
export function quoted(text: string): string {
  return `“${text.replaceAll('”', '””')}”`;
}

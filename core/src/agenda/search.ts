import type { Details } from '../definition/details.ts';

/** Search over what to-dos are, on the device. */

/** What is looked for: words that each begin a word of it, in any order, and what narrows it. */
export interface Query {
  words: string[];
  /** Whether it is late, paused, ended; without a place, without a date; important. */
  is: ReadonlySet<Narrow>;
  /** Comes back as these words say: “every month”. */
  repeat: string | null;
  /** The place that it is in, by its id. */
  place: string | null;
}

export const NARROWS = [
  'late',
  'paused',
  'ended',
  'important',
  'without a place',
  'without a date',
] as const;
export type Narrow = (typeof NARROWS)[number];

/** Text without accents and case, its words apart by single spaces. */
export function plainText(text: string): string {
  return text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

const REPEAT = /\bevery (?:other |\d+ )?[a-z]+/u;

/** Reads what is looked for: “late”, “without a place”, “every month” and “in Aboard” narrow it. */
export function queryOf(text: string, places: readonly { id: string; name: string }[] = []): Query {
  let rest = plainText(text);
  const is = new Set<Narrow>();
  for (const narrow of NARROWS) {
    const found = new RegExp(`(?:^| )${narrow}(?= |$)`, 'u');
    if (found.test(rest)) is.add(narrow);
    rest = rest.replace(found, ' ');
  }
  let place: string | null = null;
  for (const { id, name } of [...places].sort((a, b) => b.name.length - a.name.length)) {
    const lead = ` in ${plainText(name)} `;
    if (place !== null || !` ${rest} `.includes(lead)) continue;
    place = id;
    rest = ` ${rest} `.replace(lead, ' ');
  }
  const repeat = REPEAT.exec(rest)?.[0] ?? null;
  if (repeat !== null) rest = rest.replace(repeat, ' ');
  return { words: rest.split(' ').filter(Boolean), is, repeat, place };
}

/** What is looked through of a to-do. */
export type Searched = Pick<Details, 'title' | 'note' | 'steps' | 'tags'>;

const texts = new WeakMap<Searched, { place: string; text: string }>();

function textOf(details: Searched, place: string): string {
  const known = texts.get(details);
  if (known?.place === place) return known.text;
  const { title, note, steps, tags } = details;
  const all = [title, note, ...steps.map((step) => step.text), ...tags, place].join(' ');
  const text = ` ${plainText(all)}`;
  texts.set(details, { place, text });
  return text;
}

/** Whether each of these begins a word of a plain text, which has a space before each. */
const begin = (text: string, words: readonly string[]) =>
  words.every((word) => text.includes(` ${word}`));

/** Whether each word looked for begins a word of a to-do, or of the name of its place. */
export function hasWords(details: Searched, place: string, words: readonly string[]): boolean {
  if (!words.length) return true;
  return begin(textOf(details, place), words);
}

/** Whether each word looked for begins a word of a text. */
export function textHas(text: string, words: readonly string[]): boolean {
  return begin(` ${plainText(text)}`, words);
}

/**
 * The stretches of a text that were looked for, each with whether it is one: for marking them.
 * @example markedText('Weigh the hives', ['hi']) // [['Weigh the ', false], ['hi', true], ['ves', false]]
 */
export function markedText(text: string, words: readonly string[]): [string, boolean][] {
  const found: [string, boolean][] = [];
  const add = (piece: string, isFound: boolean) => {
    const last = found.at(-1);
    if (last && last[1] === isFound) last[0] += piece;
    else if (piece) found.push([piece, isFound]);
  };
  for (const [piece] of text.matchAll(/[\p{L}\p{N}\p{M}]+|[^\p{L}\p{N}\p{M}]+/gu)) {
    const plain = plainText(piece);
    const word = words
      .filter((it) => plain && plain.startsWith(it))
      .sort((a, b) => b.length - a.length)[0];
    // Where accents are letters of their own, the whole word is marked.
    const length =
      word === undefined ? 0 : plain.length === piece.length ? word.length : piece.length;
    add(piece.slice(0, length), true);
    add(piece.slice(length), false);
  }
  return found.filter(([piece]) => piece);
}

import type { LocalDate } from '../../calendar/day.ts';
import { CoreError } from '../../errors.ts';
import { checkDefinition } from '../../definition/check.ts';
import type { Definition } from '../../definition/definition.ts';
import { readPlainly } from '../meaning/read.ts';
import type { PartKind, ReadOptions, Reading, Source } from '../meaning/reading.ts';
import { typed } from './readable.ts';
import { OWN_WORDS, dateText, typedParts } from './say.ts';
import { tidy } from '../meaning/scan.ts';
import { quoted, unquoted } from '../grammar/tokens.ts';

/**
 * The typed text after a control has changed the definition: the words of what changed are written
 * anew, the rest stays as the person wrote it. Where that would not be read as the new definition,
 * the whole is written anew (see {@link typed}).
 *
 * @param text what was typed, and `reading` what was read from it.
 * @param next the definition that it is to give.
 */
export function rewritten(
  text: string,
  reading: Reading,
  next: Definition,
  today: LocalDate,
  options: ReadOptions = {},
): string {
  const wanted = JSON.stringify(sound(next));
  const gives = (sentence: string) => {
    const { series, notUnderstood } = readPlainly(sentence, today, options);
    return !notUnderstood.length && JSON.stringify(series) === wanted;
  };
  const before = fragments(reading.series, today, options);
  const after = fragments(next, today, options);
  const kinds = [...new Set([...before.keys(), ...after.keys()])];
  const changed = kinds.filter((kind) => before.get(kind) !== after.get(kind));
  if (next.title === reading.series.title) {
    const start = next.start === null || !next.repeat ? null : dateText(next.start, today);
    const starts = start === null ? [null] : [null, `starting ${start}`, `counted from ${start}`];
    for (const words of starts) {
      const pieces = new Map(changed.map((kind) => [kind, after.get(kind) ?? '']));
      if (words !== null) pieces.set('start', words);
      const sentence = withPieces(text, reading.sources, pieces);
      if (gives(sentence)) return sentence;
    }
  }
  return typed(next, today, options);
}

/** A definition in its checked form; one that cannot be is left as it is, for reading to say why. */
function sound(series: Definition): Definition {
  try {
    return checkDefinition(series);
  } catch (error) {
    if (error instanceof CoreError) return series;
    throw error;
  }
}

/** The typed words of each part of a definition. */
function fragments(
  series: Definition,
  today: LocalDate,
  options: ReadOptions,
): Map<PartKind, string> {
  const found = new Map<PartKind, string>();
  for (const { kind, text } of typedParts(series, today, options)) {
    const before = found.get(kind);
    found.set(kind, before === undefined ? text : `${before} ${text}`);
  }
  return found;
}

/** The text with new words for some parts: where the old ones stood, else at its end. */
function withPieces(
  text: string,
  sources: readonly Source[],
  pieces: ReadonlyMap<PartKind, string>,
): string {
  const left = new Map(pieces);
  let made = '';
  let at = 0;
  for (const { part, from, to } of sources) {
    if (!pieces.has(part)) continue;
    const words = left.get(part) ?? '';
    left.delete(part);
    const between = text.slice(at, from);
    // Nothing stands here any more: neither does the sign before it.
    const before = words.startsWith(',') ? between.replace(/[\s,]+$/u, '') : between;
    made += words ? before + words : between.replace(/[\s,]+$/u, '');
    at = to;
  }
  made += text.slice(at);
  // Behind words of one’s own only a sign begins something else.
  const last = sources.at(-1);
  const isOwn = last !== undefined && OWN_WORDS.has(last.part) && last.to >= text.trimEnd().length;
  for (const words of left.values())
    if (words) made = `${made.trimEnd()}${isOwn && !words.startsWith(',') ? ',' : ''} ${words}`;
  return made
    .replace(/\s{2,}/gu, ' ')
    .replace(/\s+([,.;])/gu, '$1')
    .trim();
}

/**
 * The typed text with a stretch that was read left in the title: the title is set in quotes, in
 * which nothing is read, and what else was read follows it.
 * @example sentBack('Read Every Day once', reading, everyDay) // '“Read Every Day” once'
 */
export function sentBack(text: string, reading: Reading, source: Source): string {
  const title: string[] = [];
  const rest: string[] = [];
  let at = 0;
  const read = [...reading.sources, ...reading.spare].sort((a, b) => a.from - b.from);
  for (const it of [...read, null]) {
    const between = text.slice(at, it?.from ?? text.length);
    title.push(plain(between));
    if (!it) break;
    if (it.from === source.from) title.push(it.text);
    else rest.push(it.text);
    at = it.to;
  }
  return [quoted(tidy(title)), ...rest].join(' ');
}

/** A stretch of title as it is meant: without the quotes around the whole of it. */
function plain(stretch: string): string {
  const piece = stretch.trim().replace(/[,;:.\s]+$/u, '');
  return /^“.*”$/u.test(piece) || /^"[^"]*"$/u.test(piece) ? unquoted(piece) : stretch;
}

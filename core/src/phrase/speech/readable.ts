import type { LocalDate } from '../../calendar/day.ts';
import { formatRule } from '../../rule/format.ts';
import { parseRule } from '../../rule/parse.ts';
import type { Definition } from '../../definition/definition.ts';
import { ruleOf } from '../../series/definition/definition.ts';
import { readPlainly } from '../meaning/read.ts';
import type { ReadOptions } from '../meaning/reading.ts';
import {
  Words,
  joinedTexts,
  partsOf,
  typedParts,
  type SentencePart,
  type StartJoint,
} from './say.ts';
import { ENGLISH } from './english.ts';
import type { Speech } from './speech.ts';
import { quoted } from '../grammar/tokens.ts';

/** Sentences that read back as the definition they were made of. */

export interface SayOptions extends ReadOptions {
  /** The language it is said in; default English, the one that is read. */
  speech?: Speech;
}

/**
 * A definition as one plain sentence, in parts. In English, joined they read it back (see
 * {@link read}).
 * @param today the person's date: the year is left out of dates within the coming ten months.
 */
export function sayParts(
  series: Definition,
  today: LocalDate,
  options: SayOptions = {},
): SentencePart[] {
  const words = new Words(options.speech ?? ENGLISH, today, options);
  if (words.speech.language !== 'en') return partsOf(series, series.title, words, 'first');
  return readable(series, today, options, joined, (title, joint) =>
    partsOf(series, title, words, joint),
  );
}

const STARTS = { first: 'starting', counted: 'counted from' };

/** A definition as one plain sentence: “Weigh the hives comes back every Friday, first on …”. */
export function say(series: Definition, today: LocalDate, options: SayOptions = {}): string {
  return joined(sayParts(series, today, options));
}

/**
 * A definition in the short words that a person would type, without what reading would fill in by
 * itself: “Weigh the hives every Friday at 13:00”. Reading it gives the same definition.
 */
export function typed(series: Definition, today: LocalDate, options: ReadOptions = {}): string {
  const stretches = typedParts(series, today, options);
  const words = new Words(ENGLISH, today, options);
  const start = series.start === null || !series.repeat ? null : words.date(series.start);
  return readable(
    series,
    today,
    options,
    (text) => text,
    (title, joint) => {
      const first = joint === 'none' || start === null ? [] : [`${STARTS[joint]} ${start}`];
      const texts = stretches.map(({ text }) => text);
      // Before what a comma ends, so that it is no part of that.
      const at = texts.findIndex((text) => text.startsWith(','));
      return joinedTexts([title, ...texts.toSpliced(at < 0 ? texts.length : at, 0, ...first)]);
    },
    ['none', 'first', 'counted'],
  );
}

/**
 * Makes a sentence that reads back as the definition: with the title in quotes where it would be
 * read as more than that, and with its start said as plainly as will do.
 */
function readable<T>(
  series: Definition,
  today: LocalDate,
  options: ReadOptions,
  text: (made: T) => string,
  make: (title: string, joint: StartJoint) => T,
  joints: readonly StartJoint[] = ['first', 'counted'],
): T {
  let title = series.title;
  let made = make(title, joints[0]!);
  for (const joint of joints) {
    made = make(title, joint);
    let back = readPlainly(text(made), today, options);
    const isPlain = back.series.title === series.title && !back.notUnderstood.length;
    if (!isPlain && title === series.title) {
      title = quoted(series.title);
      made = make(title, joint);
      back = readPlainly(text(made), today, options);
    }
    if (back.series.start === series.start && isSameRule(back.series, series)) return made;
  }
  return made;
}

/**
 * Whether two definitions have the same rule: a month’s step that begins on the 31st is read with
 * that day in it, so that it is never lost (R2), unless it says what it is counted from.
 */
function isSameRule(a: Definition, b: Definition): boolean {
  const [one, other] = [ruleOf(a), ruleOf(b)];
  if (one === null || other === null) return one === other;
  return formatRule(parseRule(one)) === formatRule(parseRule(other));
}

const joined = (parts: readonly SentencePart[]) => parts.map((part) => part.text).join('');

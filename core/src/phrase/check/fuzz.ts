import type { chance } from '../../chance.ts';
import { SENTENCES } from './sentences.ts';
import { SPOKEN } from './spoken.ts';

/** A whole number from 0 to n − 1. */
type Chance = ReturnType<typeof chance>;

const ALL = [...SPOKEN, ...SENTENCES].map(([text]) => text);
const WORDS = [...new Set(ALL.flatMap((text) => text.split(' ')))];
const ODD = [
  ...'“”"\'’,;:.()/-–@×&+0',
  '31',
  '99999999999999999999',
  '٣',
  '25:99',
  '2027-02-30',
  '0',
  '29 Feb',
  'every every',
  '\n',
  '\u0000',
  '👩‍🌾',
  'a̐éö̲',
  'FREQ=DAILY;INTERVAL=0',
  'by the rule FREQ=',
  'remind me',
  'paused from',
  'belongs to',
];

/** Text that looks like a sentence and may be any: words of sentences, odd signs, cut and joined. */
export function fuzzedSentence(of: Chance): string {
  const one = <T>(items: readonly T[]): T => items[of(items.length)]!;
  const kind = of(4);
  if (kind === 0) {
    // A sentence with a stretch cut out, and some of another put in.
    const [text, other] = [one(ALL), one(ALL)];
    const at = of(text.length);
    return text.slice(0, at) + other.slice(of(other.length)) + text.slice(at + of(9));
  }
  const count = 1 + of(kind === 1 ? 150 : 24);
  const pieces = Array.from({ length: count }, () => (of(5) === 0 ? one(ODD) : one(WORDS)));
  return pieces.join(of(9) === 0 ? '' : ' ');
}

// What reads and writes whole sentences: apart from the rest, so that a screen without them need not load it.
export { MOST_TEXT, read } from './phrase/meaning/read.ts';
export type {
  NamedPlace,
  PartKind,
  Problem,
  ReadOptions,
  Reading,
  Source,
} from './phrase/meaning/reading.ts';
export { nameText } from './phrase/speech/itemText.ts';
export { anchored } from './phrase/meaning/rules.ts';
export { say, sayParts, typed, type SayOptions } from './phrase/speech/readable.ts';
export { rewritten, sentBack } from './phrase/speech/rewrite.ts';
export type { Choice, Doubt, DoubtCode } from './phrase/meaning/reading.ts';
export type { DateOrder } from './phrase/grammar/facts.ts';

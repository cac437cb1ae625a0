// What reads and writes whole sentences: apart from the rest, so that a screen without them need not load it.
export {
  MOST_TEXT,
  read,
  type NamedPlace,
  type PartKind,
  type Problem,
  type ReadOptions,
  type Reading,
  type Source,
} from './phrase/read.ts';
export { nameText } from './phrase/itemText.ts';
export { anchored } from './phrase/rules.ts';
export { say, sayParts, typed, type SayOptions } from './phrase/readable.ts';
export { rewritten, sentBack } from './phrase/rewrite.ts';
export type { Choice, Doubt, DoubtCode } from './phrase/doubts.ts';
export type { DateOrder } from './phrase/facts.ts';

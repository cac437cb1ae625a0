import type { LocalDate, Weekday } from '../../calendar/day.ts';
import type { Definition } from '../../definition/definition.ts';
import type { Context, DateOrder } from '../grammar/facts.ts';
import type { Token } from '../grammar/tokens.ts';
import type { Facts, Matched } from './scan.ts';

/** What comes of reading a sentence. */

/** Something in the text that cannot be: an impossible date, an interval of 0. */
export interface Problem {
  code: string;
  /** The words it is about, or the part of the definition. */
  where: string;
  message: string;
}

/** The parts of a definition that a sentence says and that a person can change. */
export type PartKind = string;

/** A stretch of the typed text, and the part of the definition that was read from it. */
export interface Source {
  part: PartKind;
  from: number;
  to: number;
  text: string;
}

/** What was read from a sentence. */
export interface Reading {
  /** The definition; its title may be empty where nothing was left over for one. */
  series: Definition;
  /** Words that look like a clause and could not be read; they stay in the title. */
  notUnderstood: string[];
  problems: Problem[];
  /** What may be meant in another way as well. */
  doubts: Doubt[];
  /** The stretches that were read, in order; the rest is title. */
  sources: Source[];
  /** Stretches that do not go with the others, and would be read without them. */
  spare: Source[];
}

export interface ReadOptions {
  /** The person's first day of the week; default Monday. */
  weekStart?: Weekday;
  /** In which order the numbers of a date are written where the person lives; default day first. */
  dateOrder?: DateOrder;
  /** The person's working days, default Monday to Friday, and the public holidays of their region. */
  workdays?: readonly Weekday[];
  holidayDates?: readonly LocalDate[];
  /** The places that the person has: “in Bees” is one of them, “in London” is title. A name alone is its id. */
  places?: readonly (string | NamedPlace)[];
}

/** A place by what it is called beside all others. */
export interface NamedPlace {
  id: string;
  name: string;
}

/** Words that may be meant in more than one way. The first choice is the one that was taken. */
export interface Doubt {
  code: DoubtCode;
  /** The words that are in doubt. */
  where: string;
  /** What to ask. */
  asks: string;
  choices: Choice[];
}

export interface Choice {
  /** What the words in doubt would be, said so that nothing is in doubt. */
  words: string;
  /** The whole text with these words. */
  text: string;
  /** The definition that it gives. */
  series: Definition;
}

export type DoubtCode =
  | 'fixedOrAfter'
  | 'hours'
  | 'nextDay'
  | 'dateOrder'
  | 'untilMonth'
  | 'dayOfMonth'
  | 'hour'
  | 'range'
  | 'everyNth'
  | 'titleDay'
  /** A date that is on another weekday than was said. */
  | 'otherDay'
  /** Days of a year: once, or each year. */
  | 'eachYear'
  /** Said without saying exactly when. */
  | 'vague'
  /** One of several days, or each of them. */
  | 'either'
  /** A day that was just gone by: this year's, or next year's. */
  | 'yearGone'
  /** A word that is written otherwise. */
  | 'slip'
  /** Words that are left in the title, and could say when. */
  | 'remnant';

export interface PlainReading extends Omit<Reading, 'doubts'> {
  facts: Facts;
  context: Context;
  tokens: readonly Token[];
  /** The clauses that make the definition. */
  used: readonly Matched[];
}

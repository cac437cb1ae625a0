import type { LocalDate } from '../calendar/day.ts';
import type { Span } from '../calendar/span.ts';
import type { LocalTime } from '../calendar/time.ts';
import type { KeptFile } from './files.ts';

export type Importance = 'high' | 'normal' | 'low';

/** One step of a checklist; its id stays when its words change, so that ticks stay with it. */
export interface StepText {
  id: string;
  text: string;
}

/** What is asked when a time is finished. */
export type Question = { id: string; asks: string } & (
  | { kind: 'number'; unit: string; step?: number }
  | { kind: 'scale'; to: 3 | 5 | 7 | 10; low?: string; high?: string }
  | { kind: 'yesno' }
  | { kind: 'choice'; of: string[] }
  | { kind: 'text' }
  | { kind: 'minutes' }
);

/**
 * What a to-do is, beside when it comes back: the machine never sees it. A change of it holds at once for
 * all times that are open or to come; what has ended keeps what it had.
 */
export interface Details {
  title: string;
  /** Where it belongs, by the id of the place; null for nowhere yet. */
  place: string | null;
  importance: Importance;
  tags: string[];
  /** Markdown. */
  note: string;
  steps: StepText[];
  questions: Question[];
  /** About how many minutes one time takes; null where that is not said. */
  takes: number | null;
  /** The part of the day in which it is to be done. */
  window: { from: LocalTime; to: LocalTime } | null;
  /** The days by which a time may be planned earlier or later. */
  slack: { before: number; after: number } | null;
  /** Finishing a time makes this one-off, due so long after. */
  then: { title: string; after: Span } | null;
  /** Without a date on purpose. */
  someday: boolean;
  /** A habit that is being taken up. */
  takingUp: boolean;
  /** The bundle that it was laid from; null for none. */
  bundle: FromBundle | null;
  /** A look-back: its page shows what was done, missed and moved since the time before. */
  looksBack: boolean;
  /** Other intervals that were offered for it, and that the person does not want. */
  declined: Span[];
  /** Where it came from: what another program calls it, and what that keeps with it. */
  came: Came | null;
}

/** A to-do that came in from a calendar. */
export interface Came {
  /** Its UID there. */
  uid: string;
  /** Properties that have no place here, as jCal (RFC 7265). */
  kept?: unknown[];
}

/** From where a one-off comes that was laid in with others. */
export interface FromBundle {
  /** The bundle, by its id. */
  id: string;
  /** Which of its to-dos, by its key, and on which of its days (see {@link Bundle}). */
  item: string;
  nth: number;
  /** The first day of the week, or of the month, into which it was laid. */
  on: LocalDate;
}

/** What is said where nothing is said. */
export const NO_DETAILS: Omit<Details, 'title'> = {
  place: null,
  importance: 'normal',
  tags: [],
  note: '',
  steps: [],
  questions: [],
  takes: null,
  window: null,
  slack: null,
  then: null,
  someday: false,
  takingUp: false,
  bundle: null,
  looksBack: false,
  declined: [],
  came: null,
};

/** What was written down with one time. */
export interface Filled {
  /** The steps that are ticked, by their ids. */
  ticks?: string[];
  /** Steps of this time alone. */
  added?: StepText[];
  /** By the id of the question. */
  answers?: Record<string, Answer>;
  /** Minutes that it really took. */
  spent?: number;
  files?: KeptFile[];
  /** Properties that another program keeps with it, as jCal (RFC 7265). */
  kept?: unknown[];
}

/** The answer to a question: a number (a scale and minutes too), yes or no, or words. */
export type Answer = number | boolean | string;

import type { LocalDate } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import type { Answer, StepText } from '../../definition/details.ts';
import type { KeptFile } from '../../definition/files.ts';
import type { Series } from '../definition/definition.ts';
import type { Course, Occurrence, Progress } from '../life/progress.ts';
import type { Planner } from '../plan/plan.ts';
import type { Move } from './moves.ts';

/** Answers by their questions, and the minutes that it really took; null takes one away. */
export interface WrittenDown {
  answers?: Record<string, Answer | null>;
  spent?: number | null;
}

/** What a person does with one time of a to-do. Without `slot` it is the earliest open one. */
export type TimeDeed =
  /** With so many times a period, one tally. */
  | ({ do: 'done'; slot?: LocalMoment } & WrittenDown)
  | ({ do: 'tally'; slot?: LocalMoment } & WrittenDown)
  | ({ do: 'skip'; slot?: LocalMoment } & WrittenDown)
  /** For this time only: the day to do it, with an hour perhaps, the due moment, or both. */
  | ({ do: 'move'; slot?: LocalMoment } & Move)
  /** How much of it is done, 0 to 99 in a hundred. */
  | { do: 'part'; slot?: LocalMoment; part: number }
  /** What the person writes down with it; empty takes it away. Ended times have one too. */
  | { do: 'note'; slot?: LocalMoment; note: string }
  /** Ticks a step of it, or takes the tick away. */
  | { do: 'tick'; slot?: LocalMoment; step: string; on: boolean }
  /** A step of this time alone; without words it is taken away. */
  | { do: 'addStep'; slot?: LocalMoment; step: StepText }
  /** What is written down with it: later than it was done, perhaps. */
  | ({ do: 'answer'; slot?: LocalMoment } & WrittenDown)
  /** A file that belongs to it from here on. */
  | { do: 'file'; slot?: LocalMoment; file: KeptFile }
  /** Lets go of a file, by its id. */
  | { do: 'unfile'; slot?: LocalMoment; file: string }
  /** Says nothing of an open time, or of one to come, until this instant (ISO 8601), and then once (R17). */
  | { do: 'later'; slot?: LocalMoment; to: string };

/** What a person does with a to-do itself. */
export type ChangeDeed =
  /** Nothing comes from a day on, default today, until it is resumed or up to a day (R12). */
  | { do: 'pause'; from?: LocalDate; to?: LocalDate | null }
  | { do: 'resume' }
  /** From this time on, with these parts of the definition (R13); default the earliest open one. */
  | { do: 'change'; slot?: LocalMoment; series: Partial<Series> }
  /** Ends the to-do: what is open is skipped. With `slot`, that time and what follows are no more. */
  | { do: 'end'; slot?: LocalMoment }
  /** An ended to-do comes back, from today on. */
  | { do: 'reopen' }
  /** This time is no more, as if it had never been to come. */
  | { do: 'drop'; slot?: LocalMoment };

/** What a person does with one time of a to-do, or with the to-do itself. */
export type Deed = TimeDeed | ChangeDeed;

/** What came of a deed: the course, and the time it was done to; `before` is that time as it was. */
export interface Deeded extends Course {
  /** Null where it was done to the to-do itself. */
  time: Occurrence | null;
  before: Occurrence | null;
  /** The numbers of open times that are no more. */
  gone: number[];
}

/** What is done to ended times too: it changes nothing but what stands with them. */
export const FILLS: readonly Deed['do'][] = ['note', 'tick', 'addStep', 'answer', 'file', 'unfile'];

/** What a deed is done with: a copy of the progress, the moment, and ended times that it may mean. */
export interface With {
  planner: Planner;
  now: Progress;
  at: Instant;
  past: readonly Occurrence[];
}

/** Does deeds of one kind; null where no time is found for one. */
export type Doing<D extends Deed['do']> = (
  it: Extract<Deed, { do: D }>,
  given: With,
) => Deeded | null;

/** What came of a deed to an open time, or one that has ended. */
export const didTo = (
  progress: Progress,
  time: Occurrence,
  before: Occurrence | null,
  ended: Occurrence[] = [],
): Deeded => ({ progress, ended, time, before, gone: [] });

/** What came of a deed to the to-do itself, or to a time that has not opened. */
export const changed = (progress: Progress, gone: readonly Occurrence[] = []): Deeded => ({
  progress,
  ended: [],
  time: null,
  before: null,
  gone: gone.map(({ number }) => number),
});

/** The open time of a slot, else the earliest; undefined for none. */
export const openOf = (now: Progress, slot: LocalMoment | undefined): Occurrence | undefined =>
  slot === undefined ? now.open[0] : now.open.find((time) => time.slot === slot);

import type { LocalDate } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';

/** How a time stands, or how it ended. */
export type Status = 'open' | 'done' | 'skipped' | 'missed';

/** The slot of a one-off that has no date yet. */
export const UNDATED = 'undated';

/** One happening of a to-do. */
export interface Occurrence {
  /** Its running number within the to-do, from 1. */
  number: number;
  /** The date (or date and time) that the repeat yields; it names the time and never changes. */
  slot: LocalMoment;
  /** Null only where there is no date yet. */
  due: LocalMoment | null;
  /** The day the person means to do it. */
  plan: LocalDate | null;
  /** Who set the plan last: it came with the due day, the person moved it, or it rolled over. */
  planBy: 'due' | 'person' | 'roll';
  /** Whether the person moved plan or due. */
  moved: boolean;
  status: Status;
  /** Null where it was finished before it opened. */
  openedAt: Instant | null;
  closedAt: Instant | null;
  /** How many times it rolled over to another day. */
  rolled: number;
}

/** A time that has not opened yet, where it is not the calendar that yields it. */
export interface Pending {
  slot: LocalMoment;
  due: LocalMoment | null;
  opensAt: Instant;
}

/**
 * All that the machine needs to go on: plain data, small however long the record is. Ended times
 * are not in it.
 */
export interface Progress {
  /** Everything up to and including this instant has happened; null before the first step. */
  through: Instant | null;
  /** The number that the next time gets. */
  number: number;
  /** Open times in order of their slots. */
  open: Occurrence[];
  /** By the calendar: the slot up to which all have opened, or went by because they were finished ahead. */
  passed: LocalMoment | null;
  /** By the calendar: the last slot that really opened. */
  opened: LocalMoment | null;
  /** By the calendar: slots after `passed` that were finished ahead, or opened before earlier ones. */
  ahead: LocalMoment[];
  /** After I finish, and one-offs: the time that has not opened. */
  pending: Pending | null;
  /** How many were done. */
  done: number;
  /** When one was last done. */
  lastDone: Instant | null;
  /** Days from due to done of the last five, oldest first; negative when early. */
  lateness: number[];
}

/** What the machine works on: the state to go on from, and the times that ended on the way. */
export interface Course {
  progress: Progress;
  /** Times that ended in this step, or that it changed after they had ended. */
  ended: Occurrence[];
}

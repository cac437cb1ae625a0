import type { Day, LocalDate } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import type { Filled } from '../../definition/details.ts';
import type { Series } from '../definition/definition.ts';

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
  /** The hour of that day, as a date and time, where the person set one; absent where they did not. */
  planAt?: LocalMoment;
  /** Who set the plan last: it came with the due day, the person moved it, or it rolled over. */
  planBy: 'due' | 'person' | 'roll';
  /** The person gave the plan together with the due day: moving that one takes it along (R9). */
  withDue?: true;
  /** The day it was planned for before it rolled, where that is not its due day. */
  meant?: LocalDate;
  /** So many times a period: the days for which its missing ones are planned, in order. */
  days?: LocalDate[];
  /** Its move was proposed, and taken over: it is not by hand. */
  proposed?: true;
  /** Where its planned day opened it early: when its due day would have (R17). */
  wouldOpen?: Instant;
  /** Whether the person moved plan or due. */
  moved: boolean;
  status: Status;
  /** Null where it was finished before it opened. */
  openedAt: Instant | null;
  closedAt: Instant | null;
  /** How many times it rolled over to another day. */
  rolled: number;
  /** How much of it is done, 1 to 99 in a hundred; absent where the person said nothing. */
  part?: number;
  /** So many times a period: how many times it was done. */
  tally?: number;
  /** What the person wrote down with it. */
  note?: string;
  /** Steps that are ticked, answers, and minutes that it really took. */
  filled?: Filled;
}

/** A slot still to come that the person moved (R9): what it is when it opens. */
export interface MovedSlot extends Pick<
  Occurrence,
  'slot' | 'planAt' | 'withDue' | 'days' | 'proposed'
> {
  due: LocalMoment;
  plan: LocalDate;
  planBy: 'due' | 'person';
  /** Whether the person moved the due day itself: then a change of what it follows from leaves it. */
  setDue?: true;
}

/** A time that has not opened yet. */
export interface Pending {
  slot: LocalMoment;
  due: LocalMoment | null;
  opensAt: Instant;
  /** Where the person moved it: how, and when it would open by its due day alone. */
  moved?: MovedSlot & { byDue: Instant };
}

/** From what a time that the calendar does not yield is counted. */
export interface Base {
  /** The end of the one before (R7, R8); null for the first one. */
  from: { day: Day; instant: Instant } | null;
  /** The due moment of the one before. */
  previous: LocalMoment | null;
  /** For the first: its day, where that is not the start of the definition. */
  on?: LocalDate;
  /** When the to-do, or this count, came to be. */
  at: Instant;
  /** Whether the time has opened or ended: nothing comes before something else is known. */
  used: boolean;
}

/** A definition that takes effect from a slot on (R13). */
export interface Turn {
  from: LocalMoment;
  series: Series;
}

/** A time whose reminders the person put off. */
export interface Later {
  slot: LocalMoment;
  to: Instant;
}

/**
 * The definition and all that the machine needs to go on with it: plain data, small however long
 * the record is. Ended times are not in it.
 */
export interface Progress {
  /** The definition in force. */
  series: Series;
  /** Definitions that take effect later, in order of their slots. */
  turns: Turn[];
  /** Everything up to and including this instant has happened; null before the first step. */
  through: Instant | null;
  /** The number that the next time gets. */
  number: number;
  /** Open times in order of their slots. */
  open: Occurrence[];
  /** By the calendar: up to here, inclusive, all slots have opened, or gone by. */
  passed: LocalMoment | null;
  /** By the calendar: the last slot that really opened. */
  opened: LocalMoment | null;
  /** By the calendar: slots after `passed` that were finished ahead, moved, or opened before earlier ones. */
  ahead: LocalMoment[];
  /** By the calendar: slots after `passed` that were taken out. */
  out: LocalMoment[];
  /** Slots to come that the person moved, in order; by the calendar they are in `ahead`, or passed. */
  moved?: MovedSlot[];
  /** By the calendar: where moved ones that opened stand among the times of their days. */
  onto?: Pick<MovedSlot, 'slot' | 'due'>[];
  /** By the calendar: how many times there were up to `passed`, whatever became of them (R11). */
  count: number;
  /** After I finish, and one-offs: from what the time that comes, or is open, is counted. */
  base: Base | null;
  /** No time comes from this slot on, because the person ended the to-do; null where they did not. */
  stop: LocalMoment | null;
  /** Times, open or still to come, of which nothing is said until then; absent where there are none. */
  later?: Later[];
  /** What was written down with the last two times that have something, by their numbers. */
  written?: ({ number: number } & Pick<Filled, 'answers' | 'spent'>)[];
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

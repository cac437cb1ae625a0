import type { Day } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import type { Answer } from '../definition/details.ts';
import type { PersonalClock } from '../series/person/settings.ts';

/** How a time ended. */
export type Outcome = 'done' | 'skipped' | 'missed';
export const OUTCOMES: readonly Outcome[] = ['done', 'skipped', 'missed'];

/** A time that has ended, with what was written down with it and the estimate as it was then. */
export interface PastTime {
  slot: LocalMoment;
  due: LocalMoment | null;
  status: Outcome;
  closedAt: Instant;
  answers?: Readonly<Record<string, Answer>> | undefined;
  /** The minutes that were entered. */
  spent?: number | undefined;
  /** The minutes that it was thought to take; null where that was not said. */
  takes: number | null;
}

/** On which days an ended time counts. */
export interface Counted {
  /** Its due day; without a due date the day on which it ended. */
  dueOn: Day;
  /** The day on which it was done; null where it was not. */
  doneOn: Day | null;
  /** Days from due to done, negative when early, 0 without a due date; null where it was not done. */
  late: number | null;
  /** Minutes of a done time: those that were entered, else the estimate; 0 where it was not done. */
  minutes: number;
  /** The part of them that was not entered. */
  estimated: number;
}

/** How an ended time counts for a person, by their days. */
export function countedOf(
  clock: PersonalClock,
  { due, status, closedAt, spent, takes }: Omit<PastTime, 'slot' | 'answers'>,
): Counted {
  const endedOn = clock.dayAt(closedAt);
  const dueOn = due === null ? endedOn : clock.dayOfMoment(due);
  if (status !== 'done') return { dueOn, doneOn: null, late: null, minutes: 0, estimated: 0 };
  const estimated = spent === undefined ? (takes ?? 0) : 0;
  return {
    dueOn,
    doneOn: endedOn,
    late: endedOn - dueOn,
    minutes: spent ?? estimated,
    estimated,
  };
}

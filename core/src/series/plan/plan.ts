import type { Day, Weekday } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import type { OpenDays } from '../../calendar/workdays.ts';
import type { Instant } from '../../calendar/zone.ts';
import type { Series } from '../definition/definition.ts';
import type { Base, Occurrence, Pending } from '../life/progress.ts';
import type { PersonalClock, Settings } from '../person/settings.ts';
import type { PausedDays } from './pauses.ts';

/** A definition made ready to compute with: where its next slots are, by how it repeats. */
export type Plan = CalendarPlan | QuotaPlan | CountedPlan;

/** What the calendar yields, whatever became of the time before. */
export type SlottedPlan = CalendarPlan | QuotaPlan;

export const isSlotted = (plan: Plan): plan is SlottedPlan => plan.kind !== 'counted';

/** What all of them have. */
export interface CommonPlan {
  series: Series;
  clock: PersonalClock;
  /** Whether its times open before their day. */
  opensEarly: boolean;
  paused: PausedDays;
  /** Whether a day is a working day of the person, and no public holiday. */
  isOpenDay(day: Day): boolean;
  /** When a time ends as missed by itself (R10 `lapse`, R15), or null when it never does. */
  overAt(time: Pick<Occurrence, 'slot' | 'due'>): Instant | null;
}

/** Where the slots of the calendar are. */
export interface Slotted {
  /** Whether one day has several of its slots. */
  several: boolean;
  /** The first slot after `after`, or of all; pauses and counts aside. */
  slotAfter(after: LocalMoment | null): CalendarSlot | null;
  /** The slots that are due on a day (R4), in order. */
  dueOn(day: Day): CalendarSlot[];
  /** When one of this slot opens that is due then; `leads` where it is the first of its day. */
  opening(slot: LocalMoment, due: LocalMoment, leads: boolean): Instant;
  /** The slot before this one, or null. */
  slotBefore(slot: LocalMoment): LocalMoment | null;
  /** The day of the slot before this day, or null. */
  slotDayBefore(day: Day): Day | null;
  /** The last slot that is due before this day, outside of pauses; null for none. */
  dueBefore(day: Day): CalendarSlot | null;
  /** How many slots there are up to this one, inclusive, outside of pauses. */
  countTo(slot: LocalMoment): number;
  /** A moment before which, after `slot`, all slots lie in this pause (R12). */
  pastPause(pause: { from: Day; to: Day }): LocalMoment;
  /** The pause that a slot lies in (R12), as its days; null for none. */
  pauseOf(slot: CalendarSlot): { from: Day; to: Day } | null;
}

/** By a rule, a pattern of working days, or picked dates. */
export interface CalendarPlan extends CommonPlan, Slotted {
  kind: 'calendar';
}

/** So many times a period (R15): its slots are the periods. */
export interface QuotaPlan extends CommonPlan, Slotted {
  kind: 'quota';
  times: number;
  /** The slot of the period that holds a day. */
  slotOn(day: Day): LocalMoment;
}

/** What is counted from what became of the one before, and one-offs. */
export interface Counted {
  /**
   * The time that is counted from `base` (R7, R8), `done` having been done; `held` where a pause
   * without an end keeps it; null where none comes.
   */
  counted(base: Base, done: number): Pending | 'held' | null;
  /** The same, moved by the person so as to be due then (R9): a pause after I finish moves it on (R12). */
  countedOn(
    base: Base,
    due: LocalMoment,
  ): (Pick<Pending, 'opensAt'> & { due: LocalMoment }) | 'held';
}

export interface CountedPlan extends CommonPlan, Counted {
  kind: 'counted';
}

/** Called for each piece of work: throws where there has been enough of it. */
export type Spend = () => void;

/** A slot of the calendar; `leads` where it is the first one of its day and opens with that day. */
export interface CalendarSlot extends Pending {
  due: LocalMoment;
  leads: boolean;
}

/** Makes definitions ready for one person, each once. */
export interface Planner {
  (series: Series): Plan;
  clock: PersonalClock;
  weekStart: Weekday;
  spend: Spend;
}

/** What the parts of a plan share. @internal */
export interface PlanContext {
  series: Series;
  settings: Settings;
  clock: PersonalClock;
  open: OpenDays;
  last: Day;
  paused: PausedDays;
  /** The due day of a day (R4). */
  openDay(day: Day): Day;
  /** When a time with this due moment opens. */
  opensAt(due: LocalMoment): Instant;
  spend: Spend;
}

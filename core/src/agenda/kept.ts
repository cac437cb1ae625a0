import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { advance, wakeAt } from '../series/life/advance.ts';
import type { Progress } from '../series/life/progress.ts';
import { nextDue } from '../series/plan/forecast.ts';
import type { Planner } from '../series/plan/plan.ts';

/** A to-do as it is kept: what a screen of many needs of it. Nothing here is ever changed in place. */
export interface KeptTodo {
  id: string;
  /** When it was made; null where that is so long ago that it comes before all others. */
  made: Instant | null;
  progress: Progress;
  details?: { importance?: 'high' | 'normal' | 'low'; place?: string | null } | undefined;
  /**
   * When it next changes by itself, null for never, where that was worked out: until then nothing of
   * it need be computed.
   */
  changesAt?: Instant | null | undefined;
  /** When there is next something to say of it, null for never, where that was worked out. */
  speaksAt?: Instant | null | undefined;
  /** Known together with `changesAt`: the due date of the first time that has not opened, or null. */
  nextDue?: LocalMoment | null | undefined;
}

/** What is worked out of a to-do so that most of the time nothing need be: see {@link KeptTodo}. */
export interface Stand {
  changesAt: Instant | null;
  nextDue: LocalMoment | null;
}

/** Works out until when a to-do stays as it is, and what is due then. */
export function standOf(planner: Planner, progress: Progress): Stand {
  return { changesAt: wakeAt(planner, progress), nextDue: nextDue(planner, progress) };
}

/** A to-do as it stands at an instant: advanced, where something has happened meanwhile. */
export function standsAt(
  planner: Planner,
  todo: KeptTodo,
  now: Instant,
): { progress: Progress } & Stand {
  const { progress, changesAt, nextDue: due } = todo;
  if (progress.through !== null && changesAt !== undefined && due !== undefined)
    if (changesAt === null || now < changesAt) return { progress, changesAt, nextDue: due };
  const stands = advance(planner, progress, now).progress;
  return { progress: stands, ...standOf(planner, stands) };
}

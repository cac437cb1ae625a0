import type { Instant } from '../../calendar/zone.ts';
import { copyOf } from '../life/advance.ts';
import type { Occurrence, Progress } from '../life/progress.ts';
import type { Planner } from '../plan/plan.ts';
import { change } from './change.ts';
import type { Deed, Deeded, Doing } from './deeds.ts';
import { done } from './done.ts';
import { drop } from './drop.ts';
import { end } from './end.ts';
import { addStep, answer, file, note, tick, unfile } from './fill.ts';
import { later } from './later.ts';
import { move } from './move.ts';
import { part } from './part.ts';
import { pause, resume } from './pause.ts';
import { reopen } from './reopen.ts';
import { skip } from './skip.ts';
import { tally } from './tally.ts';

/** Every deed that there is, with what does it. */
const DEEDS: { [D in Deed['do']]: Doing<D> } = {
  done,
  tally,
  skip,
  move,
  part,
  note,
  tick,
  addStep,
  answer,
  file,
  unfile,
  later,
  pause,
  resume,
  change,
  end,
  reopen,
  drop,
};

/**
 * Does a deed at `at`, to a to-do that has been advanced to then. `past` are ended times that the
 * deed may mean: a missed one can still be marked as done (R6). Gives null where no time is found.
 * @throws CoreError for a part, note, date or definition that is wrong
 */
export function deed(
  planner: Planner,
  progress: Progress,
  it: Deed,
  at: Instant,
  past: readonly Occurrence[] = [],
): Deeded | null {
  const doing = DEEDS[it.do] as Doing<Deed['do']>;
  return doing(it, { planner, now: copyOf(progress), at, past });
}

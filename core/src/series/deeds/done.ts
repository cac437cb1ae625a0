import type { Occurrence } from '../life/progress.ts';
import { closeAhead, closeOpen } from './closing.ts';
import { countDone } from './counting.ts';
import { didTo, openOf, type Deeded, type Doing, type With } from './deeds.ts';
import { writeDown } from './fill.ts';
import { tallied } from './tally.ts';

/** Finishes a time (R6, R7): an open one, one that was missed, or one that is still to come. */
export const done: Doing<'done'> = (it, given) => {
  const { planner, now, past } = given;
  if (planner(now.series).kind === 'quota') return tallied(it, given);
  const open = openOf(now, it.slot);
  const deeded = open ? closeOpen(given, open, 'done') : closed();
  if (deeded?.time) writeDown(deeded.progress, deeded.time, it);
  return deeded;

  function closed(): Deeded | null {
    if (it.slot === undefined) return null;
    const missed = past.findLast((time) => time.slot === it.slot && time.status === 'missed');
    return missed ? finishMissed(given, missed) : closeAhead(given, it.slot, 'done');
  }
};

/** A missed time that was done after all: only its outcome changes. */
function finishMissed({ planner, now, at }: With, missed: Occurrence): Deeded {
  const time: Occurrence = { ...missed, status: 'done', closedAt: at };
  countDone(planner, now, time, at);
  return didTo(now, time, missed, [time]);
}

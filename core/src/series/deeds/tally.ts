import type { LocalMoment } from '../../calendar/time.ts';
import { noLater } from '../life/advance.ts';
import { didTo, type Deeded, type Doing, type With, type WrittenDown } from './deeds.ts';
import { writeDown } from './fill.ts';
import { settled } from './moves.ts';

/** One of so many times a period (R15). Without a slot it goes to the current period. */
export const tally: Doing<'tally'> = (it, given) => tallied(it, given);

/** The same for what is said to be done. */
export function tallied(
  it: { slot?: LocalMoment } & WrittenDown,
  { planner, now, at, past }: With,
): Deeded | null {
  const { clock } = planner;
  const plan = planner(now.series);
  if (plan.kind !== 'quota') return null;
  const slot = it.slot ?? plan.slotOn(clock.dayAt(at));
  const open = now.open.find((time) => time.slot === slot);
  const before = open
    ? { ...open }
    : past.findLast((time) => time.slot === slot && time.status !== 'skipped');
  if (!before) return null;
  const time = open ?? { ...before };
  writeDown(now, time, it);
  time.tally = (time.tally ?? 0) + 1;
  now.lastDone = Math.max(now.lastDone ?? at, at);
  if (time.status !== 'done' && time.tally >= plan.times) {
    time.status = 'done';
    time.closedAt = at;
    settled(time);
    now.done += 1;
    noLater(now, time.slot);
    now.open = now.open.filter((other) => other !== time);
  }
  const ended = time.status === 'open' ? [] : [time];
  return didTo(now, time, before, ended);
}

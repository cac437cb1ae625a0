import type { LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import type { Occurrence, Progress } from '../life/progress.ts';
import { changed, type Deeded, type Doing } from './deeds.ts';
import { keepMoves, settled } from './moves.ts';

/** Ends the to-do, or a time and what follows. */
export const end: Doing<'end'> = ({ slot }, { now, at }) =>
  slot === undefined ? endNow(now, at) : endFrom(now, slot);

/** Ends the to-do: what is open ends as skipped, nothing more comes. */
function endNow(now: Progress, at: Instant): Deeded {
  keepMoves(now, () => false);
  const ended = now.open.map((time): Occurrence => ({ ...time, status: 'skipped', closedAt: at }));
  ended.forEach(settled);
  now.open = [];
  now.stop = '';
  return { ...changed(now), ended };
}

/** A time and what follows are no more. */
function endFrom(now: Progress, slot: LocalMoment): Deeded {
  const gone = now.open.filter((time) => time.slot >= slot);
  keepMoves(now, (move) => move.slot < slot);
  now.open = now.open.filter((time) => time.slot < slot);
  now.stop = now.stop !== null && now.stop < slot ? now.stop : slot;
  return changed(now, gone);
}

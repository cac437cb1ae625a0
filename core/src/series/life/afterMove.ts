import { parseDay, type LocalDate } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import { deed } from '../deeds/deed.ts';
import type { Planner } from '../plan/plan.ts';
import { advance } from './advance.ts';
import type { Progress } from './progress.ts';

/** What becomes of an open time that is moved to a day by which the next one has come (R5, R9). */
export interface AfterMove {
  /** The day on which the next one comes. */
  next: LocalDate;
  /** It counts as missed once its new day is over, or both are there then. */
  becomes: 'missed' | 'both';
}

/**
 * Plays a move of an open time through to the end of its new day. Null where the next one comes after that,
 * and where there is no such open time.
 */
export function afterMove(
  planner: Planner,
  standing: Progress,
  { slot, plan }: { slot: LocalMoment; plan: LocalDate },
  now: Instant,
): AfterMove | null {
  const before = advance(planner, standing, now).progress;
  const number = before.open.find((time) => time.slot === slot)?.number;
  const moved = deed(planner, before, { do: 'move', slot, plan }, now);
  if (!moved || number === undefined) return null;
  const end = planner.clock.startOf(parseDay(plan) + 1);
  const { progress, ended } = advance(planner, moved.progress, Math.max(now, end));
  const newer = [...ended, ...progress.open]
    .filter((time) => time.number >= before.number && time.due !== null)
    .map(({ due }) => due!.slice(0, 10))
    .filter((day) => parseDay(day) <= parseDay(plan))
    .sort();
  const next = newer.at(-1);
  if (next === undefined) return null;
  const isOpen = progress.open.some((time) => time.number === number);
  return { next, becomes: isOpen ? 'both' : 'missed' };
}

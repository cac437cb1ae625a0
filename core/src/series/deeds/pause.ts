import { formatDay, parseDay } from '../../calendar/day.ts';
import { CoreError } from '../../errors.ts';
import type { Series } from '../definition/definition.ts';
import type { Progress } from '../life/progress.ts';
import { resumed, withPause } from '../plan/pauses.ts';
import { changed, type Doing } from './deeds.ts';

/** The definition in force and those to come, each with other pauses. */
function withPauses(now: Progress, make: (series: Series) => Series['pauses']): void {
  const set = (series: Series): Series => {
    const { pauses: _pauses, ...rest } = series;
    const pauses = make(series);
    return pauses?.length ? { ...rest, pauses } : rest;
  };
  now.series = set(now.series);
  now.turns = now.turns.map((turn) => ({ ...turn, series: set(turn.series) }));
}

/** Nothing comes from a day on, until it is resumed or up to a day (R12). */
export const pause: Doing<'pause'> = ({ from, to = null }, { planner, now, at }) => {
  const today = formatDay(planner.clock.dayAt(at));
  const first = from ?? today;
  parseDay(first, 'from');
  // It holds from the day on which it is set, not before.
  const begins = first < today ? today : first;
  if (to !== null && parseDay(to, 'to') < parseDay(begins))
    throw new CoreError('pauses.order', 'to', `A pause cannot end on ${to}, before ${begins}.`);
  withPauses(now, ({ pauses }) => withPause(pauses, { from: begins, to }, today));
  return changed(now);
};

/** Ends the pause that is on (R12). */
export const resume: Doing<'resume'> = (_it, { planner, now, at }) => {
  const today = planner.clock.dayAt(at);
  const last = now.series.pauses?.at(-1);
  if (!last || (last.to !== null && parseDay(last.to) < today)) return null;
  withPauses(now, ({ pauses }) => resumed(pauses, today));
  return changed(now);
};

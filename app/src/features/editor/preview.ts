import {
  begin,
  clockOf,
  formatDay,
  forecast,
  pass,
  plannerOf,
  type Ahead,
  type Instant,
  type LocalDate,
  type Series,
  type Settings,
} from '@back-again/core';

/** What will come of a definition if it is kept now. */
export interface Preview {
  today: LocalDate;
  /** The times to come, the one that is open at once among them; at most {@link MOST}. */
  dates: Ahead[];
  /** Times that would be in the record as missed, because they lie in the past. */
  missed: number;
  /** Where it ends: whether `dates` are all of them. */
  complete: boolean;
}

const MOST = 500;

/** The next times of a definition, computed by the same machine that the server runs. */
export function previewOf(
  series: Series,
  settings: Settings,
  now: Instant,
  holidays: readonly LocalDate[] = [],
): Preview {
  const planner = plannerOf(settings, holidays);
  const { progress, times } = pass(planner, begin(series, now), now);
  const open = progress.open
    .filter(({ due }) => due !== null)
    .map(({ slot, due }): Ahead => ({ slot, due: due!, kind: 'firm' }));
  const ahead = forecast(planner, progress, now, undefined, MOST);
  return {
    today: formatDay(clockOf(settings).dayAt(now)),
    dates: [...open, ...ahead],
    missed: times.filter(({ status }) => status === 'missed').length,
    complete: ahead.length < MOST,
  };
}

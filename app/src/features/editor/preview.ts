import type { TodoView } from '@back-again/contract';
import {
  isSlotted,
  begin,
  beginLongAgo,
  clockOf,
  comingReminders,
  formatDay,
  formatInstant,
  forecast,
  hasReminders,
  parseDay,
  pass,
  plannerOf,
  type Ahead,
  type Instant,
  type LocalDate,
  type Planner,
  type Progress,
  type Definition,
  type Settings,
} from '@back-again/core';

/** What will come of a definition if it is kept now. */
export interface Preview {
  today: LocalDate;
  /** The times to come, the one that is open at once among them; at most {@link MOST}. */
  dates: Ahead[];
  /** So many times were due before today and do not come any more: they are in no record. */
  goneBy: number;
  /** Where it ends: whether `dates` are all of them. */
  complete: boolean;
  /** The next moments at which something is said, ISO 8601. */
  reminders: string[];
  /** Whether there are reminders, but none of them will be said any more. */
  silent: boolean;
}

const MOST = 500;
const MOST_REMINDERS = 3;

/** The next times of a definition, computed by the same machine that the server runs. */
export function previewOf(
  series: Definition,
  settings: Settings,
  now: Instant,
  holidays: readonly LocalDate[] = [],
  todo: Pick<TodoView, 'lastDone' | 'open'> | null = null,
): Preview {
  const planner = plannerOf(settings, holidays);
  const begun = beginning(series, planner, now, todo);
  const { progress } = pass(planner, begun, now);
  const open = progress.open
    .filter(({ due }) => due !== null)
    .map(({ slot, due }): Ahead => ({ slot, due: due!, kind: 'firm' }));
  const ahead = forecast(planner, progress, now, undefined, MOST);
  const reminders = comingReminders(planner, progress, settings, now, MOST_REMINDERS);
  return {
    reminders: reminders.map(({ at }) => formatInstant(at)),
    silent: hasReminders(progress) && !reminders.length,
    today: formatDay(clockOf(settings).dayAt(now)),
    dates: [...open, ...ahead],
    goneBy: todo ? 0 : begun.count - begun.open.length,
    complete: ahead.length < MOST,
  };
}

/** Where a definition begins to count: for one that is changed, from when it was last done. */
function beginning(
  series: Definition,
  planner: Planner,
  now: Instant,
  todo: Pick<TodoView, 'lastDone' | 'open'> | null,
): Progress {
  if (!todo) return begin(planner, series, now);
  const progress = beginLongAgo(series, now);
  if (isSlotted(planner(series))) {
    // What has gone by has its record already: it goes on with this time, or from today.
    const from = todo.open[0]?.slot ?? formatDay(planner.clock.dayAt(now));
    return { ...progress, passed: formatDay(parseDay(from.slice(0, 10)) - 1) };
  }
  if (todo.lastDone === null) return progress;
  const day = parseDay(todo.lastDone);
  const from = { day, instant: planner.clock.startOf(day) };
  return { ...progress, base: { from, previous: null, at: now, used: false } };
}

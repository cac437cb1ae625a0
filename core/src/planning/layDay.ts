import { formatDay, type Day } from '../calendar/day.ts';
import type { LocalTime } from '../calendar/time.ts';
import { DEFAULT_UP, type Settings } from '../series/person/settings.ts';
import type { Planner } from '../series/plan/plan.ts';
import { entryKey, isToDo, type Entry, type TimesAhead } from './entries.ts';
import { layOut } from './lay.ts';

/** An hour that is proposed for what has a window and an estimate, and none yet. */
export interface LaidEntry {
  key: string;
  at: LocalTime;
}

export interface LaidDay {
  laid: LaidEntry[];
  /** The keys of those that find no room. */
  left: string[];
}

interface DayToLay {
  planner: Planner;
  settings: Pick<Settings, 'up'>;
  day: Day;
  /** The hour now, where the day is today. */
  now: LocalTime | null;
  /** What stands on that day. */
  entries: readonly Entry[];
  timesOf(todo: string): TimesAhead;
}

/** Gives what has a window and an estimate an hour, around what has one; those of a period have days alone. */
export function layDay({ planner, settings, day, now, entries, timesOf }: DayToLay): LaidDay {
  const fixed = entries.flatMap(({ at, takes }) =>
    at && takes ? [{ from: at, minutes: takes }] : [],
  );
  const left: string[] = [];
  const times = entries
    .filter((entry) => isToDo(entry) && entry.at === null && entry.nth === null && entry.takes)
    .flatMap((entry) => {
      const { window, importance } = timesOf(entry.todo).todo.details;
      if (!window) return [];
      const id = entryKey(entry);
      const shown = windowOn(planner, day, window);
      if (!shown) left.push(id);
      return shown ? [{ id, takes: entry.takes!, ...shown, importance }] : [];
    });
  const up = settings.up ?? DEFAULT_UP;
  const answer = layOut({ up, fixed, times, ...(now === null ? {} : { now }) });
  return {
    laid: answer.laid.map(({ id, at }) => ({ key: id, at })),
    left: [...left, ...answer.left].sort(),
  };
}

/** A window as the clocks of a day show it (R16); null where they skip it, or it ends on the next day. */
function windowOn(
  { clock }: Planner,
  day: Day,
  { from, to }: { from: LocalTime; to: LocalTime },
): { from: LocalTime; to: LocalTime } | null {
  const shown = (time: LocalTime) => clock.shown(`${formatDay(day)}T${time}`).slice(11);
  const window = { from: shown(from), to: shown(to) };
  return window.from < window.to ? window : null;
}

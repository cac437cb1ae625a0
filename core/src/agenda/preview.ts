import { formatDay, type LocalDate } from '../calendar/day.ts';
import { formatInstant, type Instant } from '../calendar/zone.ts';
import type { Series } from '../series/definition/definition.ts';
import { deed } from '../series/deeds/deed.ts';
import { begin } from '../series/life/begin.ts';
import type { Progress } from '../series/life/progress.ts';
import { pass } from '../series/life/record.ts';
import type { Settings } from '../series/person/settings.ts';
import { forecast, type Ahead } from '../series/plan/forecast.ts';
import type { Planner } from '../series/plan/plan.ts';
import { comingReminders, hasReminders } from '../series/reminding/reminding.ts';

/** What will come of a definition if it is kept now. */
export interface Preview {
  today: LocalDate;
  /** The times to come, those that are open among them; at most {@link MOST_AHEAD}. */
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

export const MOST_AHEAD = 500;
const MOST_REMINDERS = 3;

/** What comes of a definition that is kept at `now` as a new to-do. */
export function previewOf(
  planner: Planner,
  settings: Settings,
  series: Series,
  now: Instant,
): Preview {
  const begun = begin(planner, series, now);
  const gone = begun.count - begun.open.length;
  return { ...shown(planner, settings, begun, now), goneBy: gone };
}

/**
 * What comes of a to-do that is changed at `now`: the machine goes on from where the to-do stands, with
 * what is open or was moved, with its pauses, its counts and what is to follow later (R13).
 * @param parts the parts of the definition as they will be; null where when it comes stays as it is
 * @throws CoreError as keeping the change would
 */
export function changedPreview(
  planner: Planner,
  settings: Settings,
  standing: Progress,
  parts: Partial<Series> | null,
  now: Instant,
): Preview {
  const { progress } = pass(planner, standing, now);
  const changed = parts ? deed(planner, progress, { do: 'change', series: parts }, now) : null;
  return shown(planner, settings, changed?.progress ?? progress, now);
}

function shown(planner: Planner, settings: Settings, from: Progress, now: Instant): Preview {
  const { progress } = pass(planner, from, now);
  const open = progress.open
    .filter(({ due }) => due !== null)
    .map(({ slot, due }): Ahead => ({ slot, due: due!, kind: 'firm' }));
  const ahead = forecast(planner, progress, now, undefined, MOST_AHEAD);
  const reminders = comingReminders(planner, progress, settings, now, MOST_REMINDERS);
  return {
    today: formatDay(planner.clock.dayAt(now)),
    dates: [...open, ...ahead],
    goneBy: 0,
    complete: ahead.length < MOST_AHEAD,
    reminders: reminders.map(({ at }) => formatInstant(at)),
    silent: hasReminders(progress) && !reminders.length,
  };
}

import { formatDay, type Day, type LocalDate } from '../../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../../calendar/span.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import { moved, openDaysFor } from '../../calendar/workdays.ts';
import type { Instant } from '../../calendar/zone.ts';
import type { Series } from '../definition/definition.ts';
import { DEFAULT_WORKDAYS, clockOf, type Settings } from '../person/settings.ts';
import { calendarSlots } from './calendarSlots.ts';
import { countedBy, countedOn } from './counted.ts';
import { lastDayOf } from './edges.ts';
import { overAtOf } from './over.ts';
import { pausedDays } from './pauses.ts';
import type { CommonPlan, Plan, PlanContext, Planner, Spend } from './plan.ts';
import { quotaSlots } from './quotaSlots.ts';
import { periodOf } from './quota.ts';

const NO_HOLIDAYS: readonly LocalDate[] = [];

/**
 * The planner of a person with these settings.
 * @param holidays the public holidays of their region, as dates
 * @param spend called for each piece of work, of a few microseconds: what it throws ends the work,
 * and nothing is changed by that
 */
export function plannerOf(
  settings: Settings,
  holidays: readonly LocalDate[] = NO_HOLIDAYS,
  spend: Spend = () => undefined,
): Planner {
  const plans = new WeakMap<Series, Plan>();
  const open = openDaysFor(settings.workdays ?? DEFAULT_WORKDAYS, holidays);
  const clock = clockOf(settings);
  const planner = (series: Series) => {
    const known = plans.get(series) ?? planOf(series, settings, { clock, open, spend });
    plans.set(series, known);
    return known;
  };
  return Object.assign(planner, { clock, spend, weekStart: settings.weekStart });
}

function planOf(
  series: Series,
  settings: Settings,
  given: Pick<PlanContext, 'clock' | 'open' | 'spend'>,
): Plan {
  const { clock, open } = given;
  const { repeat, closedDays = 'keep' } = series;
  const last = lastDayOf(series);
  const paused = pausedDays(series.pauses);
  const openDay = (day: Day) => moved(open, day, closedDays) ?? day;
  const lead = series.opensBefore === undefined ? null : parseSpan(series.opensBefore);
  const opensAt = (due: LocalMoment): Instant => {
    if (!lead) return clock.startOf(clock.dayOfMoment(due));
    if (!isClockSpan(lead)) return clock.startOf(addToDay(clock.dayOfMoment(due), lead, -1));
    return clock.startOf(clock.dayAt(clock.instantOf(due) - lead.minutes * 60000));
  };
  const context: PlanContext = { ...given, series, settings, last, paused, openDay, opensAt };
  const common: CommonPlan = {
    series,
    clock,
    paused,
    isOpenDay: (day) => open.isOpen(day),
    opensEarly: lead !== null,
    overAt: overAtOf(context),
  };
  if (repeat?.by === 'quota') {
    const slotOn = (day: Day) => formatDay(periodOf(repeat.per, day, settings.weekStart).first);
    const { times } = repeat;
    return { ...common, kind: 'quota', ...quotaSlots(repeat, context), times, slotOn };
  }
  const slotted = calendarSlots(context);
  if (slotted) return { ...common, kind: 'calendar', ...slotted };
  return { ...common, kind: 'counted', counted: countedBy(context), countedOn: countedOn(context) };
}

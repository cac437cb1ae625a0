import { LAST_DAY, dateOf, formatDay, parseDay, type Day } from '../../calendar/day.ts';
import { parseMoment, type LocalMoment } from '../../calendar/time.ts';
import { startDay, type Repeat } from '../definition/definition.ts';
import type { CalendarSlot, PlanContext, Slotted } from './plan.ts';
import { periodOf } from './quota.ts';

/** The periods of a quota (R15): each a slot on its first day, due on its last. */
export function quotaSlots(
  { per }: Extract<Repeat, { by: 'quota' }>,
  context: PlanContext,
): Slotted {
  const { series, settings, clock, last, paused } = context;
  const start = startDay(series)!;
  const period = (day: Day) => periodOf(per, day, settings.weekStart);
  const first = period(start).first;
  const dayAfter = (after: LocalMoment | null): Day => {
    const day = after === null ? null : parseMoment(after).day;
    return day === null || day < first ? first : period(day).last + 1;
  };
  const before = (day: Day): Day | null => {
    const { first: found } = period(day - 1);
    return found < first ? null : found;
  };
  const lastPeriod = period(Math.max(first, Math.min(last, LAST_DAY - 31))).first;
  const slotOf = (day: Day): CalendarSlot => ({
    slot: formatDay(day),
    due: formatDay(period(day).last),
    opensAt: clock.startOf(Math.max(day, start)),
    leads: true,
  });
  const pauseOf = ({ slot, due }: Pick<CalendarSlot, 'slot' | 'due'>) => {
    const pause = paused.at(parseDay(slot));
    return pause && parseDay(due) <= pause.to ? pause : null;
  };
  /** How many periods begin from one day to another, both inclusive; the first day begins one. */
  const between = (from: Day, to: Day): number => {
    if (per === 'day') return to - from + 1;
    if (per === 'week') return Math.floor((to - from) / 7) + 1;
    const months = (day: Day) => dateOf(day).year * 12 + dateOf(day).month;
    return months(to) - months(from) + 1;
  };
  return {
    several: false,
    slotAfter(after) {
      const day = dayAfter(after);
      return day > lastPeriod ? null : slotOf(day);
    },
    dueOn(day) {
      const { first: at, last: end } = period(day);
      return at < first || at > lastPeriod || end !== day ? [] : [slotOf(at)];
    },
    // It opens with its period, wherever its due day was moved (R9).
    opening: (slot) => clock.startOf(Math.max(parseDay(slot), start)),
    slotBefore(slot) {
      const day = before(parseMoment(slot).day);
      return day === null ? null : formatDay(day);
    },
    slotDayBefore: before,
    dueBefore(day) {
      for (let at = before(day); at !== null;) {
        const slot = slotOf(Math.min(at, lastPeriod));
        const pause = slot.due < formatDay(day) ? pauseOf(slot) : null;
        if (slot.due < formatDay(day) && !pause) return slot;
        at = before(pause && pause.from < at ? pause.from + 1 : at);
      }
      return null;
    },
    countTo(slot) {
      const to = parseDay(slot);
      return paused.spans.reduce(
        (n, pause) => {
          const from =
            period(pause.from).first === pause.from ? pause.from : period(pause.from).last + 1;
          const until = Math.min(to, pause.to === Infinity ? to : period(pause.to + 1).first - 1);
          const low = Math.max(from, first);
          return until < low ? n : n - between(low, until);
        },
        between(first, to),
      );
    },
    pastPause: (pause) => formatDay(period(Math.min(pause.to, LAST_DAY)).first - 1),
    pauseOf,
  };
}

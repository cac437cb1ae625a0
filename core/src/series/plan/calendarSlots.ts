import { LAST_DAY, formatDay, type Day } from '../../calendar/day.ts';
import {
  formatMoment,
  parseMoment,
  parseTime,
  type CivilMoment,
  type LocalMoment,
} from '../../calendar/time.ts';
import { parseInstant } from '../../calendar/zone.ts';
import type { CalendarSlot, PlanContext, Slotted } from './plan.ts';
import { slotsOf } from './slotTimes.ts';

/** No closed days in a row are more. */
const LONGEST_CLOSURE = 40;

/** The slots that a rule, a pattern of working days or picked dates yield; null where none do. */
export function calendarSlots(context: PlanContext): Slotted | null {
  const { series, settings, clock, open, last, paused, openDay, opensAt, spend } = context;
  const momentOf = (utc: string) => parseMoment(clock.momentAt(parseInstant(utc)));
  const slots = slotsOf(series, last, open, momentOf, spend);
  if (!slots) return null;
  const several = (series.at?.length ?? 0) > 1;
  /** The slot keeps its day; its due day goes to an open one (R4), its time to one that is (R16). */
  const dueAt = ({ day, minute }: CivilMoment) =>
    clock.shown(formatMoment({ day: openDay(day), minute }));
  const dueDay = (slot: CivilMoment) => clock.dayOfMoment(dueAt(slot));
  const slotOf = (slot: CivilMoment): CalendarSlot => {
    spend();
    const due = dueAt(slot);
    const before = several ? slots.previous(slot) : null;
    const leads = before === null || dueDay(before) !== clock.dayOfMoment(due);
    const at = leads ? opensAt(due) : clock.instantOf(due);
    return { slot: formatMoment(slot), due, opensAt: at, leads };
  };
  const pauseOf = ({ slot }: { slot: LocalMoment }) => paused.at(clock.dayOfMoment(slot));
  /** Where a person's day begins, and the last moment before that, for slots with a time and without. */
  const startOf = (day: Day): CivilMoment => ({
    day,
    minute: series.at ? parseTime(settings.dayStart) : 0,
  });
  const justBeforeDay = (day: Day): CivilMoment => {
    const { minute } = startOf(day);
    return minute ? { day, minute: minute - 1 } : { day: day - 1, minute: 1439 };
  };
  return {
    several,
    slotAfter(after) {
      const slot = slots.next(after === null ? null : parseMoment(after));
      return slot && slotOf(slot);
    },
    dueOn(day) {
      // Closed days bring some from another day.
      const reach = (series.closedDays ?? 'keep') === 'keep' ? 1 : LONGEST_CLOSURE;
      const found: CalendarSlot[] = [];
      let slot = slots.next({ day: day - reach - 1, minute: null });
      for (; slot && slot.day <= day + reach; slot = slots.next(slot))
        if (dueDay(slot) === day) found.push(slotOf(slot));
      return found;
    },
    opening: (_slot, due, leads) => (leads ? opensAt(due) : clock.instantOf(due)),
    slotBefore(slot) {
      const before = slots.previous(parseMoment(slot));
      return before && formatMoment(before);
    },
    slotDayBefore: (day) => slots.dayBefore(day),
    dueBefore(day) {
      let slot = slots.previous({ day: day + 1, minute: null });
      // Closed days bring some from before this day to one after it, and the other way round (R4).
      while (slot && dueDay(slot) >= day) {
        spend();
        slot = slots.previous(slot);
      }
      for (let next = slots.next(slot); next && dueDay(next) < day; next = slots.next(slot)) {
        spend();
        slot = next;
      }
      for (;;) {
        const pause: { from: Day } | null =
          slot && paused.at(clock.dayOfMoment(formatMoment(slot)));
        if (!slot || !pause) return slot && slotOf(slot);
        slot = slots.previous(startOf(pause.from));
      }
    },
    countTo(slot) {
      const to = parseMoment(slot);
      return paused.spans.reduce(
        (n, pause) => {
          const end = Math.min(pause.to, to.day + 1);
          if (end < pause.from) return n;
          const until = justBeforeDay(end + 1);
          const isLater = formatMoment(until) > formatMoment({ ...to, minute: to.minute ?? 0 });
          return n - slots.count(justBeforeDay(pause.from), isLater ? to : until);
        },
        slots.count(null, to),
      );
    },
    // The last day of a pause is looked at: what begins that day may end after the pause.
    pastPause: (pause) => formatDay(Math.min(pause.to, LAST_DAY) - 1),
    pauseOf,
  };
}

import {
  clockOf,
  formatDay,
  formatInstant,
  parseDay,
  type LocalDate,
  type Definition,
  type Settings,
} from '@back-again/core';
import { rehearse } from '@back-again/core/rehearsal';

/**
 * When it is back again, where its first time is done on its day and where it is done some days
 * late: what tells a fixed repeat from one after it is finished.
 */
export function whenLate(
  series: Definition,
  settings: Settings,
  holidays: readonly LocalDate[],
): { onTime: LocalDate | null; late: LocalDate | null; days: number } {
  const clock = clockOf(settings);
  const first = rehearsed(null);
  const due = first.times.find(({ status }) => status === 'open')?.due ?? first.next;
  if (!due) return { onTime: null, late: null, days: 0 };
  const day = parseDay(due.slice(0, 10));
  const onTime = rehearsed(day).next?.slice(0, 10) ?? null;
  // Late by less than a step, so that it is the same time that is late.
  const room = onTime === null ? 1 : parseDay(onTime) - day;
  const days = room > LATE ? LATE : 1;
  return { onTime, late: rehearsed(day + days).next?.slice(0, 10) ?? null, days };

  /** As it comes out when its first time is done on a day, or just opens. */
  function rehearsed(done: number | null) {
    const on = done ?? parseDay(series.start!);
    const at = formatInstant(clock.instantOf(`${formatDay(on)}T23:00`));
    return rehearse({
      series: { ...series, pauses: [] },
      settings,
      holidays: [...holidays],
      steps: done === null ? [] : [{ at, do: 'done' }],
      until: at,
    });
  }
}

const LATE = 3;

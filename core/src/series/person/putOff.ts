import { WEEKDAYS, formatDay, weekdayIndex, type Day, type LocalDate } from '../../calendar/day.ts';
import { DEFAULT_WORKDAYS, type Settings } from './settings.ts';

/** Days to which a person may put something off. */
export interface PutOff {
  tomorrow: LocalDate;
  /** The first day of their next weekend: after today, free, behind a working day; null where there is none. */
  weekend: LocalDate | null;
  /** The first day of their next week. */
  nextWeek: LocalDate;
  inThreeDays: LocalDate;
  inAWeek: LocalDate;
}

/** The days to put something off to, from today on, by the person's own week and working days. */
export function putOffFrom(today: Day, settings: Settings): PutOff {
  const workdays = settings.workdays ?? DEFAULT_WORKDAYS;
  const works = (day: Day) => workdays.includes(WEEKDAYS[weekdayIndex(day)]!);
  const within = Array.from({ length: 7 }, (_, i) => today + 1 + i);
  const weekend = within.find((day) => !works(day) && works(day - 1));
  const week = within.find((day) => WEEKDAYS[weekdayIndex(day)] === settings.weekStart)!;
  return {
    tomorrow: formatDay(today + 1),
    weekend: weekend === undefined ? null : formatDay(weekend),
    nextWeek: formatDay(week),
    inThreeDays: formatDay(today + 3),
    inAWeek: formatDay(today + 7),
  };
}

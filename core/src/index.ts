export * from './errors.ts';
export * from './calendar/day.ts';
export * from './calendar/time.ts';
export * from './calendar/span.ts';
export * from './calendar/zone.ts';
export * from './calendar/workdays.ts';
export * from './rule/rule.ts';
export * from './rule/parse.ts';
export * from './rule/format.ts';
export * from './rule/sequence.ts';
export * from './rule/expand.ts';
export * from './rule/workdays.ts';
export { isoWeekOf } from './rule/weeks.ts';
export type { Stamp } from './rule/clock.ts';
export * from './series/settings.ts';
export * from './series/definition.ts';
export * from './definition/definition.ts';
export * from './definition/details.ts';
export * from './definition/whatChecks.ts';
export * from './definition/follows.ts';
export * from './definition/parts.ts';
export * from './definition/check.ts';
export * from './series/limits.ts';
export * from './series/pauses.ts';
export * from './series/quota.ts';
export * from './series/standing.ts';
export * from './series/reminders.ts';
export {
  awake,
  comingReminders,
  hasReminders,
  newestRemindersIn,
  nextReminderAt,
  remindersIn,
  speaksAt,
  type Hours,
  type Reminding,
} from './series/reminding.ts';
export * from './series/overview.ts';
export * from './series/progress.ts';
export * from './series/slotDays.ts';
export {
  plannerOf,
  lastDayOf,
  type CalendarSlot,
  type Plan,
  type Planner,
  type Spend,
} from './series/slots.ts';
export { advance, hasEnded, wakeAt } from './series/advance.ts';
export { begin, beginLongAgo } from './series/begin.ts';
export {
  FILLS,
  MOST_NOTE,
  deed,
  type Deed,
  type Deeded,
  type TimeDeed,
  type WrittenDown,
} from './series/actions.ts';
export type { ChangeDeed } from './series/changes.ts';
export * from './series/record.ts';
export * from './series/forecast.ts';
export * from './series/putOff.ts';
export { dateText, repeatText, sayPlainly, spanText, type SentencePart } from './phrase/say.ts';
export { MONTH_NAMES, WEEKDAY_NAMES, ordinalText } from './phrase/words.ts';
export { momentText, shortDate } from './phrase/shortDates.ts';
export { comingAt, upcoming } from './series/coming.ts';
export * from './agenda/kept.ts';
export * from './agenda/today.ts';
export * from './agenda/places.ts';
export * from './agenda/above.ts';
export * from './agenda/search.ts';
export * from './agenda/unsorted.ts';
export * from './agenda/takingUp.ts';
export type { NamedPlace } from './phrase/read.ts';
export * from './agenda/view.ts';
export * from './agenda/lately.ts';
export * from './definition/describing.ts';
export * from './definition/files.ts';

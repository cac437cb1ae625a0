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
export * from './series/person/settings.ts';
export * from './series/definition/definition.ts';
export * from './definition/definition.ts';
export * from './definition/details.ts';
export * from './definition/whatChecks.ts';
export * from './definition/follows.ts';
export * from './definition/parts.ts';
export * from './definition/check.ts';
export * from './series/definition/limits.ts';
export * from './series/plan/pauses.ts';
export * from './series/plan/quota.ts';
export * from './series/life/standing.ts';
export * from './series/reminding/reminders.ts';
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
} from './series/reminding/reminding.ts';
export * from './series/reminding/overview.ts';
export * from './series/life/progress.ts';
export * from './series/plan/slotDays.ts';
export { plannerOf } from './series/plan/planner.ts';
export { lastDayOf } from './series/plan/edges.ts';
export { firstAfterDone } from './series/plan/counted.ts';
export {
  isSlotted,
  type CalendarSlot,
  type Plan,
  type Planner,
  type SlottedPlan,
  type Spend,
} from './series/plan/plan.ts';
export { advance, hasEnded, wakeAt } from './series/life/advance.ts';
export { afterMove, type AfterMove } from './series/life/afterMove.ts';
export { begin, beginLongAgo } from './series/life/begin.ts';
export {
  FILLS,
  type Deed,
  type Deeded,
  type TimeDeed,
  type WrittenDown,
} from './series/deeds/deeds.ts';
export { MOST_NOTE } from './series/deeds/fill.ts';
export { deed } from './series/deeds/deed.ts';
export type { ChangeDeed } from './series/deeds/deeds.ts';
export * from './series/life/record.ts';
export * from './series/plan/forecast.ts';
export * from './series/person/putOff.ts';
export {
  dateText,
  repeatText,
  sayPlainly,
  spanText,
  type SentencePart,
} from './phrase/speech/say.ts';
export { MONTH_NAMES, WEEKDAY_NAMES, ordinalText } from './phrase/grammar/words.ts';
export { momentText, shortDate } from './calendar/shortDates.ts';
export { comingAt, upcoming } from './series/plan/coming.ts';
export * from './agenda/kept.ts';
export * from './agenda/today.ts';
export * from './agenda/places.ts';
export * from './agenda/above.ts';
export * from './agenda/search.ts';
export * from './agenda/unsorted.ts';
export * from './agenda/takingUp.ts';
export type { NamedPlace } from './phrase/meaning/reading.ts';
export * from './agenda/view.ts';
export * from './agenda/preview.ts';
export * from './agenda/lately.ts';
export * from './definition/describing.ts';
export * from './definition/files.ts';

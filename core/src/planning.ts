// What plans ahead: apart from the rest, so that a screen without it need not load it.
export {
  evenOut,
  type EvenInput,
  type Evened,
  type EvenDay,
  type EvenTime,
} from './planning/even.ts';
export { GRID, layOut, type Laid, type LayInput, type LayTime } from './planning/lay.ts';
export { Desk, type DayAhead, type DayInMonth, type DeskSettings } from './planning/desk.ts';
export {
  TimesAhead,
  entryKey,
  inDayOrder,
  isToDo,
  type Entry,
  type EntryKind,
  type PlannedTodo,
} from './planning/entries.ts';
export type { LaidDay, LaidEntry } from './planning/layDay.ts';
export {
  MOST_SPAN,
  holdsOn,
  type DayLoad,
  type Proposal,
  type Proposed,
} from './planning/spread.ts';

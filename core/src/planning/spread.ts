import {
  WEEKDAYS,
  formatDay,
  parseDay,
  weekdayIndex,
  type Day,
  type LocalDate,
} from '../calendar/day.ts';
import { isClockSpan, parseSpan } from '../calendar/span.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Settings } from '../series/person/settings.ts';
import { entryKey, isToDo, type Entry, type TimesAhead } from './entries.ts';
import { evenOut, type EvenTime } from './even.ts';
import { periodOf } from '../series/plan/quota.ts';
import { isSlotted } from '../series/plan/plan.ts';

/** Evening out what stands on some days: what may move where, what is proposed, and why. */

/** One move that is proposed, with its reason. */
export interface Proposed {
  /** The key of what moves. */
  key: string;
  from: LocalDate;
  to: LocalDate;
  /** Those with the same number are taken together: one makes room for the other. */
  group: number;
  why:
    | { kind: 'over'; day: LocalDate; holds: number; has: number }
    /** It makes room on its day for these, by their keys. */
    | { kind: 'room'; for: string[] };
}

export interface DayLoad {
  date: LocalDate;
  holds: number | null;
  minutes: number;
}

export interface Proposal {
  moves: Proposed[];
  before: DayLoad[];
  after: DayLoad[];
  /** What each that moves takes, in minutes, by its key. */
  takes: Record<string, number>;
}

/** How many minutes a day holds; null where it has no measure. */
export function holdsOn({ holds }: Pick<Settings, 'holds'>, day: Day): number | null {
  return holds?.[WEEKDAYS[weekdayIndex(day)]!] ?? null;
}

/** So many days at most are evened out at once. */
export const MOST_SPAN = 31;

/** What stands on some days, with the to-dos that it is of. */
export interface Span {
  from: Day;
  to: Day;
  today: Day;
  entries: readonly Entry[];
  /** The to-do of an entry. */
  timesOf(todo: string): TimesAhead;
  settings: Pick<Settings, 'holds' | 'weekStart'>;
}

/** What a person may take over, so that fewest minutes lie over the measures of these days. */
export function proposalFor(span: Span): Proposal {
  const { from, to, entries, settings } = span;
  const days = Array.from({ length: to - from + 1 }, (_, i) => ({
    date: formatDay(from + i),
    holds: holdsOn(settings, from + i),
  }));
  const times = entries.filter(isToDo).map((entry) => evenTime(span, entry));
  const { moves, loads } = evenOut({ days, times });
  const before = days.map(({ date, holds }) => ({
    date,
    holds,
    minutes: times.reduce((sum, { on, takes }) => sum + (on === date ? (takes ?? 0) : 0), 0),
  }));
  const after = loads.map(({ date, minutes }, i) => ({ date, holds: days[i]!.holds, minutes }));
  const byId = new Map(times.map((time) => [time.id, time]));
  const takes = Object.fromEntries(moves.map(({ id }) => [id, byId.get(id)!.takes ?? 0]));
  return { moves: grouped(moves, byId, before), before, after, takes };
}

function evenTime(span: Span, entry: Entry): EvenTime {
  const id = entryKey(entry);
  const on = entry.day;
  const days = mayLie(span, entry);
  const may = [...new Set([on, ...days])].sort();
  const apart = entry.nth === null ? {} : { apart: `${entry.todo} ${entry.slot}` };
  return { id, takes: entry.takes, on, may, ...apart };
}

/** The days to which a time may move; where it stands is not asked. */
function mayLie(span: Span, entry: Entry): LocalDate[] {
  const { from, to, today } = span;
  if (entry.at !== null || entry.byHand || !entry.takes) return [];
  const times = span.timesOf(entry.todo);
  const range = rangeOf(span, entry, times);
  if (!range) return [];
  const plan = times.planner(times.progress.series);
  const avoids = (plan.series.closedDays ?? 'keep') !== 'keep';
  const found: LocalDate[] = [];
  for (let day = Math.max(from, today, range.from); day <= Math.min(to, range.to); day++) {
    if (avoids && !plan.isOpenDay(day)) continue;
    if (plan.paused.at(day)) continue;
    found.push(formatDay(day));
  }
  return found;
}

/** The longest by which an after-I-finish time is moved, in days, and its part of the span. */
const MOST_TENTH = 7;
const [MONTH, TENTH] = [30, 10];

/** From which day to which a time may be moved; null where it may not. */
function rangeOf(
  { settings }: Span,
  entry: Entry,
  times: TimesAhead,
): { from: Day; to: Day } | null {
  const { planner, progress, todo } = times;
  const { clock } = planner;
  const { repeat } = progress.series;
  if (entry.due === null) return null;
  const due = clock.dayOfMoment(entry.due);
  const slack = todo.details.slack ?? { before: 0, after: 0 };
  if (repeat?.by === 'quota') {
    const { first, last } = periodOf(repeat.per, parseDay(entry.slot), settings.weekStart);
    return { from: first, to: last };
  }
  if (repeat === null) return { from: -Infinity, to: due + slack.after };
  if (repeat.by === 'completion') {
    if (entry.kind === 'expected' && !isNext(times, entry.slot)) return null;
    const span = parseSpan(repeat.every);
    if (isClockSpan(span)) return null;
    const days = daysIn(repeat.every);
    const tenth = Math.min(MOST_TENTH, Math.floor(days / TENTH));
    return {
      from: due - Math.max(tenth, slack.before),
      to: due + Math.max(tenth, slack.after),
    };
  }
  const plan = planner(progress.series);
  const opens = isSlotted(plan) ? clock.dayAt(plan.opening(entry.slot, entry.due, true)) : due;
  return { from: Math.min(opens, due - slack.before), to: due + slack.after };
}

/** Of after-I-finish times to come, the one that is next and hangs on no other. */
const isNext = ({ progress, first }: TimesAhead, slot: LocalMoment) =>
  !progress.open.length && slot === first;

/** How many days a span has: a month is 30 days, a year 365. */
function daysIn(every: string): number {
  const { months, days } = parseSpan(every);
  const years = Math.floor(months / 12);
  return years * 365 + (months - years * 12) * MONTH + days;
}

/** Moves with their reasons; those that hang together have one number. */
function grouped(
  moves: readonly { id: string; from: LocalDate; to: LocalDate }[],
  times: ReadonlyMap<string, EvenTime>,
  before: readonly DayLoad[],
): Proposed[] {
  const loads = new Map(before.map((day) => [day.date, day]));
  const takes = (id: string) => times.get(id)!.takes ?? 0;
  const group = moves.map((_, i) => i);
  const find = (i: number): number => (group[i] === i ? i : find(group[i]!));
  /** What would lie on a day if all were moved but one. */
  const loadWithout = (day: LocalDate, one: number) =>
    loads.get(day)!.minutes +
    moves.reduce((sum, { id, from, to }, i) => {
      if (i === one) return sum;
      return sum + (to === day ? takes(id) : 0) - (from === day ? takes(id) : 0);
    }, 0);
  const needs = (a: number, b: number) => {
    const [comes, leaves] = [moves[a]!, moves[b]!];
    if (comes.to !== leaves.from) return false;
    const apart = times.get(comes.id)!.apart;
    if (apart !== undefined && apart === times.get(leaves.id)!.apart) return true;
    const { holds } = loads.get(comes.to)!;
    return holds !== null && loadWithout(comes.to, b) > holds;
  };
  const makesRoom = moves.map((_, b) =>
    moves.flatMap((_it, a) => (a !== b && needs(a, b) ? [a] : [])),
  );
  makesRoom.forEach((all, b) => all.forEach((a) => void (group[find(a)] = find(b))));
  return moves.map(({ id, from, to }, i) => {
    const { holds, minutes } = loads.get(from)!;
    const isOver = holds !== null && minutes > holds;
    return {
      key: id,
      from,
      to,
      group: find(i),
      why: isOver
        ? { kind: 'over', day: from, holds, has: minutes }
        : { kind: 'room', for: makesRoom[i]!.map((a) => moves[a]!.id) },
    };
  });
}

import {
  UNDATED,
  afterMove,
  comingAt,
  formatDay,
  lastDayOf,
  momentText,
  parseDay,
  pauseOn,
  periodOf,
  shortDate,
  type Instant,
  type LocalDate,
  type LocalMoment,
  type LocalTime,
  type Planner,
  type Settings,
} from '@back-again/core';
import type { Entry } from '@back-again/core/planning';
import type { TodoState } from '@back-again/contract';
import type { Draft } from '../../data/act.ts';

/** What a move to a day would do, in words; or why it cannot be; null where it stands there already. */
export type Saying = { words: string } | { refused: string } | null;

/** The same, with what does it: said before it is let go, and done then. */
export type Move = { words: string; draft: Draft } | { refused: string } | null;

/** A time on its day, or on none yet. */
export type Standing = Omit<Entry, 'day'> & { day: LocalDate | null };

/** What is moved, and the to-do that it is of. */
export interface Moving {
  entry: Standing;
  todo: TodoState;
  /** The days on which the others of its period stand. */
  others: readonly LocalDate[];
}

interface Where {
  planner: Planner;
  now: Instant;
  today: LocalDate;
  settings: Pick<Settings, 'weekStart'>;
}

/** What moving it to a day would do, with an hour of it or none of its own. */
export function moveTo(
  { entry, todo, others }: Moving,
  to: { day: LocalDate; at?: LocalTime | null },
  where: Where,
): Move {
  const { planner, today } = where;
  const { day } = to;
  // Without an hour of its own the day alone changes.
  const at = to.at === undefined ? entry.at : to.at;
  if (day === entry.day && at === entry.at) return null;
  const { series } = todo.progress;
  const on = shortDate(day, today);
  if (day < today) return { refused: `${on} has gone by.` };
  if (pauseOn(series, day)) return { refused: `It is paused on ${on}.` };
  if (parseDay(day) > lastDayOf(series))
    return { refused: `It ends on ${shortDate(formatDay(lastDayOf(series)), today)}.` };
  if (series.repeat?.by === 'quota') return moveOfPeriod({ entry, todo, others }, day, where);
  // Of after-I-finish times the pending one alone has a name by which it can be moved.
  if (entry.kind === 'expected' && !comingAt(planner, todo.progress, entry.slot))
    return { refused: 'When it comes hangs on the one before: move that one.' };
  const plan = at === null ? day : `${day}T${at}`;
  const due =
    entry.due === null ? '' : `; it stays due ${shortDate(entry.due.slice(0, 10), today)}`;
  const only = entry.once || entry.slot === UNDATED ? '' : 'this time only, ';
  const then = entry.number === null ? '' : nextText(todo, { slot: entry.slot, plan: day }, where);
  return {
    words: `${only}to ${on}${at === null ? '' : `, ${at}`}${due}${then ? `. ${then}` : ''}`,
    draft: { do: 'move', todo: todo.id, slot: entry.slot, plan },
  };
}

/** What becomes of a time that is moved to a day by which the next one has come; nothing, where that comes later. */
export function nextText(
  { progress }: Pick<TodoState, 'progress'>,
  to: { slot: LocalMoment; plan: LocalDate },
  { planner, today, now }: Pick<Where, 'planner' | 'today' | 'now'>,
): string {
  const after = afterMove(planner, progress, to, now);
  if (!after) return '';
  const next = `The next one comes ${momentText(after.next, today, true)}`;
  return after.becomes === 'both'
    ? `${next}: then both are there`
    : `${next}: this one counts as missed once ${momentText(to.plan, today, true)} is over`;
}

/** One of so many a period: within the period, on a day of its own. */
function moveOfPeriod(
  { entry, todo, others }: Moving,
  day: LocalDate,
  { today, settings }: Where,
): Move {
  const { repeat } = todo.progress.series;
  if (repeat?.by !== 'quota') return null;
  if (day === entry.day) return null;
  const { first, last } = periodOf(repeat.per, parseDay(entry.slot), settings.weekStart);
  const at = parseDay(day);
  if (at < first || at > last) return { refused: `It belongs to its ${repeat.per}.` };
  if (others.includes(day)) return { refused: `It stands on ${shortDate(day, today)} already.` };
  const days = [...others, day].sort();
  return {
    words: `this time only, to ${shortDate(day, today)}`,
    draft: { do: 'move', todo: todo.id, slot: entry.slot, days },
  };
}

import type { TodoView } from '@back-again/contract';
import { daysLate, pauseOn, type LocalDate, type Pause, type Settings } from '@back-again/core';
import { days, momentText } from './dates.ts';

/** The pause in which a to-do is today: its last day, or null without an end; undefined for none. */
export function pausedUntil({ series }: TodoView, today: LocalDate): LocalDate | null | undefined {
  return pauseOn(series, today)?.to;
}

/** The pause that is still to come, the next one; null where there is none. */
export function pauseAhead({ series }: TodoView, today: LocalDate): Pause | null {
  return series.pauses?.find(({ from }) => from > today) ?? null;
}

/** Where a to-do stands, in a few words: “3 days late”, “due today”, “Fri 18 Dec”. */
export function standingOf(
  todo: TodoView,
  today: LocalDate,
  settings: Settings,
): { words: string; late: number } {
  if (todo.wrong !== null) return { words: 'cannot be worked out', late: 0 };
  const paused = pausedUntil(todo, today);
  if (paused !== undefined)
    return {
      words: paused === null ? 'paused' : `paused through ${momentText(paused, today, true)}`,
      late: 0,
    };
  const time = todo.open[0];
  if (time) {
    if (time.planBy === 'person' && time.plan !== null && time.plan > today)
      return { words: `for ${momentText(time.plan, today, true)}`, late: 0 };
    const late = daysLate(time, today, settings);
    if (late) return { words: `${days(late)} late`, late };
    return {
      words: time.due === null ? 'no date yet' : `due ${momentText(time.due, today, true)}`,
      late,
    };
  }
  if (todo.next) {
    const date = momentText(todo.next.due, today, true);
    return { words: todo.next.kind === 'expected' ? `${date}, expected` : date, late: 0 };
  }
  if (todo.series.repeat) return { words: 'ended', late: 0 };
  return { words: todo.done ? 'done' : 'skipped', late: 0 };
}

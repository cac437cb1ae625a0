import {
  clockOf,
  formatDay,
  formatInstant,
  parseDay,
  parseInstant,
  type LocalDate,
  type Definition,
  type Settings,
} from '@back-again/core';
import { rehearse } from '@back-again/core/rehearsal';
import { kindOf, withKind, type Person } from './edit.ts';

/** What a person would do on a day. */
export type Would = 'done' | 'skip';
export type Plan = Readonly<Record<LocalDate, Would>>;

/** One time as it would come out: when it was due, and what became of it. */
export interface TriedTime {
  due: LocalDate;
  words: string;
  status: 'open' | 'done' | 'skipped' | 'missed';
}

/** What would follow by one way of coming back. */
export interface Tried {
  kind: 'fixed' | 'after';
  chosen: boolean;
  times: TriedTime[];
  /** The first time after them. */
  next: LocalDate | null;
}

export const TRY_DAYS = 42;

/** Whether a definition can be tried both ways. */
export function canTry(series: Definition): boolean {
  const kind = kindOf(series);
  return kind === 'fixed' || kind === 'after';
}

/** The first day of the little time-line: the start, or today. */
export function tryFrom(series: Definition, today: LocalDate): LocalDate {
  return series.start !== null && series.start > today ? series.start : today;
}

/**
 * What follows from what a person would do, by the calendar and after they finish: both by the same
 * machine that the server runs.
 */
export function tryOut(
  series: Definition,
  plan: Plan,
  person: Person,
  settings: Settings,
  holidays: readonly LocalDate[],
): Tried[] {
  const from = tryFrom(series, person.today);
  const clock = clockOf(settings);
  const noon = (date: LocalDate) => formatInstant(clock.instantOf(`${date}T12:00`));
  const until = noon(formatDay(parseDay(from) + TRY_DAYS - 1));
  const chosen = kindOf(series);
  return (['fixed', 'after'] as const).map((kind) => {
    // From the first day of the time-line on, so that nothing lies in the past.
    const it = { ...withKind(series, kind, person), pauses: [], reminders: [] };
    const start = it.start !== null && it.start >= from ? it.start : from;
    const { times, next } = rehearse({
      series: { ...it, start },
      settings,
      holidays: [...holidays],
      steps: Object.entries(plan)
        .sort(([a], [b]) => (a < b ? -1 : 1))
        .map(([date, would]) => ({ at: noon(date), do: would })),
      until,
    });
    return {
      kind,
      chosen: kind === chosen,
      times: times.map(({ due, status, closedAt }) => {
        const day = due!.slice(0, 10);
        const ended = closedAt === undefined ? null : clock.dayAt(parseInstant(closedAt));
        return {
          due: day,
          status,
          words: wordsOf(status, ended === null ? 0 : ended - parseDay(day)),
        };
      }),
      next: next?.slice(0, 10) ?? null,
    };
  });
}

function wordsOf(status: TriedTime['status'], late: number): string {
  if (status !== 'done') return status;
  if (late === 0) return 'done on its day';
  const days = `${Math.abs(late)} ${Math.abs(late) === 1 ? 'day' : 'days'}`;
  return `done ${days} ${late > 0 ? 'late' : 'early'}`;
}

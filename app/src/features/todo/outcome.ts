import type { TimeView, TodoPage, TodoView } from '@back-again/contract';
import { clockOf, parseInstant, type LocalDate, type Settings } from '@back-again/core';
import { days, momentText } from '../../ui/dates.ts';

/** What became of a time, in words. */
export function outcomeOf(
  time: TimeView,
  settings: Settings,
): { words: string; tint: 'moss' | 'soft' | 'ink' } {
  const tally = time.tally === null ? '' : `, ${time.tally} done`;
  if (time.status !== 'done')
    return time.status === 'skipped'
      ? { words: 'skipped', tint: 'soft' }
      : { words: `missed${tally}`, tint: 'ink' };
  if (time.tally !== null) return { words: `${time.tally} done`, tint: 'moss' };
  if (time.due === null || time.closedAt === null) return { words: 'done', tint: 'moss' };
  const clock = clockOf(settings);
  const late = clock.dayAt(parseInstant(time.closedAt)) - clock.dayOfMoment(time.due);
  const how = late === 0 ? 'on its day' : `${days(Math.abs(late))} ${late > 0 ? 'late' : 'early'}`;
  return { words: `done ${how}`, tint: 'moss' };
}

/** The facts of an open time, one a line. */
export function factsOf(todo: TodoView, time: TimeView, today: LocalDate): string[] {
  const { due, plan, planBy, rolled, way } = time;
  const facts: string[] = [];
  if (due === null) facts.push('No date yet');
  else {
    const day = way && way.gone <= way.of ? `, ${way.gone} of ${days(way.of)} gone` : '';
    facts.push(`Due ${momentText(due, today, true)}${day}`);
  }
  if (plan !== null && planBy === 'person')
    facts.push(`Planned for ${momentText(plan, today, true)}`);
  if (time.tally !== null && todo.quota !== null) facts.push(`${time.tally} of ${todo.quota} done`);
  if (time.part !== null) facts.push(`${time.part} % done`);
  if (rolled) facts.push(`Gone along for ${days(rolled)}`);
  if (todo.series.repeat)
    facts.push(
      todo.lastDone === null
        ? 'Not done before'
        : `Last done ${momentText(todo.lastDone, today, true)}`,
    );
  return facts;
}

/**
 * How far apart the last times really were: “done 14, 16, 15 and 14 days apart”, newest first; null
 * where fewer than three were done.
 */
export function apartText(record: readonly TimeView[], settings: Settings): string | null {
  const clock = clockOf(settings);
  const dates = record
    .filter(({ status, closedAt }) => status === 'done' && closedAt !== null)
    .map(({ closedAt }) => clock.dayAt(parseInstant(closedAt!)))
    .sort((a, b) => b - a);
  const gaps = dates.slice(0, 6).flatMap((day, i) => (i ? [dates[i - 1]! - day] : []));
  if (gaps.length < 2) return null;
  const last = gaps.at(-1)!;
  return `Done ${gaps.slice(0, -1).join(', ')} and ${days(last)} apart, the newest first.`;
}

/** “12 done, 1 skipped, 2 missed”, without what there was none of. */
export function totalsText(totals: TodoPage['totals']): string {
  return (['done', 'skipped', 'missed'] as const)
    .filter((kind) => totals[kind])
    .map((kind) => `${totals[kind]} ${kind}`)
    .join(', ');
}

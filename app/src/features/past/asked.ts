import { CoreError, parseDay, type LocalDate, type Question } from '@back-again/core';
import { isNumeric } from '@back-again/core/past';
import type { PlaceState, TodoState } from '@back-again/contract';
import { monthDays, monthLater } from '../../ui/span.ts';
import { monthName } from '../../parts/time/words.ts';
import { capital, dayAfter, dayIn, dayText } from './words.ts';

/** What is asked of totals, as an address has it and as a sentence says it. */

/** All parts of the address of totals. */
export interface TotalsAddress {
  what: string;
  by: string;
  from: LocalDate;
  to: LocalDate;
  each: string;
  place?: string | undefined;
  todo?: string | undefined;
}

interface Option {
  value: string;
  label: string;
}

export const BY: readonly Option[] = [
  { value: 'place', label: 'strand and project' },
  { value: 'sphere', label: 'sphere' },
  { value: 'strand', label: 'strand' },
  { value: 'project', label: 'project' },
  { value: 'todo', label: 'to-do' },
  { value: 'tag', label: 'tag' },
  { value: 'week', label: 'week' },
  { value: 'month', label: 'month' },
  { value: 'year', label: 'year' },
];
export const EACH: readonly Option[] = [
  { value: 'none', label: 'in all' },
  { value: 'week', label: 'week by week' },
  { value: 'month', label: 'month by month' },
  { value: 'year', label: 'year by year' },
];
export const isPeriod = (by: string) => by === 'week' || by === 'month' || by === 'year';

const WHAT: readonly Option[] = [
  { value: 'times', label: 'times done' },
  { value: 'hours', label: 'hours' },
  { value: 'kept', label: 'how much was kept' },
];
const ASKED = 'asked:';

/** A question that is answered with numbers, by its words and its unit. */
export interface Numbers {
  asks: string;
  unit: string;
  kind: Question['kind'];
}

/** The numbers that are asked for, each once by its words and unit. */
export function numbersOf(todos: readonly TodoState[]): Numbers[] {
  const found = new Map<string, Numbers>();
  for (const { details } of todos)
    for (const question of details.questions) {
      if (!isNumeric(question)) continue;
      const unit = question.kind === 'number' ? question.unit : '';
      const key = `${question.asks.toLocaleLowerCase('en')}|${unit}`;
      if (!found.has(key)) found.set(key, { asks: question.asks, unit, kind: question.kind });
    }
  return [...found.values()].sort((a, b) => (a.asks < b.asks ? -1 : 1));
}

const valueOf = ({ asks, unit }: Numbers) => `${ASKED}${unit}:${asks}`;

/** What can be summed up. */
export const whatOptions = (numbers: readonly Numbers[]): Option[] => [
  ...WHAT,
  ...numbers.map((it) => ({ value: valueOf(it), label: it.asks })),
];

/** The numbers that an address asks for; null for times, hours and what was kept. */
export function numbersIn(what: string): { asks: string; unit: string } | null {
  if (!what.startsWith(ASKED)) return null;
  const rest = what.slice(ASKED.length);
  const cut = rest.indexOf(':');
  return { unit: rest.slice(0, cut), asks: rest.slice(cut + 1) };
}

/** Spans of days that are offered, from what is today. */
export function spansFrom(today: LocalDate): (Option & { from: LocalDate; to: LocalDate })[] {
  const year = today.slice(0, 4);
  const month = monthDays(today);
  const before = monthDays(monthLater(today, -1));
  const yearOf = (n: string) => ({ from: `${n}-01-01`, to: `${n}-12-31` });
  const last = String(Number(year) - 1);
  return [
    { value: 'month', label: monthName(month.first), from: month.first, to: month.last },
    { value: 'before', label: monthName(before.first), from: before.first, to: before.last },
    { value: 'year', label: year, ...yearOf(year) },
    { value: 'last', label: last, ...yearOf(last) },
    { value: 'twelve', label: 'the last twelve months', from: dayAfter(today, -364), to: today },
    {
      value: 'ten',
      label: 'the last ten years',
      from: `${Number(year) - 9}-01-01`,
      to: `${year}-12-31`,
    },
  ];
}

/** A span of days in words: a year, a month, or from a day to another. */
export function spanText(from: LocalDate, to: LocalDate, today: LocalDate): string {
  const known = spansFrom(today).find((span) => span.from === from && span.to === to);
  if (known) return known.label;
  if (from.slice(0, 4) === to.slice(0, 4) && from.endsWith('-01-01') && to.endsWith('-12-31'))
    return from.slice(0, 4);
  const month = monthDays(from);
  if (month.first === from && month.last === to) return monthName(from);
  return `${dayText(from, today)} to ${dayText(to, today)}`;
}

/**
 * What is wrong with two days that were typed as a span, in words; null for nothing.
 */
export function wrongSpan(from: string, to: string): string | null {
  try {
    return parseDay(to, 'to') < parseDay(from, 'from') ? 'It ends before it begins.' : null;
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
    return error.message;
  }
}

/** The address of totals from what stands in it; what is left out, or is none, is as usual. */
export function addressOf(
  params: Readonly<Record<string, string | undefined>>,
  today: LocalDate,
): TotalsAddress {
  const { from, to, place, todo } = params;
  const usual = spansFrom(today)[2]!;
  const oneOf = (options: readonly Option[], value: string | undefined, fallback: string) =>
    options.some((option) => option.value === value) ? value! : fallback;
  const what = params.what ?? 'hours';
  return {
    what: what.startsWith(ASKED) ? what : oneOf(WHAT, what, 'hours'),
    by: oneOf(BY, params.by, 'place'),
    each: oneOf(EACH, params.each, 'month'),
    from: dayIn(from) ?? usual.from,
    to: dayIn(to) ?? usual.to,
    ...(place ? { place } : {}),
    ...(todo ? { todo } : {}),
  };
}

/** The words of what is summed up. */
export function whatText(what: string): string {
  const numbers = numbersIn(what);
  return capital(numbers ? numbers.asks : WHAT.find(({ value }) => value === what)!.label);
}

/** Of what: all spheres, a place, or a to-do. */
export function ofText(
  { place, todo }: Pick<TotalsAddress, 'place' | 'todo'>,
  places: readonly PlaceState[],
  titleOf: (id: string) => string | null,
): string {
  if (todo) return titleOf(todo) ?? 'one to-do';
  if (place) return places.find(({ id }) => id === place)?.name ?? 'one place';
  return 'all spheres';
}

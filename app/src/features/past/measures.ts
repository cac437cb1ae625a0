import type { Figures, TotalsRow, TotalsView } from '@back-again/contract/past';
import type { LocalDate } from '@back-again/core';
import { MONTHS, minutesText } from '../../ui/dates.ts';
import { numberText } from '../../ui/time/numbers.ts';
import type { Table } from './csv.ts';
import { isPeriod, numbersIn, type Numbers, type TotalsAddress } from './asked.ts';
import { capital, countsText, dayText } from './words.ts';

/** What is summed up: how it is measured, said, and put into a table. */

export interface Measure {
  /** How long its bar is; null where there is nothing. */
  of(figures: Figures): number | null;
  /** The part of the bar that was not entered. */
  estimated(figures: Figures): number;
  /** The number as it is shown. */
  text(figures: Figures): string;
  /** What else is shown beside it; empty for nothing. */
  beside(figures: Figures): string;
  /** The columns of its CSV: their heads, and their numbers. */
  heads: readonly string[];
  cells(figures: Figures): (number | null)[];
  /** The head of the columns of periods. */
  unit: string;
  /** What it all comes to, as a sentence. */
  says(all: Figures): string;
  /** Whether the least of its rows is worth saying, and not the most. */
  isLeast?: boolean;
}

/** How much of it is estimated. */
const allEstimated = ({ minutes, estimated }: Figures) =>
  !estimated
    ? ''
    : estimated === minutes
      ? ', all estimated'
      : `, of them ${minutesText(estimated)} estimated`;

const TIMES: Measure = {
  of: ({ done }) => done || null,
  estimated: () => 0,
  text: ({ done }) => String(done),
  beside: ({ skipped, missed }) =>
    [skipped ? `${skipped} skipped` : '', missed ? `${missed} missed` : '']
      .filter(Boolean)
      .join(', '),
  heads: ['Done', 'Skipped', 'Missed'],
  cells: ({ done, skipped, missed }) => [done, skipped, missed],
  unit: 'done',
  says: (all) => `${capital(countsText(all))}.`,
};

const HOURS: Measure = {
  of: ({ minutes }) => minutes || null,
  estimated: ({ estimated }) => estimated,
  text: ({ minutes }) => minutesText(minutes),
  beside: ({ estimated }) => (estimated ? `${minutesText(estimated)} estimated` : ''),
  heads: ['Minutes', 'Of them estimated'],
  cells: ({ minutes, estimated }) => [minutes, estimated],
  unit: 'minutes',
  says: (all) =>
    all.minutes
      ? `${minutesText(all.minutes)} in all${allEstimated(all)}.`
      : 'Nothing took any time that is known.',
};

const KEPT: Measure = {
  of: ({ kept }) => kept,
  estimated: () => 0,
  text: ({ kept }) => (kept === null ? '–' : `${kept} %`),
  beside: ({ done, missed }) => (done + missed ? `${done} of ${done + missed}` : ''),
  heads: ['Kept in per cent', 'Done', 'Missed'],
  cells: ({ kept, done, missed }) => [kept, done, missed],
  unit: 'per cent',
  says: ({ kept, done, missed }) =>
    kept === null
      ? 'Nothing was done or missed.'
      : `${kept} % was kept: ${done} done of ${done + missed}.`,
  // Much is kept whole.
  isLeast: true,
};

/** Numbers that are asked for: what they come to where that makes sense, else what is usual. */
function askedMeasure({ unit, kind }: Numbers): Measure {
  const isSum = kind !== 'scale';
  const main = ({ asked }: Figures) => (asked ? (asked.sum ?? asked.usual ?? null) : null);
  const at = (n: number) =>
    kind === 'minutes' ? minutesText(n) : `${numberText(n)}${unit ? ` ${unit}` : ''}`;
  const text = (figures: Figures) => (main(figures) === null ? '–' : at(main(figures)!));
  const beside = ({ asked }: Figures) =>
    asked?.usual === undefined
      ? ''
      : `usually ${at(asked.usual)}, from ${numberText(asked.least!)} to ${numberText(asked.greatest!)}`;
  return {
    of: main,
    estimated: () => 0,
    text,
    beside,
    heads: [...(isSum ? ['Sum'] : []), 'Usual', 'Least', 'Greatest', 'Answers'],
    cells: ({ asked }) => [
      ...(isSum ? [asked?.sum ?? null] : []),
      asked?.usual ?? null,
      asked?.least ?? null,
      asked?.greatest ?? null,
      asked?.of ?? 0,
    ],
    unit: isSum ? 'sum' : 'usual',
    says(all) {
      if (!all.asked) return 'Nothing was answered.';
      const { sum, of } = all.asked;
      const how = sum === undefined ? ', as is usual' : ' in all';
      return `${text(all)}${how}: ${of} ${of === 1 ? 'answer' : 'answers'}, ${beside(all)}.`;
    },
  };
}

export function measureOf(what: string, numbers: readonly Numbers[]): Measure {
  const asked = numbersIn(what);
  if (asked) {
    const known = numbers.find(({ asks, unit }) => asks === asked.asks && unit === asked.unit);
    return askedMeasure(known ?? { ...asked, kind: 'number' });
  }
  return what === 'times' ? TIMES : what === 'kept' ? KEPT : HOURS;
}

/** The first day of a period in words: a week by its first day, a month, a year. */
export function periodText(first: LocalDate, each: string, today: LocalDate): string {
  if (each === 'year') return first.slice(0, 4);
  if (each === 'week') return `week of ${dayText(first, today)}`;
  const month = MONTHS[Number(first.slice(5, 7)) - 1]!;
  return first.slice(0, 4) === today.slice(0, 4) ? month : `${month} ${first.slice(0, 4)}`;
}

/** A row as it is called. */
export const rowName = (row: TotalsRow, by: string, today: LocalDate): string =>
  `${isPeriod(by) ? capital(periodText(row.key, by, today)) : row.name}${row.isGone ? ' (taken away)' : ''}`;

/** Rows as they stand: periods in order, all else the most first within its sphere. */
export function inOrder(
  view: TotalsView,
  by: string,
  measure: Measure,
): { under: string | null; rows: TotalsRow[] }[] {
  if (isPeriod(by)) return [{ under: null, rows: view.rows }];
  const groups = new Map<string | null, TotalsRow[]>();
  for (const row of view.rows) groups.set(row.under, [...(groups.get(row.under) ?? []), row]);
  const size = (row: TotalsRow) => measure.of(row) ?? -1;
  const total = (rows: readonly TotalsRow[]) =>
    rows.reduce((sum, row) => sum + Math.max(0, size(row)), 0);
  return [...groups]
    .map(([under, rows]) => ({
      under,
      rows: rows.sort((a, b) => size(b) - size(a) || (a.name < b.name ? -1 : 1)),
    }))
    .sort(
      (a, b) =>
        Number(a.under === null) - Number(b.under === null) || total(b.rows) - total(a.rows),
    );
}

/** Rows that have something to show. */
export const shownRows = (view: TotalsView, by: string, measure: Measure): TotalsView => ({
  ...view,
  rows: view.rows.filter((row) => isPeriod(by) || measure.of(row) !== null || measure.beside(row)),
});

/** “44 h 30 in all, of them 6 h estimated. Most went into boat upkeep.” */
export function totalsText(view: TotalsView, address: TotalsAddress, measure: Measure): string {
  const main = measure.says(view.all);
  const rows = view.rows.filter((row) => measure.of(row) !== null);
  if (rows.length < 2) return main;
  const sign = measure.isLeast ? -1 : 1;
  const end = rows.reduce((best, row) =>
    sign * measure.of(row)! > sign * measure.of(best)! ? row : best,
  );
  const name = rowName(end, address.by, view.today);
  return `${main} ${measure.isLeast ? 'Least' : 'Most'}: ${name}, ${measure.text(end)}.`;
}

/** Totals as a table: exactly what is shown, in the order in which it is shown. */
export function tableOf(view: TotalsView, address: TotalsAddress, measure: Measure): Table {
  const { by, each } = address;
  const periods = view.periods.map(
    (period) => `${capital(periodText(period, each, view.today))} (${measure.unit})`,
  );
  return {
    heads: [
      ...(isPeriod(by) ? [] : ['Under']),
      capital(by === 'todo' ? 'to-do' : by),
      ...measure.heads,
      ...periods,
    ],
    rows: inOrder(view, by, measure).flatMap(({ under, rows }) =>
      rows.map((row) => [
        ...(isPeriod(by) ? [] : [under]),
        rowName(row, by, view.today),
        ...measure.cells(row),
        ...view.periods.map((period) => {
          const part = row.parts[period];
          return part ? measure.of(part) : null;
        }),
      ]),
    ),
  };
}

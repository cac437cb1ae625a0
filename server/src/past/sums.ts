import { QueryTypes } from 'sequelize';
import { WEEKDAYS, addMonths, formatDay, parseDay, type LocalDate } from '@back-again/core';
import type { Outcome } from '@back-again/core/past';
import type { TotalsEach } from '@back-again/contract/past';
import type { Database } from '../db/database.ts';
import type { Actor } from '../machine/work.ts';
import type { About, DaySpan } from './asked.ts';

/**
 * What ended, and what it took, grouped in SQL over the columns that stand with each ended time, by indexes
 * that begin with the person. Due days decide what is counted, done days what it took.
 */

/** What is for no place and no to-do. */
export const NOTHING = 'none';

/** What one group of rows came to: by the place or the to-do, and the period. */
export interface Sum {
  /** A place or a to-do; empty where rows are periods. */
  of: string;
  period: LocalDate;
  done: number;
  skipped: number;
  missed: number;
  minutes: number;
  estimated: number;
  numbers: number[];
}

export interface Query {
  db: Database;
  actor: Actor;
  span: DaySpan;
  about: About;
  each: TotalsEach;
  dimension: 'seriesId' | 'place' | null;
}

/**
 * The period that holds the day in a column, as a whole number: that groups faster than text. A week is
 * counted from the first day of the calendar on, by the person’s own first day.
 */
function periodOf(of: string, { each, actor }: Pick<Query, 'each' | 'actor'>): string {
  switch (each) {
    case 'week':
      return `(TO_DAYS(${of}) - ${firstWeekday(actor)}) DIV 7`;
    case 'month':
      return `EXTRACT(YEAR_MONTH FROM ${of})`;
    case 'year':
      return `YEAR(${of})`;
    case 'none':
      return '0';
  }
}

/** TO_DAYS counts from a Saturday (day 0), so that Monday is its day 2. */
const firstWeekday = ({ settings }: Actor) => 2 + WEEKDAYS.indexOf(settings.weekStart);
/** The day that TO_DAYS gives for 1 January 1970. */
const EPOCH = 719_528;

/** The first day of a period. */
function firstDayOf(period: number, { each, actor }: Query): LocalDate {
  const two = (n: number) => String(n).padStart(2, '0');
  const year = (n: number) => String(n).padStart(4, '0');
  switch (each) {
    case 'week':
      return formatDay(period * 7 + firstWeekday(actor) - EPOCH);
    case 'month':
      return `${year(Math.floor(period / 100))}-${two(period % 100)}-01`;
    case 'year':
      return `${year(period)}-01-01`;
    case 'none':
      return '';
  }
}

const isStatus = (status: Outcome) => `o.status = '${status}'`;
const COUNTS = { done: isStatus('done'), skipped: isStatus('skipped'), missed: isStatus('missed') };
const TOOK = { minutes: 'o.minutes', estimated: 'o.estimated' };

/** All that was counted, by group and period. */
export async function sumsOf(query: Query): Promise<Map<string, Sum>> {
  const sums = new Map<string, Sum>();
  const all = [...(await added(query, 'dueOn', COUNTS)), ...(await added(query, 'doneOn', TOOK))];
  for (const { of, period, ...amounts } of all) {
    const sum = sumAt(sums, query, { of, period });
    for (const [name, n] of Object.entries(amounts)) sum[name as keyof Amounts] += Number(n);
  }
  return sums;
}

/** What a row was grouped by: a place or a to-do, and a period. */
export interface Grouped {
  of: string | null;
  period: number;
}

export function sumAt(sums: Map<string, Sum>, query: Query, { of, period }: Grouped): Sum {
  const key = `${of} ${period}`;
  const known = sums.get(key);
  if (known) return known;
  const counts = { done: 0, skipped: 0, missed: 0, minutes: 0, estimated: 0 };
  const sum = {
    of: of ?? NOTHING,
    period: firstDayOf(Number(period), query),
    ...counts,
    numbers: [],
  };
  sums.set(key, sum);
  return sum;
}

type Amounts = Omit<Sum, 'of' | 'period' | 'numbers'>;
type Column = 'dueOn' | 'doneOn';

/** Adds up columns of ended times by group and period. */
function added(
  query: Query,
  column: Column,
  columns: Readonly<Partial<Record<keyof Amounts, string>>>,
): Promise<(Grouped & Partial<Amounts>)[]> {
  const { dimension } = query;
  const sum = (names: [string, string][]) =>
    names.map(([name, of]) => `SUM(${of}) AS ${name}`).join(', ');
  const all = Object.entries(columns);
  const of = dimension ? `o.${dimension}` : "''";
  if (dimension === 'seriesId')
    return run(
      query,
      `SELECT ${of} AS \`of\`, ${periodOf(`o.${column}`, query)} AS period, ${sum(all)}
        ${ended(query, column)} GROUP BY 1, 2`,
    );
  // By day and place first: that is the order of the index, so that nothing is sorted.
  const byDay = dimension ? `o.${column}, o.place` : `o.${column}`;
  return run(
    query,
    `SELECT \`of\`, ${periodOf('day', query)} AS period, ${sum(all.map(([name]) => [name, name]))}
      FROM (SELECT o.${column} AS day, ${of} AS \`of\`, ${sum(all)}
        ${ended(query, column)} GROUP BY ${byDay}) byDay
      GROUP BY 1, 2`,
  );
}

/** Ended times one by one, by group and period. */
export const eachOf = <T extends object>(
  query: Query,
  column: Column,
  columns: string,
  where: string,
): Promise<(Grouped & T)[]> =>
  run(
    query,
    `SELECT ${query.dimension ? `o.${query.dimension}` : "''"} AS \`of\`,
        ${periodOf(`o.${column}`, query)} AS period, ${columns}
      ${ended(query, column)} ${where}`,
  );

const ended = ({ about }: Query, column: Column) =>
  `FROM occurrences o WHERE o.userId = :userId AND o.${column} BETWEEN :from AND :to ${about.sql}`;

const run = <T extends object>({ db, actor, span, about }: Query, sql: string): Promise<T[]> =>
  db.sequelize.query<T>(sql, {
    type: QueryTypes.SELECT,
    replacements: { userId: actor.userId, from: span.from, to: span.to, ...about.replacements },
  });

/** The first days of the periods from the first to the last that has something, without gaps. */
export function between(all: readonly Sum[], each: TotalsEach): LocalDate[] {
  const known = all.map(({ period }) => period).sort();
  const [first, last] = [known[0], known.at(-1)];
  if (first === undefined || last === undefined) return [];
  const found: LocalDate[] = [];
  for (let at = parseDay(first); at <= parseDay(last); at = next(at, each))
    found.push(formatDay(at));
  return found;
}

const next = (day: number, each: TotalsEach): number =>
  each === 'week' ? day + 7 : addMonths(day, each === 'month' ? 1 : 12);

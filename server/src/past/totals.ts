import { QueryTypes } from 'sequelize';
import {
  CoreError,
  WEEKDAYS,
  addMonths,
  formatDay,
  parseDay,
  type KeptPlace,
  type LocalDate,
  type PlaceKind,
  type Question,
} from '@back-again/core';
import { isAnswerTo, isNumeric, isSummed, keptOf, spreadOf, sumOf } from '@back-again/core/past';
import type { Outcome } from '@back-again/core/past';
import type {
  Figures,
  TotalsAsked,
  TotalsBy,
  TotalsEach,
  TotalsRow,
  TotalsView,
} from '@back-again/contract/past';
import type { Database } from '../db/database.ts';
import { keptOf as keptPlace } from '../machine/places.ts';
import type { Actor } from '../machine/work.ts';
import { aboutOf, spanOf, stamp, type About, type DaySpan } from './asked.ts';
import { upToDate } from './upToDate.ts';

/**
 * Totals: what ended, and what it took, grouped in SQL over the columns that stand with each ended time, by
 * indexes that begin with the person. Due days decide what is counted, done days what it took.
 */

/** So many periods stand beside each other at most. */
const MOST_PERIODS = 400;
const NOTHING = 'none';

/** What one group of rows came to: by the place or the to-do, and the period. */
interface Sum {
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

/**
 * What ended in a span, by what a person asks.
 * @throws CoreError `past.span`, `past.periods` for too many at once, `place.none`
 */
export async function totals(db: Database, actor: Actor, asked: TotalsAsked): Promise<TotalsView> {
  const span = spanOf(asked);
  await upToDate(db, actor);
  const { by } = asked;
  const each = eachOf(by, asked.each ?? 'none');
  if (each !== 'none' && (span.last - span.first) / LEAST_DAYS[each] > MOST_PERIODS)
    throw new CoreError('past.periods', 'each', `At most ${MOST_PERIODS} of them at once.`);
  const about = await aboutOf(db, actor.userId, asked);
  const dimension = isPeriod(by) ? null : by === 'todo' || by === 'tag' ? 'seriesId' : 'place';
  const query = { db, actor, span, about, each, dimension } as const;
  const sums = await sumsOf(query);
  const question = asked.asks === undefined ? null : { asks: asked.asks, unit: asked.unit ?? '' };
  if (question) await addNumbers(query, question, sums);
  const isSum = question ? await isSummable(db, actor, question) : false;
  const rowsFor = isPeriod(by) ? [] : await namesOf(db, actor, by, sums);
  const figures = (some: readonly Sum[]) => figuresOf(some, question !== null, isSum);
  const all = [...sums.values()];
  const groups = isPeriod(by)
    ? periodRows(all, each)
    : groupedBy(all, (sum) => rowsFor.flatMap((it) => (it.holds(sum.of) ? [it] : [])));
  const periods = isPeriod(by) || each === 'none' ? [] : between(all, each);
  return {
    ...stamp(actor),
    all: figures(all),
    rows: groups.map(({ row, sums: some }) => ({
      ...row,
      ...figures(some),
      parts: Object.fromEntries(
        groupedBy(some, ({ period }) => (periods.length ? [period] : [])).map(
          ({ row: period, sums: of }) => [period, figures(of)],
        ),
      ),
    })),
    periods,
  };
}

const LEAST_DAYS: Record<Exclude<TotalsEach, 'none'>, number> = { week: 7, month: 28, year: 365 };

const isPeriod = (by: TotalsBy): by is 'week' | 'month' | 'year' =>
  by === 'week' || by === 'month' || by === 'year';
/** Where each row is a period it is by that. */
const eachOf = (by: TotalsBy, each: TotalsEach): TotalsEach => (isPeriod(by) ? by : each);

interface Query {
  db: Database;
  actor: Actor;
  span: DaySpan;
  about: About;
  each: TotalsEach;
  dimension: 'seriesId' | 'place' | null;
}

/** The first day of the period that holds the day in a column. */
function periodOf(column: 'dueOn' | 'doneOn', { each, actor }: Query): string {
  const of = `o.${column}`;
  switch (each) {
    case 'week': {
      const first = WEEKDAYS.indexOf(actor.settings.weekStart);
      return `DATE_SUB(${of}, INTERVAL MOD(WEEKDAY(${of}) - ${first} + 7, 7) DAY)`;
    }
    case 'month':
      return `DATE_FORMAT(${of}, '%Y-%m-01')`;
    case 'year':
      return `DATE_FORMAT(${of}, '%Y-01-01')`;
    case 'none':
      return "''";
  }
}

/** All that was counted, by group and period. */
async function sumsOf(query: Query): Promise<Map<string, Sum>> {
  const sums = new Map<string, Sum>();
  const counts = await select<{ of: string; period: string; status: Outcome; n: number }>(
    query,
    'dueOn',
    'o.status, COUNT(*) AS n',
    'o.status',
  );
  for (const { of, period, status, n } of counts) sumAt(sums, of, period)[status] += Number(n);
  const took = await select<{ of: string; period: string; minutes: number; estimated: number }>(
    query,
    'doneOn',
    'SUM(o.minutes) AS minutes, SUM(o.estimated) AS estimated',
    null,
  );
  for (const { of, period, minutes, estimated } of took) {
    const sum = sumAt(sums, of, period);
    sum.minutes += Number(minutes);
    sum.estimated += Number(estimated);
  }
  return sums;
}

function sumAt(sums: Map<string, Sum>, of: string, period: string): Sum {
  const key = `${of} ${period}`;
  const known = sums.get(key);
  if (known) return known;
  const counts = { done: 0, skipped: 0, missed: 0, minutes: 0, estimated: 0 };
  const sum = { of, period, ...counts, numbers: [] };
  sums.set(key, sum);
  return sum;
}

function select<T extends object>(
  query: Query,
  column: 'dueOn' | 'doneOn',
  what: string,
  group: string | null,
  more = '',
): Promise<T[]> {
  const { db, actor, span, about, dimension } = query;
  const of = dimension ? `COALESCE(o.${dimension}, '${NOTHING}')` : "''";
  const groups = group === '' ? '' : `GROUP BY 1, 2${group ? `, ${group}` : ''}`;
  return db.sequelize.query<T>(
    `SELECT ${of} AS \`of\`, CAST(${periodOf(column, query)} AS CHAR) AS period, ${what}
      FROM occurrences o
      WHERE o.userId = :userId AND o.${column} BETWEEN :from AND :to ${about.sql} ${more} ${groups}`,
    {
      type: QueryTypes.SELECT,
      replacements: {
        userId: actor.userId,
        from: span.from,
        to: span.to,
        ...about.replacements,
      },
    },
  );
}

type Words = Pick<Extract<Question, { kind: 'number' }>, 'asks' | 'unit'>;

/** Whether a question is the one of those words. */
const isAsked = (question: Question, { asks, unit }: Words) =>
  isNumeric(question) &&
  question.asks.toLocaleLowerCase('en') === asks.toLocaleLowerCase('en') &&
  (question.kind === 'number' ? question.unit : '') === unit;

/** The questions of those words, by the to-dos that ask them. */
async function questionsOf(
  db: Database,
  { userId }: Actor,
  words: Words,
): Promise<Map<string, Question[]>> {
  const rows = await db.sequelize.query<{ id: string; questions: string | Question[] }>(
    `SELECT id, JSON_EXTRACT(details, '$.questions') AS questions FROM series
      WHERE userId = :userId AND JSON_LENGTH(details, '$.questions') > 0`,
    { type: QueryTypes.SELECT, replacements: { userId } },
  );
  const found = new Map<string, Question[]>();
  for (const { id, questions } of rows) {
    const all = typeof questions === 'string' ? (JSON.parse(questions) as Question[]) : questions;
    const those = all.filter((question) => isAsked(question, words));
    if (those.length) found.set(id, those);
  }
  return found;
}

const isSummable = async (db: Database, actor: Actor, words: Words) =>
  [...(await questionsOf(db, actor, words)).values()].flat().every(isSummed);

/** The numbers that were answered, by group and period. */
async function addNumbers(query: Query, words: Words, sums: Map<string, Sum>): Promise<void> {
  const questions = await questionsOf(query.db, query.actor, words);
  if (!questions.size) return;
  const about = {
    sql: `${query.about.sql} AND o.seriesId IN (:asking)`,
    replacements: { ...query.about.replacements, asking: [...questions.keys()] },
  };
  const rows = await select<{
    of: string;
    period: string;
    seriesId: string;
    answers: string | Record<string, unknown> | null;
  }>(
    { ...query, about },
    'doneOn',
    "o.seriesId, JSON_EXTRACT(o.filled, '$.answers') AS answers",
    '',
    'AND o.filled IS NOT NULL',
  );
  for (const { of, period, seriesId, answers } of rows) {
    const said = (typeof answers === 'string' ? JSON.parse(answers) : (answers ?? {})) as Record<
      string,
      number
    >;
    for (const question of questions.get(seriesId)!)
      if (isAnswerTo(question, said[question.id]))
        sumAt(sums, of, period).numbers.push(said[question.id]!);
  }
}

function figuresOf(sums: readonly Sum[], isAsking: boolean, isSum: boolean): Figures {
  const total = (of: 'done' | 'skipped' | 'missed' | 'minutes' | 'estimated') =>
    sums.reduce((all, sum) => all + sum[of], 0);
  const numbers = isAsking ? sums.flatMap((sum) => sum.numbers) : [];
  const spread = spreadOf(numbers);
  const [done, missed] = [total('done'), total('missed')];
  return {
    done,
    skipped: total('skipped'),
    missed,
    kept: keptOf(done, missed),
    minutes: total('minutes'),
    estimated: total('estimated'),
    asked: spread && {
      ...spread,
      ...(isSum ? { sum: sumOf(numbers) } : {}),
      of: numbers.length,
    },
  };
}

type RowHead = Pick<TotalsRow, 'key' | 'name' | 'under' | 'isGone'>;
interface RowFor extends RowHead {
  /** Whether what is grouped by that place or to-do belongs to it. */
  holds(of: string): boolean;
}

function groupedBy<T extends Sum, R>(
  sums: readonly T[],
  rowsOf: (sum: T) => readonly R[],
): { row: R; sums: T[] }[] {
  const found = new Map<R, T[]>();
  for (const sum of sums)
    for (const row of rowsOf(sum)) {
      const known = found.get(row);
      if (known) known.push(sum);
      else found.set(row, [sum]);
    }
  return [...found].map(([row, some]) => ({
    row: typeof row === 'object' ? (headOf(row as never) as R) : row,
    sums: some,
  }));
}

const headOf = ({ key, name, under, isGone }: RowHead): RowHead => ({ key, name, under, isGone });

/** The rows for places, to-dos or tags. */
async function namesOf(
  db: Database,
  { userId }: Actor,
  by: Exclude<TotalsBy, 'week' | 'month' | 'year'>,
  sums: ReadonlyMap<string, Sum>,
): Promise<RowFor[]> {
  const places = (await db.places.findAll({ where: { userId } })).map(keptPlace);
  const byId = new Map(places.map((place) => [place.id, place]));
  if (by === 'todo' || by === 'tag') return todoRows(db, userId, by, byId, sums);
  const kinds: readonly PlaceKind[] = by === 'place' ? ['project', 'strand', 'sphere'] : [by];
  const rows = new Map<string, RowFor & { all: Set<string> }>();
  for (const of of new Set([...sums.values()].map((sum) => sum.of))) {
    const place = holderOf(byId, of, kinds);
    const key = place?.id ?? NOTHING;
    const row = rows.get(key) ?? {
      key,
      ...headingOf(byId, by, place),
      isGone: place?.gone ?? false,
      all: new Set<string>(),
      holds: (it: string) => rows.get(key)!.all.has(it),
    };
    row.all.add(of);
    rows.set(key, row);
  }
  return [...rows.values()];
}

type Places = ReadonlyMap<string, KeptPlace>;

/** A place itself, or the next one that holds it, of one of these kinds. */
function holderOf(places: Places, id: string, kinds: readonly PlaceKind[]): KeptPlace | null {
  const met = new Set<string>();
  for (let at = places.get(id); at && !met.has(at.id); at = places.get(at.in ?? '')) {
    if (kinds.includes(at.kind)) return at;
    met.add(at.id);
  }
  return null;
}
const sphereOf = (places: Places, id: string) => holderOf(places, id, ['sphere']);

/** What a row is called, and under which sphere it stands: what belongs to a sphere itself, under it too. */
function headingOf(
  places: Places,
  by: TotalsBy,
  place: KeptPlace | null,
): Pick<RowHead, 'name' | 'under'> {
  if (!place)
    return { name: by === 'project' || by === 'strand' ? `In no ${by}` : 'Unsorted', under: null };
  const { name, kind, id } = place;
  if (by === 'sphere') return { name, under: null };
  if (kind === 'sphere') return { name: `${name} itself`, under: name };
  return { name, under: sphereOf(places, id)?.name ?? null };
}

async function todoRows(
  db: Database,
  userId: string,
  by: 'todo' | 'tag',
  places: Places,
  sums: ReadonlyMap<string, Sum>,
): Promise<RowFor[]> {
  const ids = [...new Set([...sums.values()].map(({ of }) => of))];
  if (!ids.length) return [];
  const rows = await db.sequelize.query<{
    id: string;
    title: string;
    place: string | null;
    isGone: number;
    tags: string | string[] | null;
  }>(
    `SELECT id, title, place, removedAt IS NOT NULL AS isGone,
        JSON_EXTRACT(details, '$.tags') AS tags
      FROM series WHERE userId = :userId AND id IN (:ids)`,
    { type: QueryTypes.SELECT, replacements: { userId, ids } },
  );
  if (by === 'todo')
    return rows.map(({ id, title, place, isGone }) => ({
      key: id,
      name: title,
      under: place === null ? null : (sphereOf(places, place)?.name ?? null),
      isGone: Boolean(isGone),
      holds: (of) => of === id,
    }));
  const tags = new Map<string, { name: string; all: Set<string> }>();
  for (const { id, tags: said } of rows) {
    const all = typeof said === 'string' ? (JSON.parse(said) as string[]) : (said ?? []);
    for (const tag of all.length ? all : [null]) {
      const key = tag === null ? NOTHING : `tag ${tag.toLocaleLowerCase('en')}`;
      const known = tags.get(key) ?? { name: tag ?? 'Without a tag', all: new Set<string>() };
      known.all.add(id);
      tags.set(key, known);
    }
  }
  return [...tags].map(([key, { name, all }]) => ({
    key,
    name,
    under: null,
    isGone: false,
    holds: (of) => all.has(of),
  }));
}

/** A row for each period from the first to the last that has something, without gaps. */
function periodRows(all: readonly Sum[], each: TotalsEach): { row: RowHead; sums: Sum[] }[] {
  return between(all, each).map((period) => ({
    row: { key: period, name: period, under: null, isGone: false },
    sums: all.filter((sum) => sum.period === period),
  }));
}

function between(all: readonly Sum[], each: TotalsEach): LocalDate[] {
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

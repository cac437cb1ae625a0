import { Op, type Transaction, type WhereOptions } from 'sequelize';
import {
  CoreError,
  NO_DETAILS,
  brokenView,
  formatDay,
  sinceYesterday,
  type Details,
  type Instant,
  type Occurrence,
  type Progress,
  type Settings,
} from '@back-again/core';
import { noTodo, type TimeView, type TodoState, type TodoView } from '@back-again/contract';
import { countedOf } from '@back-again/core/past';
import { compute } from '../compute/compute.ts';
import { plannerFor, type Kept } from '../compute/tasks.ts';
import type { Database } from '../db/database.ts';
import type { OccurrenceRow, SeriesRow } from '../db/models.ts';

/** A to-do that is worked on: its row, locked where it will be written, and where it stands. */
export interface Todo {
  row: SeriesRow;
  progress: Progress;
  details: Details;
  settings: Settings;
}

export function todoOf(row: SeriesRow, settings: Settings): Todo {
  const { title, place } = row;
  return {
    row,
    progress: row.progress,
    details: { ...NO_DETAILS, ...row.details, title, place },
    settings,
  };
}

/** What it is, as its columns. */
export function columnsOf({ title, place, ...details }: Details) {
  return { title, place, details };
}

/** A to-do as the core is asked about it. */
export const keptOf = ({ row, progress, details, settings }: Todo): Kept => ({
  id: row.id,
  made: row.createdAt.getTime(),
  details,
  progress,
  settings,
});

/** A to-do as it is kept on a person’s devices. */
export function stateOf({ row, progress, details, settings }: Todo, now: Instant): TodoState {
  const at = (date: Date | null) => date && date.getTime();
  return {
    id: row.id,
    made: row.createdAt.getTime(),
    version: row.version,
    details,
    describedAt: at(row.describedAt),
    progress,
    changesAt: at(row.changesAt),
    speaksAt: at(row.speaksAt),
    nextDue: row.nextDue,
    over: Boolean(row.ended),
    lately: row.lately ? sinceYesterday(row.lately, plannerFor(settings).clock, now) : [],
  };
}

/** The rows of a person's to-dos, in the order in which they were made. */
export async function findSeries(
  db: Database,
  userId: string,
  where: WhereOptions<SeriesRow>,
  transaction?: Transaction,
): Promise<SeriesRow[]> {
  return db.series.findAll({
    where: { [Op.and]: [{ userId }, where] },
    order: [
      ['createdAt', 'ASC'],
      ['id', 'ASC'],
    ],
    ...(transaction ? { transaction } : {}),
  });
}

/**
 * One to-do of a person.
 * @throws CoreError `todo.none`
 */
export async function findTodo(
  db: Database,
  { userId, settings }: { userId: string; settings: Settings },
  id: string,
): Promise<Todo> {
  const [row] = await findSeries(db, userId, { id, removedAt: null });
  if (!row) throw noTodo();
  return todoOf(row, settings);
}

const dateOf = (instant: Instant | null) => (instant === null ? null : new Date(instant));

/** The row of a to-do that comes to be, before anything was done with it. */
export const freshRow = (
  { userId, settings, version }: { userId: string; settings: Settings; version: number },
  {
    details,
    now,
    ...given
  }: Pick<SeriesRow, 'id' | 'definition' | 'progress' | 'begun'> & {
    details: Details;
    now: Instant;
  },
): SeriesRow => ({
  ...columnsOf(details),
  ...given,
  userId,
  describedAt: null,
  speaksAt: null,
  changesAt: null,
  nextDue: null,
  ended: false,
  createdAt: new Date(now),
  removedAt: null,
  steps: 0,
  version,
  lately: null,
  countedAs: countedAs(settings),
});

/** By which days of a person ended times are counted, as a key. */
export const countedAs = ({ zone, dayStart }: Settings): string => `${zone} ${dayStart}`;

/** How a time counts by the days of its person, as columns; nothing of one that is open. */
export function countsOf(
  settings: Settings,
  { takes, place }: Pick<Details, 'takes' | 'place'>,
  time: Pick<Occurrence, 'due' | 'status' | 'closedAt' | 'filled'>,
): Pick<OccurrenceRow, (typeof COUNTS)[number]> {
  const { due, status, closedAt, filled } = time;
  if (status === 'open' || closedAt === null) return NO_COUNTS;
  const of = { due, status, closedAt, spent: filled?.spent, takes };
  const { dueOn, doneOn, late, minutes, estimated } = countedOf(plannerFor(settings).clock, of);
  return {
    dueOn: formatDay(dueOn),
    doneOn: doneOn === null ? null : formatDay(doneOn),
    late,
    minutes: doneOn === null ? null : minutes,
    estimated: doneOn === null ? null : estimated,
    place,
  };
}

export const COUNTS = ['dueOn', 'doneOn', 'late', 'minutes', 'estimated', 'place'] as const;
const NO_COUNTS = {
  dueOn: null,
  doneOn: null,
  late: null,
  minutes: null,
  estimated: null,
  place: null,
};

export function rowOf(todo: Todo, time: Occurrence, version: number): OccurrenceRow {
  return {
    ...countsOf(todo.settings, todo.details, time),
    ...time,
    planAt: time.planAt ?? null,
    part: time.part ?? null,
    tally: time.tally ?? null,
    note: time.note ?? null,
    filled: time.filled ?? null,
    userId: todo.row.userId,
    seriesId: todo.row.id,
    openedAt: dateOf(time.openedAt),
    closedAt: dateOf(time.closedAt),
    version,
  };
}

export function timeOf(row: OccurrenceRow): Occurrence {
  const { number, slot, due, plan, planBy, moved, status, openedAt, closedAt, rolled } = row;
  const { planAt, part, tally, note, filled } = row;
  return {
    number,
    slot,
    due,
    plan,
    ...(planAt === null ? {} : { planAt }),
    planBy,
    moved: Boolean(moved),
    status,
    openedAt: openedAt === null ? null : openedAt.getTime(),
    closedAt: closedAt === null ? null : closedAt.getTime(),
    rolled,
    ...(part === null ? {} : { part }),
    ...(tally === null ? {} : { tally }),
    ...(note === null ? {} : { note }),
    ...(filled === null ? {} : { filled }),
  };
}

/** Times of a to-do as they are shown. */
export function timeViews(
  todo: Todo,
  rows: readonly OccurrenceRow[],
  now: Instant,
): Promise<TimeView[]> {
  return compute('times', { todo: keptOf(todo), times: rows.map(timeOf), now });
}

const BROKEN = 'This to-do cannot be worked out. It can be ended, removed or written anew.';

/** What is wrong with a to-do that cannot be worked out, for the person. */
export function wrongOf(error: unknown): string {
  return error instanceof CoreError ? `${BROKEN} What is wrong: ${error.message}` : BROKEN;
}

/** A to-do as it is shown at `now`; one that cannot be worked out, with what is wrong. */
export async function todoView(todo: Todo, now: Instant): Promise<TodoView> {
  const kept = keptOf(todo);
  try {
    return await compute('view', { todo: kept, now });
  } catch (error) {
    return brokenView(kept, wrongOf(error));
  }
}

/** To-dos as they are shown, by their ids. */
export async function todoViews(
  todos: Iterable<Todo>,
  now: Instant,
): Promise<Map<string, TodoView>> {
  const views = new Map<string, TodoView>();
  for (const todo of todos) views.set(todo.row.id, await todoView(todo, now));
  return views;
}

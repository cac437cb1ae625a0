import { Op, type Transaction, type WhereOptions } from 'sequelize';
import {
  advance,
  formatInstant,
  forecast,
  formatDay,
  hasEnded,
  hasReminders,
  nextDue,
  nextReminderAt,
  pass,
  wakeAt,
  wayOf,
  type Instant,
  type Occurrence,
  type Outcome,
  type Planner,
  type Progress,
  type Settings,
} from '@back-again/core';
import type { TimeView, TodoView } from '@back-again/contract';
import type { Database } from './database.ts';
import { remindersOf, writeDrafts, type Draft } from './notices.ts';
import { plannerFor } from './plans.ts';
import type { OccurrenceRow, SeriesRow } from './models.ts';

/** A to-do that is worked on: its row, locked where it will be written, and its definition made ready. */
export interface Todo {
  row: SeriesRow;
  planner: Planner;
  progress: Progress;
  settings: Settings;
}

export function todoOf(row: SeriesRow, settings: Settings): Todo {
  return { row, planner: plannerFor(settings), progress: row.progress, settings };
}

/** The rows of a person's to-dos, in the order in which they were made; locked for writing on request. */
export async function findSeries(
  db: Database,
  userId: string,
  where: WhereOptions<SeriesRow>,
  lock?: Transaction,
): Promise<SeriesRow[]> {
  return db.series.findAll({
    where: { [Op.and]: [{ userId }, where] },
    order: lock
      ? [['id', 'ASC']]
      : [
          ['createdAt', 'ASC'],
          ['id', 'ASC'],
        ],
    ...(lock ? { transaction: lock, lock: lock.LOCK.UPDATE } : {}),
  });
}

const dateOf = (instant: Instant | null) => (instant === null ? null : new Date(instant));

function rowOf(todo: Todo, time: Occurrence): OccurrenceRow {
  return {
    ...time,
    part: time.part ?? null,
    tally: time.tally ?? null,
    note: time.note ?? null,
    userId: todo.row.userId,
    seriesId: todo.row.id,
    openedAt: dateOf(time.openedAt),
    closedAt: dateOf(time.closedAt),
  };
}

export function timeOf(row: OccurrenceRow): Occurrence {
  const { number, slot, due, plan, planBy, moved, status, openedAt, closedAt, rolled } = row;
  const { part, tally, note } = row;
  return {
    number,
    slot,
    due,
    plan,
    planBy,
    moved: Boolean(moved),
    status,
    openedAt: openedAt === null ? null : openedAt.getTime(),
    closedAt: closedAt === null ? null : closedAt.getTime(),
    rolled,
    ...(part === null ? {} : { part }),
    ...(tally === null ? {} : { tally }),
    ...(note === null ? {} : { note }),
  };
}

const COLUMNS = [
  'slot',
  'due',
  'plan',
  'planBy',
  'moved',
  'status',
  'openedAt',
  'closedAt',
  'rolled',
  'part',
  'tally',
  'note',
] as const;

/** Writes what followed for a to-do: its progress, its times, and when it next changes by itself. */
export async function writeOutcome(
  db: Database,
  todo: Todo,
  outcome: Outcome,
  transaction: Transaction,
): Promise<void> {
  const { userId, id } = todo.row;
  if (outcome.gone.length)
    await db.occurrences.destroy({
      where: { userId, seriesId: id, number: outcome.gone },
      transaction,
    });
  if (outcome.from < todo.progress.number) {
    const kept = outcome.times.map((time) => time.number);
    await db.occurrences.destroy({
      where: { userId, seriesId: id, number: { [Op.gte]: outcome.from, [Op.notIn]: kept } },
      transaction,
    });
  }
  if (outcome.times.length)
    await db.occurrences.bulkCreate(
      outcome.times.map((time) => rowOf(todo, time)),
      { updateOnDuplicate: [...COLUMNS], transaction },
    );
  todo.progress = outcome.progress;
  await writeProgress(db, todo, transaction);
}

/** Writes the progress of a to-do and what is kept beside it for finding it. */
export async function writeProgress(
  db: Database,
  todo: Todo,
  transaction: Transaction,
): Promise<void> {
  const { userId, id } = todo.row;
  const columns = columnsOf(todo);
  Object.assign(todo.row, columns);
  await db.series.update(columns, { where: { userId, id }, transaction });
}

/** When there is next something to do about a to-do: it changes by itself, or is to be spoken of. */
function nextWake({ row, planner, progress, settings }: Todo): Instant | null {
  const change = wakeAt(planner, progress);
  if (!hasReminders(progress)) return change;
  const through = progress.through ?? row.createdAt.getTime();
  const reminder = nextReminderAt(planner, progress, settings, through);
  return reminder === null ? change : Math.min(reminder, change ?? Infinity);
}

function columnsOf(todo: Todo) {
  const { planner, progress } = todo;
  const { removedAt } = todo.row;
  return {
    progress,
    wakeAt: removedAt === null ? dateOf(nextWake(todo)) : null,
    nextDue: nextDue(planner, progress),
    ended: hasEnded(planner, progress),
    removedAt,
  };
}

/**
 * Lets many locked to-dos catch up to now, and writes what happened at one go; one that cannot be
 * advanced is handed to `failed` and stays as it is. Gives how many were advanced.
 */
export async function catchUpMany(
  db: Database,
  todos: readonly Todo[],
  now: Instant,
  transaction: Transaction,
  failed: (todo: Todo, error: unknown) => void,
): Promise<number> {
  const times: OccurrenceRow[] = [];
  const rows: SeriesRow[] = [];
  const drafts: Draft[] = [];
  for (const todo of todos) {
    try {
      const outcome = pass(todo.planner, todo.progress, now);
      const advanced = { ...todo, progress: outcome.progress };
      const said = remindersOf(advanced, todo.progress, now);
      rows.push({ ...plainRow(todo.row), ...columnsOf(advanced) });
      times.push(...outcome.times.map((time) => rowOf(todo, time)));
      drafts.push(...said);
    } catch (error) {
      failed(todo, error);
    }
  }
  if (times.length)
    await db.occurrences.bulkCreate(times, { updateOnDuplicate: [...COLUMNS], transaction });
  if (rows.length)
    await db.series.bulkCreate(rows, {
      updateOnDuplicate: ['progress', 'wakeAt', 'nextDue', 'ended'],
      transaction,
    });
  await writeDrafts(db, drafts, transaction);
  return rows.length;
}

function plainRow({ id, userId, definition, progress, createdAt, removedAt }: SeriesRow) {
  return { id, userId, definition, progress, createdAt, removedAt };
}

/** Lets a locked to-do catch up to now, and writes what happened. */
export async function catchUp(
  db: Database,
  todo: Todo,
  now: Instant,
  transaction: Transaction,
): Promise<void> {
  const { through } = todo.progress;
  if (through !== null && now <= through) return;
  const before = todo.progress;
  const outcome = pass(todo.planner, before, now);
  await writeOutcome(db, todo, outcome, transaction);
  await writeDrafts(db, remindersOf(todo, before, now), transaction);
}

/**
 * Brings every to-do of a person that is behind up to now, so that no one ever sees yesterday.
 * It reads an index and, as a rule, finds nothing: the clock has been there already.
 */
export async function catchUpAll(
  db: Database,
  userId: string,
  settings: Settings,
  now: Instant,
): Promise<void> {
  const behind = { wakeAt: { [Op.lte]: new Date(now) }, removedAt: null };
  if (!(await db.series.count({ where: { userId, ...behind } }))) return;
  await db.transaction(async (transaction) => {
    const rows = await findSeries(db, userId, behind, transaction);
    const todos = rows.map((row) => todoOf(row, settings));
    await catchUpMany(db, todos, now, transaction, (_todo, error) => {
      throw error;
    });
  });
}

/** Until when nothing is said of a time, as an ISO 8601 instant; null where it was not put off. */
export function laterOf({ later }: Progress, slot: string): string | null {
  const putOff = later?.find((it) => it.slot === slot);
  return putOff ? formatInstant(putOff.to) : null;
}

/** One time as it is shown. */
export function timeView(todo: Todo, time: Occurrence, now: Instant): TimeView {
  const { number, slot, due, plan, planBy, status, rolled } = time;
  return {
    number,
    slot,
    due,
    plan,
    planBy,
    status,
    openedAt: time.openedAt === null ? null : formatInstant(time.openedAt),
    closedAt: time.closedAt === null ? null : formatInstant(time.closedAt),
    rolled,
    part: time.part ?? null,
    tally: time.tally ?? null,
    note: time.note ?? null,
    later: laterOf(todo.progress, slot),
    way: status === 'open' ? wayOf(todo.planner, todo.progress, time, now) : null,
  };
}

/** A to-do as it is shown at `now`. What is kept may be a moment behind: it is advanced for the view. */
export function todoView(todo: Todo, now: Instant): TodoView {
  const { row, planner } = todo;
  const { progress } = advance(planner, todo.progress, now);
  const [next] = forecast(planner, progress, now, undefined, 1);
  return {
    id: row.id,
    series: progress.series,
    createdAt: row.createdAt.toISOString(),
    open: progress.open.map((time) => timeView({ ...todo, progress }, time, now)),
    next: next ?? null,
    nextWay: progress.open.length || !next ? null : wayOf(planner, progress, next, now),
    ended: hasEnded(planner, progress),
    lastDone: progress.lastDone === null ? null : formatDay(planner.clock.dayAt(progress.lastDone)),
    done: progress.done,
    turns: progress.turns,
    quota: planner(progress.series).quota?.times ?? null,
  };
}

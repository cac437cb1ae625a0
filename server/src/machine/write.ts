import { Op, type Transaction } from 'sequelize';
import {
  clockOf,
  latelyAfter,
  sinceYesterday,
  type Ended,
  type Instant,
  type Occurrence,
  type Outcome,
} from '@back-again/core';
import { compute } from '../compute/compute.ts';
import type { Beside, Followed } from '../compute/tasks.ts';
import type { Database } from '../db/database.ts';
import type { OccurrenceRow, PlaceRow, SeriesRow, StepRow } from '../db/models.ts';
import type { Own } from './lock.ts';
import { inBatches } from '../db/batches.ts';
import { writeDrafts, type Draft } from '../said/notices.ts';
import { COUNTS, columnsOf, countedAs, keptOf, rowOf, type Todo } from './todo.ts';

/** Writing what followed for to-dos: their progress, their times, and what finds them. */

const TIME_COLUMNS = [
  'slot',
  'due',
  'plan',
  'planAt',
  'planBy',
  'moved',
  'status',
  'openedAt',
  'closedAt',
  'rolled',
  'part',
  'tally',
  'note',
  'filled',
  ...COUNTS,
] as const;

export type NewStep = Omit<StepRow, 'seq'>;

/** What is taken out of the times of a to-do before others are written. */
interface TakenOut {
  todo: Todo;
  /** These numbers. */
  gone: readonly number[];
  /** And all from this one on but those that are written; null: none. */
  from: number | null;
}

/**
 * Gathers what follows for to-dos, and writes it at one go: each time, step and to-do once, however
 * often it was worked on meanwhile.
 */
export class Writing {
  private readonly times = new Map<Todo, Map<number, OccurrenceRow>>();
  private readonly standing = new Map<Todo, Beside>();
  private takenOut: TakenOut[] = [];
  private steps: NewStep[] = [];
  private drafts: Draft[] = [];
  private placeRows = new Map<string, PlaceRow>();
  private ownRow: Own | null = null;
  private readonly db: Database;
  private readonly transaction: Transaction;
  /** The version that all bears; null for what comes with time and is no change. */
  private readonly version: number | null;

  constructor(db: Database, transaction: Transaction, version: number | null) {
    this.db = db;
    this.transaction = transaction;
    this.version = version;
  }

  /** The record with which a to-do comes in. */
  record(todo: Todo, ended: readonly Occurrence[]): void {
    const times = this.times.get(todo) ?? new Map<number, OccurrenceRow>();
    this.times.set(todo, times);
    for (const time of ended) times.set(time.number, rowOf(todo, time, this.version ?? 0));
  }

  /** What followed for a to-do, which from here on stands as it came out. */
  follow(todo: Todo, { outcome, beside }: Followed): void {
    const { number, open } = todo.progress;
    todo.progress = outcome.progress;
    this.take(todo, outcome, number, open);
    this.stand(todo, beside);
  }

  /** Whether a to-do is written at the end. */
  stands(todo: Todo): boolean {
    return this.standing.has(todo);
  }

  /** What is kept beside a to-do that stands as before. */
  stand(todo: Todo, beside: Beside): void {
    this.standing.set(todo, beside);
    // What comes later in the same action asks for it.
    todo.row.ended = beside.ended;
  }

  step(...steps: NewStep[]): void {
    this.steps.push(...steps);
  }

  place(row: PlaceRow): void {
    this.placeRows.set(row.id, row);
  }

  own(own: Own): void {
    this.ownRow = own;
  }

  /** The places that changed. */
  get changedPlaces(): PlaceRow[] {
    return [...this.placeRows.values()];
  }

  /** Whether what belongs to the person themselves has changed. */
  get isOwnChanged(): boolean {
    return this.ownRow !== null;
  }

  say(drafts: readonly Draft[]): void {
    this.drafts.push(...drafts);
  }

  /**
   * @param number the number of the time that came next, before
   * @param before the times that were open before: those that stay as they were are there already
   */
  private take(todo: Todo, outcome: Outcome, number: number, before: readonly Occurrence[]): void {
    const times = this.times.get(todo) ?? new Map<number, OccurrenceRow>();
    this.times.set(todo, times);
    const from = outcome.from < number ? outcome.from : null;
    if (outcome.gone.length || from !== null)
      this.takenOut.push({ todo, gone: outcome.gone, from });
    for (const gone of [...times.keys()])
      if (outcome.gone.includes(gone) || (from !== null && gone >= from)) times.delete(gone);
    // Gone through again from before, all of them are written; of a to-do that comes in, none is there yet.
    const isFresh = this.version !== null && todo.row.version === this.version;
    const same = from === null && !isFresh ? asTexts(before) : new Map<number, string>();
    for (const time of outcome.times)
      if (same.get(time.number) !== JSON.stringify(time))
        times.set(time.number, rowOf(todo, time, this.version ?? 0));
    const ended = outcome.times.filter(({ status }) => status !== 'open');
    if (ended.length) this.countAgain(todo, ended);
  }

  /** What ended before it was said what it is now counts as it was then, and all by the same days. */
  private countAgain({ row, settings }: Todo, ended: readonly Occurrence[]): void {
    const since = row.describedAt?.getTime() ?? -Infinity;
    const isThen = ended.some(({ closedAt }) => closedAt !== null && closedAt < since);
    if (isThen || row.countedAs !== countedAs(settings)) row.countedAs = null;
  }

  /** Writes times, steps and what is said; to-dos themselves are written at the end. */
  async flush(): Promise<void> {
    const { db, transaction } = this;
    for (const { todo, gone, from } of this.takenOut.splice(0)) {
      const mine = { userId: todo.row.userId, seriesId: todo.row.id };
      if (gone.length)
        await db.occurrences.destroy({ where: { ...mine, number: [...gone] }, transaction });
      if (from !== null) {
        const kept = [...(this.times.get(todo)?.keys() ?? [])];
        const number = { [Op.gte]: from, [Op.notIn]: kept };
        await db.occurrences.destroy({ where: { ...mine, number }, transaction });
      }
    }
    const times = [...this.times.values()].flatMap((it) => [...it.values()]);
    this.times.clear();
    const columns = [...TIME_COLUMNS, ...(this.version === null ? [] : (['version'] as const))];
    await inBatches(times, (some) =>
      db.occurrences.bulkCreate(some, { updateOnDuplicate: columns, transaction }),
    );
    await inBatches(this.steps.splice(0), (some) => db.steps.bulkCreate(some, { transaction }));
    await writeDrafts(db, this.drafts.splice(0), transaction);
  }

  /** Writes all that is left, and the person’s version where this is a change of theirs. */
  async finish(userId?: string): Promise<void> {
    await this.flush();
    await inBatches(this.changedPlaces, (some) =>
      this.db.places.bulkCreate(some, {
        updateOnDuplicate: ['parts', 'describedAt', 'version'],
        transaction: this.transaction,
      }),
    );
    if (this.ownRow && userId !== undefined)
      await this.db.users.update(
        { ...this.ownRow, ownVersion: this.version! },
        { where: { id: userId }, transaction: this.transaction },
      );
    const rows = [...this.standing].map(([todo, beside]) => {
      const isThere = todo.row.removedAt === null;
      Object.assign(todo.row, {
        progress: todo.progress,
        ...columnsOf(todo.details),
        speaksAt: isThere ? dateOf(beside.speaksAt) : null,
        changesAt: isThere ? dateOf(beside.changesAt) : null,
        nextDue: beside.nextDue,
        ended: beside.ended,
        version: this.version ?? todo.row.version,
      });
      return todo.row;
    });
    this.standing.clear();
    const [only] = rows;
    if (only && rows.length === 1) return this.writeOne(only, userId);
    await inBatches(rows.map(plainRow), (some) =>
      this.db.series.bulkCreate(some, {
        updateOnDuplicate: [...STANDING],
        transaction: this.transaction,
      }),
    );
    if (userId !== undefined) await this.writeVersion(userId);
  }

  /** One to-do and the person’s version, in one statement. */
  private async writeOne(row: SeriesRow, userId: string | undefined): Promise<void> {
    const { db, transaction, version } = this;
    if (userId === undefined) {
      const columns = Object.fromEntries(STANDING.map((column) => [column, row[column]]));
      const where = { userId: row.userId, id: row.id };
      await db.series.update(columns, { where, transaction });
      return;
    }
    const sets = STANDING.map((column) => `s.${column} = :${column}`).join(', ');
    await db.sequelize.query(
      `UPDATE users u, series s SET u.version = :version, ${sets}
        WHERE u.id = :userId AND s.userId = :userId AND s.id = :id`,
      {
        replacements: {
          ...row,
          progress: JSON.stringify(row.progress),
          details: JSON.stringify(row.details),
          lately: row.lately && JSON.stringify(row.lately),
          version,
        },
        transaction,
      },
    );
  }

  private async writeVersion(userId: string): Promise<void> {
    const { db, transaction, version } = this;
    await db.users.update({ version: version! }, { where: { id: userId }, transaction });
  }
}

const STANDING = [
  'title',
  'place',
  'details',
  'describedAt',
  'progress',
  'speaksAt',
  'changesAt',
  'nextDue',
  'ended',
  'removedAt',
  'steps',
  'lately',
  'countedAs',
  'version',
] as const;

const asTexts = (times: readonly Occurrence[]) =>
  new Map(times.map((time) => [time.number, JSON.stringify(time)]));

const dateOf = (at: Instant | null) => (at === null ? null : new Date(at));

function plainRow(row: SeriesRow): SeriesRow {
  const { id, userId, definition, progress, createdAt, removedAt, lately, version } = row;
  const { speaksAt, changesAt, nextDue, ended, steps } = row;
  const { title, place, details, describedAt, countedAs, begun } = row;
  const what = { title, place, details, describedAt, countedAs, begun };
  const beside = { ...what, speaksAt, changesAt, nextDue, ended, steps, lately, version };
  return { id, userId, definition, progress, createdAt, removedAt, ...beside };
}

/** What was ended of a to-do lately, after a deed was done to it and nothing gone through again. */
export function keepLately(
  { row, settings }: Todo,
  outcome: Outcome,
  did: { action: string; at: Instant },
  now: Instant,
): void {
  row.lately = tidied(latelyAfter(row.lately ?? [], outcome, did), { settings }, now);
}

export function tidied(
  lately: readonly Ended[],
  { settings }: Pick<Todo, 'settings'>,
  now: Instant,
): Ended[] | null {
  const left = sinceYesterday(lately, clockOf(settings), now);
  return left.length ? left : null;
}

/** How long one that could not be worked out is left alone before it is tried again. */
const REST = 3600_000;

/**
 * What is kept beside a to-do as it stands; one that cannot be worked out is looked at again in an
 * hour, and found by nothing else.
 */
export async function besideOf(todo: Todo, now: Instant): Promise<Beside> {
  try {
    return await compute('beside', { todo: keptOf(todo) });
  } catch {
    return { speaksAt: now + REST, changesAt: now + REST, nextDue: null, ended: false };
  }
}

/** Lets to-dos rest that could not be worked out. */
export async function rest(
  db: Database,
  rows: readonly Pick<SeriesRow, 'userId' | 'id'>[],
  now: Instant,
  transaction: Transaction,
): Promise<void> {
  const until = new Date(now + REST);
  for (const { userId, id } of rows)
    await db.series.update(
      { speaksAt: until, changesAt: until },
      { where: { userId, id }, transaction },
    );
}

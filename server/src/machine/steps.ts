import { Op, col, fn, type Transaction, type WhereOptions } from 'sequelize';
import {
  FILLS,
  type Deed,
  type Instant,
  type Occurrence,
  type Step,
  type Tail,
} from '@back-again/core';
import { plannerFor } from '../compute/tasks.ts';
import type { Work } from './work.ts';
import type { Database } from '../db/database.ts';
import { inBatches } from '../db/batches.ts';
import type { NewStep } from './write.ts';
import type { StepRow } from '../db/models.ts';
import { needStates } from '../upkeep/reach.ts';
import { timeOf, type Todo } from './todo.ts';

/** The steps of a to-do, in the order in which they count: that of their places. */

/** A part of a log: its rows by the keys of their steps, in order, and the place of the first. */
export interface Placed {
  rows: Map<string, StepRow>;
  place: number;
  /** Whether nothing was done before it. */
  isAll: boolean;
}

/**
 * The kept deeds of a to-do from a step on; or from the last one at or before a moment, all where
 * there is none.
 */
export async function logBefore(work: Work, todo: Todo, from: Instant | StepRow): Promise<Placed> {
  const { db, userId, transaction } = work;
  const deeds = { userId, seriesId: todo.row.id, kind: 'deed', undone: false } as const;
  const lastOf = (where: WhereOptions<StepRow>) =>
    db.steps.findOne({
      attributes: ['place'],
      where: { [Op.and]: [deeds, where] },
      order: [['place', 'DESC']],
      transaction,
    });
  const first =
    typeof from === 'number' ? await lastOf({ at: { [Op.lte]: new Date(from) } }) : from;
  const rows = await db.steps.findAll({
    where: { ...deeds, ...(first ? { place: { [Op.gte]: first.place } } : {}) },
    order: [['place', 'ASC']],
    transaction,
  });
  const place = first?.place ?? rows[0]?.place ?? todo.row.steps + 1;
  const before = first && (await lastOf({ place: { [Op.lt]: first.place } }));
  const plain = rows.map((row) => row.get() as StepRow);
  needStates(plain);
  return { rows: new Map(plain.map((row) => [String(row.seq), row])), place, isAll: !before };
}

/** The places of the last deeds of to-dos. */
export async function lastPlaces(
  { db, userId, transaction }: Work,
  ids: readonly string[],
): Promise<Map<string, number>> {
  const rows = await db.steps.findAll({
    attributes: ['seriesId', [fn('MAX', col('place')), 'place']],
    where: { userId, seriesId: [...new Set(ids)], kind: 'deed', undone: false },
    group: ['seriesId'],
    transaction,
  });
  return new Map(rows.map(({ seriesId, place }) => [seriesId!, place]));
}

/** A log as the core goes through it again, with the ended times that it, or these steps, may mean. */
export async function tailFrom(
  work: Work,
  todo: Todo,
  { rows, isAll }: Placed,
  more: readonly Step[],
): Promise<Tail> {
  const entries = [...rows].map(([key, row]) => ({
    step: { key, at: row.at.getTime(), deed: row.deed as Deed },
    before: row.before!,
    touched: row.touched,
  }));
  const steps = [...entries.map(({ step }) => step), ...more];
  return { entries, isAll, past: await pastTimes(work, todo, steps) };
}

/** Whether a deed may be done to a time that has ended. */
const meansPast = (deed: Deed): boolean =>
  deed.do === 'done' || deed.do === 'tally' || FILLS.includes(deed.do);

/** The ended times that deeds may mean: a missed one can still be done, any has a note. */
export async function pastTimes(
  { db, userId, transaction, settings, writing }: Work,
  { row, progress }: Todo,
  steps: readonly { deed: Deed; at: Instant }[],
  /** Whether nothing was done after these steps. */
  areLast = false,
): Promise<Occurrence[]> {
  const planner = plannerFor(settings);
  const plan = planner(progress.series);
  const quota = plan.kind === 'quota' ? plan : null;
  const isOpen = (slot: string) => progress.open.some((time) => time.slot === slot);
  const slots = steps.flatMap(({ deed, at }) => {
    if (!meansPast(deed)) return [];
    const { slot = quota?.slotOn(planner.clock.dayAt(at)) } = deed as { slot?: string };
    // What is open is meant, before any that has ended.
    return slot === undefined || (areLast && isOpen(slot)) ? [] : [slot];
  });
  if (!slots.length) return [];
  // What has ended just now is among them.
  await writing.flush();
  const rows = await db.occurrences.findAll({
    where: { userId, seriesId: row.id, slot: [...new Set(slots)], status: { [Op.ne]: 'open' } },
    order: ['number'],
    transaction,
  });
  return rows.map(timeOf);
}

/** Gives steps that are there already their new state and place. */
export async function placed(
  db: Database,
  rows: readonly StepRow[],
  transaction: Transaction,
): Promise<void> {
  await inBatches(rows, (some) =>
    db.steps.bulkCreate(some, {
      updateOnDuplicate: ['before', 'touched', 'number', 'place'],
      transaction,
    }),
  );
}

/** A step that is done to no to-do. */
export function besideStep(
  work: Work,
  {
    placeId = null,
    ...step
  }: Pick<StepRow, 'kind' | 'deed' | 'was'> & Partial<Pick<StepRow, 'placeId'>> & { at: Instant },
): NewStep {
  return {
    before: null,
    touched: null,
    number: null,
    place: 0,
    ...step,
    at: new Date(step.at),
    actionSeq: work.actionSeq,
    userId: work.userId,
    seriesId: null,
    placeId,
    undone: false,
  };
}

/** A step of a to-do at its next place. */
export function stepRow(
  work: Work,
  { row }: Todo,
  step: Pick<StepRow, 'kind'> & { at: Instant } & Partial<
      Pick<StepRow, 'deed' | 'before' | 'touched' | 'was' | 'number'>
    >,
): NewStep {
  row.steps += 1;
  return {
    deed: null,
    before: null,
    touched: null,
    was: null,
    number: null,
    ...step,
    place: row.steps,
    at: new Date(step.at),
    actionSeq: work.actionSeq,
    userId: work.userId,
    seriesId: row.id,
    placeId: null,
    undone: false,
  };
}

import type { Transaction } from 'sequelize';
import { CoreError, type Deed } from '@back-again/core';
import { compute } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { ActionRow, StepRow } from '../db/models.ts';
import { catchUpMany } from './catchUp.ts';
import { setRemoved } from './deeds.ts';
import { bornOf, rewrite } from './earlier.ts';
import { undescribeOne } from './describe.ts';
import { holdFileOf } from './filing.ts';
import { takeBackOwn } from './own.ts';
import { unplaceStep } from './places.ts';
import { endedLately } from './lately.ts';
import { lastPlaces, logBefore, tailFrom, type Placed } from './steps.ts';
import { keptOf, type Todo } from './todo.ts';
import { momentOf, type Person, type Work } from './work.ts';

/** What is done to no to-do and no place. */
const isOfPerson = (kind: StepRow['kind']) =>
  kind === 'focus' || kind === 'above' || kind === 'bundle';

/** What an action changed: to-dos and places by their ids, and what belongs to the person. */
export interface Touched {
  todos: string[];
  places: string[];
  isOwn: boolean;
}

export async function touchedBy(
  db: Database,
  { userId }: Pick<Person, 'userId'>,
  { seq }: Pick<ActionRow, 'seq'>,
  transaction?: Transaction,
): Promise<Touched> {
  const steps = await db.steps.findAll({
    attributes: ['seriesId', 'placeId', 'kind'],
    where: { userId, actionSeq: seq },
    ...(transaction ? { transaction } : {}),
  });
  const ids = (all: (string | null)[]) => [...new Set(all.filter((id) => id !== null))];
  return {
    todos: ids(steps.map(({ seriesId }) => seriesId)),
    places: ids(steps.map(({ placeId }) => placeId)),
    isOwn: steps.some(({ kind }) => isOfPerson(kind)),
  };
}

/** Takes an action back (R14), on every to-do that it changed; they are held. */
export async function takeBack(work: Work, action: ActionRow, todos: Todo[]): Promise<Todo[]> {
  const { db, userId, transaction, writing } = work;
  const mine = { userId, actionSeq: action.seq, undone: false };
  await catchUpMany(work, todos, work.now());
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  // Read once their to-dos are held: until then another action may still give them new places.
  const steps = await db.steps.findAll({ where: mine, order: [['place', 'DESC']], transaction });
  const last = await lastPlaces(
    work,
    todos.map(({ row }) => row.id),
  );
  const isLast = ({ place, seriesId }: StepRow) =>
    place === last.get(seriesId!) &&
    steps.filter((it) => it.seriesId === seriesId && it.kind === 'deed').length === 1;
  const changed = new Set<Todo>();
  const made = steps.filter(({ kind }) => kind === 'create' || kind === 'made');
  const touched = await touchedOf(
    work,
    made.map(({ seriesId }) => seriesId!),
  );
  for (const step of steps) {
    if (step.kind === 'place') await unplaceStep(work, step);
    else if (isOfPerson(step.kind)) await takeBackOwn(work, step);
    if (step.seriesId === null) continue;
    const todo = byId.get(step.seriesId)!;
    if (step.kind === 'deed') await holdFileOf(work, todo, step.deed as Deed, true);
    if (step.kind === 'create') await uncreate(work, todo, touched);
    else if (step.kind === 'made') await unmake(work, todo, touched);
    else if (step.kind === 'remove') await setRemoved(work, todo, null);
    else if (step.kind === 'describe') await undescribeOne(work, todo, step);
    else if (isLast(step) && !isBeforeMade(step, todo)) {
      // Nothing was done after it: what follows is written together with the others.
      const log = { rows: new Map([[String(step.seq), step]]), place: step.place, isAll: false };
      writing.follow(todo, await undone(work, todo, log));
      changed.add(todo);
    } else {
      await writing.flush();
      const log = await logBefore(work, todo, step);
      await rewrite(work, todo, log, await undone(work, todo, log));
      await db.steps.update({ undone: true }, { where: { userId, seq: step.seq }, transaction });
      changed.add(todo);
    }
  }
  await writing.flush();
  await db.steps.update({ undone: true }, { where: mine, transaction });
  await db.actions.update({ undone: true }, { where: { seq: action.seq, userId }, transaction });
  if (changed.size) await endedLately(work, [...changed]);
  return todos;
}

const isBeforeMade = (step: StepRow, { row }: Todo) => step.at < row.createdAt;

async function undone(work: Work, todo: Todo, log: Placed) {
  const tail = await tailFrom(work, todo, log, []);
  const now = momentOf(work, todo);
  return compute('undo', { todo: keptOf(todo), born: bornOf(todo), tail, now });
}

/** Those of to-dos to which something was done since they were made. */
async function touchedOf(
  { db, userId, transaction }: Work,
  ids: readonly string[],
): Promise<ReadonlySet<string>> {
  if (!ids.length) return new Set();
  const rows = await db.steps.findAll({
    attributes: ['seriesId'],
    where: { userId, seriesId: [...ids], kind: ['deed', 'describe'], undone: false },
    group: ['seriesId'],
    transaction,
  });
  return new Set(rows.map(({ seriesId }) => seriesId!));
}

async function uncreate(work: Work, todo: Todo, touched: ReadonlySet<string>): Promise<void> {
  if (touched.has(todo.row.id))
    throw new CoreError(
      'undo.conflict',
      'of',
      'Something was done to it since: undo that first, or remove it.',
    );
  await setRemoved(work, todo, new Date(work.now()));
}

/** What an action made beside goes with it, unless something was done to it. */
async function unmake(work: Work, todo: Todo, touched: ReadonlySet<string>): Promise<void> {
  if (!touched.has(todo.row.id)) await setRemoved(work, todo, new Date(work.now()));
}

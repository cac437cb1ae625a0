import { Op, type WhereOptions } from 'sequelize';
import { clockOf, formatDay, formatInstant } from '@back-again/core';
import type { TodoPage } from '@back-again/contract';
import { compute } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { OccurrenceRow, StepRow } from '../db/models.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import { findTodo, keptOf, timeViews, todoView, type Todo } from '../machine/todo.ts';
import type { Actor } from '../machine/work.ts';

/** The record of one to-do. */

const MOST_RECORD = 50;

export const stamp = ({ settings, now }: Actor) => ({
  now: formatInstant(now),
  today: formatDay(clockOf(settings).dayAt(now)),
});

export const keyOf = (row: { seriesId: string; number: number | null }) =>
  `${row.seriesId} ${row.number}`;

const ENDINGS = ['done', 'tally', 'skip'];

/** The actions by which times ended, by to-do and number: what an Undo beside them takes back. */
export async function actionsOf(
  db: Database,
  userId: string,
  times: readonly OccurrenceRow[],
): Promise<Map<string, string>> {
  if (!times.length) return new Map();
  const pairs = times.map(({ seriesId, number }) => ({ seriesId, number }));
  const found = await endings(db, userId, { [Op.or]: pairs });
  return new Map([...found].map(([key, { action }]) => [key, action]));
}

/** The last step that ended each time, among those of `where`, with its action's id. */
async function endings(db: Database, userId: string, where: WhereOptions<StepRow>) {
  const steps = await db.steps.findAll({
    attributes: ['seriesId', 'number', 'deed', 'actionSeq'],
    where: { [Op.and]: [{ userId, kind: 'deed', undone: false }, where] },
    order: [
      ['seriesId', 'ASC'],
      ['place', 'ASC'],
    ],
  });
  const ending = steps.filter(({ deed }) => ENDINGS.includes(deed?.do ?? ''));
  const actions = await db.actions.findAll({
    attributes: ['seq', 'id'],
    where: { userId, seq: ending.map((step) => step.actionSeq) },
  });
  const ids = new Map(actions.map((action) => [action.seq, action.id]));
  return new Map(
    ending.map((step) => [
      keyOf(step),
      { seriesId: step.seriesId, number: step.number!, action: ids.get(step.actionSeq)! },
    ]),
  );
}

/**
 * The page of one to-do: where it stands, what comes, what became of it, a page at a time.
 * @throws CoreError `todo.none` where there is none of this person's by that id
 */
export async function todoPage(
  db: Database,
  actor: Actor,
  id: string,
  skip = 0,
): Promise<TodoPage> {
  const { userId, now } = actor;
  await catchUpAll(db, userId, actor.settings, now, [id]);
  const todo = await findTodo(db, actor, id);
  const ofThis = { userId, seriesId: id };
  const ended = await db.occurrences.findAll({
    where: { ...ofThis, status: { [Op.ne]: 'open' } },
    order: [
      ['slot', 'DESC'],
      ['number', 'DESC'],
    ],
    offset: skip,
    limit: MOST_RECORD,
  });
  const counts = await db.occurrences.count({
    where: ofThis,
    group: ['status'],
    attributes: ['status'],
  });
  const actions = await actionsOf(db, userId, ended);
  const total = (status: string) => counts.find((group) => group.status === status)?.count ?? 0;
  const view = await todoView(todo, now);
  const page = view.wrong === null ? await pageOf(todo, actor) : NO_PAGE;
  const times = await timeViews(todo, ended, now);
  return {
    ...stamp(actor),
    todo: view,
    ...page,
    record: times.map((time, i) => ({ ...time, action: actions.get(keyOf(ended[i]!)) ?? null })),
    more: skip + ended.length < total('done') + total('skipped') + total('missed'),
    totals: { done: total('done'), skipped: total('skipped'), missed: total('missed') },
  };
}

const pageOf = (todo: Todo, actor: Actor) =>
  compute('page', { todo: keptOf(todo), today: stamp(actor).today, now: actor.now });

const NO_PAGE = { says: '', ahead: [], reminders: [], left: null };

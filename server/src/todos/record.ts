import { Op } from 'sequelize';
import { namesOf, present, type Filled, type NamedPlace } from '@back-again/core';
import type { TodoPage } from '@back-again/contract';
import { compute } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { ActionRow, OccurrenceRow } from '../db/models.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import { describedOf, hadWith, type Described } from '../machine/described.ts';
import { endings, keyOf } from '../machine/endings.ts';
import { placesOf } from '../machine/places.ts';
import { findTodo, keptOf, timeViews, todoView, type Todo } from '../machine/todo.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { actionsBySeq } from './actionsBySeq.ts';
import { lastDeedsOf } from './lastDeeds.ts';

/** The record of one to-do. */

const MOST_RECORD = 50;

/** By which action a time ended, and how that came. */
export interface EndedBy {
  id: string;
  via: ActionRow['via'];
}

/** The actions by which times ended, by to-do and number: what an Undo beside them takes back. */
export async function actionsOf(
  db: Database,
  userId: string,
  times: readonly OccurrenceRow[],
): Promise<Map<string, EndedBy>> {
  if (!times.length) return new Map();
  const pairs = times.map(({ seriesId, number }) => ({ seriesId, number }));
  const found = await endings(db, { userId, [Op.or]: pairs });
  const seqs = [...found.values()].map(({ actionSeq }) => actionSeq);
  const by = await actionsBySeq(db, userId, seqs);
  return new Map([...found].map(([key, { actionSeq }]) => [key, by.get(actionSeq)!]));
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
  const isFilled = ended.some(({ filled }) => filled);
  const whatAt = await describedOf(db, userId, new Map(isFilled ? [[id, todo.details]] : []));
  const total = (status: string) => counts.find((group) => group.status === status)?.count ?? 0;
  const view = await todoView(todo, now);
  const places = namesOf(present(await placesOf(db, userId)));
  const page = view.wrong === null ? await pageOf(todo, actor, places) : NO_PAGE;
  const times = await timeViews(todo, ended, now);
  return {
    ...stamp(actor),
    todo: view,
    ...page,
    record: times.map((time, i) => ({
      ...time,
      action: actions.get(keyOf(ended[i]!))?.id ?? null,
      ...viaOf(actions.get(keyOf(ended[i]!))),
      ...writtenWith(whatAt(id, ended[i]!.closedAt?.getTime() ?? now), time.filled),
    })),
    more: skip + ended.length < total('done') + total('skipped') + total('missed'),
    totals: { done: total('done'), skipped: total('skipped'), missed: total('missed') },
    deeds: skip ? [] : await lastDeedsOf(db, userId, id),
  };
}

const viaOf = (by: EndedBy | undefined): Pick<TodoPage['record'][number], 'via'> =>
  by?.via ? { via: by.via } : {};

/** The steps and questions that a time had when it ended, where something was written down with it. */
const writtenWith = (
  described: Described | null,
  filled: Filled | undefined,
): Pick<TodoPage['record'][number], 'had'> =>
  described && filled ? { had: hadWith(described, filled) } : {};

const pageOf = (todo: Todo, actor: Actor, places: NamedPlace[]) =>
  compute('page', { todo: keptOf(todo), today: stamp(actor).today, now: actor.now, places });

const NO_PAGE = { says: '', ahead: [], reminders: [], left: null };

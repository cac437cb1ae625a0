import { Op, type WhereOptions } from 'sequelize';
import { clockOf, formatDay, formatInstant, type Instant } from '@back-again/core';
import type { EndedRow, LaterRow, TodayView, TodoPage, TodosView } from '@back-again/contract';
import { compute } from '../machine/machine.ts';
import type { Actor } from './actions.ts';
import type { Database } from './database.ts';
import type { OccurrenceRow, StepRow } from './models.ts';
import { catchUpAll } from './catchUp.ts';
import {
  findSeries,
  findTodo,
  keptOf,
  timeViews,
  todoOf,
  todoView,
  todoViews,
  type Todo,
} from './todos.ts';

const SOON_DAYS = 7;
const MOST_SOON = 12;
const MOST_RECORD = 50;

export const stamp = ({ settings, now }: Actor) => ({
  now: formatInstant(now),
  today: formatDay(clockOf(settings).dayAt(now)),
});

/** Lets all of a person's to-dos catch up to the actor's moment. */
export const caughtUp = (db: Database, { userId, settings, now }: Actor) =>
  catchUpAll(db, userId, settings, now);

/** What Today shows: what is open, what ended today, what is back within the week. */
export async function todayView(db: Database, actor: Actor): Promise<TodayView> {
  const { userId, settings, now } = actor;
  await caughtUp(db, actor);
  const clock = clockOf(settings);
  const day = clock.dayAt(now);
  const mine = { userId };
  const kept = { ...mine, removedAt: null };
  const from = formatDay(day);
  // One after another: no one person takes many connections at a time.
  const open = await db.occurrences.findAll({
    attributes: ['seriesId'],
    where: { ...mine, status: 'open' },
  });
  const ended = await endedSince(db, userId, clock.startOf(day));
  const soon = await db.series.findAll({
    attributes: ['id'],
    where: {
      ...kept,
      nextDue: { [Op.gte]: formatDay(day + 1), [Op.lt]: formatDay(day + SOON_DAYS + 1) },
    },
    order: [['nextDue', 'ASC']],
    limit: MOST_SOON * 3,
  });
  // A day that begins at four goes on into the next date.
  const unopened = await db.series.findAll({
    attributes: ['id', 'nextDue'],
    where: { ...kept, nextDue: { [Op.gte]: from, [Op.lt]: formatDay(day + 2) } },
  });
  // Whatever is still to be said today wakes its to-do today.
  const waking = await db.series.findAll({
    attributes: ['id'],
    where: { ...kept, wakeAt: { [Op.lt]: new Date(clock.startOf(day + 1)) } },
  });
  const laterIds = new Set(
    unopened.filter(({ nextDue }) => clock.dayOfMoment(nextDue!) === day).map(({ id }) => id),
  );
  const openIds = new Set(open.map((row) => row.seriesId));
  const ids = [
    ...openIds,
    ...laterIds,
    ...ended.map(({ row }) => row.seriesId),
    ...soon.map((row) => row.id),
    ...waking.map((row) => row.id),
  ];
  const rows = await findSeries(db, userId, { id: [...new Set(ids)], removedAt: null });
  const todos = rows.map((row) => todoOf(row, settings));
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  const views = await todoViews(todos, now);
  const closed = ended.filter(({ row }) => byId.has(row.seriesId));
  const endedIds = new Set(closed.map(({ row }) => row.seriesId));
  const endedRows: EndedRow[] = [];
  for (const { row, action } of closed) {
    const [time] = await timeViews(byId.get(row.seriesId)!, [row], now);
    endedRows.push({ todo: views.get(row.seriesId)!, time: time!, action });
  }
  const later: LaterRow[] = [];
  for (const todo of todos.filter(({ row }) => laterIds.has(row.id)))
    for (const ahead of await orNone(compute('laterToday', { todo: keptOf(todo), now })))
      later.push({ todo: views.get(todo.row.id)!, ahead });
  const wakingIds = new Set(waking.map(({ id }) => id));
  const reminders: TodayView['reminders'] = [];
  for (const todo of todos.filter(({ row }) => wakingIds.has(row.id)))
    reminders.push(...(await orNone(compute('remindersToday', { todo: keptOf(todo), now }))));
  return {
    ...stamp(actor),
    open: todos.filter(({ row }) => openIds.has(row.id)).map(({ row }) => views.get(row.id)!),
    ended: endedRows,
    later,
    soon: soon
      .filter(({ id }) => byId.has(id) && ![openIds, laterIds, endedIds].some((it) => it.has(id)))
      .slice(0, MOST_SOON)
      .map(({ id }) => views.get(id)!),
    reminders: reminders.sort((a, b) => (a.at < b.at ? -1 : 1)),
  };
}

/** What the core says of one to-do, and nothing where it cannot: its view says what is wrong. */
async function orNone<T>(asked: Promise<T[]>): Promise<T[]> {
  try {
    return await asked;
  } catch {
    return [];
  }
}

export const keyOf = (row: { seriesId: string; number: number | null }) =>
  `${row.seriesId} ${row.number}`;

const ENDINGS = ['done', 'skip'] as const;

/** Times that a person ended since then, whatever the moment that they gave, with the action. */
async function endedSince(
  db: Database,
  userId: string,
  since: Instant,
): Promise<{ row: OccurrenceRow; action: string }[]> {
  const recent = { userId, at: { [Op.gte]: new Date(since) }, do: [...ENDINGS], undone: false };
  const actions = await db.actions.findAll({ where: recent, attributes: ['seq'] });
  const times = await endings(db, userId, { actionSeq: actions.map(({ seq }) => seq) });
  if (!times.size) return [];
  const pairs = [...times.values()].map(({ seriesId, number }) => ({ seriesId, number }));
  const rows = await db.occurrences.findAll({
    where: { userId, status: ['done', 'skipped'], [Op.or]: pairs },
    order: [['closedAt', 'ASC']],
  });
  return rows.map((row) => ({ row, action: times.get(keyOf(row))!.action }));
}

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
      ['at', 'ASC'],
      ['seq', 'ASC'],
    ],
  });
  const ending = steps.filter(({ deed }) => ENDINGS.some((kind) => kind === deed?.do));
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

/** All of a person's to-dos. */
export async function todosView(db: Database, actor: Actor): Promise<TodosView> {
  const { userId, settings, now } = actor;
  await caughtUp(db, actor);
  const rows = await findSeries(db, userId, { removedAt: null });
  const views = await todoViews(
    rows.map((row) => todoOf(row, settings)),
    now,
  );
  return { ...stamp(actor), todos: [...views.values()] };
}

/**
 * The page of one to-do: where it stands, what comes, what became of it.
 * @throws CoreError `todo.none` where there is none of this person's by that id
 */
export async function todoPage(db: Database, actor: Actor, id: string): Promise<TodoPage> {
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
    totals: { done: total('done'), skipped: total('skipped'), missed: total('missed') },
  };
}

const pageOf = (todo: Todo, actor: Actor) =>
  compute('page', { todo: keptOf(todo), today: stamp(actor).today, now: actor.now });

const NO_PAGE = { says: '', ahead: [], reminders: [], left: null };

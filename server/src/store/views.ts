import { Op, type WhereOptions } from 'sequelize';
import {
  CoreError,
  clockOf,
  comingReminders,
  forecast,
  hasReminders,
  remindersIn,
  leftOf,
  formatDay,
  formatInstant,
  parseDay,
  type Day,
  type Instant,
} from '@back-again/core';
import { say } from '@back-again/core/reading';
import type { EndedRow, LaterRow, TodayView, TodoPage, TodosView } from '@back-again/contract';
import type { Actor } from './actions.ts';
import type { Database } from './database.ts';
import type { OccurrenceRow, StepRow } from './models.ts';
import { catchUpAll, findSeries, timeOf, timeView, todoOf, todoView, type Todo } from './todos.ts';

const SOON_DAYS = 7;
const MOST_SOON = 12;
const MOST_RECORD = 50;
const MOST_AHEAD = 8;
const MOST_REMINDERS = 4;

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
  const [open, ended, soon, unopened, waking] = await Promise.all([
    db.occurrences.findAll({ attributes: ['seriesId'], where: { ...mine, status: 'open' } }),
    endedSince(db, userId, clock.startOf(day)),
    db.series.findAll({
      attributes: ['id'],
      where: {
        ...kept,
        nextDue: { [Op.gte]: formatDay(day + 1), [Op.lt]: formatDay(day + SOON_DAYS + 1) },
      },
      order: [['nextDue', 'ASC']],
      limit: MOST_SOON * 3,
    }),
    // A day that begins at four goes on into the next date.
    db.series.findAll({
      attributes: ['id', 'nextDue'],
      where: { ...kept, nextDue: { [Op.gte]: from, [Op.lt]: formatDay(day + 2) } },
    }),
    // Whatever is still to be said today wakes its to-do today.
    db.series.findAll({
      attributes: ['id'],
      where: { ...kept, wakeAt: { [Op.lt]: new Date(clock.startOf(day + 1)) } },
    }),
  ]);
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
  const todos = new Map(
    (await findSeries(db, userId, { id: [...new Set(ids)], removedAt: null })).map((row) => [
      row.id,
      todoOf(row, settings),
    ]),
  );
  const closed = ended.filter(({ row }) => todos.has(row.seriesId));
  const endedIds = new Set(closed.map(({ row }) => row.seriesId));
  return {
    ...stamp(actor),
    open: [...todos.values()]
      .filter(({ row }) => openIds.has(row.id))
      .map((todo) => todoView(todo, now)),
    ended: closed.map(({ row, action }): EndedRow => {
      const todo = todos.get(row.seriesId)!;
      return { todo: todoView(todo, now), time: timeView(todo, timeOf(row), now), action };
    }),
    later: [...todos.values()]
      .filter(({ row }) => laterIds.has(row.id))
      .flatMap((todo) => laterOf(todo, day, now)),
    soon: soon
      .filter(({ id }) => todos.has(id) && ![openIds, laterIds, endedIds].some((it) => it.has(id)))
      .slice(0, MOST_SOON)
      .map(({ id }) => todoView(todos.get(id)!, now)),
    reminders: waking
      .flatMap(({ id }) => remindersToday(todos.get(id), clock.startOf(day + 1), now))
      .sort((a, b) => (a.at < b.at ? -1 : 1)),
  };
}

/** What will still be said of one to-do before a moment. */
function remindersToday(todo: Todo | undefined, before: Instant, now: Instant) {
  if (!todo || !hasReminders(todo.progress)) return [];
  const { title } = todo.progress.series;
  return remindersIn(todo.planner, todo.progress, todo.settings, now, before - 1).map(
    ({ at, due }) => ({ at: formatInstant(at), due, title }),
  );
}

/** The times of one to-do that are still to come on a day. */
function laterOf(todo: Todo, day: Day, now: Instant): LaterRow[] {
  const view = todoView(todo, now);
  return forecast(todo.planner, todo.progress, now, day)
    .filter(({ due }) => todo.planner.clock.dayOfMoment(due) === day)
    .map((ahead) => ({ todo: view, ahead }));
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
  return { ...stamp(actor), todos: rows.map((row) => todoView(todoOf(row, settings), now)) };
}

/**
 * The page of one to-do: where it stands, what comes, what became of it.
 * @throws CoreError `todo.none` where there is none of this person's by that id
 */
export async function todoPage(db: Database, actor: Actor, id: string): Promise<TodoPage> {
  const { userId, settings, now } = actor;
  await caughtUp(db, actor);
  const [row] = await findSeries(db, userId, { id, removedAt: null });
  if (!row) throw new CoreError('todo.none', 'todo', 'There is no such to-do.');
  const todo: Todo = todoOf(row, settings);
  const ofThis = { userId, seriesId: id };
  const [ended, counts] = await Promise.all([
    db.occurrences.findAll({
      where: { ...ofThis, status: { [Op.ne]: 'open' } },
      order: [
        ['slot', 'DESC'],
        ['number', 'DESC'],
      ],
      limit: MOST_RECORD,
    }),
    db.occurrences.count({ where: ofThis, group: ['status'], attributes: ['status'] }),
  ]);
  const actions = await actionsOf(db, userId, ended);
  const total = (status: string) => counts.find((group) => group.status === status)?.count ?? 0;
  return {
    ...stamp(actor),
    todo: todoView(todo, now),
    says: say(todo.progress.series, stamp(actor).today, settings),
    ahead: forecast(todo.planner, todo.progress, now, parseDay('9999-12-31'), MOST_AHEAD),
    reminders: comingReminders(todo.planner, todo.progress, settings, now, MOST_REMINDERS).map(
      ({ at, due }) => ({ at: formatInstant(at), due }),
    ),
    left: leftOf(todo.planner, todo.progress),
    record: ended.map((time) => ({
      ...timeView(todo, timeOf(time), now),
      action: actions.get(keyOf(time)) ?? null,
    })),
    totals: { done: total('done'), skipped: total('skipped'), missed: total('missed') },
  };
}

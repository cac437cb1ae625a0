import { Op, UniqueConstraintError, type Transaction } from 'sequelize';
import {
  CoreError,
  begin,
  checkSeries,
  clockOf,
  formatDay,
  formatInstant,
  parseInstant,
  take,
  takeEarlier,
  undo,
  type Deed,
  type Entry,
  type Instant,
  type Outcome,
  type Settings,
  type TimeDeed,
} from '@back-again/core';
import type { Action, ActionAnswer, ActionOf } from '@back-again/contract';
import type { Database } from './database.ts';
import type { ActionRow, SeriesRow, StepRow } from './models.ts';
import { plannerFor } from './plans.ts';
import {
  catchUp,
  findSeries,
  timeOf,
  todoOf,
  todoView,
  writeOutcome,
  writeProgress,
  type Todo,
} from './todos.ts';

/** Who acts, by which settings, and when. */
export interface Actor {
  userId: string;
  settings: Settings;
  now: Instant;
}

/** What everything in one action shares. */
interface Work extends Actor {
  db: Database;
  transaction: Transaction;
  actionSeq: number;
  id: string;
}

const NO_TODO = () => new CoreError('todo.none', 'todo', 'There is no such to-do.');

/**
 * The one way through for every change: locks what it concerns, lets it catch up, asks the core
 * what follows, and writes that with the action in one transaction. The same `id` twice changes
 * nothing and is answered with how things stand.
 * @throws CoreError for what cannot be done; then nothing has changed.
 */
export async function act(db: Database, actor: Actor, action: Action): Promise<ActionAnswer> {
  try {
    return await db.transaction(async (transaction) => {
      const row = await db.actions.create(
        {
          userId: actor.userId,
          id: action.id,
          do: action.do,
          at: new Date(actor.now),
          undoes: action.do === 'undo' ? action.of : null,
          undone: false,
        },
        { transaction },
      );
      const work: Work = { ...actor, db, transaction, actionSeq: row.seq, id: action.id };
      return answer(actor, action, await perform(work, action));
    });
  } catch (error) {
    const before =
      error instanceof UniqueConstraintError ? await actionOf(db, actor, action.id) : null;
    if (!before) throw error;
    if (before.do !== action.do)
      throw new CoreError('action.id', 'id', 'That id was used for another action.');
    return answer(actor, action, await touchedBy(db, actor, before));
  }
}

function actionOf(
  db: Database,
  { userId }: Actor,
  id: string,
  transaction?: Transaction,
): Promise<ActionRow | null> {
  return db.actions.findOne({
    where: { userId, id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
}

/** The to-dos that an action changed, as they stand now. */
async function touchedBy(db: Database, actor: Actor, action: ActionRow): Promise<Todo[]> {
  const of = action.undoes === null ? action : await actionOf(db, actor, action.undoes);
  const steps = await db.steps.findAll({
    where: { userId: actor.userId, actionSeq: of?.seq ?? action.seq },
  });
  const rows = await findSeries(db, actor.userId, { id: steps.map((step) => step.seriesId) });
  return rows.map((row) => todoOf(row, actor.settings));
}

function answer(actor: Actor, action: Action, todos: readonly Todo[]): ActionAnswer {
  const clock = clockOf(actor.settings);
  const kept = todos.filter(({ row }) => row.removedAt === null);
  return {
    now: formatInstant(actor.now),
    today: formatDay(clock.dayAt(actor.now)),
    action: { id: action.id, do: action.do },
    todos: kept.map((todo) => todoView(todo, actor.now)),
    removed: todos.filter(({ row }) => row.removedAt !== null).map(({ row }) => row.id),
  };
}

function perform(work: Work, action: Action): Promise<Todo[]> {
  switch (action.do) {
    case 'create':
      return create(work, action);
    case 'done':
    case 'skip':
    case 'move':
    case 'tally':
    case 'part':
    case 'note':
    case 'later':
    case 'change':
    case 'end':
    case 'reopen':
    case 'drop':
      return doOne(work, action);
    case 'pause':
    case 'resume':
      return doToSeveral(work, action);
    case 'bring':
      return bring(work, action);
    case 'remove':
      return remove(work, action);
    case 'undo':
      return takeBack(work, action);
  }
}

/** Locks to-dos by their ids, in one order for all, and lets them catch up. */
async function lockTodos(work: Work, ids: readonly string[], removed = false): Promise<Todo[]> {
  const where = { id: [...new Set(ids)], ...(removed ? {} : { removedAt: null }) };
  const rows = await findSeries(work.db, work.userId, where, work.transaction);
  if (rows.length !== where.id.length) throw NO_TODO();
  const todos = rows.map((row) => todoOf(row, work.settings));
  for (const todo of todos) await catchUp(work.db, todo, work.now, work.transaction);
  return todos;
}

async function create(work: Work, action: ActionOf<'create'>): Promise<Todo[]> {
  const { db, userId, now, transaction, settings } = work;
  const definition = checkSeries(action.series);
  const row: SeriesRow = {
    id: action.todo,
    userId,
    definition,
    progress: begin(plannerFor(settings), definition, now),
    wakeAt: null,
    nextDue: null,
    ended: false,
    createdAt: new Date(now),
    removedAt: null,
  };
  if (await db.series.findOne({ where: { userId, id: row.id }, transaction }))
    throw new CoreError('todo.taken', 'todo', 'There is a to-do with that id already.');
  await db.series.create(row, { transaction });
  await writeStep(work, row.id, { kind: 'create', at: now });
  const todo = todoOf(row, settings);
  await catchUp(db, todo, now, transaction);
  return [todo];
}

type OneDeed = Exclude<Deed['do'], 'pause' | 'resume'>;

async function doOne(work: Work, action: ActionOf<OneDeed>): Promise<Todo[]> {
  const [todo] = await lockTodos(work, [action.todo]);
  await doTo(work, todo!, deedOf(action), 'when' in action ? action.when : undefined);
  return [todo!];
}

/** What an action does to a to-do: all that it says but whose it is, and when. */
function deedOf(action: ActionOf<Deed['do']>): Deed {
  const { id: _id, ...rest } = action;
  const parts = Object.entries(rest).filter(
    ([key, value]) => !['todo', 'todos', 'when'].includes(key) && value !== undefined,
  );
  return Object.fromEntries(parts) as unknown as Deed;
}

/** Pauses or resumes several at once, or all; those to which it makes no difference stay as they are. */
async function doToSeveral(work: Work, action: ActionOf<'pause' | 'resume'>): Promise<Todo[]> {
  const { db, userId, transaction } = work;
  const all = { userId, removedAt: null, ended: false };
  const ids =
    action.todos ??
    (await db.series.findAll({ attributes: ['id'], where: all, transaction })).map(({ id }) => id);
  const todos = await lockTodos(work, ids);
  const deed = deedOf(action);
  const changed: Todo[] = [];
  for (const todo of todos) if (await doTo(work, todo, deed, undefined, true)) changed.push(todo);
  return changed;
}

async function bring(work: Work, action: ActionOf<'bring'>): Promise<Todo[]> {
  const todos = await lockTodos(
    work,
    action.times.map(({ todo }) => todo),
  );
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  for (const { todo: id, slot } of action.times) {
    const todo = byId.get(id)!;
    const plan = action.to ?? formatDay(todo.planner.clock.dayAt(work.now));
    await doTo(work, todo, { do: 'move', slot, plan });
  }
  return todos;
}

async function remove(work: Work, action: ActionOf<'remove'>): Promise<Todo[]> {
  const [todo] = await lockTodos(work, [action.todo]);
  await setRemoved(work, todo!, new Date(work.now));
  await writeStep(work, todo!.row.id, { kind: 'remove', at: work.now });
  return [todo!];
}

async function setRemoved(work: Work, todo: Todo, at: Date | null): Promise<void> {
  todo.row.removedAt = at;
  await writeProgress(work.db, todo, work.transaction);
}

/**
 * Does one deed to a locked to-do, now or as at an earlier moment, and keeps the step; gives whether
 * it found something to be done to.
 * @param may whether finding nothing is no error
 */
async function doTo(
  work: Work,
  todo: Todo,
  deed: Deed,
  when?: string,
  may = false,
): Promise<boolean> {
  const at = when === undefined ? work.now : parseInstant(when, 'when');
  if (at > work.now) throw new CoreError('when.future', 'when', 'That moment has not come yet.');
  const step = { key: work.id, at, deed };
  let outcome: Outcome;
  if (at < work.now) {
    const tail = await logFrom(work, todo, { atOrBefore: at });
    const born = { series: todo.row.definition, at: todo.row.createdAt.getTime() };
    // The time that was open at that moment is meant (R7); the one that was pointed at, where none was.
    const thenOpen = { ...step, deed: { do: 'done' } as const };
    outcome = takeEarlier(todo.planner, born, tail, thenOpen, work.now);
    if (outcome.lost.length) outcome = takeEarlier(todo.planner, born, tail, step, work.now);
  } else outcome = take(todo.planner, todo.progress, step, await pastTimes(work, todo, deed));
  const lost = outcome.lost.includes(step.key);
  if (lost && may) return false;
  if (lost)
    throw new CoreError(
      'time.none',
      'slot',
      'There is no such time any more: it was done, skipped or moved meanwhile.',
    );
  await writeOutcome(work.db, todo, outcome, work.transaction);
  await rewriteSteps(work, todo, outcome.entries);
  return true;
}

/** The ended times that a deed may mean: a missed one can still be done, any has a note. */
async function pastTimes(work: Work, todo: Todo, deed: Deed) {
  const { quota } = todo.planner(todo.progress.series);
  if (deed.do !== 'done' && deed.do !== 'tally' && deed.do !== 'note') return [];
  const slot = deed.slot ?? quota?.slotOn(todo.planner.clock.dayAt(work.now));
  if (slot === undefined) return [];
  const rows = await work.db.occurrences.findAll({
    where: { userId: work.userId, seriesId: todo.row.id, slot, status: { [Op.ne]: 'open' } },
    order: ['number'],
    transaction: work.transaction,
  });
  return rows.map(timeOf);
}

type From = { atOrBefore: Instant } | { step: StepRow };

/** The kept deeds of a to-do from one on, in the order in which they count. */
async function logFrom(work: Work, todo: Todo, from: From): Promise<Entry[]> {
  const deeds = {
    userId: work.userId,
    seriesId: todo.row.id,
    kind: 'deed',
    undone: false,
  } as const;
  const { transaction } = work;
  let first: StepRow | null;
  if ('step' in from) first = from.step;
  else
    first = await work.db.steps.findOne({
      where: { ...deeds, at: { [Op.lte]: new Date(from.atOrBefore) } },
      order: [
        ['at', 'DESC'],
        ['seq', 'DESC'],
      ],
      transaction,
    });
  const rows = await work.db.steps.findAll({
    where: first
      ? {
          ...deeds,
          [Op.or]: [{ at: { [Op.gt]: first.at } }, { at: first.at, seq: { [Op.gte]: first.seq } }],
        }
      : deeds,
    order: [
      ['at', 'ASC'],
      ['seq', 'ASC'],
    ],
    transaction,
  });
  return rows.map((row) => ({
    step: { key: String(row.seq), at: row.at.getTime(), deed: row.deed! },
    before: row.before!,
    touched: row.touched,
  }));
}

/** Keeps the steps that were gone through: the new one is added, the others get their new states. */
async function rewriteSteps(work: Work, todo: Todo, entries: readonly Entry[]): Promise<void> {
  for (const { step, before, touched } of entries) {
    const number = numberOf(before, step.deed, touched);
    if (step.key === work.id)
      await writeStep(work, todo.row.id, {
        kind: 'deed',
        at: step.at,
        deed: step.deed,
        before,
        touched,
        number,
      });
    else
      await work.db.steps.update(
        { before, touched, number },
        { where: { seq: Number(step.key), userId: work.userId }, transaction: work.transaction },
      );
  }
}

/** The number of the time that a deed was done to, from the state before it; null for none. */
function numberOf(before: Entry['before'], deed: Deed, touched: Entry['touched']): number | null {
  if (touched) return touched.number;
  if (!isOfTime(deed)) return null;
  const open =
    deed.slot === undefined ? before.open[0] : before.open.find((time) => time.slot === deed.slot);
  if (!open && deed.do === 'later') return null;
  return open?.number ?? before.number;
}

const isOfTime = (deed: Deed): deed is TimeDeed =>
  ['done', 'skip', 'tally', 'move', 'part', 'note', 'later'].includes(deed.do);

async function writeStep(
  work: Work,
  seriesId: string,
  step: Pick<StepRow, 'kind'> & { at: Instant } & Partial<
      Pick<StepRow, 'deed' | 'before' | 'touched' | 'number'>
    >,
): Promise<void> {
  await work.db.steps.create(
    {
      deed: null,
      before: null,
      touched: null,
      number: null,
      ...step,
      at: new Date(step.at),
      actionSeq: work.actionSeq,
      userId: work.userId,
      seriesId,
      undone: false,
    },
    { transaction: work.transaction },
  );
}

/** Takes an action back (R14), on every to-do that it changed. */
async function takeBack(work: Work, { of }: ActionOf<'undo'>): Promise<Todo[]> {
  const action = await actionOf(work.db, work, of, work.transaction);
  if (!action) throw new CoreError('action.none', 'of', 'There is no such action.');
  if (action.do === 'undo')
    throw new CoreError('undo.undo', 'of', 'An undo cannot be undone: do it again instead.');
  const { userId, transaction } = work;
  const steps = await work.db.steps.findAll({
    where: { userId, actionSeq: action.seq, undone: false },
    order: [['seq', 'DESC']],
    transaction,
  });
  const todos = await lockTodos(
    work,
    steps.map((step) => step.seriesId),
    true,
  );
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  for (const step of steps) {
    const todo = byId.get(step.seriesId)!;
    if (step.kind === 'create') await uncreate(work, todo);
    else if (step.kind === 'remove') await setRemoved(work, todo, null);
    else {
      const outcome = undo(todo.planner, await logFrom(work, todo, { step }), work.now);
      await writeOutcome(work.db, todo, outcome, transaction);
      await rewriteSteps(work, todo, outcome.entries);
    }
    await work.db.steps.update({ undone: true }, { where: { seq: step.seq, userId }, transaction });
  }
  await work.db.actions.update(
    { undone: true },
    { where: { seq: action.seq, userId }, transaction },
  );
  return todos;
}

async function uncreate(work: Work, todo: Todo): Promise<void> {
  const later = await work.db.steps.count({
    where: { userId: work.userId, seriesId: todo.row.id, kind: 'deed', undone: false },
    transaction: work.transaction,
  });
  if (later)
    throw new CoreError(
      'undo.conflict',
      'of',
      'Something was done to it since: undo that first, or remove it.',
    );
  await setRemoved(work, todo, new Date(work.now));
}

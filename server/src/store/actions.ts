import { UniqueConstraintError, type Transaction } from 'sequelize';
import {
  CoreError,
  checkSeries,
  clockOf,
  formatDay,
  formatInstant,
  parseInstant,
  type ChangeDeed,
  type Deed,
  type Instant,
  type Progress,
  type Settings,
  type TimeDeed,
} from '@back-again/core';
import type { Action, ActionAnswer, ActionOf } from '@back-again/contract';
import { compute } from '../machine/machine.ts';
import { BROKEN, catchUp, catchUpAll, catchUpMany, lockTodos } from './catchUp.ts';
import type { Database } from './database.ts';
import {
  besideOf,
  follow,
  writeFollowing,
  writeStanding,
  writeSteps,
  type Following,
} from './following.ts';
import type { ActionRow, SeriesRow, StepRow } from './models.ts';
import { lastPlaces, logBefore, pastTimes, placed, tailFrom, type Placed } from './steps.ts';
import { findSeries, keptOf, todoOf, todoViews, type Todo } from './todos.ts';

/** Who acts, by which settings. */
export interface Person {
  userId: string;
  settings: Settings;
}

/** Who looks, and when. */
export interface Actor extends Person {
  now: Instant;
}

/** What everything in one action shares. */
export interface Work extends Person {
  /** The server’s time; the moment of a step is read from it under the lock of its to-do. */
  now: () => Instant;
  /** When the person did it, where that was before; null: now. */
  at: Instant | null;
  db: Database;
  transaction: Transaction;
  actionSeq: number;
  id: string;
}

/**
 * The one way through for every change: locks what it concerns, lets it catch up, asks the core
 * what follows, and writes that with the action in one transaction. The same `id` twice changes
 * nothing and is answered with how things stand.
 * @throws CoreError for what cannot be done; then nothing has changed.
 */
export async function act(
  db: Database,
  person: Person,
  now: () => Instant,
  action: Action,
): Promise<ActionAnswer> {
  const at = givenMoment(action, now());
  await catchUpBefore(db, person, at ?? now(), action);
  try {
    const { row, todos } = await db.transaction(async (transaction) => {
      const row = await db.actions.create(
        {
          userId: person.userId,
          id: action.id,
          do: action.do,
          at: new Date(now()),
          undoes: action.do === 'undo' ? action.of : null,
          undone: false,
        },
        { transaction },
      );
      const { seq } = row;
      const work: Work = { ...person, now, at, db, transaction, actionSeq: seq, id: action.id };
      return { row, todos: await perform(work, action) };
    });
    return await answer(person, now(), row, todos);
  } catch (error) {
    const before =
      error instanceof UniqueConstraintError ? await actionOf(db, person, action.id) : null;
    if (!before) throw error;
    const { touched, todos } = await touchedBy(db, person, before);
    if (before.do !== action.do || !isSame(action, before, touched))
      throw new CoreError('action.id', 'id', 'That id was used for another action.');
    return answer(person, now(), before, todos);
  }
}

const LONGEST_AGO = 60 * 86_400_000;

/**
 * The moment at which a person did it, where that lies before now: one that lies ahead counts as now.
 * @throws CoreError `at.old`
 */
function givenMoment({ at }: Action, now: Instant): Instant | null {
  const given = at === undefined ? now : parseInstant(at, 'at');
  if (given < now - LONGEST_AGO)
    throw new CoreError(
      'at.old',
      'at',
      'That was done more than 60 days ago: enter it by its date.',
    );
  return given < now ? given : null;
}

/** What lies far back is worked out before, in transactions of its own: so it is kept whatever happens. */
async function catchUpBefore(
  db: Database,
  { userId, settings }: Person,
  now: Instant,
  action: Action,
): Promise<void> {
  if (action.do === 'create' || action.do === 'undo') return;
  const ids =
    'todo' in action
      ? [action.todo]
      : 'times' in action
        ? action.times.map(({ todo }) => todo)
        : action.todos;
  await catchUpAll(db, userId, settings, now, ids);
}

function actionOf(
  db: Database,
  { userId }: Person,
  id: string,
  transaction?: Transaction,
): Promise<ActionRow | null> {
  return db.actions.findOne({
    where: { userId, id },
    ...(transaction ? { transaction, lock: transaction.LOCK.UPDATE } : {}),
  });
}

/** The to-dos that an action changed, by their ids, and as they stand now. */
async function touchedBy(db: Database, person: Person, action: ActionRow) {
  const of = action.undoes === null ? action : await actionOf(db, person, action.undoes);
  const steps = await db.steps.findAll({
    attributes: ['seriesId'],
    where: { userId: person.userId, actionSeq: of?.seq ?? action.seq },
  });
  const touched = new Set(steps.map((step) => step.seriesId));
  const rows = await findSeries(db, person.userId, { id: [...touched] });
  return { touched, todos: rows.map((row) => todoOf(row, person.settings)) };
}

/** Whether an action is the one that had its id before: the same to-do, or the same that it took back. */
function isSame(action: Action, before: ActionRow, touched: ReadonlySet<string>): boolean {
  if (action.do === 'undo') return before.undoes === action.of;
  if ('todo' in action) return touched.has(action.todo);
  if ('times' in action) return action.times.every(({ todo }) => touched.has(todo));
  // Of several those that it makes no difference to are not touched.
  return !action.todos || [...touched].every((id) => action.todos!.includes(id));
}

async function answer(
  { settings }: Person,
  now: Instant,
  action: ActionRow,
  todos: readonly Todo[],
): Promise<ActionAnswer> {
  const clock = clockOf(settings);
  const kept = todos.filter(({ row }) => row.removedAt === null);
  const views = await todoViews(kept, now);
  return {
    now: formatInstant(now),
    today: formatDay(clock.dayAt(now)),
    action: { id: action.id, do: action.do as Action['do'] },
    todos: [...views.values()],
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

/** Up to when a to-do catches up before something is done to it. */
const upTo = (work: Work): Instant => work.at ?? work.now();

/** Locks to-dos and lets them catch up to the moment at which something is done to them. */
async function locked(work: Work, ids: readonly string[]): Promise<Todo[]> {
  const { db, transaction } = work;
  const todos = await lockTodos(db, work, ids, transaction);
  await catchUp(db, todos, upTo(work), transaction);
  return todos;
}

/** Lets to-dos go on to now, where what was done to them lies before. */
async function onToNow(work: Work, todos: readonly Todo[]): Promise<void> {
  if (work.at !== null) await catchUp(work.db, todos, work.now(), work.transaction);
}

/** The moment of what happens to a locked to-do now: never before what has happened to it already. */
const momentOf = (work: Work, { progress }: Todo): Instant =>
  Math.max(work.now(), progress.through ?? -Infinity);

/** The moment at which something is done to a locked to-do: never before it was made. */
const doneAt = (work: Work, todo: Todo): Instant =>
  work.at === null ? momentOf(work, todo) : Math.max(work.at, todo.row.createdAt.getTime());

/** Whether a moment lies before what has happened to a to-do already: then it is entered there. */
const isPast = ({ progress }: Todo, at: Instant) => at < (progress.through ?? -Infinity);

async function create(work: Work, action: ActionOf<'create'>): Promise<Todo[]> {
  const { db, userId, transaction, settings } = work;
  const now = upTo(work);
  const definition = checkSeries(action.series);
  const row: SeriesRow = {
    id: action.todo,
    userId,
    definition,
    progress: await compute('begin', { series: definition, settings, now }),
    wakeAt: null,
    nextDue: null,
    ended: false,
    createdAt: new Date(now),
    removedAt: null,
    steps: 0,
  };
  if (await db.series.findOne({ where: { userId, id: row.id }, transaction }))
    throw new CoreError('todo.taken', 'todo', 'There is a to-do with that id already.');
  await db.series.create(row, { transaction });
  const todo = todoOf(row, settings);
  await writeSteps(db, [stepRow(work, todo, { kind: 'create', at: now })], transaction);
  await writeFollowing(db, [await begun(todo, now)], transaction);
  await onToNow(work, [todo]);
  return [todo];
}

/** What follows for a to-do that has just begun: there is nothing to say of it yet. */
async function begun(todo: Todo, now: Instant): Promise<Following> {
  return follow(todo, await compute('pass', { todo: keptOf(todo), to: now, from: null }));
}

type OneDeed = Exclude<Deed['do'], 'pause' | 'resume'>;

async function doOne(work: Work, action: ActionOf<OneDeed>): Promise<Todo[]> {
  const deed = deedOf(action);
  const [todo] = await lockTodos(work.db, work, [action.todo], work.transaction);
  const { failed } = await catchUpMany(work.db, [todo!], upTo(work), work.transaction);
  if (failed.length && action.do === 'end') return [await endBroken(work, todo!)];
  if (failed.length && action.do === 'change') return [await mend(work, todo!, action)];
  if (failed.length) throw BROKEN();
  await doTo(work, todo!, deed, 'when' in action ? action.when : undefined);
  await onToNow(work, [todo!]);
  return [todo!];
}

/** Ends a to-do that cannot be worked out: nothing comes of it any more, and nothing is asked of the core. */
async function endBroken(work: Work, todo: Todo): Promise<Todo> {
  const { db, transaction } = work;
  const at = momentOf(work, todo);
  const before = todo.progress;
  todo.progress = { ...before, open: [], turns: [], stop: '', through: at };
  const step = stepRow(work, todo, { kind: 'deed', at, deed: { do: 'end' }, before });
  await writeSteps(db, [step], transaction);
  await db.occurrences.update(
    { status: 'skipped', closedAt: new Date(at) },
    { where: { userId: work.userId, seriesId: todo.row.id, status: 'open' }, transaction },
  );
  const beside = { wakeAt: null, nextDue: null, ended: true };
  await writeStanding(db, [{ todo, beside }], transaction);
  return todo;
}

/**
 * Changes a to-do that cannot be worked out: with the new definition it begins anew, from today on.
 * @throws CoreError as the check of a definition does
 */
async function mend(work: Work, todo: Todo, { series }: ActionOf<'change'>): Promise<Todo> {
  const { db, transaction, settings } = work;
  const at = momentOf(work, todo);
  const before = todo.progress;
  const definition = checkSeries({ ...before.series, ...series });
  const anew = await compute('begin', { series: definition, settings, now: at });
  const { number, done, lastDone, lateness } = before;
  await db.occurrences.update(
    { status: 'missed', closedAt: new Date(at) },
    { where: { userId: work.userId, seriesId: todo.row.id, status: 'open' }, transaction },
  );
  const open = anew.open.map((time, i) => ({ ...time, number: number + i }));
  todo.progress = { ...anew, open, number: number + open.length, done, lastDone, lateness };
  const deed: ChangeDeed = { do: 'change', series };
  await writeSteps(db, [stepRow(work, todo, { kind: 'deed', at, deed, before })], transaction);
  await writeFollowing(db, [await begun(todo, at)], transaction);
  return todo;
}

/** What an action does to a to-do: all that it says but whose it is, and when. */
function deedOf(action: ActionOf<Deed['do']>): Deed {
  const { id: _id, ...rest } = action;
  const parts = Object.entries(rest).filter(
    ([key, value]) => !['todo', 'todos', 'when', 'at'].includes(key) && value !== undefined,
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
  const todos = await lockTodos(db, work, ids, transaction);
  const { failed } = await catchUpMany(db, todos, upTo(work), transaction);
  const deed = deedOf(action);
  const did: Did[] = [];
  const changed: Todo[] = [];
  for (const todo of todos.filter((it) => !failed.includes(it))) {
    const at = doneAt(work, todo);
    const one = isPast(todo, at) ? null : await taken(work, todo, deed, at);
    if (one) did.push(one);
    if (one || (isPast(todo, at) && (await doEarlier(work, todo, deed, at, true))))
      changed.push(todo);
  }
  await writeDid(work, did);
  await onToNow(work, changed);
  return changed;
}

async function bring(work: Work, action: ActionOf<'bring'>): Promise<Todo[]> {
  const todos = await locked(
    work,
    action.times.map(({ todo }) => todo),
  );
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  const clock = clockOf(work.settings);
  const did: Did[] = [];
  for (const { todo: id, slot } of action.times) {
    const todo = byId.get(id)!;
    const at = doneAt(work, todo);
    const deed = { do: 'move', slot, plan: action.to ?? formatDay(clock.dayAt(at)) } as const;
    if (isPast(todo, at)) {
      // What was done to it just now is written first: the log is read anew.
      await writeDid(work, did.splice(0));
      await doEarlier(work, todo, deed, at);
      continue;
    }
    const one = await taken(work, todo, deed, at);
    if (!one) throw NO_TIME();
    did.push(one);
  }
  await writeDid(work, did);
  await onToNow(work, todos);
  return todos;
}

/** A to-do can be removed whatever is wrong with it. */
async function remove(work: Work, action: ActionOf<'remove'>): Promise<Todo[]> {
  const { db, transaction } = work;
  const [todo] = await lockTodos(db, work, [action.todo], transaction);
  await catchUpMany(db, [todo!], work.now(), transaction);
  const at = doneAt(work, todo!);
  await writeSteps(db, [stepRow(work, todo!, { kind: 'remove', at })], transaction);
  await setRemoved(work, todo!, new Date(at));
  return [todo!];
}

async function setRemoved(work: Work, todo: Todo, at: Date | null): Promise<void> {
  todo.row.removedAt = at;
  const beside = await besideOf(todo, work.now());
  await writeStanding(work.db, [{ todo, beside }], work.transaction);
}

/** What a deed brought about for one to-do, and the step that keeps it. */
interface Did {
  following: Following;
  step: Omit<StepRow, 'seq'>;
}

const NO_TIME = () =>
  new CoreError(
    'time.none',
    'slot',
    'There is no such time any more: it was done, skipped or moved meanwhile.',
  );

/** Does a deed to a locked to-do, after all else; null where it finds nothing to be done to. */
async function taken(work: Work, todo: Todo, deed: Deed, at: Instant): Promise<Did | null> {
  const past = await pastTimes(work, todo, [{ deed, at }]);
  const step = { key: work.id, at, deed };
  const followed = await compute('take', { todo: keptOf(todo), step, past });
  const [entry] = followed.outcome.entries;
  if (!entry) return null;
  const { before, touched } = entry;
  const number = numberOf(before, deed, touched);
  const kept = stepRow(work, todo, { kind: 'deed', at, deed, before, touched, number });
  return { following: follow(todo, followed), step: kept };
}

async function writeDid(work: Work, did: readonly Did[]): Promise<void> {
  const { db, transaction } = work;
  const following = did.map((it) => it.following);
  await writeFollowing(db, following, transaction);
  await writeSteps(
    db,
    did.map(({ step }) => step),
    transaction,
  );
}

/**
 * Does one deed to a locked to-do, now or as at an earlier moment, and keeps the step.
 * @throws CoreError `time.none` where there is nothing to do it to, `when.future`
 */
async function doTo(work: Work, todo: Todo, deed: Deed, when?: string): Promise<void> {
  const moment = doneAt(work, todo);
  const at = when === undefined ? moment : parseInstant(when, 'when');
  if (at > moment) throw new CoreError('when.future', 'when', 'That moment has not come yet.');
  if (isPast(todo, at) || at < moment) {
    await doEarlier(work, todo, deed, at, false, when !== undefined);
    return;
  }
  const did = await taken(work, todo, deed, at);
  if (!did) throw NO_TIME();
  await writeDid(work, [did]);
}

/**
 * Enters a deed at a moment that has passed; gives whether it found something to be done to.
 * @param may whether finding nothing is no error
 * @param isSaid whether the person said that moment: then the time that was open at it is meant (R7),
 * and the one that was pointed at, where none was
 */
async function doEarlier(
  work: Work,
  todo: Todo,
  deed: Deed,
  at: Instant,
  may = false,
  isSaid = false,
): Promise<boolean> {
  // What there is to say up to now is said as it stands.
  await catchUp(work.db, [todo], work.now(), work.transaction);
  const now = momentOf(work, todo);
  const log = await logBefore(work, todo, at);
  const step = { key: work.id, at, deed };
  const thenOpen = { ...step, deed: { do: 'done' } as const };
  const steps = isSaid ? [thenOpen, step] : [step];
  const tail = await tailFrom(work, todo, log, steps);
  const born = bornOf(todo);
  const followed = await compute('takeEarlier', { todo: keptOf(todo), born, tail, steps, now });
  const lost = followed.outcome.lost.includes(step.key);
  if (lost && may) return false;
  if (lost) throw NO_TIME();
  await rewrite(work, todo, log, followed);
  return true;
}

const bornOf = ({ row }: Todo) => ({ series: row.definition, at: row.createdAt.getTime() });

/** Writes what followed from going through a log again: each step has its new state and place. */
async function rewrite(
  work: Work,
  todo: Todo,
  log: Placed,
  followed: Parameters<typeof follow>[1],
): Promise<void> {
  const { db, transaction } = work;
  let { place } = log;
  const rows: StepRow[] = [];
  const fresh: Omit<StepRow, 'seq'>[] = [];
  for (const { step, before, touched } of followed.outcome.entries) {
    const number = numberOf(before, step.deed, touched);
    const now = { before, touched, number, place: place++ };
    const row = log.rows.get(step.key);
    if (row) rows.push({ ...row, ...now });
    else
      fresh.push({
        ...stepRow(work, todo, { kind: 'deed', at: step.at, deed: step.deed }),
        ...now,
      });
  }
  todo.row.steps = Math.max(todo.row.steps, place - 1);
  await writeFollowing(db, [follow(todo, followed)], transaction);
  await placed(db, rows, transaction);
  await writeSteps(db, fresh, transaction);
}

/** The number of the time that a deed was done to, from the state before it; null for none. */
function numberOf(before: Progress, deed: Deed, touched: StepRow['touched']): number | null {
  if (touched) return touched.number;
  if (!isOfTime(deed)) return null;
  const open =
    deed.slot === undefined ? before.open[0] : before.open.find((time) => time.slot === deed.slot);
  if (!open && deed.do === 'later') return null;
  return open?.number ?? before.number;
}

const isOfTime = (deed: Deed): deed is TimeDeed =>
  ['done', 'skip', 'tally', 'move', 'part', 'note', 'later'].includes(deed.do);

/** A step of a to-do at its next place. */
function stepRow(
  work: Work,
  { row }: Todo,
  step: Pick<StepRow, 'kind'> & { at: Instant } & Partial<
      Pick<StepRow, 'deed' | 'before' | 'touched' | 'number'>
    >,
): Omit<StepRow, 'seq'> {
  row.steps += 1;
  return {
    deed: null,
    before: null,
    touched: null,
    number: null,
    ...step,
    place: row.steps,
    at: new Date(step.at),
    actionSeq: work.actionSeq,
    userId: work.userId,
    seriesId: row.id,
    undone: false,
  };
}

/** Takes an action back (R14), on every to-do that it changed. */
async function takeBack(work: Work, { of }: ActionOf<'undo'>): Promise<Todo[]> {
  const { db, userId, transaction } = work;
  const action = await actionOf(db, work, of, transaction);
  if (!action) throw new CoreError('action.none', 'of', 'There is no such action.');
  if (action.do === 'undo')
    throw new CoreError('undo.undo', 'of', 'An undo cannot be undone: do it again instead.');
  const mine = { userId, actionSeq: action.seq, undone: false };
  const touched = await db.steps.findAll({ attributes: ['seriesId'], where: mine, transaction });
  const ids = touched.map((step) => step.seriesId);
  const todos = await lockTodos(db, work, ids, transaction, true);
  await catchUpMany(db, todos, work.now(), transaction);
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  // Read once their to-dos are held: until then another action may still give them new places.
  const steps = await db.steps.findAll({ where: mine, order: [['place', 'DESC']], transaction });
  const last = await lastPlaces(work, ids);
  const once: Following[] = [];
  for (const step of steps) {
    const todo = byId.get(step.seriesId)!;
    if (step.kind === 'create') await uncreate(work, todo);
    else if (step.kind === 'remove') await setRemoved(work, todo, null);
    else if (step.place === last.get(step.seriesId) && !isBeforeMade(step, todo)) {
      // Nothing was done after it: what follows is written together with the others.
      const log = { rows: new Map([[String(step.seq), step]]), place: step.place, isAll: false };
      once.push(follow(todo, await undone(work, todo, log)));
      last.delete(step.seriesId);
    } else {
      await writeFollowing(db, once.splice(0), transaction);
      const log = await logBefore(work, todo, step);
      await rewrite(work, todo, log, await undone(work, todo, log));
      await db.steps.update({ undone: true }, { where: { userId, seq: step.seq }, transaction });
    }
  }
  await writeFollowing(db, once, transaction);
  await db.steps.update({ undone: true }, { where: mine, transaction });
  await db.actions.update({ undone: true }, { where: { seq: action.seq, userId }, transaction });
  return todos;
}

const isBeforeMade = (step: StepRow, { row }: Todo) => step.at < row.createdAt;

async function undone(work: Work, todo: Todo, log: Placed) {
  const tail = await tailFrom(work, todo, log, []);
  const now = momentOf(work, todo);
  return compute('undo', { todo: keptOf(todo), born: bornOf(todo), tail, now });
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
  await setRemoved(work, todo, new Date(work.now()));
}

import { UniqueConstraintError, type Transaction } from 'sequelize';
import {
  CoreError,
  clockOf,
  formatDay,
  formatInstant,
  parseInstant,
  type Instant,
} from '@back-again/core';
import { isPlacing, type Action, type ActionAnswer, type OwnState } from '@back-again/contract';
import type { Database } from '../db/database.ts';
import type { ActionRow, PlaceRow } from '../db/models.ts';
import { catchUpAll, isFarBehind } from './catchUp.ts';
import {
  arrange,
  bring,
  create,
  createAll,
  describeSeveral,
  doOne,
  doToSeveral,
  remove,
} from './deeds.ts';
import { lock } from './lock.ts';
import { takeIn, type TakeIn } from './takeIn.ts';
import { needReach, reachFrom } from '../upkeep/reach.ts';
import { findSeries, stateOf, todoOf, type Todo } from './todo.ts';
import { above, bundle, focus, ownState, ownStateOf } from './own.ts';
import { place, placeState } from './places.ts';
import { takeBack, touchedBy, type Touched } from './undo.ts';
import type { Person, Work } from './work.ts';
import { Writing } from './write.ts';

/**
 * The one way through for every change: holds the person and what it concerns, lets that catch up, asks
 * the core what follows, and writes that with the action in one transaction. The same `id` twice changes
 * nothing and is answered with how things stand.
 * @throws CoreError for what cannot be done; then nothing has changed.
 */
export async function act(
  db: Database,
  person: Person,
  now: () => Instant,
  action: Action | TakeIn,
): Promise<ActionAnswer> {
  const at = givenMoment(action, now());
  try {
    for (;;) {
      const behind = await once(db, person, now, at, action);
      if (!Array.isArray(behind)) return behind;
      // What lies far back is worked out before: so it is kept whatever happens.
      await catchUpAll(db, person.userId, person.settings, at ?? now(), behind);
    }
  } catch (error) {
    // One that was done before may find nothing any more to be done to.
    const mayBeAgain = error instanceof UniqueConstraintError || error instanceof CoreError;
    const before = mayBeAgain ? await actionOf(db, person, action.id) : null;
    if (!before) throw error;
    return again(db, person, now(), action, before);
  }
}

/** Does it, or gives the to-dos that are so far behind that they are worked out before. */
async function once(
  db: Database,
  person: Person,
  now: () => Instant,
  at: Instant | null,
  action: Action | TakeIn,
): Promise<ActionAnswer | string[]> {
  const { userId } = person;
  return db.transaction(async (transaction) => {
    const undone =
      action.do === 'undo' ? await undoneBy(db, person, action.of, now(), transaction) : null;
    const ids = undone?.ids ?? idsOf(action);
    const isNew = ['create', 'createAll', 'takeIn'].includes(action.do);
    const held = await lock(db, userId, ids, transaction, {
      withRemoved: undone !== null || isNew,
      mayBeMissing: isNew,
    });
    const { settings, own, todos } = held;
    const behind = todos.filter((todo) => isFarBehind(todo, at ?? now()));
    if (behind.length) return behind.map(({ row }) => row.id);
    const version = held.version + 1;
    const row = await db.actions.create(
      {
        userId,
        id: action.id,
        do: action.do,
        at: new Date(now()),
        doneAt: new Date(at ?? now()),
        undoes: action.do === 'undo' ? action.of : null,
        undone: false,
        version,
        via: person.via ?? null,
      },
      { transaction },
    );
    const writing = new Writing(db, transaction, version);
    const about = { id: action.id, actionSeq: row.seq, version };
    const work: Work = {
      userId,
      settings,
      own,
      places: null,
      now,
      at,
      db,
      transaction,
      writing,
      ...about,
    };
    const changed = undone
      ? await takeBack(work, undone.action, todos)
      : await perform(work, action as Exclude<Action, { do: 'undo' }> | TakeIn, todos);
    await writing.finish(userId);
    return answer(work, now(), row, {
      todos: changed,
      places: writing.changedPlaces,
      own: writing.isOwnChanged ? ownState(work.own, version) : null,
    });
  });
}

/** The to-dos that an action is about. */
function idsOf(action: Action | TakeIn): readonly string[] | 'all' {
  if (action.do === 'takeIn') return action.todos.map(({ todo }) => todo);
  if (action.do === 'create') return [action.todo];
  if ('todo' in action) return [action.todo];
  if ('made' in action) return action.made.map(({ todo }) => todo);
  if ('times' in action) return action.times.map(({ todo }) => todo);
  if ('moves' in action) return action.moves.map(({ todo }) => todo);
  return 'todos' in action || action.do === 'pause' || action.do === 'resume'
    ? (action.todos ?? 'all')
    : [];
}

/**
 * The action that an undo takes back, with the to-dos that it changed.
 * @throws CoreError `action.none`, `undo.undo`
 */
async function undoneBy(
  db: Database,
  person: Person,
  of: string,
  now: Instant,
  transaction: Transaction,
) {
  const action = await actionOf(db, person, of, transaction);
  if (!action) throw new CoreError('action.none', 'of', 'There is no such action.');
  if (action.do === 'undo')
    throw new CoreError('undo.undo', 'of', 'An undo cannot be undone: do it again instead.');
  if (action.at < reachFrom(now)) {
    const user = await db.users.findByPk(person.userId, { attributes: ['version'], transaction });
    needReach(action, user!.version, now);
  }
  const { todos: ids } = await touchedBy(db, person, action, transaction);
  if (action.do === 'remove' && !ids.length)
    throw new CoreError('undo.conflict', 'of', 'It was removed for good: nothing brings it back.');
  return { action, ids };
}

const LONGEST_AGO = 60 * 86_400_000;

/**
 * The moment at which a person did it, where that lies before now: one that lies ahead counts as now.
 * @throws CoreError `at.old`
 */
function givenMoment({ at }: Pick<Action, 'at'>, now: Instant): Instant | null {
  const given = at === undefined ? now : parseInstant(at, 'at');
  if (given < now - LONGEST_AGO)
    throw new CoreError(
      'at.old',
      'at',
      'That was done more than 60 days ago: enter it by its date.',
    );
  return given < now ? given : null;
}

function actionOf(
  db: Database,
  { userId }: Person,
  id: string,
  transaction?: Transaction,
): Promise<ActionRow | null> {
  return db.actions.findOne({
    where: { userId, id },
    ...(transaction ? { transaction } : {}),
  });
}

/** The answer to an action that was done before: how things stand now. */
async function again(
  db: Database,
  person: Person,
  now: Instant,
  action: Action | TakeIn,
  before: ActionRow,
): Promise<ActionAnswer> {
  const of = before.undoes === null ? before : await actionOf(db, person, before.undoes);
  const touched = await touchedBy(db, person, of ?? before);
  if (before.do !== action.do || !isSame(action, before, touched))
    throw new CoreError('action.id', 'id', 'That id was used for another action.');
  const { userId } = person;
  const rows = await findSeries(db, userId, { id: touched.todos });
  const user = touched.isOwn ? await db.users.findOne({ where: { id: userId } }) : null;
  return answer({ ...person, version: before.version }, now, before, {
    todos: rows.map((row) => todoOf(row, person.settings)),
    places: await db.places.findAll({ where: { userId, id: touched.places } }),
    own: user && ownStateOf(user.get()),
  });
}

/** Whether an action is the one that had its id before: the same to-do, or the same that it took back. */
function isSame(action: Action | TakeIn, before: ActionRow, { todos, places }: Touched): boolean {
  if (action.do === 'takeIn') return action.todos.every(({ todo }) => todos.includes(todo));
  if (action.do === 'undo') return before.undoes === action.of;
  if (isPlacing(action)) return places.includes(action.place);
  if (action.do === 'focus' || action.do === 'above' || action.do === 'bundle') return true;
  if ('made' in action) return action.made.every(({ todo }) => todos.includes(todo));
  if ('todo' in action) return todos.includes(action.todo);
  if ('times' in action) return action.times.every(({ todo }) => todos.includes(todo));
  if ('moves' in action) return action.moves.every(({ todo }) => todos.includes(todo));
  // Of several those that it makes no difference to are not touched.
  return !action.todos || todos.every((id) => action.todos!.includes(id));
}

/** What an action changed. */
interface Changed {
  todos: readonly Todo[];
  places: readonly PlaceRow[];
  own: OwnState | null;
}

function answer(
  { settings, version }: Person & { version: number },
  now: Instant,
  action: ActionRow,
  { todos, places, own }: Changed,
): ActionAnswer {
  const isThere = ({ row }: Todo) => row.removedAt === null;
  return {
    version,
    now: formatInstant(now),
    today: formatDay(clockOf(settings).dayAt(now)),
    action: { id: action.id, do: action.do as Action['do'] },
    todos: todos.filter(isThere).map((todo) => stateOf(todo, now)),
    removed: todos.filter((todo) => !isThere(todo)).map(({ row }) => row.id),
    ...(places.length ? { places: places.map(placeState) } : {}),
    ...(own ? { own } : {}),
  };
}

async function perform(
  work: Work,
  action: Exclude<Action, { do: 'undo' }> | TakeIn,
  todos: Todo[],
): Promise<Todo[]> {
  switch (action.do) {
    case 'takeIn':
      return takeIn(work, action, todos);
    case 'create':
      return create(work, action, todos);
    case 'createAll':
      return createAll(work, action, todos);
    case 'bundle':
      bundle(work, action);
      return [];
    case 'pause':
    case 'resume':
      return doToSeveral(work, action, todos);
    case 'bring':
      return bring(work, action, todos);
    case 'arrange':
      return arrange(work, action, todos);
    case 'describe':
      return describeSeveral(work, action, todos);
    case 'place':
    case 'unplace':
    case 'rest':
    case 'finishProject':
      return place(work, action);
    case 'focus':
      await focus(work, action);
      return [];
    case 'above':
      await above(work, action, todos[0]!);
      return [];
    case 'remove':
    case 'removeAll':
      return remove(work, todos);
    default:
      return doOne(work, action, todos[0]!);
  }
}

import {
  CoreError,
  NO_DETAILS,
  checkDetails,
  checkSeries,
  clockOf,
  formatDay,
  numberOf,
  parseInstant,
  type Deed,
  type Details,
  type Instant,
} from '@back-again/core';
import { deedOf, type ActionOf } from '@back-again/contract';
import { compute } from '../compute/compute.ts';
import { mend, endBroken } from './broken.ts';
import { BROKEN, catchUp, catchUpMany } from './catchUp.ts';
import { doEarlier, NO_TIME } from './earlier.ts';
import { pastTimes, stepRow } from './steps.ts';
import { describeOne } from './describe.ts';
import { columnsOf, keptOf, todoOf, type Todo } from './todo.ts';
import { doneAt, isPast, upTo, type Work } from './work.ts';
import { besideOf, keepLately } from './write.ts';

/** What a person does to to-dos that are held: each gives those that it changed. */

/** Lets to-dos go on to now, where what was done to them lies before. */
async function onToNow(work: Work, todos: readonly Todo[]): Promise<void> {
  if (work.at !== null) await catchUp(work, todos, work.now());
}

export async function create(
  work: Work,
  action: ActionOf<'create'>,
  [there]: readonly Todo[],
): Promise<Todo[]> {
  const { db, userId, transaction, settings } = work;
  if (there) throw new CoreError('todo.taken', 'todo', 'There is a to-do with that id already.');
  const now = upTo(work);
  const definition = checkSeries(action.series);
  const details: Details = { ...NO_DETAILS, ...(checkDetails(action.details) as Details) };
  const row = {
    ...columnsOf(details),
    describedAt: null,
    id: action.todo,
    userId,
    definition,
    progress: await compute('begin', { series: definition, settings, now }),
    speaksAt: null,
    changesAt: null,
    nextDue: null,
    ended: false,
    createdAt: new Date(now),
    removedAt: null,
    steps: 0,
    version: work.version,
    lately: null,
  };
  await db.series.create(row, { transaction });
  const todo = todoOf(row, settings);
  work.writing.step(stepRow(work, todo, { kind: 'create', at: now }));
  // There is nothing to say of it yet.
  const begun = await compute('pass', { todo: keptOf(todo), to: now, from: null });
  work.writing.follow(todo, begun);
  await onToNow(work, [todo]);
  return [todo];
}

type OneDeed = Exclude<Deed['do'], 'pause' | 'resume'>;

export async function doOne(work: Work, action: ActionOf<OneDeed>, todo: Todo): Promise<Todo[]> {
  const { failed } = await catchUpMany(work, [todo], upTo(work));
  if (failed.length && action.do === 'end') await endBroken(work, todo);
  else if (failed.length && action.do === 'change' && action.series)
    await mend(work, todo, action.series);
  else if (failed.length && action.do !== 'change') throw BROKEN();
  else {
    const deed = deedOf(action);
    if (deed) await doTo(work, todo, deed, 'when' in action ? action.when : undefined);
    await onToNow(work, [todo]);
  }
  if (action.do === 'change' && action.details)
    await describeOne(work, todo, checkDetails(action.details));
  return [todo];
}

/** Says what to-dos are; those of which that was so already stay as they are. */
export async function describeSeveral(
  work: Work,
  action: ActionOf<'describe'>,
  todos: readonly Todo[],
): Promise<Todo[]> {
  const details = checkDetails(action.details);
  for (const todo of todos) await describeOne(work, todo, details);
  return [...todos];
}

/** Pauses or resumes several at once, or all; those to which it makes no difference stay as they are. */
export async function doToSeveral(
  work: Work,
  action: ActionOf<'pause' | 'resume'>,
  todos: readonly Todo[],
): Promise<Todo[]> {
  const { failed } = await catchUpMany(work, todos, upTo(work));
  const deed = deedOf(action)!;
  const changed: Todo[] = [];
  for (const todo of todos.filter((it) => !failed.includes(it))) {
    const at = doneAt(work, todo);
    const did = isPast(todo, at)
      ? await doEarlier(work, todo, deed, at, { may: true })
      : await taken(work, todo, deed, at);
    if (did) changed.push(todo);
  }
  await onToNow(work, changed);
  return changed;
}

export async function bring(work: Work, action: ActionOf<'bring'>, todos: Todo[]): Promise<Todo[]> {
  await catchUp(work, todos, upTo(work));
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  const clock = clockOf(work.settings);
  for (const { todo: id, slot } of action.times) {
    const todo = byId.get(id)!;
    const at = doneAt(work, todo);
    const deed = { do: 'move', slot, plan: action.to ?? formatDay(clock.dayAt(at)) } as const;
    if (isPast(todo, at)) await doEarlier(work, todo, deed, at);
    else if (!(await taken(work, todo, deed, at))) throw NO_TIME();
  }
  await onToNow(work, todos);
  return todos;
}

/** A to-do can be removed whatever is wrong with it. */
export async function remove(work: Work, todo: Todo): Promise<Todo[]> {
  await catchUpMany(work, [todo], work.now());
  const at = doneAt(work, todo);
  work.writing.step(stepRow(work, todo, { kind: 'remove', at }));
  await setRemoved(work, todo, new Date(at));
  return [todo];
}

export async function setRemoved(work: Work, todo: Todo, at: Date | null): Promise<void> {
  todo.row.removedAt = at;
  work.writing.stand(todo, await besideOf(todo, work.now()));
}

/** Does a deed to a held to-do, after all else; gives whether it found something to be done to. */
async function taken(work: Work, todo: Todo, deed: Deed, at: Instant): Promise<boolean> {
  const past = await pastTimes(work, todo, [{ deed, at }], true);
  const step = { key: work.id, at, deed };
  const followed = await compute('take', { todo: keptOf(todo), step, past });
  const [entry] = followed.outcome.entries;
  if (!entry) return false;
  const { before, touched } = entry;
  work.writing.step(
    stepRow(work, todo, { kind: 'deed', at, deed, before, touched, number: numberOf(entry) }),
  );
  const now = work.now();
  keepLately(todo, followed.outcome, { action: work.id, at: work.at ?? now }, now);
  work.writing.follow(todo, followed);
  return true;
}

/**
 * Does one deed to a held to-do, now or as at an earlier moment.
 * @throws CoreError `time.none` where there is nothing to do it to, `when.future`
 */
async function doTo(work: Work, todo: Todo, deed: Deed, when?: string): Promise<void> {
  const moment = doneAt(work, todo);
  const at = when === undefined ? moment : parseInstant(when, 'when');
  if (at > moment) throw new CoreError('when.future', 'when', 'That moment has not come yet.');
  if (isPast(todo, at) || at < moment)
    await doEarlier(work, todo, deed, at, { isSaid: when !== undefined });
  else if (!(await taken(work, todo, deed, at))) throw NO_TIME();
}

import {
  NO_DETAILS,
  checkDetails,
  checkFile,
  checkSeries,
  clockOf,
  formatDay,
  parseInstant,
  type Deed,
  type Details,
  type Made,
} from '@back-again/core';
import {
  answersFit,
  arranged,
  deedOf,
  madeByDone,
  needPlace,
  noTime,
  saidOf,
  seriesIn,
  todoTaken,
  type ActionOf,
} from '@back-again/contract';
import { compute } from '../compute/compute.ts';
import { plannerFor } from '../compute/tasks.ts';
import { mend, endBroken } from './broken.ts';
import { BROKEN, catchUp, catchUpMany } from './catchUp.ts';
import { needFile } from '../files/kept.ts';
import { holdFileOf } from './filing.ts';
import { doEarlier } from './earlier.ts';
import { doIfAny, doTo, taken } from './doing.ts';
import { keptPlaces } from './heldPlaces.ts';
import { stepRow } from './steps.ts';
import { describeOne } from './describe.ts';
import { freshRow, keptOf, todoOf, type Todo } from './todo.ts';
import { doneAt, isPast, todayAt, upTo, type Work } from './work.ts';
import { besideOf } from './write.ts';

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
  if (there) throw todoTaken();
  return [await begun(work, madeOf(action), 'create')];
}

/** A to-do as a client says it. @throws CoreError `series.…` */
function madeOf({
  todo,
  series,
  details,
}: Pick<ActionOf<'create'>, 'todo' | 'series' | 'details'>): Made {
  return {
    id: todo,
    series: checkSeries(series),
    details: { ...NO_DETAILS, ...(checkDetails(details) as Details) },
  };
}

/** Several come to be at once, all or none. */
export async function createAll(
  work: Work,
  action: ActionOf<'createAll'>,
  there: readonly Todo[],
): Promise<Todo[]> {
  const ids = action.made.map(({ todo }) => todo);
  if (there.length || new Set(ids).size < ids.length) throw todoTaken();
  const made: Todo[] = [];
  for (const it of action.made) made.push(await begun(work, madeOf(it), 'create'));
  return made;
}

/** A to-do comes to be; in a place that holds what belongs to it, it is held. */
async function begun(
  work: Work,
  { id, series, details }: Made,
  kind: 'create' | 'made',
): Promise<Todo> {
  const { db, transaction, settings } = work;
  const now = upTo(work);
  const { place } = details;
  const places = place === null ? [] : await keptPlaces(work);
  needPlace(places, place);
  const definition = seriesIn(series, places, place, todayAt(work, now));
  const progress = await compute('begin', { series: definition, settings, now });
  const row = freshRow(work, { id, details, definition, progress, begun: null, now });
  await db.series.create(row, { transaction });
  const todo = todoOf(row, settings);
  work.writing.step(stepRow(work, todo, { kind, at: now }));
  // There is nothing to say of it yet.
  const begins = await compute('pass', { todo: keptOf(todo), to: now, from: null });
  work.writing.follow(todo, begins);
  await onToNow(work, [todo]);
  return todo;
}

type OneDeed = Exclude<Deed['do'], 'pause' | 'resume'>;

export async function doOne(work: Work, action: ActionOf<OneDeed>, todo: Todo): Promise<Todo[]> {
  const { failed } = await catchUpMany(work, [todo], upTo(work));
  const made: Todo[] = [];
  if (failed.length && action.do === 'end') await endBroken(work, todo);
  else if (failed.length && action.do === 'change' && action.series)
    await mend(work, todo, action.series);
  else if (failed.length && action.do !== 'change') throw BROKEN();
  else {
    const deed = deedOf(action);
    const follows = followingOf(work, action, todo);
    checkAnswers(action, todo);
    if (action.do === 'file') await needFile(work, checkFile(action.file));
    if (deed) {
      const when = 'when' in action ? action.when : undefined;
      await doTo(work, todo, deed, { when, letsGo: action.do === 'done' && action.letsGo });
    }
    if (deed) await holdFileOf(work, todo, deed);
    for (const it of follows(todo)) made.push(await begun(work, it, 'made'));
    await onToNow(work, [todo]);
  }
  if (action.do === 'change' && action.details)
    await describeOne(work, todo, checkDetails(action.details));
  return [todo, ...made];
}

/** What finishing a time makes, once it is known whether it was finished. */
function followingOf(work: Work, action: ActionOf<OneDeed>, todo: Todo): (after: Todo) => Made[] {
  if (action.do !== 'done' && action.do !== 'tally') return () => [];
  const before = { progress: todo.progress, details: todo.details };
  const at = action.when === undefined ? doneAt(work, todo) : parseInstant(action.when, 'when');
  const { clock } = plannerFor(work.settings);
  return ({ progress }) => madeByDone(clock, action, before, progress, at);
}

/** @throws CoreError `answer.…` for an answer that its question does not take */
function checkAnswers(action: ActionOf<OneDeed>, { details }: Todo): void {
  if ('answers' in action && action.answers) answersFit(details, action.answers);
}

/** Says what to-dos are; those of which that was so already stay as they are. */
export async function describeSeveral(
  work: Work,
  action: ActionOf<'describe'>,
  todos: readonly Todo[],
): Promise<Todo[]> {
  for (const todo of todos)
    await describeOne(work, todo, checkDetails(saidOf(action, todo.details)));
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
  const isMeant = (it: Todo) => !failed.includes(it) && (action.todos || !it.row.ended);
  for (const todo of todos.filter(isMeant)) if (await doIfAny(work, todo, deed)) changed.push(todo);
  await onToNow(work, changed);
  return changed;
}

/** Moves several times, each on its own, all or none. */
async function moveAll(
  work: Work,
  todos: Todo[],
  moves: readonly { todo: string; move: (todo: Todo) => Extract<Deed, { do: 'move' }> }[],
): Promise<Todo[]> {
  await catchUp(work, todos, upTo(work));
  const byId = new Map(todos.map((todo) => [todo.row.id, todo]));
  for (const { todo: id, move } of moves) {
    const todo = byId.get(id)!;
    const at = doneAt(work, todo);
    if (isPast(todo, at)) await doEarlier(work, todo, move(todo), at);
    else if (!(await taken(work, todo, move(todo), at))) throw noTime();
  }
  await onToNow(work, todos);
  return todos;
}

export function bring(work: Work, action: ActionOf<'bring'>, todos: Todo[]): Promise<Todo[]> {
  const clock = clockOf(work.settings);
  const moves = action.times.map(({ todo, slot }) => ({
    todo,
    move: (it: Todo) => ({
      do: 'move' as const,
      slot,
      plan: action.to ?? formatDay(clock.dayAt(doneAt(work, it))),
    }),
  }));
  return moveAll(work, todos, moves);
}

export function arrange(work: Work, action: ActionOf<'arrange'>, todos: Todo[]): Promise<Todo[]> {
  return moveAll(
    work,
    todos,
    arranged(action).map(({ todo, deed }) => ({ todo, move: () => deed })),
  );
}

/** A to-do can be removed whatever is wrong with it. */
export async function remove(work: Work, todos: readonly Todo[]): Promise<Todo[]> {
  await catchUpMany(work, todos, work.now());
  for (const todo of todos) {
    const at = doneAt(work, todo);
    work.writing.step(stepRow(work, todo, { kind: 'remove', at }));
    await setRemoved(work, todo, new Date(at));
  }
  return [...todos];
}

export async function setRemoved(work: Work, todo: Todo, at: Date | null): Promise<void> {
  todo.row.removedAt = at;
  work.writing.stand(todo, await besideOf(todo, work.now()));
}

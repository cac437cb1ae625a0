import type { Action, ActionOf, TodoState } from '@back-again/contract';
import { deedOf, stateWith } from '@back-again/contract/going';
import {
  CoreError,
  NO_DETAILS,
  begin,
  checkDetails,
  checkSeries,
  formatDay,
  latelyAfter,
  pass,
  parseInstant,
  take,
  type Deed,
  type Details,
  type Instant,
  type Occurrence,
  type Outcome,
  type Planner,
  type Settings,
} from '@back-again/core';

/** What follows from an action, worked out here as the server will: by the same core, of the same to-dos. */

/** An action as it is done here: it says when. */
export type Dated = Action & { at: string };
export type DatedOf<K extends Action['do']> = ActionOf<K> & { at: string };

/** By whose days and hours things are worked out. */
export interface Mine {
  planner: Planner;
  settings: Settings;
}

/** What came of an action for one to-do: how it stands, null where it is no more. */
export type Played = TodoState | null;

/** What follows is known to the server alone: here it is shown as being done. */
export class Unknown extends Error {}

const NO_TIME = () =>
  new CoreError(
    'time.none',
    'slot',
    'There is no such time any more: it was done, skipped or moved meanwhile.',
  );
const NO_TODO = () => new CoreError('todo.none', 'todo', 'There is no such to-do.');

/**
 * What becomes of one to-do by an action; an undo is worked out from what was before (`overlay.ts`).
 * @throws CoreError for what cannot be done, {@link Unknown} where the server alone knows what follows
 */
export function play(
  mine: Mine,
  state: TodoState | null,
  action: Exclude<Dated, { do: 'undo' }>,
  id: string,
): Played {
  if (action.do === 'create') return created(mine, state, action);
  if (!state) throw NO_TODO();
  if (action.do === 'remove') return null;
  if (action.do === 'bring') return brought(mine, state, action, id);
  if (action.do === 'describe') return described(state, action, action.details);
  const when = 'when' in action ? action.when : undefined;
  const deed = deedOf(action);
  const after = deed ? did(mine, state, deed, { action, when }) : state;
  return action.do === 'change' && action.details
    ? described(after, action, action.details)
    : after;
}

/** The to-dos that an action is about, of those that there are. */
export function aboutOf(
  action: Exclude<Dated, { do: 'undo' }>,
  all: () => Iterable<TodoState>,
): string[] {
  if ('todo' in action) return [action.todo];
  if (action.do === 'bring') return [...new Set(action.times.map(({ todo }) => todo))];
  return action.todos ?? [...all()].filter(({ over }) => !over).map(({ id }) => id);
}

function created({ planner, settings }: Mine, there: TodoState | null, action: DatedOf<'create'>) {
  if (there) throw new CoreError('todo.taken', 'todo', 'There is a to-do with that id already.');
  const at = parseInstant(action.at);
  const begun = begin(planner, checkSeries(action.series), at);
  const { progress } = pass(planner, begun, at);
  const details = { ...NO_DETAILS, ...(checkDetails(action.details) as Details) };
  const before = { id: action.todo, made: at, version: 0, details, describedAt: null };
  return stateWith(planner, settings, before, { progress, lately: [] });
}

/** Another description, from its moment on. */
function described(state: TodoState, action: Dated, given: Partial<Details>): TodoState {
  const at = Math.max(parseInstant(action.at), state.made);
  // What was said later holds, which the server alone knows part by part.
  if (at < (state.describedAt ?? -Infinity)) throw new Unknown();
  return { ...state, details: { ...state.details, ...checkDetails(given) }, describedAt: at };
}

/** The moment at which something is done to a to-do: never before it was made. */
function momentOf(state: TodoState, action: Dated): Instant {
  const at = Math.max(parseInstant(action.at), state.made);
  // What came after it has been worked out already, and would have to be anew.
  if (at < (state.progress.through ?? -Infinity)) throw new Unknown();
  return at;
}

function brought(mine: Mine, state: TodoState, action: DatedOf<'bring'>, id: string): TodoState {
  const at = momentOf(state, action);
  const plan = action.to ?? formatDay(mine.planner.clock.dayAt(at));
  return action.times
    .filter(({ todo }) => todo === id)
    .reduce(
      (now, { slot }) => did(mine, now, { do: 'move', slot, plan }, { action, when: undefined }),
      state,
    );
}

function did(
  mine: Mine,
  state: TodoState,
  deed: Deed,
  { action, when }: { action: Dated; when: string | undefined },
): TodoState {
  const at = momentOf(state, action);
  const moment = when === undefined ? at : parseInstant(when, 'when');
  if (moment > at) throw new CoreError('when.future', 'when', 'That moment has not come yet.');
  if (moment < (state.progress.through ?? -Infinity)) throw new Unknown();
  // Of a moment that was said the time is meant that was open then (R7).
  const deeds = moment < at ? [{ do: 'done' } as const, deed] : [deed];
  const outcome = firstTaken(mine, state, deeds, { key: action.id, at: moment });
  if (!outcome) {
    // Of several those stay as they are to which it makes no difference.
    if (deed.do === 'pause' || deed.do === 'resume') return state;
    if ('slot' in deed && deed.slot !== undefined) throw new Unknown();
    throw NO_TIME();
  }
  const past = moment < at ? pass(mine.planner, outcome.progress, at) : null;
  const lately = latelyAfter(state.lately, outcome, {
    action: action.id,
    at: parseInstant(action.at),
  });
  const progress = past?.progress ?? outcome.progress;
  return stateWith(mine.planner, mine.settings, state, { progress, lately });
}

/** The first of these deeds that finds its time; null where none does. */
function firstTaken(
  { planner }: Mine,
  state: TodoState,
  deeds: readonly Deed[],
  step: { key: string; at: Instant },
): Outcome | null {
  for (const deed of deeds) {
    const past = state.lately.map(({ time }): Occurrence => time);
    const outcome = take(planner, state.progress, { ...step, deed }, past);
    if (outcome.entries.length) return outcome;
  }
  return null;
}

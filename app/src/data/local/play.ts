import type { Action, ActionOf, OwnState, PlaceState, TodoState } from '@back-again/contract';
import {
  answersFit,
  arranged,
  bundlesAfter,
  deedOf,
  followsFrom,
  heldBy,
  isPlacing,
  madeByDone,
  needPlace,
  noTime,
  noTodo,
  notYet,
  placing,
  saidOf,
  seriesIn,
  stateWith,
  todoTaken,
  touchesTodos,
  type PlaceAction,
  type Placed,
} from '@back-again/contract/going';
import {
  CoreError,
  NO_DETAILS,
  advance,
  begin,
  checkDetails,
  checkSeries,
  formatDay,
  hasEnded,
  latelyAfter,
  madeId,
  pass,
  parseInstant,
  putAbove,
  take,
  takeDown,
  type Above,
  type Deed,
  type Details,
  type Instant,
  type LocalDate,
  type Made,
  type Occurrence,
  type Outcome,
  type Planner,
  type Settings,
} from '@back-again/core';
import { OWN, placeKey, type Key, type State, type World } from './world.ts';

/** What follows from an action, worked out here as the server will: by the same core, of the same to-dos. */

/** An action as it is done here: it says when. */
export type Dated = Action & { at: string };
export type DatedOf<K extends Action['do']> = ActionOf<K> & { at: string };
type Doing = Exclude<Dated, { do: 'undo' }>;
type Finishing = DatedOf<'done' | 'tally'>;

/** By whose days and hours things are worked out. */
export interface Mine {
  planner: Planner;
  settings: Settings;
}

/** What follows is known to the server alone: here it is shown as being done. */
export class Unknown extends Error {}

/** What an action is about, of what there is. @throws CoreError for what cannot be done */
export function keysOf(mine: Mine, world: World, action: Doing): Key[] {
  if (isPlacing(action)) {
    const placed = placedBy(mine, world, action);
    const own = placeKey(action.place);
    if (!touchesTodos(action)) return [own];
    const today = dayOf(mine, action);
    const touched = [...world.todos()].filter((state) => {
      const { deed, details } = followsFrom(placed, action, standing(state), today);
      return (deed !== null || details !== null) && !isOver(mine, state, action);
    });
    return [own, ...touched.map(({ id }) => id)];
  }
  if (action.do === 'focus' || action.do === 'above' || action.do === 'bundle') return [OWN];
  if (action.do === 'createAll') return [...new Set(action.made.map(({ todo }) => todo))];
  if (isFinishing(action)) return [action.todo, ...madeIds(world.todo(action.todo), action)];
  if ('todo' in action) return [action.todo];
  if (action.do === 'bring') return [...new Set(action.times.map(({ todo }) => todo))];
  if (action.do === 'arrange') return [...new Set(action.moves.map(({ todo }) => todo))];
  if (action.todos) return action.todos;
  const live = [...world.todos()].filter((state) => !isOver(mine, state, action));
  return live.map(({ id }) => id);
}

/** Whether nothing more comes of a to-do, with what has come with time since the server said it. */
function isOver({ planner }: Mine, { over, progress }: TodoState, action: Dated): boolean {
  return over || hasEnded(planner, advance(planner, progress, parseInstant(action.at)).progress);
}

const isFinishing = (action: Doing): action is Finishing =>
  action.do === 'done' || action.do === 'tally';

/** The to-dos that finishing may make. */
function madeIds(todo: TodoState | null, action: Finishing): string[] {
  if (!todo) return [];
  return [
    ...(todo.details.then ? [madeId(action.id, 'then')] : []),
    ...(action.do === 'done' && action.left === 'keep' ? [madeId(action.id, 'left')] : []),
  ];
}

/** What else than the state of `key` decides what becomes of it. */
export function basisOf(world: World, action: Doing, key: Key): readonly unknown[] {
  if (key === OWN) return [action.do === 'above' ? {} : world.places];
  if (isFinishing(action)) return key === action.todo ? [] : [world.todo(action.todo)];
  const isPlaced = 'details' in action || action.do === 'createAll' || isPlacing(action);
  return isPlaced ? [world.places] : [];
}

/**
 * What becomes of what is found by a key; null where it is no more. An undo is worked out from what was
 * before (`overlay.ts`).
 * @throws CoreError for what cannot be done, {@link Unknown} where the server alone knows what follows
 */
export function play(mine: Mine, world: World, action: Doing, key: Key): State | null {
  if (key === OWN) return owned(mine, world, action as DatedOf<'focus' | 'above' | 'bundle'>);
  if (isPlacing(action)) {
    const placed = placedBy(mine, world, action);
    return key === placeKey(action.place)
      ? placeAfter(world, action, placed)
      : followed(mine, world.todo(key)!, action, placed);
  }
  if (action.do === 'create') return created(mine, world, action);
  if (action.do === 'createAll') {
    const made = action.made.filter(({ todo }) => todo === key);
    if (made.length > 1) throw todoTaken();
    return created(mine, world, { ...made[0]!, id: action.id, at: action.at, do: 'create' });
  }
  if (isFinishing(action) && key !== action.todo) return made(mine, world, action, key);
  const state = world.todo(key);
  if (!state) throw noTodo();
  if (action.do === 'remove' || action.do === 'removeAll') return null;
  if (action.do === 'bring') return brought(mine, state, action, key);
  if (action.do === 'arrange')
    return arranged(action)
      .filter(({ todo }) => todo === key)
      .reduce((now, { deed }) => did(mine, now, deed, { action, when: undefined }), state);
  if (action.do === 'describe')
    return described(mine, world, state, action, saidOf(action, state.details));
  if ('answers' in action && action.answers) answersFit(state.details, action.answers);
  const when = 'when' in action ? action.when : undefined;
  const deed = deedOf(action as ActionOf<Deed['do']>);
  const after = deed ? did(mine, state, deed, { action, when }) : state;
  return action.do === 'change' && action.details
    ? described(mine, world, after, action, action.details)
    : after;
}

const dayOf = ({ planner }: Mine, { at }: Dated): LocalDate =>
  formatDay(planner.clock.dayAt(parseInstant(at)));
const standing = ({ progress, details }: TodoState) => ({
  series: progress.series,
  place: details.place,
});

function placedBy(mine: Mine, world: World, action: PlaceAction & { at: string }): Placed {
  return placing(action, world.places, parseInstant(action.at), dayOf(mine, action));
}

function placeAfter(
  world: World,
  action: PlaceAction & { at: string },
  { place }: Placed,
): PlaceState {
  const there = world.places.find(({ id }) => id === place.id);
  const at = parseInstant(action.at);
  // What was said later holds, which the server alone knows part by part.
  if (there && at < there.describedAt) throw new Unknown();
  return { ...place, version: there?.version ?? 0, describedAt: at };
}

/** What was done to a place, as it touches a to-do. */
function followed(
  mine: Mine,
  state: TodoState,
  action: PlaceAction & { at: string },
  placed: Placed,
): TodoState {
  const { deed, details } = followsFrom(placed, action, standing(state), dayOf(mine, action));
  const after = deed ? didSilently(mine, state, deed, action) : state;
  return details ? withDetails(after, action, details) : after;
}

function owned(mine: Mine, world: World, action: DatedOf<'focus' | 'above' | 'bundle'>): OwnState {
  const own = world.own();
  const at = parseInstant(action.at);
  if (action.do === 'focus') {
    needPlace(world.places, action.place);
    if (at < (own.focusAt ?? -Infinity)) throw new Unknown();
    return { ...own, focus: action.place, focusAt: at };
  }
  if (action.do === 'bundle') {
    const { bundles = [], ...rest } = own;
    const after = bundlesAfter(bundles, action, at);
    if (!after) throw new Unknown();
    return after.length ? { ...rest, bundles: after } : rest;
  }
  const { todo, slot, on } = action;
  if (!world.todo(todo)) throw noTodo();
  const isOpen = (it: Above) => {
    const state = world.todo(it.todo);
    if (!state) return false;
    const { open } = advance(mine.planner, state.progress, at).progress;
    return open.some((time) => time.slot === it.slot);
  };
  const it = { day: dayOf(mine, action), todo, slot };
  if (on && !isOpen(it)) throw noTime();
  const above = on ? putAbove(own.above, it, isOpen) : takeDown(own.above, it);
  return above === own.above ? own : { ...own, above };
}

function created(mine: Mine, world: World, action: DatedOf<'create'>): TodoState {
  if (world.todo(action.todo)) throw todoTaken();
  const details = { ...NO_DETAILS, ...(checkDetails(action.details) as Details) };
  return begun(mine, world, action, {
    id: action.todo,
    series: checkSeries(action.series),
    details,
  });
}

function begun(mine: Mine, world: World, action: Dated, { id, series, details }: Made): TodoState {
  const { planner, settings } = mine;
  const at = parseInstant(action.at);
  const { place } = details;
  const places = world.places;
  needPlace(places, place);
  const held = seriesIn(series, places, place, dayOf(mine, action));
  const { progress } = pass(planner, begin(planner, held, at), at);
  const before = { id, made: at, version: 0, details, describedAt: null };
  return stateWith(planner, settings, before, { progress, lately: [] });
}

/** What finishing a time makes beside. */
function made(mine: Mine, world: World, action: Finishing, id: string): TodoState | null {
  const parent = world.todo(action.todo);
  if (!parent || world.todo(id)) return world.todo(id);
  const { planner } = mine;
  const at = momentOf(parent, action);
  const moment = action.when === undefined ? at : parseInstant(action.when, 'when');
  const { progress } = advance(planner, parent.progress, at);
  const before = { progress, details: parent.details };
  const deed = deedOf(action)!;
  const after = did(mine, parent, deed, { action, when: action.when });
  const all = madeByDone(planner.clock, action, before, after.progress, moment);
  const it = all.find((one) => one.id === id);
  return it ? begun(mine, world, action, it) : null;
}

/** Another description, from its moment on. */
function withDetails(state: TodoState, action: Dated, given: Partial<Details>): TodoState {
  const at = Math.max(parseInstant(action.at), state.made);
  // What was said later holds, which the server alone knows part by part.
  if (at < (state.describedAt ?? -Infinity)) throw new Unknown();
  return { ...state, details: { ...state.details, ...checkDetails(given) }, describedAt: at };
}

/** Another description; what comes to belong to a strand that rests is held, what leaves it goes on. */
function described(
  mine: Mine,
  world: World,
  state: TodoState,
  action: Dated,
  given: Partial<Details>,
): TodoState {
  needPlace(world.places, given.place);
  const after = withDetails(state, action, given);
  const [from, to] = [state.details.place, after.details.place];
  if (from === to || isOver(mine, state, action)) return after;
  const { series } = state.progress;
  const deed = heldBy(series, world.places, from, to, dayOf(mine, action));
  return deed ? didSilently(mine, after, deed, action) : after;
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

/** A deed where it makes a difference. */
function didSilently(mine: Mine, state: TodoState, deed: Deed, action: Dated): TodoState {
  try {
    return did(mine, state, deed, { action, when: undefined });
  } catch (error) {
    if (error instanceof CoreError && error.code === noTime().code) return state;
    throw error;
  }
}

function did(
  mine: Mine,
  state: TodoState,
  deed: Deed,
  { action, when }: { action: Dated; when: string | undefined },
): TodoState {
  const at = momentOf(state, action);
  const moment = when === undefined ? at : parseInstant(when, 'when');
  if (moment > at) throw notYet();
  if (moment < (state.progress.through ?? -Infinity)) throw new Unknown();
  // Of a moment that was said the time is meant that was open then (R7).
  const deeds = moment < at ? [{ do: 'done' } as const, deed] : [deed];
  const outcome = firstTaken(mine, state, deeds, { key: action.id, at: moment });
  if (!outcome) {
    // Of several those stay as they are to which it makes no difference.
    if (deed.do === 'pause' || deed.do === 'resume') return state;
    if ('slot' in deed && deed.slot !== undefined) throw new Unknown();
    throw noTime();
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

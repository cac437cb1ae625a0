import type { Action, OwnState, PlaceState, TodoState } from '@back-again/contract';
import { budgeted } from '@back-again/contract/going';
import { CoreError } from '@back-again/core';
import { Unknown, basisOf, keysOf, play, type Dated, type Mine } from './play.ts';
import { OWN, isTodo, placeKey, stateAt, type Key, type State, type World } from './world.ts';

/** What is shown: what the server last said, and on top of it what waits to be sent. */

/** How something was before an action and after it; null where there was none. */
export interface Change {
  key: Key;
  before: State | null;
  after: State | null;
}

/** How to take back what the server has taken: it holds for what has not changed since. */
export interface Undoable {
  action: string;
  /** What was done; absent with what an earlier form of the program kept. */
  did?: Action['do'];
  /** By the version that each got with it. */
  version: number;
  things: { key: Key; before: State | null; isGone: boolean }[];
}

export interface Overlay {
  /** What is other than the server said; null where it is no more. */
  changed: ReadonlyMap<Key, State | null>;
  /** That of which the server alone knows what follows. */
  unknown: ReadonlySet<Key>;
  /** What each action that waits has changed. */
  changes: ReadonlyMap<string, readonly Change[]>;
  /** All places with what waits, those that are gone among them. */
  places: readonly PlaceState[];
}

export interface Said {
  todos: Readonly<Record<string, TodoState>>;
  places: readonly PlaceState[];
  own: OwnState;
  undoable: readonly Undoable[];
}

/** What takes longer, in milliseconds, is left to the server. */
const MOST = 300;
const NONE: object = {};
type Doing = Exclude<Dated, { do: 'undo' }>;
type Result = { after: State | null } | { error: unknown };
const results = new WeakMap<
  object,
  WeakMap<object, { basis: readonly unknown[]; result: Result }>
>();

const isSame = (a: readonly unknown[], b: readonly unknown[]) =>
  a.length === b.length && a.every((it, i) => it === b[i]);

/** The same action on the same state comes to the same: it is worked out once. */
function played(mine: Mine, world: World, action: Doing, key: Key, state: State | null): Result {
  const byAction = results.get(state ?? NONE) ?? new WeakMap<object, never>();
  results.set(state ?? NONE, byAction);
  const basis = [mine, key, ...basisOf(world, action, key)];
  const known = byAction.get(action);
  if (known && isSame(known.basis, basis)) return known.result;
  let result: Result;
  try {
    result = { after: budgeted(MOST, () => play(mine, world, action, key)) };
  } catch (error) {
    result = { error };
  }
  byAction.set(action, { basis, result });
  return result;
}

/** Lays what waits over what the server said, in order. */
export function overlayOf(mine: Mine, said: Said, pending: readonly Dated[]): Overlay {
  const over = new Overlaying(mine, said);
  for (const action of pending) over.add(action);
  return over;
}

/**
 * What one more action would change.
 * @throws CoreError where it cannot be done
 */
export function changesOf(mine: Mine, said: Said, overlay: Overlay, action: Dated): Change[] {
  const over = new Overlaying(mine, said, overlay);
  const refused = over.add(action);
  if (refused instanceof CoreError) throw refused;
  return [...over.changes.get(action.id)!];
}

class Overlaying implements Overlay, World {
  readonly changed: Map<Key, State | null>;
  readonly unknown: Set<Key>;
  readonly changes: Map<string, Change[]>;
  private readonly mine: Mine;
  private readonly said: Said;
  places: readonly PlaceState[];

  constructor(mine: Mine, said: Said, on?: Overlay) {
    this.mine = mine;
    this.said = said;
    this.changed = new Map(on?.changed);
    this.unknown = new Set(on?.unknown);
    this.changes = new Map([...(on?.changes ?? [])].map(([id, all]) => [id, [...all]]));
    this.places = on?.places ?? said.places;
  }

  todo(id: string): TodoState | null {
    return this.changed.has(id)
      ? (this.changed.get(id) as TodoState | null)
      : (this.said.todos[id] ?? null);
  }

  *todos(): Generator<TodoState> {
    for (const state of Object.values(this.said.todos))
      if (!this.changed.has(state.id)) yield state;
    for (const state of this.changed.values()) if (isTodo(state)) yield state;
  }

  own(): OwnState {
    return (this.changed.get(OWN) as OwnState | undefined) ?? this.said.own;
  }

  /** How something stands with all that was added. */
  private at(key: Key): State | null {
    return this.changed.has(key) ? this.changed.get(key)! : stateAt(this.said, key);
  }

  private set(key: Key, state: State | null): void {
    this.changed.set(key, state);
    if (key === OWN || isTodo(state) || key in this.said.todos) return;
    const place = state as PlaceState | null;
    const at = this.places.findIndex(({ id }) => placeKey(id) === key);
    // Each stays where it is: what depends on their order stays as it is.
    if (!place && at < 0) return;
    if (!place) this.places = this.places.filter((_, i) => i !== at);
    else this.places = at < 0 ? [...this.places, place] : this.places.with(at, place);
  }

  /** Adds an action; gives why it cannot be done, null where it can. */
  add(action: Dated): unknown {
    const changes: Change[] = [];
    this.changes.set(action.id, changes);
    if (action.do === 'undo') {
      this.takeBack(action.of, changes);
      return null;
    }
    let about: Key[];
    try {
      about = keysOf(this.mine, this, action);
    } catch (error) {
      return error;
    }
    // Of several, those are passed over of which the server alone knows; else it is all or nothing.
    const isOfSeveral = action.do === 'pause' || action.do === 'resume';
    let refused: unknown = null;
    for (const key of about) {
      const before = this.at(key);
      const result: Result = this.unknown.has(key)
        ? { error: new Unknown() }
        : played(this.mine, this, action, key, before);
      if ('error' in result) {
        if (!isOfSeveral) refused ??= result.error;
        else if (result.error instanceof Unknown) this.unknown.add(key);
      } else if (result.after !== before) changes.push({ key, before, after: result.after });
    }
    if (refused) {
      changes.length = 0;
      for (const key of about) this.unknown.add(key);
    }
    for (const { key, after } of changes) this.set(key, after);
    return refused;
  }

  private takeBack(of: string, changes: Change[]): void {
    const waiting = this.changes.get(of);
    const taken = this.said.undoable.find(({ action }) => action === of);
    const steps = waiting
      ? waiting.map((it) => ({ ...it, isLast: this.at(it.key) === it.after }))
      : (taken?.things ?? []).map((it) => ({
          ...it,
          isLast: this.isAsTaken(it.key, it.isGone ? null : taken!.version),
        }));
    // It is all or nothing: where something was done to one of them since, the server alone knows.
    if (steps.every(({ key, isLast }) => isLast && !this.unknown.has(key)))
      for (const { key, before } of steps) {
        changes.push({ key, before: this.at(key), after: before });
        this.set(key, before);
      }
    else for (const { key } of steps) this.unknown.add(key);
    if (!waiting && !taken)
      for (const { id, lately } of this.todos())
        if (lately.some(({ action }) => action === of)) this.unknown.add(id);
  }

  /** Whether something is still as the server left it with a version; null: it is no more. */
  private isAsTaken(key: Key, version: number | null): boolean {
    if (this.changed.has(key)) return false;
    return (this.at(key)?.version ?? null) === version;
  }
}

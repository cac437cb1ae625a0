import type { OwnState, PlaceState, TodoState } from '@back-again/contract';

/** What a person has on this device: to-dos, places, and what belongs to the person themselves. */

export type State = TodoState | PlaceState | OwnState;

/** By what each is found: a to-do by its id. */
export type Key = string;
export const OWN: Key = 'own';
export const placeKey = (id: string): Key => `place ${id}`;

/** How everything stands as an action is worked out. */
export interface World {
  todo(id: string): TodoState | null;
  todos(): Iterable<TodoState>;
  /** Those that are gone among them; the same list until one changes. */
  readonly places: readonly PlaceState[];
  own(): OwnState;
}

/** What stands by a key in what was said; null for nothing. */
export function stateAt(
  said: {
    todos: Readonly<Record<string, TodoState>>;
    places: readonly PlaceState[];
    own: OwnState;
  },
  key: Key,
): State | null {
  if (key === OWN) return said.own;
  return said.todos[key] ?? said.places.find(({ id }) => placeKey(id) === key) ?? null;
}

export const NO_OWN: OwnState = { version: 0, focus: null, focusAt: null, above: [] };

/** Whether a state is that of a to-do. */
export const isTodo = (state: State | null): state is TodoState =>
  state !== null && 'progress' in state;

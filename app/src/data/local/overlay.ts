import type { TodoState } from '@back-again/contract';
import { budgeted } from '@back-again/contract/going';
import { CoreError } from '@back-again/core';
import { Unknown, aboutOf, play, type Dated, type Mine } from './play.ts';

/** What is shown: what the server last said, and on top of it what waits to be sent. */

/** How a to-do was before an action and after it; null where there was none. */
export interface Change {
  todo: string;
  before: TodoState | null;
  after: TodoState | null;
}

/** How to take back what the server has taken: it holds for to-dos that have not changed since. */
export interface Undoable {
  action: string;
  /** By the version that each got with it. */
  version: number;
  todos: { todo: string; before: TodoState | null; isGone: boolean }[];
}

export interface Overlay {
  /** To-dos that are other than the server said; null where they are no more. */
  changed: ReadonlyMap<string, TodoState | null>;
  /** To-dos about which the server alone knows what follows. */
  unknown: ReadonlySet<string>;
  /** What each action that waits has changed. */
  changes: ReadonlyMap<string, readonly Change[]>;
}

export interface Said {
  todos: Readonly<Record<string, TodoState>>;
  undoable: readonly Undoable[];
}

/** What takes longer, in milliseconds, is left to the server. */
const MOST = 300;
const NONE: object = {};
type Result = { after: TodoState | null } | { error: unknown };
const results = new WeakMap<object, WeakMap<object, Map<Mine, Result>>>();

/** The same action on the same to-do comes to the same: it is worked out once. */
function played(
  mine: Mine,
  state: TodoState | null,
  action: Exclude<Dated, { do: 'undo' }>,
  id: string,
): Result {
  const byAction = results.get(state ?? NONE) ?? new WeakMap<object, Map<Mine, Result>>();
  results.set(state ?? NONE, byAction);
  const known = byAction.get(action) ?? new Map<Mine, Result>();
  byAction.set(action, known);
  const before = known.get(mine);
  if (before) return before;
  let result: Result;
  try {
    result = { after: budgeted(MOST, () => play(mine, state, action, id)) };
  } catch (error) {
    result = { error };
  }
  known.clear();
  known.set(mine, result);
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

class Overlaying implements Overlay {
  readonly changed: Map<string, TodoState | null>;
  readonly unknown: Set<string>;
  readonly changes: Map<string, Change[]>;
  private readonly mine: Mine;
  private readonly said: Said;

  constructor(mine: Mine, said: Said, on?: Overlay) {
    this.mine = mine;
    this.said = said;
    this.changed = new Map(on?.changed);
    this.unknown = new Set(on?.unknown);
    this.changes = new Map([...(on?.changes ?? [])].map(([id, all]) => [id, [...all]]));
  }

  /** How a to-do stands with all that was added. */
  private at(id: string): TodoState | null {
    return this.changed.has(id) ? this.changed.get(id)! : (this.said.todos[id] ?? null);
  }

  private *all(): Generator<TodoState> {
    for (const id of new Set([...Object.keys(this.said.todos), ...this.changed.keys()])) {
      const state = this.at(id);
      if (state) yield state;
    }
  }

  /** Adds an action; gives why it could not be done, where that is so. */
  add(action: Dated): unknown {
    const changes: Change[] = [];
    this.changes.set(action.id, changes);
    if (action.do === 'undo') {
      this.takeBack(action.of, changes);
      return null;
    }
    const about = aboutOf(action, () => this.all());
    // Of several, those are passed over of which the server alone knows; else it is all or nothing.
    const isOfSeveral = action.do === 'pause' || action.do === 'resume';
    let refused: unknown = null;
    for (const id of about) {
      const before = this.at(id);
      const result: Result = this.unknown.has(id)
        ? { error: new Unknown() }
        : played(this.mine, before, action, id);
      if ('error' in result) {
        if (!isOfSeveral) refused ??= result.error;
        else if (result.error instanceof Unknown) this.unknown.add(id);
      } else if (result.after !== before) changes.push({ todo: id, before, after: result.after });
    }
    if (refused) {
      changes.length = 0;
      for (const id of about) this.unknown.add(id);
    }
    for (const { todo, after } of changes) this.changed.set(todo, after);
    return refused;
  }

  private takeBack(of: string, changes: Change[]): void {
    const waiting = this.changes.get(of);
    const taken = this.said.undoable.find(({ action }) => action === of);
    const steps = waiting
      ? waiting.filter(({ todo, after }) => this.holds(todo, this.at(todo) === after))
      : (taken?.todos ?? []).filter(({ todo, isGone }) =>
          this.holds(todo, this.isAsTaken(todo, isGone ? null : taken!.version)),
        );
    for (const { todo, before } of steps) {
      changes.push({ todo, before: this.at(todo), after: before });
      this.changed.set(todo, before);
    }
    if (!waiting && !taken)
      for (const { id, lately } of this.all())
        if (lately.some(({ action }) => action === of)) this.unknown.add(id);
  }

  /** Whether a to-do is still as the server left it with a version; null: it is no more. */
  private isAsTaken(todo: string, version: number | null): boolean {
    if (this.changed.has(todo)) return false;
    return (this.said.todos[todo]?.version ?? null) === version;
  }

  /** Where something was done since, the server alone knows what follows. */
  private holds(todo: string, isLast: boolean): boolean {
    if (!isLast || this.unknown.has(todo)) {
      this.unknown.add(todo);
      return false;
    }
    return true;
  }
}

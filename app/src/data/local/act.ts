import type { Action } from '@back-again/contract';
import { CoreError, formatInstant, type Instant, type TodoView } from '@back-again/core';
import { newId } from '../ids.ts';
import type { Sync } from '../sync.ts';
import { changesOf } from './overlay.ts';
import type { Dated } from './play.ts';
import type { Looking } from './shown.ts';
import type { Local } from './slice.ts';

/** What the app works with, without its screens. */
export interface Place {
  store: { getState(): { local: Local } };
  sync: Sync;
  looking: Looking;
}

/** What a screen does: an action without its id and its moment. */
export type Draft = Action extends infer A
  ? A extends Action
    ? Omit<A, 'id' | 'at'>
    : never
  : never;

/** What came of it at once. */
export interface Acted {
  /** The id of the action, by which it can be taken back. */
  id: string;
  /** The to-dos that it changed, as they are now. */
  todos: TodoView[];
  /** The server alone knows what follows. */
  isUnknown: boolean;
}

/**
 * Does something, at once and whatever the connection: it is kept on this device, shown, and sent as
 * soon as can be. It counts from now, not from when it arrives.
 * @throws CoreError where it cannot be done; then nothing has changed
 */
export function act(
  { store, sync, looking }: Place,
  draft: Draft,
  serverNow: Instant,
  id = newId(),
): Acted {
  const { local } = store.getState();
  const mine = looking.mine(local);
  if (!mine || local.name === null)
    throw new CoreError('person.none', '', 'Your to-dos are not here yet. Try again in a moment.');
  const last = local.pending.at(-1)?.action.at;
  const now = Math.max(serverNow, last === undefined ? 0 : Date.parse(last));
  const action = { ...draft, id, at: formatInstant(now) } as Dated;
  if (action.do === 'undo' && isUnsent(looking, local, action.of)) {
    const changes = looking.overlay(local).changes.get(action.of)!;
    void sync.drop(action.of);
    return { id, todos: viewsOf(changes.map(({ key }) => key)), isUnknown: false };
  }
  const changes = changesOf(mine, looking.said(local), looking.overlay(local), action);
  void sync.add({ by: local.name, action });
  const unknown = looking.overlay(store.getState().local).unknown;
  return {
    id,
    todos: viewsOf(changes.map(({ key }) => key)),
    isUnknown: !changes.length && unknown.size > 0,
  };

  function viewsOf(ids: readonly string[]): TodoView[] {
    const after = store.getState().local;
    return ids.flatMap((todo) => {
      const state = looking.todo(after, todo);
      return state ? [looking.view(after, state, now)] : [];
    });
  }
}

/** Whether an action waits that was never sent, with nothing done after it: to take it back is to drop it. */
function isUnsent(looking: Looking, local: Local, of: string): boolean {
  const it = local.pending.find(({ action }) => action.id === of);
  if (!it || it.tried) return false;
  const changes = looking.overlay(local).changes.get(of);
  return changes?.every(({ key, after }) => looking.at(local, key) === after) ?? false;
}

import type { Action } from '@back-again/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';

/** An action that had no connection, and whose it is. */
export interface Kept {
  by: string;
  action: Action;
}

/** What is kept on this device, in order, until it is sent. */
export interface Waiting {
  kept: Kept[];
  /** What the server said of one that could not be done when it was sent at last. */
  refused: string | null;
}

const KEY = 'back-again waiting';

/** What waited when the page was left; a browser may refuse to keep anything. */
function stored(): Kept[] {
  try {
    const found: unknown = JSON.parse(globalThis.localStorage.getItem(KEY) ?? '[]');
    return Array.isArray(found) ? (found as Kept[]) : [];
  } catch {
    return [];
  }
}

export function keepWaiting(kept: readonly Kept[]): void {
  try {
    if (kept.length) globalThis.localStorage.setItem(KEY, JSON.stringify(kept));
    else globalThis.localStorage.removeItem(KEY);
  } catch {
    // Then they wait as long as the page is open.
  }
}

export const waiting = createSlice({
  name: 'waiting',
  initialState: (): Waiting => ({ kept: stored(), refused: null }),
  reducers: {
    waits(state, { payload }: PayloadAction<Kept>) {
      if (!state.kept.some(({ action }) => action.id === payload.action.id))
        state.kept.push(payload);
    },
    sent(state, { payload }: PayloadAction<string>) {
      state.kept = state.kept.filter(({ action }) => action.id !== payload);
    },
    refused(state, { payload }: PayloadAction<string | null>) {
      state.refused = payload;
    },
  },
});

/** Whether something waits that is done to a time of a to-do, or to the to-do itself. */
export function waitsFor(kept: readonly Kept[], todo: string, slot: string): boolean {
  return kept.some(
    ({ action }) =>
      ('todo' in action &&
        action.todo === todo &&
        (!('slot' in action) || action.slot === undefined || action.slot === slot)) ||
      ('times' in action && action.times.some((time) => time.todo === todo && time.slot === slot)),
  );
}

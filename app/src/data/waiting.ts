import type { Action } from '@back-again/contract';
import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { stored } from './storage.ts';

/** An action that had no connection, and whose it is. */
export interface Kept {
  by: string;
  action: Action;
}

/** What is kept on this device, in order, until it is sent. */
export interface Waiting {
  kept: Kept[];
  /** What the server said of those that could not be done when they were sent at last. */
  refused: string[];
}

/** Each has a place of its own, so that several windows do not overwrite each other's. */
const PREFIX = 'back-again waits ';
const keyOf = ({ action }: Kept) => `${PREFIX}${action.at ?? ''} ${action.id}`;

/** Where all were kept in one list, before each had a place of its own. */
const LIST = 'back-again waiting';

/** What waits on this device, in the order in which it was done. */
export function keptHere(): Kept[] {
  return stored((storage) => {
    const list = JSON.parse(storage.getItem(LIST) ?? '[]') as Kept[];
    for (const it of list) keepHere(it);
    storage.removeItem(LIST);
    const keys = Object.keys(storage).filter((key) => key.startsWith(PREFIX));
    return keys.sort().flatMap((key) => {
      const it = JSON.parse(storage.getItem(key)!) as Kept | null;
      return it ? [it] : [];
    });
  }, []);
}

/** Hears of what other windows keep and send, until it is called. */
export function onKeptElsewhere(heard: () => void): () => void {
  const listen = ({ key }: StorageEvent) => {
    if (key === null || key.startsWith(PREFIX)) heard();
  };
  globalThis.addEventListener('storage', listen);
  return () => globalThis.removeEventListener('storage', listen);
}

/**
 * Keeps one on this device, at once: what follows may be the end of the page. Where the browser refuses
 * that, it waits as long as the page is open.
 */
export function keepHere(it: Kept): void {
  stored((storage) => storage.setItem(keyOf(it), JSON.stringify(it)), undefined);
}

/** One was sent, or will never be taken: it is no longer kept. */
export function letGo(it: Kept): void {
  stored((storage) => storage.removeItem(keyOf(it)), undefined);
}

export const waiting = createSlice({
  name: 'waiting',
  initialState: (): Waiting => ({ kept: keptHere(), refused: [] }),
  reducers: {
    waits(state, { payload }: PayloadAction<Kept>) {
      if (!state.kept.some(({ action }) => action.id === payload.action.id))
        state.kept.push(payload);
    },
    sent(state, { payload }: PayloadAction<string>) {
      state.kept = state.kept.filter(({ action }) => action.id !== payload);
    },
    /** What waits is this, as another window has it. */
    shared(state, { payload }: PayloadAction<Kept[]>) {
      state.kept = payload;
    },
    refused(state, { payload }: PayloadAction<string>) {
      state.refused.push(payload);
    },
    read(state) {
      state.refused = [];
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

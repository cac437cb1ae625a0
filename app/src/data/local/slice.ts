import type {
  ActionAnswer,
  ChangesView,
  OwnState,
  PlaceState,
  TodoState,
} from '@back-again/contract';
import type { LocalDate, Settings } from '@back-again/core';
import { createEntityAdapter, createSlice, type PayloadAction } from '@reduxjs/toolkit';
import type { Undoable } from './overlay.ts';
import type { Dated } from './play.ts';
import { NO_OWN, OWN, placeKey, stateAt, type Key } from './world.ts';

/** An action that waits to be sent, and whose it is. */
export interface Pending {
  by: string;
  action: Dated;
  /** It was sent, though no answer has come: the server may have taken it. */
  tried?: boolean;
}

/** What became of an action that the server would not take. */
export interface Refusal {
  /** Of what: the title of the to-do, where that is known. */
  title: string | null;
  words: string;
  /** What was to be done, and what the server says of it, for it to be settled beside its row. */
  of?: { action: Dated; code: string; where: string };
}

/** Whether this device keeps what is shown: not without a database, or without room in it. */
export type Keeping = 'kept' | 'nothing' | 'full';

export const todos = createEntityAdapter<TodoState>();

/** A person’s to-dos on this device: what the server last said, and what waits to be sent. */
export interface Local {
  /** Whose; null where nobody’s are here. */
  name: string | null;
  /** Up to which version of theirs all is here; 0 where nothing was heard yet. */
  version: number;
  /** The server’s time when it was last heard from. */
  heardAt: string | null;
  settings: Settings | null;
  holidays: LocalDate[];
  said: ReturnType<typeof todos.getInitialState>;
  places: PlaceState[];
  own: OwnState;
  undoable: Undoable[];
  pending: Pending[];
  /** What waited and cannot be read any more. */
  aside: string[];
  refused: Refusal[];
  keeping: Keeping;
  /** Whether the last that was asked of the server found it. */
  isConnected: boolean;
  /** Whether what this device keeps was read. */
  isRead: boolean;
}

export type LocalPart = Pick<
  Local,
  'name' | 'version' | 'heardAt' | 'settings' | 'holidays' | 'undoable' | 'places' | 'own'
> & {
  /** By how many milliseconds the server’s time was ahead of this device’s. */
  aheadBy?: number | null;
};

const MOST_UNDOABLE = 40;

const initialState = (): Local => ({
  name: null,
  version: 0,
  heardAt: null,
  settings: null,
  holidays: [],
  said: todos.getInitialState(),
  places: [],
  own: NO_OWN,
  undoable: [],
  pending: [],
  aside: [],
  refused: [],
  keeping: 'kept',
  isConnected: true,
  isRead: false,
});

/** All that an answer tells of, by its key. */
const touchedBy = ({ todos: changed, removed, places = [], own }: ActionAnswer): Key[] => [
  ...changed.map(({ id }) => id),
  ...removed,
  ...places.map(({ id }) => placeKey(id)),
  ...(own ? [OWN] : []),
];

/** Puts places in, each where it was; the newer of two holds. */
function setPlaces(state: Local, places: readonly PlaceState[] = []): void {
  for (const place of places) {
    const at = state.places.findIndex(({ id }) => id === place.id);
    if (at < 0) state.places.push(place);
    else if (state.places[at]!.version <= place.version) state.places[at] = place;
  }
}

/** What is gone has no version by which to see that it changed since: that it is told of again says so. */
function touchGone(state: Local, removed: readonly string[]): void {
  for (const thing of state.undoable.flatMap(({ things }) => things))
    if (removed.includes(thing.key)) thing.isGone = false;
}

export const local = createSlice({
  name: 'local',
  initialState,
  reducers: {
    /** What this device kept of a person. */
    read(
      state,
      {
        payload,
      }: PayloadAction<{
        part: LocalPart;
        todos: TodoState[];
        pending: Pending[];
        aside: string[];
        keeping: Keeping;
      }>,
    ) {
      const { aheadBy: _ahead, ...part } = payload.part;
      Object.assign(state, part);
      todos.setAll(state.said, payload.todos);
      state.pending = payload.pending;
      state.aside = payload.aside;
      state.keeping = payload.keeping;
      state.isRead = true;
    },
    /** A page of what has changed. */
    heard(state, { payload }: PayloadAction<ChangesView & { isFirst: boolean }>) {
      if (payload.all && payload.isFirst) {
        todos.removeAll(state.said);
        state.places = [];
        state.undoable = [];
      }
      todos.setMany(state.said, payload.todos);
      todos.removeMany(state.said, payload.removed);
      touchGone(state, payload.removed);
      setPlaces(state, payload.places);
      if (payload.own) state.own = payload.own;
      if (payload.settings) state.settings = payload.settings;
      if (payload.holidays) state.holidays = [...payload.holidays];
      // Until all pages are here it is not known up to where all is.
      if (payload.next === null) state.version = payload.version;
      state.heardAt = payload.now;
      state.isConnected = true;
    },
    waits(state, { payload }: PayloadAction<Pending>) {
      if (!state.pending.some(({ action }) => action.id === payload.action.id))
        state.pending.push(payload);
    },
    tried(state, { payload }: PayloadAction<string>) {
      for (const it of state.pending) if (it.action.id === payload) it.tried = true;
    },
    /** It is not sent: it was taken back before that. */
    dropped(state, { payload }: PayloadAction<string>) {
      state.pending = state.pending.filter(({ action }) => action.id !== payload);
    },
    /** The server has done it. */
    answered(state, { payload }: PayloadAction<ActionAnswer>) {
      const { action, version } = payload;
      const isNext = version === state.version + 1;
      touchGone(state, payload.removed);
      if (isNext && action.do !== 'undo') {
        const things = touchedBy(payload).map((key) => ({
          key,
          before: stateAt({ ...state, todos: state.said.entities }, key),
          isGone: payload.removed.includes(key),
        }));
        state.undoable.push({ action: action.id, did: action.do, version, things });
        state.undoable = state.undoable.slice(-MOST_UNDOABLE);
      }
      const fresh = payload.todos.filter(
        ({ id, version: own }) => own >= (state.said.entities[id]?.version ?? 0),
      );
      todos.setMany(state.said, fresh);
      todos.removeMany(state.said, payload.removed);
      setPlaces(state, payload.places);
      if (payload.own && payload.own.version >= state.own.version) state.own = payload.own;
      if (isNext) state.version = version;
      state.pending = state.pending.filter((it) => it.action.id !== action.id);
      state.heardAt = payload.now;
      state.isConnected = true;
    },
    /** The server will never do it; what was to take it back falls away with it. */
    refused(state, { payload }: PayloadAction<{ id: string; refusal: Refusal | null }>) {
      state.pending = state.pending.filter(
        ({ action }) =>
          action.id !== payload.id && !(action.do === 'undo' && action.of === payload.id),
      );
      if (payload.refusal) state.refused.push(payload.refusal);
      state.isConnected = true;
    },
    readRefusals(state) {
      state.refused = [];
      state.aside = [];
    },
    /** One of them is settled, or let be. */
    readRefusal(state, { payload }: PayloadAction<string>) {
      state.refused = state.refused.filter(({ of }) => of?.action.id !== payload);
    },
    /** What waits is this, as another window has it. */
    shared(state, { payload }: PayloadAction<Pending[]>) {
      state.pending = payload;
    },
    connected(state, { payload }: PayloadAction<boolean>) {
      state.isConnected = payload;
    },
    keeps(state, { payload }: PayloadAction<Keeping>) {
      state.keeping = payload;
    },
    /** Nobody is signed in here. */
    left: (state) => ({ ...initialState(), keeping: state.keeping, isRead: true }),
  },
});

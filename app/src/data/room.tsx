import { createContext, useContext, useEffect, useState, type ReactNode } from 'react';
import { Provider } from 'react-redux';
import { api } from './api.ts';
import { ask } from './ask.ts';
import { makeKept } from './local/kept.ts';
import { Looking } from './local/shown.ts';
import { makeStore, type AppStore } from './store.ts';
import { Sync, type Told } from './sync.ts';

/** What the app works with: the store, what keeps it in step, and what looks at it. */
export interface Room {
  store: AppStore;
  sync: Sync;
  looking: Looking;
}

const Here = createContext<Room | null>(null);

/** The room that this part of the app is in. */
export function useRoom(): Room {
  const room = useContext(Here);
  if (!room) throw new Error('There is no room around this.');
  return room;
}

const NAME = 'back-again';

/** Lets one window of this browser at a time do something (Web Locks API). */
async function alone(work: () => Promise<void>): Promise<void> {
  const { locks } = globalThis.navigator as Partial<Navigator>;
  await (locks ? locks.request(`${NAME} turn`, work) : work());
}

function makeRoom(): Room {
  const store = makeStore();
  const channel =
    typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel(`${NAME} windows`);
  const nobody = () => void store.dispatch(api.util.invalidateTags(['Session']));
  const sync = new Sync({
    store,
    kept: makeKept(),
    ask,
    alone,
    tell: (told) => channel?.postMessage(told),
    onNobody: nobody,
    onChanges: () => void store.dispatch(api.util.invalidateTags(['Record', 'Said'])),
    onRecord: () => void store.dispatch(api.util.invalidateTags(['Past'])),
  });
  if (channel) channel.onmessage = ({ data }: MessageEvent<Told>) => sync.hear(data);
  return { store, sync, looking: new Looking() };
}

/** Puts a room of its own around the app, and reads what this device keeps. */
export function InRoom({ children }: { children: ReactNode }) {
  const [room] = useState(makeRoom);
  useEffect(() => {
    void room.sync.read();
  }, [room]);
  return (
    <Here.Provider value={room}>
      <Provider store={room.store}>{children}</Provider>
    </Here.Provider>
  );
}

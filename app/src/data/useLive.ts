import type { FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { useEffect } from 'react';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { api, errorOf } from './api.ts';
import type { AppDispatch, AppState } from './store.ts';
import { keptHere, letGo, onKeptElsewhere, waiting } from './waiting.ts';

const AGAIN = 3000;
/** What an action is answered that will never be taken. */
const REFUSED: unknown[] = [400, 403, 404, 409, 413, 415, 422];

/**
 * Keeps this window up with the others, and sends what waited once there is a connection: in order,
 * each with its own id, so that it happens once.
 */
export function useLive(name: string): void {
  useEvents();
  useSending(name);
}

/** Hears when something changed; after a bad answer it listens again. */
function useEvents(): void {
  const dispatch = useDispatch<AppDispatch>();
  useEffect(() => {
    let source: EventSource;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const listen = () => {
      source = new EventSource('/api/events');
      source.onmessage = () => void dispatch(api.util.invalidateTags(['Todos']));
      // Newer windows listen in its place: this one looks again when it is looked at.
      source.addEventListener('enough', () => source.close());
      source.onerror = () => {
        if (source.readyState !== EventSource.CLOSED) return;
        // Perhaps the session has ended elsewhere, perhaps something between did not let it through.
        dispatch(api.util.invalidateTags(['Session']));
        timer = setTimeout(listen, AGAIN);
      };
    };
    listen();
    return () => {
      clearTimeout(timer);
      source.close();
    };
  }, [dispatch]);
}

function useSending(name: string): void {
  const dispatch = useDispatch<AppDispatch>();
  const store = useStore<AppState>();
  const kept = useSelector((state: AppState) => state.waiting.kept);

  useEffect(() => onKeptElsewhere(() => dispatch(waiting.actions.shared(keptHere()))), [dispatch]);

  const some = kept.some(({ by }) => by === name);
  useEffect(() => {
    if (!some) return;
    let busy = false;
    let over = false;
    const sendAll = async () => {
      for (;;) {
        const next = store.getState().waiting.kept.find(({ by }) => by === name);
        if (!next || over) return;
        const { action } = next;
        const { error } = await dispatch(api.endpoints.act.initiate(action, { track: false }));
        // Anything but a refusal of this very action may come right by itself.
        if (error && !REFUSED.includes((error as FetchBaseQueryError).status)) return;
        letGo(next);
        dispatch(waiting.actions.sent(action.id));
        if (error) dispatch(waiting.actions.refused(errorOf(error).message));
      }
    };
    const flush = () => {
      if (busy) return;
      busy = true;
      void oneWindow(sendAll).finally(() => {
        busy = false;
      });
    };
    flush();
    const timer = setInterval(flush, AGAIN);
    globalThis.addEventListener('online', flush);
    return () => {
      over = true;
      clearInterval(timer);
      globalThis.removeEventListener('online', flush);
    };
  }, [some, name, dispatch, store]);
}

/** Lets one window of this browser send at a time, so that all goes in order (Web Locks API). */
async function oneWindow(work: () => Promise<void>): Promise<void> {
  const { locks } = globalThis.navigator as Partial<Navigator>;
  await (locks
    ? locks.request('back-again sends', { ifAvailable: true }, (lock) =>
        lock ? work() : undefined,
      )
    : work());
}

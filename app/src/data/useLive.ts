import type { FetchBaseQueryError } from '@reduxjs/toolkit/query/react';
import { useEffect } from 'react';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { api, errorOf } from './api.ts';
import type { AppDispatch, AppState } from './store.ts';
import { keepWaiting, waiting } from './waiting.ts';

const AGAIN = 3000;
/** What an action is answered that will never be taken. */
const REFUSED: unknown[] = [400, 403, 404, 409, 413, 415, 422];

/**
 * Keeps this window up with the others, and sends what waited once there is a connection: in order,
 * each with its own id, so that it happens once.
 */
export function useLive(name: string): void {
  const dispatch = useDispatch<AppDispatch>();
  const store = useStore<AppState>();
  const kept = useSelector((state: AppState) => state.waiting.kept);

  useEffect(() => {
    const source = new EventSource('/api/events');
    source.onmessage = () => void dispatch(api.util.invalidateTags(['Todos']));
    // Newer windows listen in its place: this one looks again when it is looked at.
    source.addEventListener('enough', () => source.close());
    // It was let go for good: perhaps the session has ended elsewhere.
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED) dispatch(api.util.invalidateTags(['Session']));
    };
    return () => source.close();
  }, [dispatch]);

  useEffect(() => keepWaiting(kept), [kept]);

  const some = kept.some(({ by }) => by === name);
  useEffect(() => {
    if (!some) return;
    let busy = false;
    let over = false;
    const flush = async () => {
      if (busy) return;
      busy = true;
      for (;;) {
        const next = store.getState().waiting.kept.find(({ by }) => by === name)?.action;
        if (!next || over) break;
        const { error } = await dispatch(api.endpoints.act.initiate(next, { track: false }));
        // Anything but a refusal of this very action may come right by itself.
        if (error && !REFUSED.includes((error as FetchBaseQueryError).status)) break;
        dispatch(waiting.actions.sent(next.id));
        if (error) dispatch(waiting.actions.refused(errorOf(error).message));
      }
      busy = false;
    };
    void flush();
    const timer = setInterval(() => void flush(), AGAIN);
    const online = () => void flush();
    globalThis.addEventListener('online', online);
    return () => {
      over = true;
      clearInterval(timer);
      globalThis.removeEventListener('online', online);
    };
  }, [some, name, dispatch, store]);
}

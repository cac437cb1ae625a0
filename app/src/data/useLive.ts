import { useEffect } from 'react';
import { useDispatch } from 'react-redux';
import { api } from './api.ts';
import { useRoom } from './room.tsx';
import type { AppDispatch } from './store.ts';

const AGAIN = 3000;

/** Keeps this window in step with the server and the other windows of a person. */
export function useLive(name: string): void {
  const { sync } = useRoom();
  useEffect(() => {
    void sync.begin(name);
    const look = () => {
      if (document.visibilityState === 'visible') void sync.wake();
    };
    globalThis.addEventListener('online', look);
    document.addEventListener('visibilitychange', look);
    return () => {
      sync.end();
      globalThis.removeEventListener('online', look);
      document.removeEventListener('visibilitychange', look);
    };
  }, [sync, name]);
  useEvents();
}

/** Hears when something changed, and to which version; after a bad answer it listens again. */
function useEvents(): void {
  const dispatch = useDispatch<AppDispatch>();
  const { sync } = useRoom();
  useEffect(() => {
    let source: EventSource;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const listen = () => {
      source = new EventSource('/api/events');
      source.onmessage = ({ data }) => void sync.news(Number(data));
      source.addEventListener('said', () => void dispatch(api.util.invalidateTags(['Said'])));
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
  }, [dispatch, sync]);
}

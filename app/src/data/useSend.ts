import type { Action, ActionAnswer } from '@back-again/contract';
import { useState } from 'react';
import { useDispatch, useStore } from 'react-redux';
import { errorOf, useActMutation, useSessionQuery } from './api.ts';
import { serverNow } from './serverTime.ts';
import type { AppState } from './store.ts';
import { keepHere, waiting } from './waiting.ts';

interface Failure {
  words: string;
  /** Sends the same action again, with its id, so that it happens once. */
  retry: () => void;
}

/**
 * Sends actions and keeps what failed, so that it can be sent again with the same id: it then
 * happens once, whether or not the first one had arrived.
 */
export function useSend(announce: (words: string) => void) {
  const [act, { isLoading }] = useActMutation();
  const dispatch = useDispatch();
  const store = useStore<AppState>();
  const { data: session } = useSessionQuery();
  const [failure, setFailure] = useState<Failure | null>(null);

  async function send(
    action: Action,
    say: (answer: ActionAnswer) => string,
  ): Promise<ActionAnswer | null> {
    // It counts from when it was done, not from when it arrives.
    const at = action.at ?? serverNow();
    const keep = (by: string) => {
      const it = { by, action: { ...action, at } };
      keepHere(it);
      dispatch(waiting.actions.waits(it));
      setFailure(null);
      announce('No connection: it is kept here and sent later');
      return null;
    };
    // What was done before it goes first.
    if (session && store.getState().waiting.kept.some(({ by }) => by === session.name))
      return keep(session.name);
    try {
      const answer = await act(action).unwrap();
      setFailure(null);
      announce(say(answer));
      return answer;
    } catch (error) {
      const { code, message } = errorOf(error);
      if (code === 'offline' && session) return keep(session.name);
      setFailure({ words: message, retry: () => void send({ ...action, at }, say) });
      announce(message);
      return null;
    }
  }

  return { send, busy: isLoading, failure };
}

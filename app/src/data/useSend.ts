import type { Action, ActionAnswer } from '@back-again/contract';
import { useState } from 'react';
import { errorOf, useActMutation } from './api.ts';

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
  const [failure, setFailure] = useState<Failure | null>(null);

  async function send(
    action: Action,
    say: (answer: ActionAnswer) => string,
  ): Promise<ActionAnswer | null> {
    try {
      const answer = await act(action).unwrap();
      setFailure(null);
      announce(say(answer));
      return answer;
    } catch (error) {
      const { message } = errorOf(error);
      setFailure({ words: message, retry: () => void send(action, say) });
      announce(message);
      return null;
    }
  }

  return { send, busy: isLoading, failure };
}

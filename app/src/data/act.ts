import { CoreError } from '@back-again/core';
import { useState } from 'react';
import { act, type Acted, type Draft } from './local/act.ts';
import { serverNow } from './local/time.ts';
import { useRoom } from './room.tsx';

export type { Acted, Draft } from './local/act.ts';

/** Does things, and keeps in words why the last one could not be done. */
export function useAct(announce: (words: string) => void) {
  const room = useRoom();
  const [failure, setFailure] = useState<string | null>(null);

  /** Gives what came of it; null where it could not be done. */
  function does(draft: Draft, say: (acted: Acted) => string, id?: string): Acted | null {
    try {
      const acted = act(room, draft, serverNow(), id);
      setFailure(null);
      announce(acted.isUnknown ? 'It is being done' : say(acted));
      return acted;
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      setFailure(error.message);
      announce(error.message);
      return null;
    }
  }

  return { does, failure };
}

export type Does = ReturnType<typeof useAct>['does'];

/** What was done last, in words, while it can be taken back beside them. */
export function useLast(does: Does) {
  const [last, setLast] = useState<{ action: string; words: string } | null>(null);
  const undo = () => {
    if (last && does({ do: 'undo', of: last.action }, () => 'As it was before')) setLast(null);
  };
  /** Does something, and keeps what it was; gives whether it could be done. */
  const did = (draft: Draft, words: string): boolean => {
    const acted = does(draft, () => words);
    if (acted) setLast({ action: acted.id, words });
    return acted !== null;
  };
  return { last, setLast, undo, did };
}

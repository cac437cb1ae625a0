import { useState } from 'react';
import { stored } from './storage.ts';

const KEY = 'back-again draft';

export const clearDraft = () => void stored((storage) => storage.removeItem(KEY), undefined);

/**
 * The sentence that is being written. A new one is kept in the browser until it is kept as a to-do, so
 * that neither a reload nor a session that ran out loses it. `given` goes before what was kept.
 */
export function useDraft(
  given: string | undefined,
  isNew = true,
): [string, (text: string) => void] {
  const [text, setText] = useState(() => given ?? stored((s) => s.getItem(KEY), null) ?? '');
  const write = (next: string) => {
    setText(next);
    if (!isNew) return;
    stored((storage) => (next ? storage.setItem(KEY, next) : storage.removeItem(KEY)), undefined);
  };
  return [text, write];
}

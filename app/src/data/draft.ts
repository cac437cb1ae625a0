import { useState } from 'react';

const KEY = 'back-again draft';

/** Storage that a browser may refuse: then a draft lives as long as the screen. */
function stored(work: (storage: Storage) => string | null | void): string | null {
  try {
    return work(globalThis.localStorage) ?? null;
  } catch {
    return null;
  }
}

export const clearDraft = () => void stored((storage) => storage.removeItem(KEY));

/**
 * The sentence that is being written. A new one is kept in the browser until it is kept as a to-do, so
 * that neither a reload nor a session that ran out loses it. `given` goes before what was kept.
 */
export function useDraft(
  given: string | undefined,
  isNew = true,
): [string, (text: string) => void] {
  const [text, setText] = useState(() => given ?? stored((s) => s.getItem(KEY)) ?? '');
  const write = (next: string) => {
    setText(next);
    if (!isNew) return;
    stored((storage) => (next ? storage.setItem(KEY, next) : storage.removeItem(KEY)));
  };
  return [text, write];
}

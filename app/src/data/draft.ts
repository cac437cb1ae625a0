import { useState } from 'react';
import { stored } from './storage.ts';

const KEY = 'back-again draft';

const BESIDE = 'back-again draft, beside';

export const clearDraft = () =>
  void stored((storage) => {
    storage.removeItem(KEY);
    storage.removeItem(BESIDE);
  }, undefined);

/** What stands beside the sentence that is being written, kept as that is. */
export function useBesideDraft<T extends object>(
  given: T | null,
  isNew: boolean,
): [T, (beside: T) => void] {
  const kept = (): T => {
    const text = isNew ? stored((s) => s.getItem(BESIDE), null) : null;
    try {
      return (JSON.parse(text ?? '{}') ?? {}) as T;
    } catch {
      return {} as T;
    }
  };
  const [beside, setBeside] = useState<T>(() => given ?? kept());
  const write = (next: T) => {
    setBeside(next);
    if (isNew) stored((storage) => storage.setItem(BESIDE, JSON.stringify(next)), undefined);
  };
  return [beside, write];
}

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

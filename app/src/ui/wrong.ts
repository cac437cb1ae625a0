import { createContext, useContext, useEffect, useId, useRef } from 'react';

/** A field in which something is typed that cannot be taken. */
export interface WrongField {
  label: string;
  /** What is wrong, in words. */
  words: string;
  /** Goes to it, and has it say so. */
  reach: () => void;
}

/** The fields of one form that cannot be taken, so that nothing is kept beside them in silence. */
export type Wrongs = Map<string, WrongField>;

const Context = createContext<Wrongs | null>(null);

/** Around the fields of one form. */
export const WrongFields = Context.Provider;

export const useWrongs = (): Wrongs => useRef<Wrongs>(new Map()).current;

/** Goes to the first field with something wrong in it, and gives it; null where all is well. */
export function firstWrong(wrongs: Wrongs): WrongField | null {
  const [field] = wrongs.values();
  field?.reach();
  return field ?? null;
}

/** Says to the form what is wrong with a field; null where nothing is. */
export function useWrong(label: string, words: string | null, reach: () => void): void {
  const wrongs = useContext(Context);
  const id = useId();
  useEffect(() => {
    if (!wrongs || words === null) return;
    wrongs.set(id, { label, words, reach });
    return () => void wrongs.delete(id);
  });
}

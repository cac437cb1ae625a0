/** Does something with the browser's storage, which it may refuse: then that comes to `otherwise`. */
export function stored<T>(work: (storage: Storage) => T, otherwise: T): T {
  try {
    return work(globalThis.localStorage);
  } catch {
    return otherwise;
  }
}

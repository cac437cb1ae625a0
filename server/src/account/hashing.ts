import { CoreError } from '@back-again/core';

/** So many passwords are hashed at once: each takes one of the threads that also read files. */
const AT_ONCE = 2;
/** So many more wait for their turn; who comes later is asked to try again. */
const MOST_WAITING = 20;

let busy = 0;
const waiting: (() => void)[] = [];

/**
 * Hashes a password when it is its turn.
 * @throws CoreError `session.busy` where too many wait already
 */
export async function inTurn<T>(hash: () => Promise<T>): Promise<T> {
  if (busy >= AT_ONCE) {
    if (waiting.length >= MOST_WAITING)
      throw new CoreError(
        'session.busy',
        'password',
        'Many people are signing in just now. Try again in a moment.',
      );
    await new Promise<void>((resolve) => waiting.push(resolve));
  } else busy++;
  try {
    return await hash();
  } finally {
    const next = waiting.shift();
    if (next) next();
    else busy--;
  }
}

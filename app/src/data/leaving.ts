/**
 * Signing out where there is no connection: until the server has heard of it, this device shows nothing
 * of the person.
 */

const KEY = 'back-again leaving';
/** Where a browser refuses to keep anything, for as long as the page is open. */
let here = false;

export function isLeaving(): boolean {
  try {
    return here || globalThis.localStorage.getItem(KEY) !== null;
  } catch {
    return here;
  }
}

export function setLeaving(leaving: boolean): void {
  here = leaving;
  try {
    if (leaving) globalThis.localStorage.setItem(KEY, 'yes');
    else globalThis.localStorage.removeItem(KEY);
  } catch {
    // Then it is kept as long as the page is open.
  }
}

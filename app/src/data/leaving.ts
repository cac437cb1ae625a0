import { stored } from './storage.ts';

/**
 * Signing out where there is no connection: until the server has heard of it, this device shows nothing
 * of the person.
 */

const KEY = 'back-again leaving';
/** Where a browser refuses to keep anything, for as long as the page is open. */
let here = false;

export function isLeaving(): boolean {
  return here || stored((storage) => storage.getItem(KEY) !== null, false);
}

export function setLeaving(leaving: boolean): void {
  here = leaving;
  stored((storage) => (leaving ? storage.setItem(KEY, 'yes') : storage.removeItem(KEY)), undefined);
}

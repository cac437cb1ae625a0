import { closeAhead, closeOpen } from './closing.ts';
import { openOf, type Doing } from './deeds.ts';

/** Passes a time over (R8), open or still to come. */
export const skip: Doing<'skip'> = (it, given) => {
  const open = openOf(given.now, it.slot);
  if (open) return closeOpen(given, open, 'skip');
  return it.slot === undefined ? null : closeAhead(given, it.slot, 'skip');
};

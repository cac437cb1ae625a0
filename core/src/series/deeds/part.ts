import { CoreError } from '../../errors.ts';
import type { Occurrence } from '../life/progress.ts';
import { didTo, openOf, type Doing } from './deeds.ts';

/** How much of an open time is done. */
export const part: Doing<'part'> = (it, { now }) => {
  const open = openOf(now, it.slot);
  if (!open) return null;
  const before = { ...open };
  setPart(open, it.part);
  return didTo(now, open, before);
};

function setPart(time: Occurrence, part: number): void {
  if (!Number.isInteger(part) || part < 0 || part > 99)
    throw new CoreError('part.range', 'part', 'A part is 0 to 99 in a hundred; all of it is done.');
  if (part === 0) delete time.part;
  else time.part = part;
}

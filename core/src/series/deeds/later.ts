import type { LocalMoment } from '../../calendar/time.ts';
import { parseInstant, type Instant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import { noLater } from '../life/advance.ts';
import type { Progress } from '../life/progress.ts';
import { comingAt } from '../plan/coming.ts';
import { changed, didTo, openOf, type Doing } from './deeds.ts';

const LONGEST_LATER = 366 * 86_400_000;

/** Says nothing of an open time, or of one to come, until an instant (R17). */
export const later: Doing<'later'> = (it, { planner, now, at }) => {
  const open = openOf(now, it.slot);
  if (open) {
    const before = { ...open };
    putOff(now, open.slot, it.to, at);
    return didTo(now, open, before);
  }
  if (it.slot === undefined || !comingAt(planner, now, it.slot)) return null;
  putOff(now, it.slot, it.to, at);
  return changed(now);
};

function putOff(now: Progress, slot: LocalMoment, to: string, at: Instant): void {
  const until = parseInstant(to, 'to');
  if (until <= at || until > at + LONGEST_LATER)
    throw new CoreError('later.range', 'to', 'A reminder is put off by a year at most.');
  noLater(now, slot);
  now.later = [...(now.later ?? []), { slot, to: until }];
}

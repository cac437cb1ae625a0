import { noTime, notYet } from '@back-again/contract';
import { numberOf, parseInstant, type Deed, type Instant } from '@back-again/core';
import { compute } from '../compute/compute.ts';
import { doEarlier } from './earlier.ts';
import { pastTimes, stepRow } from './steps.ts';
import { keptOf, type Todo } from './todo.ts';
import { doneAt, isPast, type Work } from './work.ts';
import { keepLately } from './write.ts';

/** One deed to one to-do that is held. */

/** Does a deed to a held to-do, after all else; gives whether it found something to be done to. */
export async function taken(work: Work, todo: Todo, deed: Deed, at: Instant): Promise<boolean> {
  const past = await pastTimes(work, todo, [{ deed, at }], true);
  const step = { key: work.id, at, deed };
  const followed = await compute('take', { todo: keptOf(todo), step, past });
  const [entry] = followed.outcome.entries;
  if (!entry) return false;
  const { before, touched } = entry;
  work.writing.step(
    stepRow(work, todo, { kind: 'deed', at, deed, before, touched, number: numberOf(entry) }),
  );
  const now = work.now();
  keepLately(todo, followed.outcome, { action: work.id, at: work.at ?? now }, now);
  work.writing.follow(todo, followed);
  return true;
}

/**
 * Does one deed to a held to-do, now or as at an earlier moment.
 * @throws CoreError `time.none` where there is nothing to do it to, `when.future`
 */
export async function doTo(
  work: Work,
  todo: Todo,
  deed: Deed,
  { when, letsGo = false }: { when?: string | undefined; letsGo?: boolean | undefined } = {},
): Promise<void> {
  const moment = doneAt(work, todo);
  const at = when === undefined ? moment : parseInstant(when, 'when');
  if (at > moment) throw notYet();
  if (isPast(todo, at) || at < moment)
    await doEarlier(work, todo, deed, at, { isSaid: when !== undefined, letsGo });
  else if (!(await taken(work, todo, deed, at))) throw noTime();
}

/** Does a deed to a to-do that has caught up, where it makes a difference; gives whether it did. */
export async function doIfAny(work: Work, todo: Todo, deed: Deed): Promise<boolean> {
  const at = doneAt(work, todo);
  return isPast(todo, at)
    ? doEarlier(work, todo, deed, at, { may: true })
    : taken(work, todo, deed, at);
}

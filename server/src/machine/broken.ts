import { checkSeries, type ChangeDeed, type Series } from '@back-again/core';
import { compute } from '../compute/compute.ts';
import { stepRow } from './steps.ts';
import { keptOf, type Todo } from './todo.ts';
import { momentOf, type Work } from './work.ts';

/** Ends a to-do that cannot be worked out: nothing comes of it any more, and nothing is asked of the core. */
export async function endBroken(work: Work, todo: Todo): Promise<void> {
  const { db, transaction } = work;
  const at = momentOf(work, todo);
  const before = todo.progress;
  todo.progress = { ...before, open: [], turns: [], stop: '', through: at };
  const step = stepRow(work, todo, { kind: 'deed', at, deed: { do: 'end' }, before });
  work.writing.step(step);
  await db.occurrences.update(
    { status: 'skipped', closedAt: new Date(at) },
    { where: { userId: work.userId, seriesId: todo.row.id, status: 'open' }, transaction },
  );
  work.writing.stand(todo, { speaksAt: null, changesAt: null, nextDue: null, ended: true });
}

/**
 * Changes a to-do that cannot be worked out: with the new definition it begins anew, from today on.
 * @throws CoreError as the check of a definition does
 */
export async function mend(work: Work, todo: Todo, series: Partial<Series>): Promise<void> {
  const { db, transaction, settings } = work;
  const at = momentOf(work, todo);
  const before = todo.progress;
  const definition = checkSeries({ ...before.series, ...series });
  const anew = await compute('begin', { series: definition, settings, now: at });
  const { number, done, lastDone, lateness } = before;
  await db.occurrences.update(
    { status: 'missed', closedAt: new Date(at) },
    { where: { userId: work.userId, seriesId: todo.row.id, status: 'open' }, transaction },
  );
  const open = anew.open.map((time, i) => ({ ...time, number: number + i }));
  todo.progress = { ...anew, open, number: number + open.length, done, lastDone, lateness };
  const deed: ChangeDeed = { do: 'change', series };
  work.writing.step(stepRow(work, todo, { kind: 'deed', at, deed, before }));
  work.writing.follow(todo, await compute('pass', { todo: keptOf(todo), to: at, from: null }));
}

import { CoreError, NO_DETAILS, checkDetails, type Details } from '@back-again/core';
import { needPlace, seriesIn, todoTaken } from '@back-again/contract';
import type { TakeInBody, TakenIn } from '@back-again/contract/doors';
import { compute } from '../compute/compute.ts';
import type { SeriesRow } from '../db/models.ts';
import { catchUpMany } from './catchUp.ts';
import { describeOne } from './describe.ts';
import { doIfAny } from './doing.ts';
import { keptPlaces } from './heldPlaces.ts';
import { stepRow } from './steps.ts';
import { freshRow, keptOf, todoOf, type Todo } from './todo.ts';
import { todayAt, upTo, type Work } from './work.ts';
import { inBatches } from '../db/batches.ts';

/** To-dos that come in with their records, all in one action. */

export type TakeIn = TakeInBody & { do: 'takeIn'; at?: string };

/** @throws CoreError `todo.taken`, `todo.none`, `place.none`, or as the core does; then nothing has changed */
export async function takeIn(
  work: Work,
  { todos }: TakeIn,
  there: readonly Todo[],
): Promise<Todo[]> {
  const byId = new Map(there.map((todo) => [todo.row.id, todo]));
  const fresh = todos.filter(({ isThere }) => !isThere);
  const known = todos.filter(({ isThere }) => isThere);
  if (new Set(todos.map(({ todo }) => todo)).size < todos.length) throw todoTaken();
  if (fresh.some(({ todo }) => byId.has(todo))) throw todoTaken();
  if (known.some(({ todo }) => !byId.get(todo) || byId.get(todo)!.row.removedAt))
    throw new CoreError(
      'todo.none',
      'todos',
      'One that was there is not there any more: look again.',
    );
  await refuseTwins(work, fresh);
  const made = await begunWith(work, fresh);
  const changed: Todo[] = [];
  for (const it of known) changed.push(await becomes(work, byId.get(it.todo)!, it));
  return [...made, ...changed];
}

/** What came in from another window meanwhile does not come in again. */
async function refuseTwins(
  { db, userId, transaction }: Work,
  fresh: readonly TakenIn[],
): Promise<void> {
  const uids = new Set(fresh.flatMap(({ details }) => (details.came ? [details.came.uid] : [])));
  if (!uids.size) return;
  const rows = await db.series.findAll({
    attributes: ['details'],
    where: { userId, removedAt: null },
    transaction,
    raw: true,
  });
  const isThere = rows.some(({ details }) => {
    const { came } = (typeof details === 'string' ? JSON.parse(details) : details) as Details;
    return came && uids.has(came.uid);
  });
  if (isThere)
    throw new CoreError('todo.here', 'todos', 'Some of it has come in meanwhile: look again.');
}

async function begunWith(work: Work, fresh: readonly TakenIn[]): Promise<Todo[]> {
  const { db, transaction, settings, writing } = work;
  const now = upTo(work);
  const places = fresh.some(({ details }) => details.place) ? await keptPlaces(work) : [];
  const today = todayAt(work, now);
  const rows: SeriesRow[] = [];
  const records = new Map<string, Awaited<ReturnType<typeof settled>>>();
  for (const it of fresh) {
    const details = { ...NO_DETAILS, ...(checkDetails(it.details) as Details) };
    needPlace(places, details.place);
    const definition = seriesIn(it.series, places, details.place, today);
    const record = await settled(work, { ...it, series: definition });
    records.set(it.todo, record);
    const begun = it.times?.length ? record.begun : null;
    rows.push(
      freshRow(work, { id: it.todo, details, definition, progress: record.begun, begun, now }),
    );
  }
  await inBatches(rows, (some) => db.series.bulkCreate(some, { transaction }));
  const made: Todo[] = [];
  for (const row of rows) {
    const todo = todoOf(row, settings);
    writing.step(stepRow(work, todo, { kind: 'create', at: now }));
    writing.follow(todo, await compute('pass', { todo: keptOf(todo), to: now, from: null }));
    writing.record(todo, records.get(row.id)!.ended);
    made.push(todo);
  }
  return made;
}

const settled = (work: Work, { series, times = [] }: Pick<TakenIn, 'series' | 'times'>) =>
  compute('settle', { settings: work.settings, series, times, now: upTo(work) });

/** One that is there becomes what it is elsewhere: what it is, when it comes back, and what was done with its times. */
async function becomes(work: Work, todo: Todo, it: TakenIn): Promise<Todo> {
  await catchUpMany(work, [todo], upTo(work));
  const { series } = todo.progress;
  if (JSON.stringify(series) !== JSON.stringify(it.series))
    await doIfAny(work, todo, { do: 'change', series: partsFrom(series, it.series) } as never);
  const said = Object.fromEntries(
    Object.entries(checkDetails(it.details)).filter(
      ([key, value]) =>
        JSON.stringify(value) !==
        JSON.stringify((todo.details as never as Record<string, unknown>)[key]),
    ),
  );
  if (Object.keys(said).length) await describeOne(work, todo, said);
  for (const time of it.times ?? []) {
    const open = todo.progress.open.find(({ slot }) => slot === time.slot);
    if (!open) continue;
    if (time.status === 'done' || time.status === 'skipped')
      await doIfAny(work, todo, { do: time.status === 'done' ? 'done' : 'skip', slot: time.slot });
    else if (time.due && time.due !== open.due)
      await doIfAny(work, todo, { do: 'move', slot: time.slot, due: time.due });
  }
  if (!work.writing.stands(todo)) await describeOne(work, todo, { title: todo.details.title });
  return todo;
}

/** The parts of a definition that become others: null takes one away. */
function partsFrom(from: object, to: object): object {
  const before = from as Record<string, unknown>;
  const after = to as Record<string, unknown>;
  const keys = [...new Set([...Object.keys(before), ...Object.keys(after)])].filter(
    (key) => JSON.stringify(before[key]) !== JSON.stringify(after[key]),
  );
  return Object.fromEntries(keys.map((key) => [key, after[key] ?? null]));
}

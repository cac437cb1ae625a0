import type { Transaction } from 'sequelize';
import { NO_PLACE, type Instant, type KeptPlace, type PlaceParts } from '@back-again/core';
import {
  followsFrom,
  placing,
  touchesTodos,
  type PlaceAction,
  type PlaceState,
} from '@back-again/contract';
import type { Database } from '../db/database.ts';
import type { PlaceRow, StepRow } from '../db/models.ts';
import { describeOne } from './describe.ts';
import { catchUpMany } from './catchUp.ts';
import { doIfAny } from './doing.ts';
import { keptOf, keptPlaces, placeRows } from './heldPlaces.ts';
import { lock } from './lock.ts';
import { say, unsay } from './saying.ts';
import { besideStep } from './steps.ts';
import type { Todo } from './todo.ts';
import { todayAt, upTo, type Work } from './work.ts';

/** Where to-dos belong: made, changed and taken away. */

/** A place as it is kept on a person’s devices. */
export const placeState = (row: PlaceRow): PlaceState => ({
  ...keptOf(row),
  version: row.version,
  describedAt: row.describedAt.getTime(),
});

/** The places of a person, those that are gone among them. */
export async function placesOf(
  db: Database,
  userId: string,
  transaction?: Transaction,
): Promise<KeptPlace[]> {
  const rows = await db.places.findAll({
    where: { userId },
    order: ['id'],
    ...(transaction ? { transaction } : {}),
  });
  return rows.map(keptOf);
}

/** Makes or changes a place, and does to the to-dos in it what follows from that; gives these. */
export async function place(work: Work, action: PlaceAction): Promise<Todo[]> {
  const at = upTo(work);
  const today = todayAt(work, at);
  const placed = placing(action, await keptPlaces(work), at, today);
  await sayOf(work, action.place, placed.parts, at);
  if (!touchesTodos(action)) return [];
  const inside = { places: [...placed.inside] };
  const { todos } = await lock(work.db, work.userId, inside, work.transaction);
  const changed: Todo[] = [];
  for (const todo of todos) {
    const { details } = todo;
    const it = { series: todo.progress.series, place: details.place };
    const follows = followsFrom(placed, action, it, today);
    if (!follows.deed && !follows.details) continue;
    // What is over by now, with nobody having looked, stays as it is.
    const { failed } = await catchUpMany(work, [todo], at);
    if (todo.row.ended) continue;
    if (follows.deed && !failed.length) await doIfAny(work, todo, follows.deed);
    if (follows.details) await describeOne(work, todo, follows.details, { holds: false });
    changed.push(todo);
  }
  return changed;
}

const NOTHING = { ...NO_PLACE, kind: 'sphere', name: '' } as const;

async function sayOf(
  work: Work,
  id: string,
  details: Partial<PlaceParts>,
  at: Instant,
): Promise<void> {
  const places = await placeRows(work);
  const row = places.get(id);
  const describedAt = row?.describedAt.getTime() ?? -Infinity;
  const about = { kind: 'place', placeId: id } as const;
  const said = { parts: row?.parts ?? NOTHING, describedAt, details, at };
  const { parts, was } = await say<PlaceParts>(work, about, said);
  const deed = { do: 'place' as const, details };
  work.writing.step(besideStep(work, { ...about, at, deed, was }));
  const now = {
    userId: work.userId,
    id,
    parts,
    describedAt: new Date(Math.max(describedAt, at)),
    createdAt: row?.createdAt ?? new Date(at),
    version: work.version,
  };
  places.set(id, now);
  work.writing.place(now);
}

/** Takes back what was said of a place in a step. */
export async function unplaceStep(work: Work, step: StepRow): Promise<void> {
  const places = await placeRows(work);
  const row = places.get(step.placeId!)!;
  const about = { kind: 'place', placeId: row.id } as const;
  const parts = await unsay<PlaceParts>(work, about, row.parts, step);
  const now = { ...row, parts, version: work.version };
  places.set(row.id, now);
  work.writing.place(now);
}

import { formatInstant, type Details, type Filled } from '@back-again/core';
import type { PastRow } from '@back-again/contract/past';
import type { Outcome } from '@back-again/core/past';
import type { Database } from '../db/database.ts';
import type { OccurrenceRow } from '../db/models.ts';
import { describedOf, hadWith } from '../machine/described.ts';
import { placesOf } from '../machine/places.ts';
import { findSeries, todoOf } from '../machine/todo.ts';
import type { Actor } from '../machine/work.ts';

/** What the places of a person are called by their ids, those that were taken away among them. */
export async function placeNames(db: Database, userId: string): Promise<Map<string, string>> {
  const places = await placesOf(db, userId);
  return new Map(places.map(({ id, name }) => [id, name]));
}

const KINDS = { calendar: 'fixed', dates: 'fixed', quota: 'fixed', completion: 'after' } as const;

/**
 * Ended times with what they were when they ended, in their order.
 * @param given what the places are called, where that is known already
 */
export async function pastRows(
  db: Database,
  { userId, settings }: Actor,
  times: readonly OccurrenceRow[],
  given?: ReadonlyMap<string, string>,
): Promise<PastRow[]> {
  if (!times.length) return [];
  const ids = [...new Set(times.map(({ seriesId }) => seriesId))];
  const series = new Map((await findSeries(db, userId, { id: ids })).map((row) => [row.id, row]));
  const details = new Map(
    [...series].map(([id, row]): [string, Details] => [id, todoOf(row, settings).details]),
  );
  const whatAt = await describedOf(db, userId, details);
  const names = given ?? (await placeNames(db, userId));
  return times.map((row) => {
    const { seriesId: todo, number, slot, due, tally, note, filled } = row;
    const of = series.get(todo)!;
    const { repeat } = of.progress.series;
    const described = whatAt(todo, row.closedAt!.getTime())!;
    return {
      todo,
      number,
      slot,
      due,
      status: row.status as Outcome,
      closedAt: formatInstant(row.closedAt!.getTime()),
      dueOn: row.dueOn!,
      doneOn: row.doneOn,
      late: row.late,
      minutes: row.minutes ?? 0,
      estimated: row.estimated ?? 0,
      title: described.details.title,
      place: row.place === null ? null : (names.get(row.place) ?? null),
      kind: repeat ? KINDS[repeat.by] : 'once',
      tally,
      quota: repeat?.by === 'quota' ? repeat.times : null,
      note,
      filled: filled as Filled | null,
      had: {
        ...hadWith(described, filled ?? undefined),
        takes: described.details.takes,
      },
      isGone: of.removedAt !== null,
    };
  });
}

import type { KeptPlace } from '@back-again/core';
import type { PlaceRow } from '../db/models.ts';
import type { Work } from './work.ts';

export const keptOf = ({ id, parts, createdAt }: PlaceRow): KeptPlace => ({
  ...parts,
  id,
  made: createdAt.getTime(),
});

/** The places of a person who is held, by their ids; those that are gone among them. */
export async function placeRows(work: Work): Promise<Map<string, PlaceRow>> {
  const { db, userId, transaction } = work;
  if (!work.places) {
    const rows = await db.places.findAll({ where: { userId }, order: ['id'], transaction });
    work.places = new Map(rows.map((row) => [row.id, row.get() as PlaceRow]));
  }
  return work.places;
}

export async function keptPlaces(work: Work): Promise<KeptPlace[]> {
  return [...(await placeRows(work)).values()].map(keptOf);
}

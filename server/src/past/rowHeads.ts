import { QueryTypes } from 'sequelize';
import type { KeptPlace, PlaceKind } from '@back-again/core';
import type { TotalsBy, TotalsRow } from '@back-again/contract/past';
import type { Database } from '../db/database.ts';
import { placesOf } from '../machine/places.ts';
import { NOTHING } from './sums.ts';

/** How the rows of totals are called, and in which of them what belonged to a place or a to-do stands. */

export type RowHead = Pick<TotalsRow, 'key' | 'name' | 'under' | 'isGone'>;
type ByNames = Exclude<TotalsBy, 'week' | 'month' | 'year'>;
type Places = ReadonlyMap<string, KeptPlace>;

/** The rows of each place or to-do, by its id: one, or one for each of its tags. */
export async function headsOf(
  db: Database,
  userId: string,
  by: ByNames,
  ids: readonly string[],
): Promise<Map<string, readonly RowHead[]>> {
  const rows = await placesOf(db, userId);
  const places = new Map(rows.map((place) => [place.id, place]));
  if (by === 'todo' || by === 'tag') return todoHeads(db, userId, by, places, ids);
  const kinds: readonly PlaceKind[] = by === 'place' ? ['project', 'strand', 'sphere'] : [by];
  const heads = new Map<string, RowHead>();
  return new Map(
    ids.map((id) => {
      const place = holderOf(places, id, kinds);
      const key = place?.id ?? NOTHING;
      const head = heads.get(key) ?? {
        key,
        ...headingOf(places, by, place),
        isGone: place?.gone ?? false,
      };
      heads.set(key, head);
      return [id, [head]];
    }),
  );
}

/** A place itself, or the next one that holds it, of one of these kinds. */
function holderOf(places: Places, id: string, kinds: readonly PlaceKind[]): KeptPlace | null {
  const met = new Set<string>();
  for (let at = places.get(id); at && !met.has(at.id); at = places.get(at.in ?? '')) {
    if (kinds.includes(at.kind)) return at;
    met.add(at.id);
  }
  return null;
}
const sphereOf = (places: Places, id: string) => holderOf(places, id, ['sphere']);

/** What a row is called, and under which sphere it stands: what belongs to a sphere itself, under it too. */
function headingOf(
  places: Places,
  by: TotalsBy,
  place: KeptPlace | null,
): Pick<RowHead, 'name' | 'under'> {
  if (!place)
    return { name: by === 'project' || by === 'strand' ? `In no ${by}` : 'Unsorted', under: null };
  const { name, kind, id } = place;
  if (by === 'sphere') return { name, under: null };
  if (kind === 'sphere') return { name: `${name} itself`, under: name };
  return { name, under: sphereOf(places, id)?.name ?? null };
}

async function todoHeads(
  db: Database,
  userId: string,
  by: 'todo' | 'tag',
  places: Places,
  ids: readonly string[],
): Promise<Map<string, readonly RowHead[]>> {
  if (!ids.length) return new Map();
  const rows = await db.sequelize.query<{
    id: string;
    title: string;
    place: string | null;
    isGone: number;
    tags: string | string[] | null;
  }>(
    `SELECT id, title, place, removedAt IS NOT NULL AS isGone,
        JSON_EXTRACT(details, '$.tags') AS tags
      FROM series WHERE userId = :userId AND id IN (:ids)`,
    { type: QueryTypes.SELECT, replacements: { userId, ids } },
  );
  const tagged = new Map<string, RowHead>();
  const tagHead = (tag: string | null): RowHead => {
    const key = tag === null ? NOTHING : `tag ${tag.toLocaleLowerCase('en')}`;
    const head = tagged.get(key) ?? {
      key,
      name: tag ?? 'Without a tag',
      under: null,
      isGone: false,
    };
    tagged.set(key, head);
    return head;
  };
  return new Map(
    rows.map(({ id, title, place, isGone, tags }) => {
      if (by === 'todo') {
        const under = place === null ? null : (sphereOf(places, place)?.name ?? null);
        return [id, [{ key: id, name: title, under, isGone: Boolean(isGone) }]];
      }
      const all = typeof tags === 'string' ? (JSON.parse(tags) as string[]) : (tags ?? []);
      return [id, (all.length ? all : [null]).map(tagHead)];
    }),
  );
}

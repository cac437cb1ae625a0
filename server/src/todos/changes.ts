import { Op, type WhereOptions } from 'sequelize';
import { formatInstant, type Instant } from '@back-again/core';
import type { ChangesView } from '@back-again/contract';
import { holidaysFor } from '../compute/holidays.ts';
import type { Database } from '../db/database.ts';
import type { SeriesRow, UserRow } from '../db/models.ts';
import { ownStateOf } from '../machine/own.ts';
import { placeState } from '../machine/places.ts';
import { stateOf, todoOf } from '../machine/todo.ts';

/** So many to-dos are on a page. */
const PAGE = 1000;

/**
 * What has changed of a person since a version; all that there is since 0, and where the version is
 * none of theirs. A page begins behind the to-do `after`.
 */
export async function changesView(
  db: Database,
  user: UserRow,
  now: Instant,
  { since, after }: { since: number; after?: string | null | undefined },
): Promise<ChangesView> {
  // The version is read before the rows: what changes meanwhile is sent once more the next time.
  const { version, settings, settingsVersion } = user;
  const all = since === 0 || since > version;
  const asked: WhereOptions<SeriesRow> = all
    ? { removedAt: null }
    : { version: { [Op.gt]: since } };
  const rows = await db.series.findAll({
    attributes: { exclude: ['definition'] },
    where: { [Op.and]: [{ userId: user.id }, asked, after ? { id: { [Op.gt]: after } } : {}] },
    order: [['id', 'ASC']],
    limit: PAGE,
    raw: true,
  });
  const isFirst = !after;
  const placeRows = isFirst
    ? await db.places.findAll({
        where: { userId: user.id, ...(all ? {} : { version: { [Op.gt]: since } }) },
        order: ['id'],
      })
    : [];
  const isThere = (row: SeriesRow) => row.removedAt === null;
  return {
    version,
    now: formatInstant(now),
    all,
    ...(isFirst && (all || settingsVersion > since)
      ? { settings, holidays: holidaysFor(settings) }
      : {}),
    ...(placeRows.length ? { places: placeRows.map(placeState) } : {}),
    ...(isFirst && (all || user.ownVersion > since)
      ? {
          own: ownStateOf(user),
        }
      : {}),
    todos: rows.filter(isThere).map((row) => stateOf(todoOf(row, settings), now)),
    removed: rows.filter((row) => !isThere(row)).map(({ id }) => id),
    next: rows.length === PAGE ? rows.at(-1)!.id : null,
  };
}

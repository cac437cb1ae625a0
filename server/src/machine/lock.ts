import { QueryTypes, type Transaction } from 'sequelize';
import { noTodo, type KeptBundle } from '@back-again/contract';
import { CoreError, type Above, type Settings } from '@back-again/core';
import type { Database } from '../db/database.ts';
import type { SeriesRow } from '../db/models.ts';
import { readyFor } from '../compute/compute.ts';
import { todoOf, type Todo } from './todo.ts';

/** A person who is held, so that their changes are in one order, with some of their to-dos. */
export interface Locked {
  /** Their version before this change. */
  version: number;
  settings: Settings;
  /** What is in sight and above all. */
  own: Own;
  todos: Todo[];
}

/** What belongs to a person themselves. */
export interface Own {
  focus: string | null;
  focusAt: Date | null;
  above: Above[];
  bundles: KeptBundle[];
}

type Row = Omit<SeriesRow, 'version'> & {
  userVersion: number;
  userSettings: string | Settings;
  userFocus: string | null;
  userFocusAt: Date | null;
  userAbove: string | Above[] | null;
  userBundles: string | KeptBundle[] | null;
  version: number | null;
};

const given = <T>(json: string | T): T =>
  typeof json === 'string' ? (JSON.parse(json) as T) : json;

/** To-dos by their ids, all that have not ended, or those of them in some places. */
export type Which = readonly string[] | 'all' | { places: readonly string[] };

/**
 * Holds a person and some of their to-dos, or all that have not ended, in one order for everyone: the
 * person first, then to-dos by their ids.
 * @throws CoreError `todo.none` where one of them is not there
 */
export async function lock(
  db: Database,
  userId: string,
  ids: Which,
  transaction: Transaction,
  { withRemoved = false, mayBeMissing = false } = {},
): Promise<Locked> {
  const wanted = typeof ids === 'string' || 'places' in ids ? null : [...new Set(ids)];
  const places = typeof ids !== 'string' && 'places' in ids ? ids.places : null;
  const those = wanted
    ? `s.id IN (:ids)${withRemoved ? '' : ' AND s.removedAt IS NULL'}`
    : `s.removedAt IS NULL AND s.ended = FALSE${places ? ' AND s.place IN (:places)' : ''}`;
  const rows = await db.sequelize.query<Row>(
    `SELECT u.version AS userVersion, u.settings AS userSettings,
        u.focus AS userFocus, u.focusAt AS userFocusAt, u.above AS userAbove,
        u.bundles AS userBundles, s.*
      FROM users u LEFT JOIN series s ON s.userId = u.id AND ${those}
      WHERE u.id = :userId ORDER BY s.id FOR UPDATE`,
    {
      replacements: {
        userId,
        ids: wanted?.length ? wanted : [''],
        places: places?.length ? places : [''],
      },
      type: QueryTypes.SELECT,
      transaction,
    },
  );
  const [first] = rows;
  if (!first) throw new CoreError('person.none', '', 'There is no such account any more.');
  const settings = given(first.userSettings);
  await readyFor(settings);
  const todos = rows
    .filter(({ id }) => id !== null)
    .map(
      ({
        userVersion: _v,
        userSettings: _s,
        userFocus: _f,
        userFocusAt: _a,
        userAbove: _b,
        userBundles: _u,
        ...row
      }) =>
        todoOf(
          {
            ...row,
            version: row.version!,
            details: given(row.details),
            definition: given(row.definition),
            progress: given(row.progress),
            lately: row.lately && given(row.lately),
            begun: row.begun && given(row.begun),
            ended: Boolean(row.ended),
          },
          settings,
        ),
    );
  if (wanted && todos.length !== wanted.length && !mayBeMissing) throw noTodo();
  const own = {
    focus: first.userFocus,
    focusAt: first.userFocusAt,
    above: first.userAbove === null ? [] : given(first.userAbove),
    bundles: first.userBundles === null ? [] : given(first.userBundles),
  };
  return { version: first.userVersion, settings, own, todos };
}

import { QueryTypes, type Transaction } from 'sequelize';
import { CoreError, type Settings } from '@back-again/core';
import type { Database } from '../db/database.ts';
import type { SeriesRow } from '../db/models.ts';
import { readyFor } from '../compute/compute.ts';
import { todoOf, type Todo } from './todo.ts';

/** A person who is held, so that their changes are in one order, with some of their to-dos. */
export interface Locked {
  /** Their version before this change. */
  version: number;
  settings: Settings;
  todos: Todo[];
}

type Row = Omit<SeriesRow, 'version'> & {
  userVersion: number;
  userSettings: string | Settings;
  version: number | null;
};

const given = <T>(json: string | T): T =>
  typeof json === 'string' ? (JSON.parse(json) as T) : json;

/**
 * Holds a person and some of their to-dos, or all that have not ended, in one order for everyone: the
 * person first, then to-dos by their ids.
 * @throws CoreError `todo.none` where one of them is not there
 */
export async function lock(
  db: Database,
  userId: string,
  ids: readonly string[] | 'all',
  transaction: Transaction,
  { withRemoved = false, mayBeMissing = false } = {},
): Promise<Locked> {
  const wanted = ids === 'all' ? null : [...new Set(ids)];
  const those = wanted
    ? `s.id IN (:ids)${withRemoved ? '' : ' AND s.removedAt IS NULL'}`
    : 's.removedAt IS NULL AND s.ended = FALSE';
  const rows = await db.sequelize.query<Row>(
    `SELECT u.version AS userVersion, u.settings AS userSettings, s.*
      FROM users u LEFT JOIN series s ON s.userId = u.id AND ${those}
      WHERE u.id = :userId ORDER BY s.id FOR UPDATE`,
    {
      replacements: { userId, ids: wanted?.length ? wanted : [''] },
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
    .map(({ userVersion: _version, userSettings: _settings, ...row }) =>
      todoOf(
        {
          ...row,
          version: row.version!,
          details: given(row.details),
          definition: given(row.definition),
          progress: given(row.progress),
          lately: row.lately && given(row.lately),
          ended: Boolean(row.ended),
        },
        settings,
      ),
    );
  if (wanted && todos.length !== wanted.length && !mayBeMissing)
    throw new CoreError('todo.none', 'todo', 'There is no such to-do.');
  return { version: first.userVersion, settings, todos };
}

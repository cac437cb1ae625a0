import { QueryTypes } from 'sequelize';
import type { Database } from '../db/database.ts';

/** The places that a person's to-dos belong to, in alphabetical order, each once. */
export async function placesOf(db: Database, userId: string): Promise<string[]> {
  const rows = await db.sequelize.query<{ place: string }>(
    `SELECT DISTINCT JSON_VALUE(progress, '$.series.place') AS place
     FROM series WHERE userId = :userId AND removedAt IS NULL
     HAVING place IS NOT NULL ORDER BY place`,
    { replacements: { userId }, type: QueryTypes.SELECT },
  );
  return rows.map(({ place }) => place);
}

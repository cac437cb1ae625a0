import { QueryTypes } from 'sequelize';
import type { Database } from './database.ts';

/** By how many milliseconds a clock is ahead of the database's; half of the way there and back is allowed for. */
export async function skewOf(
  { sequelize }: Pick<Database, 'sequelize'>,
  own: () => number,
): Promise<number> {
  const before = own();
  const [row] = await sequelize.query<{ at: string }>(
    "SELECT DATE_FORMAT(UTC_TIMESTAMP(3), '%Y-%m-%dT%H:%i:%s.%fZ') AS at",
    { type: QueryTypes.SELECT },
  );
  const theirs = Date.parse(row!.at.replace(/\d{3}Z$/u, 'Z'));
  return Math.round((before + own()) / 2 - theirs);
}

import { Op, type Transaction } from 'sequelize';
import type { Database } from './database.ts';

/** What has been taken of a limit. */
export interface Taken {
  /** Whether there was enough left. */
  isWithin: boolean;
  left: number;
  /** After so many milliseconds it begins anew. */
  ms: number;
}

/** So much of something in so many seconds, by a key: kept in the database, so that it holds for all servers. */
export interface Limit {
  take(key: string): Promise<Taken>;
  /** Gives back what was taken. */
  giveBack(key: string): Promise<void>;
  /** How much is left, with nothing taken. */
  look(key: string): Promise<Taken>;
}

/** Counts by one machine's clock go on by another's: they differ by seconds, the spans are minutes. */
export function makeLimit(db: Database, prefix: string, points: number, seconds: number): Limit {
  const nameOf = (key: string) => `${prefix} ${key}`.slice(0, 255);
  const taken = (used: number, ends: number): Taken => ({
    isWithin: used <= points,
    left: Math.max(0, points - used),
    ms: Math.max(0, ends - Date.now()),
  });
  async function look(key: string, transaction?: Transaction): Promise<Taken> {
    const row = await db.limits.findOne({
      where: { name: nameOf(key), ends: { [Op.gt]: Date.now() } },
      ...(transaction ? { transaction } : {}),
    });
    return row ? taken(row.points, row.ends) : taken(0, Date.now() + seconds * 1000);
  }
  return {
    async take(key) {
      const now = Date.now();
      return db.transaction(async (transaction) => {
        // What has run out begins anew, in the one statement that adds to it.
        await db.sequelize.query(
          `INSERT INTO limits (name, points, ends) VALUES (:name, 1, :ends) ON DUPLICATE KEY UPDATE
            points = IF(ends <= :now, 1, points + 1), ends = IF(ends <= :now, :ends, ends)`,
          { replacements: { name: nameOf(key), now, ends: now + seconds * 1000 }, transaction },
        );
        // While the row is held: what others take at the same time counts for them, and not for this one.
        return look(key, transaction);
      });
    },
    async giveBack(key) {
      await db.transaction((transaction) =>
        db.limits.decrement('points', {
          by: 1,
          where: { name: nameOf(key), points: { [Op.gt]: 0 } },
          transaction,
        }),
      );
    },
    look: (key) => look(key),
  };
}

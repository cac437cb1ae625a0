import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import { QueryTypes, type Sequelize } from 'sequelize';

/** For how long a turn is somebody's, by the database's clock, in seconds; whoever has it makes it longer. */
const LASTS = 60;
const RENEWED = (LASTS * 1000) / 3;
const LOOKED_FOR = 250;

/**
 * Does something that one server at a time may do, whichever node of the database it asks: a turn is a row that is
 * taken by compare-and-set, and no lock, which one node alone would know of. That of a server that was killed is
 * over a minute later.
 */
export async function inTurn<T>(
  sequelize: Sequelize,
  name: string,
  work: () => Promise<T>,
): Promise<T> {
  const holder = randomUUID();
  const set = async (sql: string): Promise<boolean> => {
    const [, changed] = await sequelize.query(sql, {
      type: QueryTypes.UPDATE,
      replacements: { name, holder },
    });
    return changed > 0;
  };
  await sequelize.query(
    'CREATE TABLE IF NOT EXISTS turns (name VARCHAR(40) PRIMARY KEY, holder CHAR(36) NOT NULL, until DATETIME(3) NOT NULL)',
  );
  await sequelize.query("INSERT IGNORE INTO turns VALUES (:name, '', '2000-01-01')", {
    replacements: { name },
  });
  const until = `UTC_TIMESTAMP(3) + INTERVAL ${LASTS} SECOND`;
  const taken = `UPDATE turns SET holder = :holder, until = ${until} WHERE name = :name AND until < UTC_TIMESTAMP(3)`;
  while (!(await set(taken))) await wait(LOOKED_FOR);
  const renewing = setInterval(() => {
    // Where it fails the next one may do; until then it is still this one's.
    set(`UPDATE turns SET until = ${until} WHERE name = :name AND holder = :holder`).catch(
      () => undefined,
    );
  }, RENEWED);
  renewing.unref();
  try {
    return await work();
  } finally {
    clearInterval(renewing);
    await set(
      "UPDATE turns SET holder = '', until = '2000-01-01' WHERE name = :name AND holder = :holder",
    );
  }
}

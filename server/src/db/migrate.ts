import { QueryTypes, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { first } from './migrations/0001-first.ts';
import { speakingUp } from './migrations/0002-speaking-up.ts';
import { itHolds } from './migrations/0003-it-holds.ts';
import { bothSides } from './migrations/0004-both-sides.ts';
import { whenAndWhat } from './migrations/0005-when-and-what.ts';
import { belongings } from './migrations/0006-belongings.ts';
import { files } from './migrations/0007-files.ts';
import { bundles } from './migrations/0008-bundles.ts';
import { doors } from './migrations/0010-doors.ts';
import { leases } from './migrations/0011-leases.ts';
import { past } from './migrations/0009-past.ts';

/** Brings the tables to the state that this version needs; gives the names of the steps it took. */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  const umzug = new Umzug({
    migrations: [
      first,
      speakingUp,
      itHolds,
      bothSides,
      whenAndWhat,
      belongings,
      files,
      bundles,
      past,
      doors,
      leases,
    ],
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  });
  // One server at a time: the lock belongs to the transaction's connection and ends with it.
  return sequelize.transaction(async (transaction) => {
    const query = (sql: string) => sequelize.query(sql, { type: QueryTypes.SELECT, transaction });
    await query("SELECT GET_LOCK('back-again-migrate', 60)");
    try {
      const done = await umzug.up();
      return done.map(({ name }) => name);
    } finally {
      await query("SELECT RELEASE_LOCK('back-again-migrate')");
    }
  });
}

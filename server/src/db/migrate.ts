import { QueryTypes, type Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { inTurn } from './turn.ts';
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
import { reach } from './migrations/0012-reach.ts';
import { past } from './migrations/0009-past.ts';

/** Every step from the first form to this one, in order. */
const STEPS = [
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
  reach,
];
const TABLE = 'migrations';

/** The steps that a database has taken, and those that this program knows, by their names in order. */
export async function formsOf(sequelize: Sequelize): Promise<{ done: string[]; known: string[] }> {
  const known = STEPS.map(({ name }) => name);
  const tables = await sequelize.query(
    'SELECT 1 FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = :table',
    { type: QueryTypes.SELECT, replacements: { table: TABLE } },
  );
  if (!tables.length) return { done: [], known };
  const rows = await sequelize.query<{ name: string }>(`SELECT name FROM ${TABLE} ORDER BY name`, {
    type: QueryTypes.SELECT,
  });
  return { done: rows.map(({ name }) => name), known };
}

/** Brings the tables to the state that this version needs; gives the names of the steps it took. */
export async function migrate(sequelize: Sequelize): Promise<string[]> {
  const umzug = new Umzug({
    migrations: STEPS,
    context: sequelize,
    storage: new SequelizeStorage({ sequelize, tableName: TABLE }),
    logger: undefined,
  });
  return inTurn(sequelize, 'migrate', async () => (await umzug.up()).map(({ name }) => name));
}

import connectSessionSequelize from 'connect-session-sequelize';
import session from 'express-session';
import { DataTypes, Op, type Model, type ModelStatic } from 'sequelize';
import type { Database } from '../store/database.ts';

interface SessionRow {
  sid: string;
  data: string;
  expires: Date;
}
type Rows = ModelStatic<Model<SessionRow, Partial<SessionRow>> & SessionRow>;
type Got = (error: unknown, session?: session.SessionData | null) => void;

/** Where sessions are kept. One that has expired is none, whenever it is swept away. */
export interface Sessions {
  store: session.Store;
  /** Those of these sessions that are still there. */
  alive(ids: readonly string[]): Promise<Set<string>>;
  stop(): void;
}

export function makeSessions(db: Database, lasts: number): Sessions {
  const SequelizeStore = connectSessionSequelize(session.Store);
  const rows = db.sequelize.define(
    'sessions',
    {
      sid: { type: DataTypes.STRING(64), primaryKey: true },
      expires: DataTypes.DATE,
      data: DataTypes.TEXT,
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    },
    { timestamps: true },
  ) as unknown as Rows;
  const valid = (sid: string | readonly string[]) => ({
    where: { sid: sid as string, expires: { [Op.gt]: new Date() } },
  });
  class Store extends SequelizeStore {
    override get(sid: string, done: Got): void {
      rows.findOne(valid(sid)).then(
        (row) => done(null, row ? (JSON.parse(row.data) as session.SessionData) : null),
        (error: unknown) => done(error),
      );
    }
  }
  const store = new Store({ db: db.sequelize, table: 'sessions', expiration: lasts });
  return {
    store,
    async alive(ids) {
      const found = await rows.findAll({ attributes: ['sid'], ...valid(ids) });
      return new Set(found.map(({ sid }) => sid));
    },
    stop: () => store.stopExpiringSessions(),
  };
}

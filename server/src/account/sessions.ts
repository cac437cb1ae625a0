import { createHash } from 'node:crypto';
import connectSessionSequelize from 'connect-session-sequelize';
import session from 'express-session';
import { DataTypes, Op, QueryTypes, type Model, type ModelStatic } from 'sequelize';
import type { Database } from '../db/database.ts';
import type { UserRow } from '../db/models.ts';
import { userById } from './users.ts';

interface SessionRow {
  sid: string;
  userId: string | null;
  data: string;
  expires: Date;
  createdAt: Date;
  updatedAt: Date;
}
type Rows = ModelStatic<Model<SessionRow, Partial<SessionRow>> & SessionRow>;
type Got = (error: unknown, session?: session.SessionData | null) => void;

/** Where sessions are kept. One that has expired is none, whenever it is swept away. */
export interface Sessions {
  store: session.Store;
  /** Whose session it is, as they were when it was read; null where they are no more. */
  userOf(sid: string, id: string): Promise<UserRow | null>;
  /** Those of these sessions that are still there. */
  alive(ids: readonly string[]): Promise<Set<string>>;
  /** Those of a person that have not expired, the last used first. */
  of(userId: string): Promise<Pick<SessionRow, 'sid' | 'data' | 'createdAt' | 'updatedAt'>[]>;
  /** Ends the sessions of a person, but one; gives those that ended. */
  end(userId: string, keeps: string | null): Promise<string[]>;
  /** Ends one. */
  endOne(sid: string): Promise<void>;
  stop(): void;
}

/** The name by which a session is told apart from others: not the one that opens it. */
export const sessionName = (sid: string) =>
  createHash('sha256').update(`session ${sid}`).digest('hex').slice(0, 32);

const DAY = 86_400_000;
/** However much it is used, a session ends after this (OWASP ASVS 5.0, 7.3.2). */
const LONGEST = 180 * DAY;
const oldest = () => new Date(Date.now() - LONGEST);
/** So many sessions are remembered from one moment to the next. */
const MOST_READ = 1000;

interface Found {
  data: string;
  expires: Date;
  user: UserRow | null;
}

/** A session that has not expired, with its person: in one statement, as each request needs it. */
async function withUser(db: Database, sid: string): Promise<Found | null> {
  const [row] = await db.sequelize.query<Partial<UserRow> & { data: string; expires: Date }>(
    `SELECT s.data AS data, s.expires AS expires, u.* FROM sessions s LEFT JOIN users u ON u.id = s.userId
      WHERE s.sid = :sid AND s.expires > :now AND s.createdAt > :since`,
    { replacements: { sid, now: new Date(), since: oldest() }, type: QueryTypes.SELECT },
  );
  if (!row) return null;
  const { data, expires, ...user } = row;
  return { data, expires, user: user.id ? db.users.build(user, { raw: true }).get() : null };
}

export function makeSessions(db: Database, lasts: number): Sessions {
  const SequelizeStore = connectSessionSequelize(session.Store);
  const rows = db.sequelize.define(
    'sessions',
    {
      sid: { type: DataTypes.STRING(64), primaryKey: true },
      userId: DataTypes.CHAR(36),
      expires: DataTypes.DATE,
      data: DataTypes.TEXT,
      createdAt: DataTypes.DATE,
      updatedAt: DataTypes.DATE,
    },
    { timestamps: true },
  ) as unknown as Rows;
  const valid = (sid: string | readonly string[]) => ({
    where: {
      sid: sid as string,
      expires: { [Op.gt]: new Date() },
      createdAt: { [Op.gt]: oldest() },
    },
  });
  // Who is signed out of a device is told nothing there any more; one whose session only ran out is.
  const endDevices = (sids: readonly string[]) =>
    db.devices.destroy({ where: { session: sids.map((sid) => sessionName(sid)) } });
  /** What was read last of each session. */
  const read = new Map<string, Found>();
  class Store extends SequelizeStore {
    override get(sid: string, done: Got): void {
      withUser(db, sid).then(
        (found) => {
          if (found) read.set(sid, found);
          else read.delete(sid);
          if (read.size > MOST_READ) read.delete(read.keys().next().value!);
          done(null, found && (JSON.parse(found.data) as session.SessionData));
        },
        (error: unknown) => done(error),
      );
    }
    override destroy(sid: string, done?: (error?: unknown) => void): void {
      super.destroy(sid, (failed?: unknown) => {
        endDevices([sid]).then(
          () => done?.(failed),
          (error: unknown) => done?.(error),
        );
      });
    }
  }
  const store = new Store({
    db: db.sequelize,
    table: 'sessions',
    expiration: lasts,
    extendDefaultFields: (fields: object, data: session.SessionData) => ({
      ...fields,
      userId: data.userId ?? null,
    }),
  });
  const { touch } = store;
  // That it goes on is written down once a day.
  store.touch = (sid: string, data: session.SessionData, done?: (error?: unknown) => void) => {
    const { expires } = data.cookie;
    const found = read.get(sid);
    const isNew = expires && found && new Date(expires).getTime() - found.expires.getTime() < DAY;
    if (isNew) done?.();
    else touch.call(store, sid, data, done);
  };
  return {
    store,
    async userOf(sid, id) {
      const { user = null } = read.get(sid) ?? {};
      return user?.id === id ? user : userById(db, id);
    },
    async alive(ids) {
      const found = await rows.findAll({ attributes: ['sid'], ...valid(ids) });
      return new Set(found.map(({ sid }) => sid));
    },
    async of(userId) {
      return rows.findAll({
        where: {
          userId,
          expires: { [Op.gt]: new Date() },
          createdAt: { [Op.gt]: oldest() },
        },
        order: [['updatedAt', 'DESC']],
      });
    },
    async end(userId, keeps) {
      const found = await rows.findAll({ attributes: ['sid'], where: { userId } });
      const ended = found.map(({ sid }) => sid).filter((sid) => sid !== keeps);
      await rows.destroy({ where: { sid: ended } });
      await endDevices(ended);
      for (const sid of ended) read.delete(sid);
      // As it is with the person has changed for the one that goes on.
      if (keeps !== null) read.delete(keeps);
      return ended;
    },
    async endOne(sid) {
      await rows.destroy({ where: { sid } });
      await endDevices([sid]);
      read.delete(sid);
    },
    stop: () => store.stopExpiringSessions(),
  };
}

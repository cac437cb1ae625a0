import { UniqueConstraintError } from 'sequelize';
import { CoreError, formatInstant, type Instant } from '@back-again/core';
import type { SessionsView } from '@back-again/contract/doors';
import type { Database } from '../db/database.ts';
import type { UserRow } from '../db/models.ts';
import { sessionName, type Sessions } from './sessions.ts';
import { hashPassword, plainName, userWith } from './users.ts';
import { needUncommon } from './commonest.ts';

/** What a person does to their account itself: always with the password of now. */

const WRONG = () => new CoreError('password.wrong', 'old', 'That is not your password.');

/** @throws CoreError `password.wrong` */
export async function needPassword(db: Database, user: UserRow, password: string): Promise<void> {
  if (!(await userWith(db, user.name, password))) throw WRONG();
}

/** Changes the password; all other sessions end. Gives those that ended. */
export async function changePassword(
  db: Database,
  sessions: Sessions,
  user: Pick<UserRow, 'id' | 'name'>,
  password: string,
  keeps: string | null,
): Promise<string[]> {
  needUncommon(password, user.name);
  await db.users.update({ passwordHash: await hashPassword(password) }, { where: { id: user.id } });
  return sessions.end(user.id, keeps);
}

/**
 * Changes the address; all other sessions end.
 * @throws CoreError `name.taken`
 */
export async function changeAddress(
  db: Database,
  sessions: Sessions,
  user: UserRow,
  name: string,
  keeps: string,
): Promise<string[]> {
  try {
    await db.users.update({ name: plainName(name) }, { where: { id: user.id } });
  } catch (error) {
    if (error instanceof UniqueConstraintError)
      throw new CoreError('name.taken', 'name', 'There is an account with that address already.');
    throw error;
  }
  return sessions.end(user.id, keeps);
}

/** Removes the account with everything in it, sessions too: nothing of it is left. */
export async function removeAccount(
  db: Database,
  sessions: Sessions,
  id: string,
): Promise<string[]> {
  const ended = await sessions.end(id, null);
  await db.users.destroy({ where: { id } });
  return ended;
}

export async function sessionsView(
  sessions: Sessions,
  userId: string,
  current: string,
): Promise<SessionsView> {
  const rows = await sessions.of(userId);
  return {
    sessions: rows.map(({ sid, data, createdAt, updatedAt }) => ({
      id: sessionName(sid),
      isThis: sid === current,
      device: deviceIn(data),
      since: formatInstant(createdAt.getTime() as Instant),
      seen: formatInstant(updatedAt.getTime() as Instant),
    })),
  };
}

function deviceIn(data: string): string {
  const { device } = JSON.parse(data) as { device?: unknown };
  return typeof device === 'string' ? device : 'A device';
}

/** What kind of device asks, in words: no more of it is kept. */
export const deviceOf = (agent: string | undefined): string =>
  agent === undefined ? 'A device' : /Mobi|Android|iPhone/u.test(agent) ? 'A phone' : 'A computer';

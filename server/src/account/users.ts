import { randomBytes, randomUUID, scrypt, type ScryptOptions } from 'node:crypto';
import { promisify } from 'node:util';
import { UniqueConstraintError, type Transaction } from 'sequelize';
import { CoreError, nextOverview, type Instant, type Settings } from '@back-again/core';
import { isSameBytes } from '../sameBytes.ts';
import type { Database } from '../db/database.ts';
import { TIDY_EVERY } from '../upkeep/reach.ts';
import { needUncommon } from './commonest.ts';
import { inTurn } from './hashing.ts';
import type { UserRow } from '../db/models.ts';

// scrypt with 32 MiB and 3 lanes: OWASP Password Storage Cheat Sheet, scrypt (N=2^15, r=8, p=3).
const COST = { N: 2 ** 15, r: 8, p: 3, maxmem: 64 * 1024 * 1024 };
const KEY_LENGTH = 32;

const scrypted = promisify<string, Buffer, number, ScryptOptions, Buffer>(scrypt);

const derive = (password: string, salt: Buffer): Promise<Buffer> =>
  inTurn(() => scrypted(password.normalize('NFKC'), salt, KEY_LENGTH, COST));

/** A hash of a password with its salt: `scrypt$salt$key`, in base64. */
export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  const key = await derive(password, salt);
  return `scrypt$${salt.toString('base64')}$${key.toString('base64')}`;
}

async function fits(password: string, hash: string): Promise<boolean> {
  const [, salt, key] = hash.split('$');
  const wanted = Buffer.from(key ?? '', 'base64');
  const got = await derive(password, Buffer.from(salt ?? '', 'base64'));
  return isSameBytes(wanted, got);
}

const nobody = hashPassword(randomBytes(16).toString('hex'));

/** A name as it is kept and compared. */
export const plainName = (name: string) => name.trim().toLowerCase();

/**
 * Makes an account.
 * @throws CoreError `name.taken`, `password.common`
 */
export async function addUser(
  db: Database,
  {
    name,
    password,
    settings,
    now,
  }: { name: string; password: string; settings: Settings; now: number },
): Promise<UserRow> {
  needUncommon(password, plainName(name));
  try {
    const user = await db.users.create({
      id: randomUUID(),
      name: plainName(name),
      passwordHash: await hashPassword(password),
      settings,
      createdAt: new Date(now),
      overviewAt: overviewAfter(settings, now),
      tidyAt: new Date(now + TIDY_EVERY),
    });
    return user;
  } catch (error) {
    if (error instanceof UniqueConstraintError)
      throw new CoreError('name.taken', 'name', 'There is an account with that address already.');
    throw error;
  }
}

/** The user with that name and password, or null. It takes as long whether the name exists or not. */
export async function userWith(
  db: Database,
  name: string,
  password: string,
): Promise<UserRow | null> {
  const user = await userNamed(db, name);
  const right = await fits(password, user?.passwordHash ?? (await nobody));
  return user && right ? user : null;
}

/** When the next morning overview of a person is said; null where they want none. */
export function overviewAfter(settings: Settings, now: Instant): Date | null {
  const next = nextOverview(settings, now);
  return next && new Date(next.at);
}

export function userById(
  db: Database,
  id: string,
  transaction?: Transaction,
): Promise<UserRow | null> {
  return db.users.findByPk(id, { transaction: transaction ?? null });
}

export function userNamed(db: Database, name: string): Promise<UserRow | null> {
  return db.users.findOne({ where: { name: plainName(name) } });
}

export async function renameUser(db: Database, id: string, name: string): Promise<void> {
  await db.users.update({ name: plainName(name) }, { where: { id } });
}

/** Removes an account with everything that belongs to it. */
export async function removeUser(db: Database, id: string): Promise<void> {
  await db.users.destroy({ where: { id } });
}

import { connect } from 'node:net';
import { statfs } from 'node:fs/promises';
import { createTransport } from 'nodemailer';
import { QueryTypes } from 'sequelize';
import type { Config } from '../config.ts';
import { openDatabase, type Database } from '../db/database.ts';
import { skewOf } from '../db/skew.ts';
import { isHere, placeOf } from '../db/hosts.ts';
import { formsOf } from '../db/migrate.ts';

/** One thing that was looked at, in words. */
export interface Finding {
  what: string;
  isWell: boolean;
  /** What is so, and where it is not well, what to do. */
  words: string;
}

/** The oldest database that the program is tried with. */
const OLDEST = [10, 6] as const;
/** Clocks that differ by less agree, in milliseconds. */
const CLOSE = 5_000;
/** Less room than this is too little, in bytes. */
const LEAST_ROOM = 500e6;
/** How long anything that is asked may take, in milliseconds. */
const PATIENCE = 5_000;

/**
 * Looks a set-up over: each part in words, those that depend on the database only where it answers. Changes
 * nothing, sends nothing, and says no secret.
 * @param dataFolder where the data lies, where the database is the program's own; null for one elsewhere
 */
export async function examine(config: Config, dataFolder: string | null): Promise<Finding[]> {
  const db = openDatabase(config.databaseUrl);
  const findings: Finding[] = [];
  const look = async (what: string, at: () => Promise<Omit<Finding, 'what'>>) => {
    try {
      findings.push({ what, ...(await at()) });
    } catch (error) {
      findings.push({ what, isWell: false, words: wordsOf(error) });
    }
    return findings.at(-1)!.isWell;
  };
  try {
    if (await look('The database', () => version(db))) {
      await look('Its form', () => form(db));
      await look('The clocks', () => clocks(db));
    }
    await look('The way to it', () => Promise.resolve(way(config)));
    await look('The secret', () => Promise.resolve(secret(config)));
    if (dataFolder !== null) await look('Room on the disk', () => room(dataFolder));
    await look('E-mail', () => mail(config));
    await look('Text messages', () => text(config));
    await look('Closed windows', () => push(config, db, findings[0]!.isWell));
    await look('The address', () => Promise.resolve(address(config)));
  } finally {
    await db.close();
  }
  return findings;
}

const well = (words: string) => ({ isWell: true, words });
const wrong = (words: string) => ({ isWell: false, words });

async function asked<T>(db: Database, sql: string): Promise<T> {
  const [row] = await db.sequelize.query<T & object>(sql, { type: QueryTypes.SELECT });
  return row!;
}

async function version(db: Database) {
  const { version: found } = await asked<{ version: string }>(db, 'SELECT VERSION() AS version');
  const [major = 0, minor = 0] = found.split('.').map((part) => parseInt(part, 10));
  const isOld = major < OLDEST[0] || (major === OLDEST[0] && minor < OLDEST[1]);
  if (!/mariadb/iu.test(found)) return wrong(`${found} answers, and is no MariaDB.`);
  return isOld
    ? wrong(`MariaDB ${found} answers; ${OLDEST.join('.')} is the oldest that is tried.`)
    : well(`MariaDB ${found} answers.`);
}

function way({ databaseUrl }: Config) {
  const place = placeOf(databaseUrl);
  if (isHere(place)) return well('The database is on this machine: nothing goes over a network.');
  if (place.tls) return well('By TLS alone, to hosts that show their certificate.');
  return place.tls === false
    ? well('Not encrypted, as tls=0 says: the network between is yours alone.')
    : wrong(
        'What goes to the database is not encrypted: add ?tls=1 to DATABASE_URL, or ?tls=/folder/ca.pem with the authority of its certificate; ?tls=0 where the network between is yours alone.',
      );
}

async function form(db: Database) {
  const { done, known } = await formsOf(db.sequelize);
  const later = done.filter((name) => !known.includes(name));
  const left = known.filter((name) => !done.includes(name));
  if (later.length)
    return wrong(`A later Back Again has been here (${later.join(', ')}): start that one.`);
  if (!done.length) return well('Empty: the tables are made at the next start.');
  return left.length
    ? wrong(`${left.length} steps are to come (${left.join(', ')}): the next start takes them.`)
    : well(`Up to date, at ${done.at(-1)}.`);
}

async function clocks(db: Database) {
  const ahead = await skewOf(db, Date.now);
  const apart = `${(Math.abs(ahead) / 1000).toFixed(1)} s`;
  return Math.abs(ahead) <= CLOSE
    ? well(`This machine and the database are ${apart} apart.`)
    : wrong(
        `This machine is ${apart} ${ahead > 0 ? 'ahead of' : 'behind'} the database: set one of the two clocks by NTP.`,
      );
}

function secret({ sessionSecret }: Config) {
  return sessionSecret.length < 32
    ? wrong('SESSION_SECRET is short: take 32 random characters or more, the same on every server.')
    : well('Set, and long enough. Where several servers run, each needs this same one.');
}

async function room(folder: string) {
  const { bavail, bsize } = await statfs(folder);
  const free = bavail * bsize;
  const words = `${(free / 1e9).toFixed(1)} GB are free where the data lies.`;
  return free < LEAST_ROOM ? wrong(`${words} Make room before it is full.`) : well(words);
}

async function mail({ mail: config }: Config) {
  if (!config) return well('Stays with the stand-in: SMTP_URL is not set.');
  const transport = createTransport({
    url: config.url,
    connectionTimeout: PATIENCE,
    greetingTimeout: PATIENCE,
    socketTimeout: PATIENCE,
  });
  try {
    await transport.verify();
    return well(`The mail server answers and lets us in; mail comes from ${config.from}.`);
  } finally {
    transport.close();
  }
}

async function text({ text: config }: Config) {
  if (!config) return well('Stay with the stand-in: TEXT_URL is not set.');
  return well(`${await reachedAt(config.url)} can be reached. Nothing was sent.`);
}

/** The services of the devices that are told: so many of them are asked. */
const MOST_SERVICES = 3;

async function push({ push: config }: Config, db: Database, hasDatabase: boolean) {
  if (!config) return well('Not reached: PUSH_CONTACT is not set.');
  if (!hasDatabase) return well(`Devices are told; their services turn to ${config.contact}.`);
  const last = { attributes: ['endpoint'], order: [['createdAt', 'DESC'] as [string, string]] };
  // Where the tables are not made yet there is none; what is wrong with them is said of the form.
  const rows = await db.devices.findAll({ ...last, limit: 100 }).catch(() => []);
  const services = [...new Set(rows.map(({ endpoint }) => new URL(endpoint).origin))];
  if (!services.length) return well('Devices can be told; none is so far.');
  const hosts = await Promise.all(services.slice(0, MOST_SERVICES).map(reachedAt));
  return well(`${hosts.join(', ')} can be reached. Nothing was sent.`);
}

/** Gives the host of an address that somebody listens at. */
async function reachedAt(url: string): Promise<string> {
  const { hostname, port, protocol } = new URL(url);
  await reached(hostname, Number(port) || (protocol === 'https:' ? 443 : 80));
  return hostname;
}

function address({ publicUrl, secure, host }: Config) {
  const isOwn = host === '127.0.0.1' || host === 'localhost';
  if (secure && !publicUrl?.startsWith('https:'))
    return wrong(
      'SECURE=1 is set without an https address in PUBLIC_URL: links in messages would lead nowhere.',
    );
  if (!secure && !isOwn)
    return wrong(`It listens on ${host} without SECURE=1: put a proxy with HTTPS before it.`);
  return well(publicUrl ?? 'This machine alone: PUBLIC_URL is not set.');
}

/** Whether somebody listens there; nothing is said to them. */
function reached(host: string, port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    const socket = connect({ host, port, timeout: PATIENCE });
    const end = (error?: Error) => {
      socket.destroy();
      if (error) reject(error);
      else resolve();
    };
    socket.once('connect', () => end());
    socket.once('timeout', () => end(new Error(`${host}:${port} does not answer.`)));
    socket.once('error', end);
  });
}

/** What a driver says may name the user and the statement: its code is enough. */
function wordsOf(error: unknown): string {
  const { original, code, message } = error as {
    original?: { code?: string };
    code?: string;
    message?: string;
  };
  const why = original?.code ?? code;
  return why ? `Cannot be reached (${why}).` : (message ?? 'Cannot be reached.');
}

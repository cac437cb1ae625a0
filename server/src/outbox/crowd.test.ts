import { Op } from 'sequelize';
import { parseInstant, type Later } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { makeClock } from '../clock/clock.ts';
import { systemNow, type Now } from '../clock/now.ts';
import { logFor } from '../log.ts';
import type { Database } from '../db/database.ts';
import { percentile } from '../testing/acting.ts';
import { makeCrowd, until } from '../testing/crowd.ts';
import { spawnServer, type ServerProcess } from '../testing/process.ts';
import { makeLinks } from '../finish/links.ts';
import { makeSender } from './sender.ts';
import { makeStandIn } from './standIn.ts';

// Many reminders within a minute, two servers on one database, of which now the one and now the other is
// killed and started anew, and a stand-in that fails one in ten and loses some of its answers.
// REMINDERS names how many in a long run, which says how many a second were written and how late; SPREAD
// within how many milliseconds they fall due, a minute where it is not named.

const REMINDERS = Number(process.env.REMINDERS ?? 240);
const SPREAD = process.env.REMINDERS ? Number(process.env.SPREAD ?? 60_000) : 4000;
const BORN = parseInstant('2027-06-01T10:00:00Z');
const FIRST = parseInstant('2027-06-12T09:00:00Z');
/** So long before the first reminder the servers are started. */
const STARTING = process.env.REMINDERS ? 10_000 : 4000;
const PEOPLE = 8;
/** How many milliseconds the stand-in takes for each message. */
const TAKES = Number(process.env.TAKES ?? 20);

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/**
 * Kills one of the servers at random moments and starts it anew, until it is stopped; gives how often. In
 * a short run a moment is when so many reminders were written, so that there is one for sure.
 */
function makeKiller(servers: ServerProcess[], start: () => Promise<ServerProcess>, db: Database) {
  let stopped = false;
  let kills = 0;
  const done = (async () => {
    while (!stopped || !kills) {
      const some = Math.min(REMINDERS, Math.floor((Math.random() * REMINDERS) / 2) * (kills + 1));
      if (process.env.REMINDERS) await wait(300 + Math.random() * Math.max(5000, 15 * TAKES));
      else await until(async () => Math.max(0, some - (await db.notices.count())));
      if (stopped && kills) return;
      const i = Math.floor(Math.random() * servers.length);
      await servers[i]!.kill();
      kills++;
      servers[i] = await start();
    }
  })();
  return {
    async stop() {
      stopped = true;
      await done;
      return kills;
    },
  };
}

const sender = (db: Database, at: Now) =>
  makeSender({
    db,
    now: at,
    log: logFor('silent'),
    carrier: makeStandIn(db, at),
    links: makeLinks('for tests alone'),
    base: () => 'http://127.0.0.1',
  });

async function written(db: Database) {
  const notices = await db.notices.findAll({ order: ['seq'] });
  const messages = await db.messages.findAll();
  const arrivals = await db.arrivals.findAll();
  return { notices, messages, arrivals };
}

test('two servers, either killed at random moments, a failing stand-in: each reminder exactly once', async () => {
  const slot = '2027-06-12';
  const definition = read(`Send the log on ${slot}`, '2027-06-01').series;
  const each = REMINDERS / PEOPLE;
  const { db, url, series } = await makeCrowd(
    {
      people: PEOPLE,
      each,
      born: BORN,
      settings: { channels: ['email'] },
      user: { standIn: { failsOneIn: 10, doublesOneIn: 20, delay: 0 } },
    },
    (i) => {
      const later: Later[] = [{ slot, to: FIRST + Math.floor((i * SPREAD) / REMINDERS) }];
      return { definition, progress: { later } };
    },
  );
  // Every to-do first opens, which is not measured.
  const before = systemNow();
  before.set(FIRST - 1);
  await makeClock(db, before, logFor('silent')).tick();
  expect(await db.notices.count()).toBe(0);
  const ahead = FIRST - STARTING - Date.now();
  const now = () => Date.now() + ahead;
  const start = () => spawnServer(url, { ahead }, { STAND_IN_TAKES: String(TAKES) });
  const servers: ServerProcess[] = [];
  try {
    servers.push(await start(), await start());
    const spare = FIRST - now();
    if (spare > 0) await wait(spare);
    const killer = makeKiller(servers, start, db);
    await until(async () => REMINDERS - (await db.notices.count()));
    const said = now();
    const waiting = () => db.messages.count({ where: { nextTryAt: { [Op.ne]: null } } });
    // The few that failed again and again are tried after minutes only.
    const soon = () =>
      db.messages.count({ where: { nextTryAt: { [Op.lt]: new Date(now() + 60_000) } } });
    if (process.env.REMINDERS) await until(soon);
    const kills = await killer.stop();
    expect(kills).toBeGreaterThan(0);
    // Tries that are still to come are not waited for: they are made at once, some hours later.
    for (const server of servers.splice(0)) await server.kill();
    for (let tries = 1; await waiting(); tries++) {
      before.set(now() + tries * 3600_000);
      await sender(db, before).tick();
    }

    const { notices, messages, arrivals } = await written(db);
    expect(notices).toHaveLength(REMINDERS);
    expect(new Set(notices.map((it) => it.seriesId))).toEqual(new Set(series.keys()));
    expect(messages).toHaveLength(REMINDERS);
    expect(new Set(messages.map((it) => it.noticeId))).toEqual(new Set(notices.map((it) => it.id)));
    expect(messages.filter((it) => it.state !== 'sent')).toEqual([]);
    expect(arrivals).toHaveLength(REMINDERS);
    expect(new Set(arrivals.map((it) => it.messageId))).toEqual(
      new Set(messages.map((it) => it.id)),
    );
    expect(messages.filter((it) => it.tries > 1).length).toBeGreaterThan(0);
    expect(notices.filter((it) => it.saidAt < it.at)).toEqual([]);

    if (!process.env.REMINDERS) return;
    const at = new Map(notices.map((it) => [it.id, it.at.getTime()]));
    const late = notices.map((it) => it.saidAt.getTime() - it.at.getTime()).sort((a, b) => a - b);
    const handed = messages
      .map((it) => it.settledAt!.getTime() - at.get(it.noticeId)!)
      .sort((a, b) => a - b);
    const show = (all: readonly number[]) =>
      [0.5, 0.99, 1].map((share) => `${percentile(all, share)} ms`).join(', ');
    process.stdout.write(
      `${REMINDERS} reminders in ${SPREAD} ms, ${kills} kills: ` +
        `${Math.round(REMINDERS / ((said - FIRST) / 1000))} a second written, ` +
        `late at the median, the 99th percentile and most: written ${show(late)}, handed over ${show(handed)}\n`,
    );
  } finally {
    for (const server of servers) await server.kill();
    await db.close();
  }
}, 1_700_000);

import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { makeAgreement } from './clock/agreement.ts';
import { makeClock, type Clock } from './clock/clock.ts';
import type { Loop } from './clock/loop.ts';
import { systemNow, type Now } from './clock/now.ts';
import type { Config } from './config.ts';
import { makeResets } from './account/forgotten.ts';
import { makeLinks, withLinks } from './finish/links.ts';
import { makeSender, type Sender } from './outbox/sender.ts';
import { makeStandIn } from './outbox/standIn.ts';
import { Refused, byChannel, type Carrier } from './outbox/carrier.ts';
import { makeMail } from './outbox/mail.ts';
import { makePush } from './outbox/push.ts';
import { makeText } from './outbox/text.ts';
import { pushKeys } from './push/keys.ts';
import type { Linked } from './demo/said.ts';
import { loadDemo } from './demo/load.ts';
import { makeApp } from './http/app.ts';
import { logFor } from './log.ts';
import { restMachine, startMachine } from './compute/compute.ts';
import { makeMetrics } from './operator/metrics.ts';
import { openDatabase, type Database } from './db/database.ts';
import { migrate } from './db/migrate.ts';
import { makeUpkeep } from './upkeep/upkeep.ts';

export interface Running {
  url: string;
  db: Database;
  now: Now;
  clock: Clock;
  sender: Sender;
  upkeep: Loop;
  stop(): Promise<void>;
}

/** How long a connection rests before it is closed, in milliseconds. */
const KEPT_OPEN = 75_000;

/** How often those that rest are looked for as the server stops, in milliseconds. */
const SWEEP = 50;

/** Where devices are told no more: those that were kept before get nothing. */
const noPush: Carrier = {
  send: () => Promise.reject(new Refused('This installation does not reach closed windows.')),
};

/** Migrates the database, starts the clock, and listens. */
export async function startServer(config: Config): Promise<Running> {
  const log = logFor(config.log);
  const db = openDatabase(config.databaseUrl);
  const now = systemNow(config.testShift);
  now.set(config.testNow);
  await migrate(db.sequelize);
  startMachine();
  const agreement = makeAgreement(db, now, log);
  if (config.compareClocks) {
    await agreement.ask();
    agreement.start();
  }
  const clock = makeClock(db, now, log);
  const links = makeLinks(config.sessionSecret);
  let url = '';
  const base = () => config.publicUrl ?? url;
  const standIn = makeStandIn(db, now, config.standInTakes);
  const carrier = byChannel({
    email: config.mail ? makeMail(config.mail) : standIn,
    text: config.text ? makeText(config.text, now) : standIn,
    push: config.push ? makePush(config.push, await pushKeys(db)) : noPush,
  });
  const resets = makeResets({ db, secret: config.sessionSecret, carrier, base });
  const metrics = makeMetrics(db);
  const sender = makeSender({
    said: metrics.said,
    db,
    now,
    log,
    carrier,
    links,
    base,
  });
  const { app, live, close } = makeApp({
    ...{ config, db, clock, agreement, sender, links, resets, metrics, now, log },
  });
  db.report = (todo, error) => log.error({ todo, err: error }, 'a to-do could not be worked out');
  db.onSaid = (userId) => {
    live.said(userId);
    sender.wake();
  };
  const server = await new Promise<Server>((resolve, reject) => {
    const listening = app.listen(config.port, config.host, () => resolve(listening));
    listening.once('error', reject);
  });
  // A connection that rests is kept longer than browsers and proxies keep theirs: else one is closed while it is being written to.
  server.keepAliveTimeout = KEPT_OPEN;
  server.headersTimeout = KEPT_OPEN + 5_000;
  const { port } = server.address() as AddressInfo;
  url = `http://${config.host === '0.0.0.0' ? 'localhost' : config.host}:${port}`;
  const linked: Linked = (message, seriesId) => withLinks(message, seriesId, links, base());
  if (config.demo && (await loadDemo(db, now(), linked))) log.info('the demo data is made');
  const upkeep = makeUpkeep(db, now, log);
  clock.start();
  upkeep.start();
  sender.start();
  return {
    url,
    sender,
    db,
    now,
    clock,
    upkeep,
    async stop() {
      const closed = new Promise((resolve) => server.close(resolve));
      close();
      agreement.stop();
      // One that is answered just now rests a moment later, and would keep the server up as long as it rests.
      const sweeping = setInterval(() => server.closeIdleConnections(), SWEEP);
      await clock.stop();
      await sender.stop();
      await upkeep.stop();
      carrier.close?.();
      await closed;
      clearInterval(sweeping);
      await db.close();
      await restMachine();
    },
  };
}

import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { Op, QueryTypes } from 'sequelize';
import { parseInstant } from '@back-again/core';
import { startCluster, type Cluster } from '../../../../scripts/lib/galera.mjs';
import { Acting, faultsOf, percentile } from '../../testing/acting.ts';
import { certificateIn } from '../../testing/certificate.ts';
import { spawnProxy, spawnServer, type ServerProcess } from '../../testing/process.ts';
import { openDatabase, type Database } from '../database.ts';
import { placeOf } from '../hosts.ts';

// Nodes of MariaDB Galera Cluster, two servers and a proxy: people act at random and are reminded while each node, each
// server and the proxy are killed and come back. Each server writes to a node of its own. Each answered action is kept
// once, no person’s order is broken, each reminder is said once, and the record is what the core alone gives. The
// clocks of the servers are ten seconds apart.

const START = parseInstant('2027-06-01T10:00:00Z');
const TODAY = '2027-06-01';

/** How it is rehearsed. */
export interface Plan {
  people: number;
  /** How long people act before, between and after the kills, in milliseconds. */
  span: number;
  /** How long they act to be measured, without kills; 0: nothing is measured. */
  measured: number;
  /** Which nodes and which servers are killed, one after another; the proxy always is, at last. */
  nodes: readonly number[];
  servers: readonly number[];
  /** Whether the servers ask the nodes by TLS. */
  byTls?: boolean;
}

interface Stand {
  cluster: Cluster;
  servers: ServerProcess[];
  /** The proxy, where people ask. */
  proxy: [ServerProcess];
  db: Database;
  ahead: number;
  stop(): Promise<void>;
}

/** Starts so many nodes, two servers and the proxy. */
async function stand(nodes: number, byTls = false): Promise<Stand> {
  const folder = mkdtempSync(join(tmpdir(), 'back-again-cluster-'));
  const tls = byTls ? await certificateIn(folder, 'nodes') : null;
  const cluster = await startCluster(folder, nodes, { tls, tests: true });
  const ahead = START - Date.now();
  const servers = [
    await spawnServer(cluster.urlFrom(0), { ahead }),
    await spawnServer(cluster.urlFrom(1), { ahead: ahead + 10_000 }),
  ];
  const proxy: [ServerProcess] = [await spawnProxy(servers)];
  const db = openDatabase(cluster.url);
  return {
    ...{ cluster, servers, proxy, db, ahead },
    async stop() {
      await Promise.all([...servers, ...proxy].map((it) => it.kill()));
      await db.close();
      await cluster.stop();
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

/** So many people have two windows. */
const TWO_WINDOWS = 3;
/** So soon after a kill everybody who is left answers, in milliseconds. */
const SOON = 10_000;

/** One of the nodes by itself. */
function openNode(url: string, n: number): Database {
  const { hosts, user, password, name } = placeOf(url);
  const { host, port } = hosts[n]!;
  return openDatabase(`mariadb://${user}:${password}@${host}:${port}/${name}`);
}

/** Holds that a reading at a node that is behind waits for what was answered at another. */
async function holdReading({ cluster, servers }: Stand, person: Acting): Promise<void> {
  const { sequelize, close } = openNode(cluster.url, 1);
  // Held so, a node takes part and puts nothing in place (MariaDB manual, FLUSH TABLES WITH READ LOCK; Galera desyncs it).
  const held = await sequelize.transaction();
  await sequelize.query('FLUSH TABLES WITH READ LOCK', { transaction: held });
  const usual = person.servers;
  person.servers = [servers[0]!];
  const { length } = person.answered;
  while (person.answered.length === length) await person.act();
  person.servers = [servers[1]!];
  const look = person.lookForNew();
  await wait(500);
  await sequelize.query('UNLOCK TABLES', { transaction: held });
  await held.rollback();
  await look;
  person.servers = usual;
  await close();
}

/** Holds that each server that runs answers again, and has its database. */
async function goesOn(servers: readonly ServerProcess[]): Promise<void> {
  const end = Date.now() + SOON;
  const isWell = ({ url }: ServerProcess) =>
    fetch(`${url}/api/health`).then(
      ({ ok }) => ok,
      // One that was killed: nobody listens.
      () => true,
    );
  for (const server of servers)
    while (!(await isWell(server))) {
      if (Date.now() > end)
        throw new Error(`${server.url} has no database, ${SOON} ms after a kill.`);
      await wait(100);
    }
}

const portOf = ({ url }: ServerProcess) => new URL(url).port;
const clockText = (minute: number) =>
  `${10 + Math.floor(minute / 60)}:${String(minute % 60).padStart(2, '0')}`;

/** Lets people act for a while, and then look for half of it; gives what it came to in words. */
async function measured(people: readonly Acting[], ms: number): Promise<string> {
  const counted = async (
    span: number,
    took: (person: Acting) => number[],
    go: (person: Acting, isOver: () => boolean) => Promise<void>,
  ) => {
    const before = people.map((person) => took(person).length);
    const end = Date.now() + span;
    await Promise.all(people.map((person) => go(person, () => Date.now() > end)));
    const all = people.flatMap((it, i) => took(it).slice(before[i])).sort((a, b) => a - b);
    const rate = (all.length / (span / 1000)).toFixed(0);
    return `${rate} a second, half of them within ${percentile(all, 0.5)} ms, 99 in a hundred within ${percentile(all, 0.99)} ms`;
  };
  const acts = await counted(
    ms,
    ({ took }) => took,
    (person, isOver) => person.actUntil(isOver),
  );
  const looks = await counted(
    ms / 2,
    ({ looked }) => looked,
    async (person, isOver) => {
      while (!isOver()) await person.lookForNew();
    },
  );
  return `actions: ${acts}; looks: ${looks}`;
}

/** The checksum of each table on each node: all the same, whatever a node had missed. */
async function sumsOf(url: string): Promise<string[]> {
  const sums: string[] = [];
  for (const n of placeOf(url).hosts.keys()) {
    const one = openNode(url, n);
    await one.sequelize.query('SET SESSION wsrep_sync_wait = 1');
    const tables = Object.values(one.sequelize.models).map((it) => String(it.getTableName()));
    const rows = await one.sequelize.query<{ Checksum: number }>(
      `CHECKSUM TABLE ${tables.join(', ')}`,
      { type: QueryTypes.SELECT },
    );
    sums.push(rows.map(({ Checksum }) => Checksum).join(' '));
    await one.close();
  }
  return sums;
}

/** Lets people act while parts are killed and come back, and holds what was kept. */
export async function rehearse(plan: Plan) {
  const { people: n, span, measured: ms, nodes, servers: killedServers } = plan;
  const it = await stand(3, plan.byTls);
  const { cluster, servers, proxy, db, ahead } = it;
  const now = () => Date.now() + ahead;
  const say = (words: string) => process.stdout.write(`${words}\n`);
  try {
    const people = Array.from({ length: n }, (_, i) => new Acting(proxy, i + 1, now));
    // Reminders fall due every minute for as long as people act, and a little longer.
    // One span before each kill, one until what was killed comes back, one at the end.
    const spans = (nodes.length + killedServers.length + 1) * 2 + 1;
    const minutes = Math.ceil((spans * span + ms) / 60_000) + 1;
    const first = 2 + Math.ceil(n / 10);
    const reminders = Array.from({ length: minutes }, (_, i) => {
      const at = clockText(first + i);
      return `Send the log ${i} today at ${at}, remind me at ${at}`;
    });
    for (const person of people) {
      await person.begin(TODAY, 3, reminders);
      await person.byEmail();
    }
    await holdReading(it, people[0]!);
    if (ms) say(`Three nodes: ${await measured(people, ms)}`);
    const before = people.map(({ took }) => took.length);
    let isOver = false;
    // A few have a second window too: the same person acts at two servers, and so at two nodes, at once.
    const acting = Promise.all([
      ...people.map((person) => person.actUntil(() => isOver, 4)),
      ...people.slice(0, TWO_WINDOWS).map((person) => person.actBeside(() => isOver)),
    ]).finally(() => (isOver = true));
    const killed = async (kill: () => Promise<void>, start: () => Promise<void>) => {
      // Somebody was not answered any more.
      if (isOver) return;
      await wait(span);
      await kill();
      // Whoever is left answers again while that is still away.
      if (kill !== killProxy) await goesOn(servers);
      // The proxy has nothing beside it that could answer: it comes back at once.
      await wait(kill === killProxy ? 1000 : span);
      await start();
    };
    const killProxy = () => proxy[0].kill();
    const rehearsal = (async () => {
      for (const i of nodes) await killed(cluster.nodes[i]!.kill, cluster.nodes[i]!.start);
      for (const i of killedServers)
        await killed(
          () => servers[i]!.kill(),
          async () => {
            const again = { ahead: ahead + i * 10_000 };
            const from = cluster.urlFrom(i);
            servers[i] = await spawnServer(from, again, { PORT: portOf(servers[i]!) });
          },
        );
      await killed(killProxy, async () => {
        proxy[0] = await spawnProxy(servers, portOf(proxy[0]));
      });
      if (!isOver) await wait(span);
    })().finally(() => (isOver = true));
    // What is killed comes back before it is all stopped, also where something is wrong.
    const ends = await Promise.allSettled([acting, rehearsal]);
    for (const end of ends) if (end.status === 'rejected') throw end.reason;
    const took = people.flatMap((person, i) => person.took.slice(before[i])).sort((a, b) => a - b);
    say(
      `With the kills: ${took.length} actions answered, 99 in a hundred within ${percentile(took, 0.99)} ms, the longest ${took.at(-1)} ms`,
    );

    // Each reminder that has fallen due is said, and sent, within two minutes.
    const due = reminders.filter((_, i) => START + (first + i) * 60_000 <= now());
    const owed = due.length * n;
    const settled = async () => {
      const [said, waiting] = await Promise.all([
        db.notices.count(),
        db.messages.count({ where: { nextTryAt: { [Op.ne]: null } } }),
      ]);
      return said >= owed && waiting === 0;
    };
    const end = Date.now() + 120_000;
    while (!(await settled()) && Date.now() < end) await wait(500);
    const notices = await db.notices.findAll();
    const messages = await db.messages.findAll();
    const arrivals = await db.arrivals.findAll();
    const late = notices.map((one) => one.saidAt.getTime() - one.at.getTime());
    say(
      `${notices.length} reminders of ${owed} that were due, the latest after ${Math.max(0, ...late)} ms; handed over again: ${arrivals.reduce((sum, { copies }) => sum + copies - 1, 0)}`,
    );
    expect(notices.length).toBeGreaterThanOrEqual(owed);
    if (span >= 20_000) expect(owed).toBeGreaterThan(0);
    expect(new Set(notices.map((one) => `${one.seriesId} ${one.mark}`)).size).toBe(notices.length);
    expect(messages.map((one) => one.noticeId).sort()).toEqual(notices.map(({ id }) => id).sort());
    const sent = messages.filter(({ state }) => state === 'sent').map(({ id }) => id);
    expect(arrivals.map(({ messageId }) => messageId).sort()).toEqual(sent.sort());

    await Promise.all(people.map((person) => person.look()));
    expect(await faultsOf(db, people)).toEqual([]);
    expect(took.length).toBeGreaterThan(n * 10);
    // Answered again within ten seconds of each kill.
    expect(took.at(-1)).toBeLessThan(SOON);
    for (const server of servers) await server.kill();
    expect(new Set(await sumsOf(cluster.url)).size).toBe(1);
  } finally {
    await it.stop();
  }
}

/** Lets people act on one node, for its figures. */
export async function measureOne({ people: n, measured: ms }: Pick<Plan, 'people' | 'measured'>) {
  const { proxy, db, ahead, stop } = await stand(1);
  const now = () => Date.now() + ahead;
  try {
    const people = Array.from({ length: n }, (_, i) => new Acting(proxy, i + 1, now));
    for (const person of people) await person.begin(TODAY);
    process.stdout.write(`One node: ${await measured(people, ms)}\n`);
    await Promise.all(people.map((person) => person.look()));
    expect(await faultsOf(db, people)).toEqual([]);
  } finally {
    await stop();
  }
}

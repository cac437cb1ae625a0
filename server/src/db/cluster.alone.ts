import { randomUUID } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { QueryTypes } from 'sequelize';
import type { ActionAnswer } from '@back-again/contract';
import { parseInstant } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { startCluster, type Cluster } from '../../../scripts/lib/galera.mjs';
import { Client, halvesOf } from '../testing/harness.ts';
import { spawnServer, type ServerProcess } from '../testing/process.ts';
import { openDatabase } from './database.ts';

// Three nodes of MariaDB Galera Cluster and two servers: people act while each node, one after another, and a server
// are killed and come back. Each answered action is kept once, and no person’s order is broken. It is run alone:
// `npm run check:cluster`.

const { CLUSTER_PEOPLE, CLUSTER_SPAN } = process.env;
const PEOPLE = Number(CLUSTER_PEOPLE ?? 50);
/** How long people act before, between and after the kills, in milliseconds. */
const SPAN = Number(CLUSTER_SPAN ?? 6000);
/** Which nodes are killed, one after another. */
const KILLED = [0, 1, 2];
const AT = { at: parseInstant('2027-06-01T10:00:00Z') };

/** One person, who does one thing after another, each until it is answered, at whichever server answers. */
class Acting {
  readonly answered: { id: string; version: number }[] = [];
  /** The longest that one of them took, in milliseconds. */
  longest = 0;
  readonly took: number[] = [];
  private todo = randomUUID();
  private client: Client | null = null;
  private readonly servers: ServerProcess[];

  constructor(servers: ServerProcess[]) {
    this.servers = servers;
  }

  async begin(): Promise<void> {
    this.client = await new Client(this.servers[0]!.url).register();
    const said = read('Walk the towpath 99 times a month', '2027-06-01').series;
    await this.until({ do: 'create', todo: this.todo, ...halvesOf(said) });
  }

  /** Does something, with one id, until it is answered. */
  private async until(action: object): Promise<void> {
    const id = randomUUID();
    const from = Date.now();
    for (let n = 0; ; n++) {
      const server = this.servers[(this.answered.length + n) % this.servers.length]!;
      try {
        const client = this.client!.beside(server.url);
        const { status, body } = await client.send<ActionAnswer>('POST', '/actions', {
          id,
          ...action,
        });
        if (status === 200) {
          this.answered.push({ id, version: body.version });
          break;
        }
        // Refused for what it is: that is a fault of this test.
        if (status < 500 && status !== 429) throw new Error(`${status} ${JSON.stringify(body)}`);
      } catch (error) {
        // A server that is gone: fetch says so by a TypeError.
        if ((error as Error).name !== 'TypeError') throw error;
      }
      await wait(100);
    }
    this.took.push(Date.now() - from);
    this.longest = Math.max(this.longest, this.took.at(-1)!);
  }

  async actUntil(isOver: () => boolean): Promise<void> {
    for (let n = 0; !isOver(); n++) {
      const title = `Walk the towpath, ${n}`;
      await this.until({ do: 'describe', todos: [this.todo], details: { title } });
    }
  }
}

test('kills of each node and of a server: each answered action once, in each person’s order', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'back-again-cluster-'));
  let cluster: Cluster | null = null;
  const servers: ServerProcess[] = [];
  try {
    cluster = await startCluster(folder);
    for (let i = 0; i < 2; i++) servers.push(await spawnServer(cluster.url, AT));
    const people = Array.from({ length: PEOPLE }, () => new Acting(servers));
    for (const person of people) await person.begin();
    let isOver = false;
    const acting = Promise.all(people.map((person) => person.actUntil(() => isOver)));
    const rehearsal = (async () => {
      await wait(SPAN);
      for (const n of KILLED) {
        await cluster.nodes[n]!.kill();
        await wait(SPAN);
        await cluster.nodes[n]!.start();
        await wait(SPAN);
      }
      await servers[0]!.kill();
      await wait(SPAN);
      servers[0] = await spawnServer(cluster.url, AT);
      await wait(SPAN);
      isOver = true;
    })();
    await Promise.all([acting, rehearsal]);

    const db = openDatabase(cluster.url);
    const rows = await db.sequelize.query<{ id: string; version: number; n: number }>(
      'SELECT id, MAX(version) AS version, COUNT(*) AS n FROM actions GROUP BY userId, id',
      { type: QueryTypes.SELECT },
    );
    const users = await db.sequelize.query<{ version: number; actions: number; last: number }>(
      `SELECT u.version, COUNT(a.id) AS actions, MAX(a.version) AS last
        FROM users u JOIN actions a ON a.userId = u.id GROUP BY u.id`,
      { type: QueryTypes.SELECT },
    );
    await db.close();
    const kept = new Map(rows.map((it) => [it.id, it]));
    const answered = people.flatMap((person) => person.answered);
    const took = people.flatMap((person) => person.took).sort((a, b) => a - b);
    const longest = Math.max(...people.map((person) => person.longest));
    process.stdout.write(
      `${answered.length} actions answered by two servers on three nodes, 99th percentile ${took[Math.floor(took.length * 0.99)]} ms, the longest ${longest} ms\n`,
    );
    expect(answered.length).toBeGreaterThan(PEOPLE * 10);
    expect(answered.filter(({ id }) => kept.get(id)?.n !== 1)).toEqual([]);
    // Each that is kept was answered, or was on its way at the very end: none is doubled under another id.
    expect(rows.length).toBe(answered.length);
    // One after another, without a gap: what was answered first came first.
    for (const { answered: own } of people) {
      const versions = own.map(({ id }) => kept.get(id)!.version);
      expect(versions).toEqual([...versions].sort((a, b) => a - b));
      expect(new Set(versions).size).toBe(versions.length);
    }
    expect(users.filter(({ version, last }) => version !== last)).toEqual([]);
    // Answered again within ten seconds of each kill.
    expect(longest).toBeLessThan(10_000);
  } finally {
    await Promise.all(servers.map((server) => server.kill()));
    await cluster?.stop();
    rmSync(folder, { recursive: true, force: true });
  }
}, 3_000_000);

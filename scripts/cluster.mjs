import { mkdtempSync, rmSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { newCluster } from './lib/galera.mjs';
import { keeper } from './lib/keep.mjs';
import { startProgram, startProxy } from './lib/program.mjs';
import { ensureGalera, ensurePackages, giveUp, say } from './lib/setup.mjs';
import { buildWeb } from './lib/web.mjs';

/**
 * `npm run cluster`: three nodes of a database, two servers and a small proxy before them, on loopback, with demo
 * data, for trying. Each part can be killed by its process id, which is said, and is started again after a while.
 * What is written is gone at the end.
 */

/** How long a part that was killed stays away, so that it can be seen that the others go on, in milliseconds. */
const AWAY = 5000;

ensurePackages();
ensureGalera();
const web = await buildWeb();
const folder = mkdtempSync(join(tmpdir(), 'back-again-cluster-'));
const cluster = await newCluster(folder).catch((error) => giveUp(error.message));

const secret = randomBytes(24).toString('hex');
const servers = [];
let proxy = null;
/** Each server writes to a node of its own while that is ready. */
const environment = (i) => ({
  DATABASE_URL: cluster.urlFrom(i),
  SESSION_SECRET: secret,
  WEB_DIR: web,
  DEMO: '1',
  LOG: process.env.LOG ?? 'warn',
  PORT: servers[i] ? new URL(servers[i].url).port : '0',
});
const line = (text) => process.stdout.write(`${text}\n`);
const parts = keeper({
  away: () => AWAY,
  last: () => rmSync(folder, { recursive: true, force: true }),
});
say('Starting three nodes of MariaDB Galera Cluster');
// One after the other: the first makes the cluster, and the others join it.
for (const [i, node] of cluster.nodes.entries()) await parts.start({ name: `Node ${i}`, ...node });
say('Starting two servers; the first makes the demo data');
for (const i of [0, 1])
  await parts.start({
    name: `Server ${i}`,
    start: async (signal) => {
      servers[i] = await startProgram(environment(i), line, signal);
    },
    pid: () => servers[i].pid,
    ended: () => servers[i].ended,
    stop: () => servers[i].stop(),
  });
await parts.start({
  name: 'The proxy',
  start: async (signal) => {
    const port = proxy ? new URL(proxy.url).port : (process.env.PORT ?? '4180');
    const before = servers.map(({ url }) => url);
    proxy = await startProxy(before, port, signal).catch((error) => {
      throw new Error(`${error.message} Is port ${port} taken?`);
    });
  },
  pid: () => proxy.pid,
  ended: () => proxy.ended,
  stop: () => proxy.stop(),
});

line(`\nBack Again is at ${proxy.url}, of two servers on three nodes`);
line('Sign in to the demo with demo@example.org and the password “comes back again”.');
cluster.nodes.forEach(({ pid }, i) => line(`Node ${i} is process ${pid()}.`));
servers.forEach(({ pid, url }, i) => line(`Server ${i} is process ${pid}, at ${url}.`));
line(`The proxy is process ${proxy.pid}.`);
line(
  `Kill any of them, as with “kill -9”: it is back after ${AWAY / 1000} seconds. Ctrl+C ends all.`,
);

parts.watch();

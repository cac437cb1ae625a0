import { mkdtempSync, rmSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startCluster } from './lib/galera.mjs';
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
say('Starting three nodes of MariaDB Galera Cluster');
const cluster = await startCluster(folder).catch((error) => giveUp(error.message));

let stopping = false;
const secret = randomBytes(24).toString('hex');
const servers = [];
let proxy = null;
/** Each server writes to a node of its own while that is ready. */
const environment = (i, port = '0') => ({
  DATABASE_URL: cluster.urlFrom(i),
  SESSION_SECRET: secret,
  WEB_DIR: web,
  DEMO: '1',
  LOG: process.env.LOG ?? 'warn',
  PORT: port,
});
const line = (text) => process.stdout.write(`${text}\n`);
say('Starting two servers; the first makes the demo data');
// One after the other: the demo is made once.
for (let i = 0; i < 2; i++) servers.push(await startProgram(environment(i), line));
const before = () => servers.map(({ url }) => url);
proxy = await startProxy(before(), process.env.PORT ?? '4180').catch((error) => {
  giveUp(`${error.message} Is its port taken?`);
});

line(`\nBack Again is at ${proxy.url}, of two servers on three nodes`);
line('Sign in to the demo with demo@example.org and the password “comes back again”.');
cluster.nodes.forEach(({ pid }, i) => line(`Node ${i} is process ${pid()}.`));
servers.forEach(({ pid, url }, i) => line(`Server ${i} is process ${pid}, at ${url}.`));
line(`The proxy is process ${proxy.pid}.`);
line(
  `Kill any of them, as with “kill -9”: it is back after ${AWAY / 1000} seconds. Ctrl+C ends all.`,
);

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop());
cluster.nodes.forEach((node, i) => keep(`Node ${i}`, () => node.ended(), node.start, node.pid));
servers.forEach((_, i) => {
  const { port } = new URL(servers[i].url);
  keep(
    `Server ${i}`,
    () => servers[i].ended,
    async () => {
      servers[i] = await startProgram(environment(i, port), line);
    },
    () => servers[i].pid,
  );
});
keep(
  'The proxy',
  () => proxy.ended,
  async () => {
    proxy = await startProxy(before(), new URL(proxy.url).port);
  },
  () => proxy.pid,
);

/** Starts a part again each time it ends by itself. */
async function keep(name, ended, start, pid) {
  for (;;) {
    await ended();
    if (stopping) return;
    say(`${name} is gone, and comes back in ${AWAY / 1000} seconds`);
    await new Promise((done) => setTimeout(done, AWAY));
    if (stopping) return;
    try {
      await start();
      say(`${name} is back, as process ${pid()}`);
    } catch (error) {
      say(`${name} did not come back: ${error.message}`);
    }
  }
}

async function stop() {
  if (stopping) return;
  stopping = true;
  await proxy.stop();
  await Promise.all(servers.map((server) => server.stop()));
  await cluster.stop();
  rmSync(folder, { recursive: true, force: true });
  process.exit(0);
}

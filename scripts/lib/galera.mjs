import { execFile, execFileSync, spawn } from 'node:child_process';
import { randomBytes } from 'node:crypto';
import { once } from 'node:events';
import { chmodSync, existsSync, mkdirSync, openSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { join } from 'node:path';
import { setTimeout as wait } from 'node:timers/promises';
import { promisify } from 'node:util';
import { findMariadbd, runsAs } from './mariadb.mjs';
import { writeWhole } from './wholeFile.mjs';

/** Where Debian’s package galera-4 puts it. */
export const PROVIDER = '/usr/lib/galera/libgalera_smm.so';

const USER = 'backagain';
/** A node that is not Synced after so long has something wrong with it, in milliseconds. */
const PATIENCE = 90_000;

/** Makes a cluster as {@link newCluster} does, and starts each node, one after the other. */
export async function startCluster(...given) {
  const cluster = await newCluster(...given);
  for (const node of cluster.nodes) await node.start();
  return cluster;
}

/**
 * Makes a MariaDB Galera Cluster of so many nodes on loopback, with its data in `folder`, for trying and for tests:
 * it begins empty each time. Gives its URL with all nodes, also with another one first. The first node is started
 * before the others. Each can be killed at once, or stopped, and started again, which waits until it has what it missed.
 * @param tls the files of a key and of a certificate: the URL asks by TLS alone then
 * @param tests whether the account may hold a node, for tests
 * @throws Error where the engine or room for it is missing
 */
export async function newCluster(folder, nodes = 3, { tls = null, tests = false } = {}) {
  if (!existsSync(PROVIDER))
    throw new Error(`${PROVIDER} is missing: Debian’s package is galera-4.`);
  const as = runsAs();
  mkdirSync(folder, { recursive: true });
  // Whoever MariaDB runs as gets to its own folder.
  chmodSync(folder, 0o711);
  const ports = await freePorts(nodes * 4);
  const password = randomBytes(24).toString('hex');
  const all = Array.from({ length: nodes }, (_, i) => {
    const [port, group, increments, whole] = ports.slice(i * 4);
    const home = join(folder, `node${i}`);
    mkdirSync(join(home, 'data'), { recursive: true });
    const client = join(folder, `node${i}.cnf`);
    writeWhole(
      client,
      `[client]\nhost=127.0.0.1\nport=${port}\nuser=${USER}\npassword=${password}\n`,
    );
    return { i, port, group, increments, whole, home, client };
  });
  const members = all.map(({ group }) => `127.0.0.1:${group}`).join(',');
  const setup = join(all[0].home, 'setup.sql');
  writeWhole(
    setup,
    [
      `CREATE DATABASE ${USER} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin;`,
      `CREATE USER '${USER}'@'127.0.0.1' IDENTIFIED BY '${password}';`,
      `GRANT ALL PRIVILEGES ON ${USER}.* TO '${USER}'@'127.0.0.1';`,
      ...(tests ? [`GRANT RELOAD ON *.* TO '${USER}'@'127.0.0.1';`] : []),
      `DELETE FROM mysql.global_priv WHERE User NOT IN ('${USER}', 'mariadb.sys');`,
      'FLUSH PRIVILEGES;\n',
    ].join('\n'),
  );
  execFileSync(
    'mariadb-install-db',
    [
      '--no-defaults',
      `--datadir=${join(all[0].home, 'data')}`,
      '--auth-root-authentication-method=normal',
      '--skip-test-db',
      ...(as ? [`--user=${as.name}`] : []),
    ],
    { stdio: 'ignore' },
  );

  /** Starts a node, and waits until it has all that the others have. */
  async function begin(node) {
    const { i, port, group, increments, whole, home, client } = node;
    const isFirst = i === 0 && !node.child;
    if (as) execFileSync('chown', ['-R', `${as.uid}:${as.gid}`, home]);
    const out = openSync(join(home, 'mariadb.log'), 'a', 0o600);
    const options = [
      '--no-defaults',
      ...(as ? [`--user=${as.name}`] : []),
      `--datadir=${join(home, 'data')}`,
      `--socket=${join(home, 'mariadb.sock')}`,
      `--pid-file=${join(home, 'mariadb.pid')}`,
      '--bind-address=127.0.0.1',
      `--port=${port}`,
      '--skip-name-resolve',
      '--local-infile=0',
      '--character-set-server=utf8mb4',
      ...(tls ? [`--ssl-key=${tls.key}`, `--ssl-cert=${tls.cert}`] : []),
      // What Galera asks for (MariaDB manual, Configuring MariaDB Galera Cluster: mandatory options).
      '--binlog-format=ROW',
      '--innodb-autoinc-lock-mode=2',
      '--wsrep-on=ON',
      `--wsrep-provider=${PROVIDER}`,
      '--wsrep-cluster-name=back-again',
      `--wsrep-cluster-address=gcomm://${members}`,
      `--wsrep-node-name=node${i}`,
      `--wsrep-node-address=127.0.0.1:${group}`,
      `--wsrep-node-incoming-address=127.0.0.1:${port}`,
      '--wsrep-sst-method=rsync',
      `--wsrep-sst-receive-address=127.0.0.1:${whole}`,
      // One that is killed is left out after three seconds.
      `--wsrep-provider-options=gmcast.listen_addr=tcp://127.0.0.1:${group};ist.recv_addr=127.0.0.1:${increments};gcache.size=64M;evs.suspect_timeout=PT3S;evs.inactive_timeout=PT6S;evs.inactive_check_period=PT0.5S`,
    ];
    const place = isFirst
      ? ['--wsrep-new-cluster', `--init-file=${setup}`]
      : await startPosition(options, join(home, 'data'));
    const child = spawn(findMariadbd(), [...options, ...place], {
      stdio: ['ignore', out, out],
      detached: true,
    });
    node.child = child;
    node.ended = once(child, 'exit');
    const end = Date.now() + PATIENCE;
    while (!isSynced(client)) {
      if (!runs(node) || Date.now() > end) {
        await kill(node);
        throw new Error(`Node ${i} of the cluster did not start; its log is in ${home}.`);
      }
      await wait(200);
    }
    if (isFirst) rmSync(setup, { force: true });
  }

  const runs = ({ child }) => child?.exitCode === null && child.signalCode === null;

  async function kill(node, signal = 'SIGKILL') {
    if (!runs(node)) return;
    node.child.kill(signal);
    await node.ended;
  }

  /** The URL of all nodes, one of them first: whoever has it goes to that one while it is ready. */
  const urlFrom = (i) => {
    const turned = [...all.slice(i), ...all.slice(0, i)];
    const hosts = turned.map(({ port }) => `127.0.0.1:${port}`).join(',');
    return `mariadb://${USER}:${password}@${hosts}/${USER}${tls ? `?tls=${tls.cert}` : ''}`;
  };
  return {
    url: urlFrom(0),
    urlFrom,
    nodes: all.map((node) => ({
      kill: () => kill(node),
      stop: () => kill(node, 'SIGTERM'),
      start: () => begin(node),
      pid: () => node.child.pid,
      ended: () => node.ended,
    })),
    async stop() {
      // The last first: whoever is left need not decide anything.
      for (const node of all.toReversed()) await kill(node, 'SIGTERM');
    },
  };
}

/**
 * Where a node stands that ended before, as it was killed too: it is sent what it missed then, and no other node has
 * to stand still so that all of it can be copied (MariaDB manual, Galera recovery: --wsrep-recover).
 */
async function startPosition(options, data) {
  if (!existsSync(join(data, 'grastate.dat'))) return [];
  const { stderr } = await promisify(execFile)(findMariadbd(), [...options, '--wsrep-recover'], {
    maxBuffer: 1e7,
  });
  const [, position] = /Recovered position:\s*(\S+:-?\d+)/u.exec(stderr) ?? [];
  return position ? [`--wsrep-start-position=${position}`] : [];
}

function isSynced(client) {
  try {
    const ask = [
      `--defaults-file=${client}`,
      '-N',
      '-e',
      "SHOW STATUS LIKE 'wsrep_local_state_comment'",
    ];
    return execFileSync('mariadb', ask, { stdio: ['ignore', 'pipe', 'ignore'] })
      .toString()
      .includes('Synced');
  } catch {
    return false;
  }
}

/** Ports of loopback that nobody listens on just now. */
export async function freePorts(n) {
  const servers = await Promise.all(
    Array.from({ length: n }, async () => {
      const server = createServer().listen(0, '127.0.0.1');
      await once(server, 'listening');
      return server;
    }),
  );
  const ports = servers.map((server) => server.address().port);
  await Promise.all(servers.map((server) => new Promise((done) => server.close(done))));
  return ports;
}

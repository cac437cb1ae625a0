import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { ROOT } from './setup.mjs';

/**
 * Starts the server as a process of its own and waits until it listens. Gives its address, its
 * process id and `stop()`. What it writes beside its address goes to `onLine`. While it is starting it
 * can be ended by `signal`.
 */
export const startProgram = (env, onLine, signal) =>
  startListening(
    ['--import', 'tsx', join(ROOT, 'server/src/main.ts')],
    { NODE_ENV: 'production', ...env },
    onLine,
    signal,
  );

/** Starts the small proxy before several servers, by their addresses; the same is given of it. */
export const startProxy = (to, port = '0', signal = undefined) =>
  startListening(
    [join(ROOT, 'scripts/proxy.mjs')],
    { TO: to.join(','), PORT: port },
    undefined,
    signal,
  );

async function startListening(args, env, onLine = () => undefined, signal = undefined) {
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    env: { ...process.env, ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise((done) => child.once('exit', done));
  const giveUp = () => child.kill('SIGTERM');
  signal?.addEventListener('abort', giveUp);
  const url = await new Promise((done, fail) => {
    createInterface({ input: child.stdout }).on('line', (line) => {
      const found = /^listening (\S+)$/u.exec(line);
      if (found) done(found[1]);
      else onLine(line);
    });
    void ended.then((code) => fail(new Error(`${args.at(-1)} ended at once, with ${code}.`)));
  }).finally(() => signal?.removeEventListener('abort', giveUp));
  return {
    url,
    pid: child.pid,
    ended,
    async stop(signal = 'SIGTERM') {
      child.kill(signal);
      await ended;
    },
  };
}

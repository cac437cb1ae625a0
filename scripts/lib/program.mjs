import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { ROOT } from './setup.mjs';

/**
 * Starts the server as a process of its own and waits until it listens. Gives its address, its
 * process id and `stop()`. What it writes beside its address goes to `onLine`.
 */
export async function startProgram(env, onLine = () => undefined) {
  const child = spawn(process.execPath, ['--import', 'tsx', join(ROOT, 'server/src/main.ts')], {
    cwd: ROOT,
    env: { ...process.env, NODE_ENV: 'production', ...env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise((done) => child.once('exit', done));
  const url = await new Promise((done, fail) => {
    createInterface({ input: child.stdout }).on('line', (line) => {
      const found = /^listening (\S+)$/u.exec(line);
      if (found) done(found[1]);
      else onLine(line);
    });
    void ended.then((code) => fail(new Error(`The server ended at once, with ${code}.`)));
  });
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

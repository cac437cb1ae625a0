import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { join } from 'node:path';
import { createInterface } from 'node:readline';
import { formatInstant, type Instant } from '@back-again/core';

export interface ServerProcess {
  url: string;
  pid: number;
  /** Ends it at once, as a power cut would. */
  kill(): Promise<void>;
}

const MAIN = join(process.cwd(), 'server/src/main.ts');
const PROXY = join(process.cwd(), 'scripts/proxy.mjs');

/** Its time: standing still at an instant, or running so many milliseconds ahead of the machine's. */
type Time = { at: Instant } | { ahead: number };

/** Starts a program, and waits until it says where it listens. */
async function spawnListening(
  file: readonly string[],
  env: Record<string, string | undefined>,
): Promise<ServerProcess> {
  const child = spawn(process.execPath, [...file], { env, stdio: ['ignore', 'pipe', 'inherit'] });
  const exited = once(child, 'exit');
  const url = await new Promise<string>((resolve, reject) => {
    createInterface({ input: child.stdout }).on('line', (line) => {
      const found = /^listening (\S+)$/u.exec(line);
      if (found) resolve(found[1]!);
    });
    void exited.then(([code]) => reject(new Error(`${file.at(-1)} ended at once, with ${code}.`)));
  });
  return {
    url,
    pid: child.pid!,
    async kill() {
      child.kill('SIGKILL');
      await exited;
    },
  };
}

/** The small proxy before several servers, as a process of its own; on a given port, where it was before. */
export const spawnProxy = (to: readonly ServerProcess[], port = '0'): Promise<ServerProcess> =>
  spawnListening([PROXY], {
    ...process.env,
    TO: to.map(({ url }) => url).join(','),
    PORT: port,
  });

/** A server as a process of its own, on a database. */
export async function spawnServer(
  databaseUrl: string,
  time: Time,
  more: Record<string, string> = {},
): Promise<ServerProcess> {
  return spawnListening(['--import', 'tsx', MAIN], {
    ...process.env,
    NODE_ENV: 'production',
    DATABASE_URL: databaseUrl,
    PORT: '0',
    SESSION_SECRET: 'for tests alone',
    TEST_CLOCK: '1',
    ...('at' in time ? { TEST_NOW: formatInstant(time.at) } : { TEST_SHIFT: String(time.ahead) }),
    SIGN_IN_TRIES: '1000',
    LOG: 'silent',
    ...more,
  });
}

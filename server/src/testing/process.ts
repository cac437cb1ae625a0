import { formatInstant, type Instant } from '@back-again/core';
import { startProgram, startProxy, type Started } from '../../../scripts/lib/program.mjs';

export interface ServerProcess {
  url: string;
  pid: number;
  /** Ends it at once, as a power cut would. */
  kill(): Promise<void>;
}

/** Its time: standing still at an instant, or running so many milliseconds ahead of the machine's. */
type Time = { at: Instant } | { ahead: number };

const killable = ({ url, pid, stop }: Started): ServerProcess => ({
  ...{ url, pid },
  kill: () => stop('SIGKILL'),
});

/** The small proxy before several servers, as a process of its own; on a given port, where it was before. */
export const spawnProxy = async (to: readonly ServerProcess[], port = '0') =>
  killable(
    await startProxy(
      to.map(({ url }) => url),
      port,
    ),
  );

/** A server as a process of its own, on a database. */
export async function spawnServer(
  databaseUrl: string,
  time: Time,
  more: Record<string, string> = {},
): Promise<ServerProcess> {
  const server = await startProgram({
    DATABASE_URL: databaseUrl,
    PORT: '0',
    SESSION_SECRET: 'for tests alone',
    TEST_CLOCK: '1',
    ...('at' in time ? { TEST_NOW: formatInstant(time.at) } : { TEST_SHIFT: String(time.ahead) }),
    SIGN_IN_TRIES: '1000',
    LOG: 'silent',
    ...more,
  });
  return killable(server);
}

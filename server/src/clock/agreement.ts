import type { Log } from '../log.ts';
import type { Database } from '../db/database.ts';
import { skewOf } from '../db/skew.ts';
import type { Now } from './now.ts';

const MINUTE = 60_000;
const DAY = 24 * 60 * MINUTE;
/** Clocks that differ by less agree. */
const CLOSE = 5000;

/** How far the server's clock is ahead of the database's. */
export interface Agreement {
  /** In milliseconds; null where it could not be asked yet. */
  ahead: number | null;
  isClose: boolean;
}

export interface Agreeing {
  current(): Agreement;
  /** Asks the database now. */
  ask(): Promise<void>;
  start(): void;
  stop(): void;
}

/**
 * Compares the server's clock with the database's, at the start and every minute. A clock that runs
 * ahead, as one that is a year ahead until it is put right, lets nothing happen that lies more than a
 * day beyond what both agree on: what has ended as missed does not come back.
 */
export function makeAgreement(db: Database, now: Now, log: Log): Agreeing {
  let ahead: number | null = null;
  let timer: NodeJS.Timeout | null = null;

  async function ask(): Promise<void> {
    ahead = await skewOf(db, now.own);
    now.limit(() => (ahead! > DAY ? now.own() - ahead! + DAY : Infinity));
    if (Math.abs(ahead) > CLOSE)
      log.warn({ ahead }, 'the clocks of the server and of the database differ');
  }

  const again = () => {
    ask().catch((error: unknown) => log.error({ err: error }, 'the clocks could not be compared'));
  };
  return {
    current: () => ({ ahead, isClose: ahead === null || Math.abs(ahead) <= CLOSE }),
    ask,
    start() {
      timer = setInterval(again, MINUTE);
      timer.unref();
    },
    stop() {
      if (timer) clearInterval(timer);
    },
  };
}

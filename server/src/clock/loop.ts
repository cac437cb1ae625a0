import type { Log } from '../log.ts';
import type { Now } from './now.ts';

const LONGEST_SLEEP = 15_000;
const SHORTEST_SLEEP = 50;

/** Work that is done whenever something may be due, until it is stopped. */
export interface Loop {
  /** Does everything that is due; gives how much that was. */
  tick(): Promise<number>;
  start(): void;
  /** Works soon, where it sleeps. */
  wake(): void;
  /** Ends after the batch that is being worked on. */
  stop(): Promise<void>;
}

interface Work {
  /** What is said of it in the log. */
  name: string;
  /** Does a part of what is due; gives how much that was, and whether there may be more. */
  batch(): Promise<{ done: number; more: boolean }>;
  /** What is to be done after the last batch. */
  after?(): Promise<void>;
  /** When something is due next; null where nothing is. */
  nextAt(): Promise<Date | null>;
}

/** Repeats work, and sleeps in between for a quarter of a minute at most: another server may add to it. */
export function makeLoop(log: Log, now: Now, { name, batch, after, nextAt }: Work): Loop {
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;
  let woken = false;
  let running: Promise<unknown> = Promise.resolve();

  async function tick(): Promise<number> {
    let all = 0;
    for (;;) {
      const { done, more } = await batch();
      all += done;
      if (!more || stopped) break;
    }
    await after?.();
    return all;
  }

  function run(): void {
    timer = null;
    woken = false;
    running = tick()
      .then(async (n) => {
        if (n) log.info({ n }, `${name}: done`);
        const ms = ((await nextAt())?.getTime() ?? Infinity) - now();
        return Math.min(Math.max(ms, SHORTEST_SLEEP), LONGEST_SLEEP);
      })
      .catch((error: unknown) => {
        log.error({ err: error }, `${name}: it failed and will be tried again`);
        return LONGEST_SLEEP;
      })
      .then((ms) => schedule(woken ? 0 : ms));
  }

  function schedule(ms: number): void {
    if (!stopped) timer = setTimeout(run, ms);
  }

  return {
    tick,
    start: () => schedule(0),
    wake() {
      if (woken) return;
      woken = true;
      if (!timer || stopped) return;
      // A moment later, so that what comes together is worked on together.
      clearTimeout(timer);
      schedule(SHORTEST_SLEEP);
    },
    async stop() {
      stopped = true;
      if (timer) clearTimeout(timer);
      await running;
    },
  };
}

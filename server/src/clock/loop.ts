import type { Log } from '../log.ts';

const LONGEST_SLEEP = 15_000;
const SHORTEST_SLEEP = 50;

/** Work that is done whenever something may be due, until it is stopped. */
export interface Loop {
  start(): void;
  /** Works soon, where it sleeps. */
  wake(): void;
  /** Ends after the work that is being done. */
  stop(): Promise<void>;
}

interface Work {
  /** What is said of it in the log. */
  name: string;
  /** Does everything that is due; gives how much that was. */
  work(): Promise<number>;
  /** In how many milliseconds something is due; null where nothing is. */
  dueIn(): Promise<number | null>;
}

/** Repeats work, and sleeps in between for a quarter of a minute at most: another server may add to it. */
export function makeLoop(log: Log, { name, work, dueIn }: Work): Loop {
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;
  let woken = false;
  let running: Promise<unknown> = Promise.resolve();

  function run(): void {
    timer = null;
    woken = false;
    running = work()
      .then(async (n) => {
        if (n) log.info({ n }, `${name}: done`);
        const ms = (await dueIn()) ?? LONGEST_SLEEP;
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

import { giveUp, say } from './setup.mjs';

/**
 * Parts that run until they are stopped: whatever ends by itself is started again. A part has `name`,
 * `start(signal)`, which ends by throwing once the signal says that all is to be stopped, `ended()`, a promise for
 * the end of what was started last, and `stop()`.
 *
 * - `away(ends)`: how long a part that ended stays away, in milliseconds, by how often it ended in the last minute.
 * - `onStart(part)`: told each time that a part runs.
 * - `last()`: what is done when all are stopped.
 *
 * A signal to this process ends all of it.
 */
export function keeper({ away, onStart = () => undefined, last }) {
  const parts = [];
  const over = new AbortController();
  const isOver = new Promise((done) => over.signal.addEventListener('abort', done));
  let ended = null;

  async function begin(part) {
    over.signal.throwIfAborted();
    part.starting = part.start(over.signal);
    await part.starting;
    onStart(part);
  }

  async function keep(part) {
    let ends = [];
    for (;;) {
      await part.ended();
      for (let runs = false; !runs;) {
        if (over.signal.aborted) return;
        ends = [...ends.filter((at) => at > Date.now() - 60_000), Date.now()];
        const wait = away(ends.length);
        say(`${part.name} is gone, and is started again${wait ? ` in ${wait / 1000} s` : ''}`);
        await Promise.race([isOver, new Promise((done) => setTimeout(done, wait))]);
        try {
          await begin(part);
          runs = true;
          say(`${part.name} runs again${part.pid ? `, as process ${part.pid()}` : ''}`);
        } catch (error) {
          if (!over.signal.aborted) say(`${part.name} could not be started: ${error.message}`);
        }
      }
    }
  }

  async function stopAll() {
    over.abort(new Error('All of it is being stopped.'));
    // What is just being started is waited for: it would be left behind.
    for (const part of parts.toReversed()) {
      const runs = await part.starting?.then(
        () => true,
        () => false,
      );
      if (runs) await part.stop();
    }
  }

  /** Ends the process, with words where it could not go on; whoever asks first says why. */
  function end(words) {
    ended ??= stopAll().then(() => {
      last();
      if (words) giveUp(words);
      process.exit(0);
    });
    return ended;
  }

  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void end());
  return {
    /** Starts a part; where it does not start, all of it ends, and says why. */
    async start(part) {
      parts.push(part);
      await begin(part).catch((error) => end(error.message));
    },
    /** Starts again whatever ends from now on. */
    watch() {
      for (const part of parts) void keep(part);
    },
  };
}

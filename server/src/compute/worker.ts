import { parentPort } from 'node:worker_threads';
import { CoreError, type LocalDate } from '@back-again/core';
import { Spent, budgeted } from '@back-again/contract/going';
import { doTask, type Given, type TaskName } from './tasks.ts';

/** A task for the worker: by a running number, so that its answer finds who asked. */
export interface Job {
  n: number;
  name: TaskName;
  given: Given<TaskName>;
  holidays: { region: string; dates: readonly LocalDate[] } | undefined;
  ms: number;
}

export type Answer = { n: number } & (
  | { got: unknown }
  | { wrong: { code: string; where: string; message: string } }
  | { spent: true }
  | { failed: string }
);

/** What it says once it has loaded: from then on a task may take as long as it may. */
export interface Ready {
  ready: true;
}

const port = parentPort!;
port.on('message', ({ n, name, given, holidays, ms }: Job) => {
  const answer = (it: object) => port.postMessage({ n, ...it });
  try {
    answer({ got: budgeted(ms, () => doTask(name, given, holidays)) });
  } catch (error) {
    if (error instanceof Spent) answer({ spent: true });
    else if (error instanceof CoreError) {
      const { code, where, message } = error;
      answer({ wrong: { code, where, message } });
    } else
      answer({ failed: error instanceof Error ? (error.stack ?? error.message) : String(error) });
  }
});
port.postMessage({ ready: true } satisfies Ready);

import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { CoreError, type Settings } from '@back-again/core';
import { Spent, budgeted } from '@back-again/contract';
import { knowHolidays, knownHolidays } from './holidays.ts';
import { doTask, type Given, type Got, type TaskName } from './tasks.ts';
import type { Answer, Job, Ready } from './worker.ts';

/** Work that takes no longer is done here; other requests wait for it. */
const HERE = 20;
/** In the worker it may take so long. */
const BUDGET = 2000;
/** What does not look at its budget is ended after so much more. */
const GRACE = 1000;
/** So long it may take to load, in milliseconds. */
const START = 30_000;
/** The holidays of the slowest region take some seconds. */
const HOLIDAYS = 20_000;
/** How long work goes on before other requests get their turn. */
const TURN = 15;

const TOO_LONG = () =>
  new CoreError(
    'machine.long',
    'todo',
    'This is more than can be worked out at once. Nothing was changed.',
  );

let turnFrom = 0;

/** Lets other requests have their turn, where work has gone on for a while. */
export async function turn(): Promise<void> {
  if (performance.now() - turnFrom < TURN) return;
  await new Promise(setImmediate);
  turnFrom = performance.now();
}

/**
 * Has the core do something about one to-do: here where that is quick, else in a worker, so that
 * nobody else waits for it.
 * @throws CoreError as the core does, `machine.long` where it goes on for too long
 */
export async function compute<K extends TaskName>(name: K, given: Given<K>): Promise<Got<K>> {
  await turn();
  try {
    return budgeted(HERE, () => doTask(name, given));
  } catch (error) {
    if (!(error instanceof Spent)) throw error;
  }
  return inWorker(name, given, BUDGET);
}

/**
 * Has the core do something about many to-dos, in the worker.
 * @throws CoreError as the core does, `machine.long`
 */
export const computeBeside = <K extends TaskName>(name: K, given: Given<K>): Promise<Got<K>> =>
  inWorker(name, given, BUDGET);

/**
 * Sees to it that the public holidays of a person’s region are known: each is worked out once, in the
 * worker.
 * @throws CoreError `holidays.region`
 */
export async function readyFor(settings: Settings): Promise<void> {
  const { holidays: region } = settings;
  if (knownHolidays(region)) return;
  const asked = asking.get(region!) ?? inWorker('holidays', { region: region! }, HOLIDAYS);
  asking.set(region!, asked);
  try {
    knowHolidays(region!, await asked);
  } finally {
    asking.delete(region!);
  }
}
const asking = new Map<string, Promise<Got<'holidays'>>>();

interface Waiting {
  job: Job;
  done(answer: unknown): void;
  fail(error: Error): void;
}

let worker: Worker | null = null;
/** Whether it has loaded. */
let isReady = false;
/** What the worker is to do, in order; the first is being done. */
const queue: Waiting[] = [];
let running = 0;
let timer: NodeJS.Timeout | null = null;

function inWorker<K extends TaskName>(name: K, given: Given<K>, ms: number): Promise<Got<K>> {
  return new Promise((done, fail) => {
    const region = regionIn(given);
    const dates = region ? knownHolidays(region) : null;
    const holidays = region && dates ? { region, dates } : undefined;
    const job: Job = { n: ++running, name, given: given as Given<TaskName>, holidays, ms };
    queue.push({ job, done: done as (answer: unknown) => void, fail });
    if (queue.length === 1) next();
  });
}

/** The region whose holidays a task needs. */
function regionIn(given: object): string | undefined {
  const { settings, todo } = given as { settings?: Settings; todo?: { settings: Settings } };
  return (settings ?? todo?.settings)?.holidays;
}

/** Gives the first of the queue to the worker, and ends the worker where it never answers. */
function next(): void {
  const [first] = queue;
  if (!first) return;
  worker ??= start();
  worker.ref();
  watch(first.job);
  worker.postMessage(first.job);
}

/** Ends the worker where a task, or its own start, never comes to an end. */
function watch({ ms }: Job): void {
  if (timer) clearTimeout(timer);
  timer = setTimeout(() => end(TOO_LONG()), (isReady ? ms : START) + GRACE);
}

function start(): Worker {
  // The program and its tests run in the project’s folder.
  const file = join(process.cwd(), 'server/src/compute/worker.mjs');
  const made = new Worker(file, { resourceLimits: { maxOldGenerationSizeMb: 512 } });
  isReady = false;
  made.on('message', (answer: Answer | Ready) => {
    if (!('ready' in answer)) return settle(answer);
    if (made !== worker) return;
    isReady = true;
    // What it takes to load is not counted with what it is to do.
    if (queue[0]) watch(queue[0].job);
  });
  made.on('error', (error: Error & { code?: string }) => {
    // The next task gets a new one.
    if (made === worker) end(error.code === 'ERR_WORKER_OUT_OF_MEMORY' ? TOO_LONG() : error);
  });
  return made;
}

function settle(answer: Answer): void {
  if (answer.n !== queue[0]?.job.n) return;
  const { done, fail } = queue.shift()!;
  if (timer) clearTimeout(timer);
  if ('got' in answer) done(answer.got);
  else if ('spent' in answer) fail(TOO_LONG());
  else if ('wrong' in answer) {
    const { code, where, message } = answer.wrong;
    fail(new CoreError(code, where, message));
  } else fail(new Error(answer.failed));
  // It keeps no program running that has nothing else to do.
  if (!queue.length) worker?.unref();
  next();
}

function end(why: Error): void {
  if (timer) clearTimeout(timer);
  void worker?.terminate();
  worker = null;
  queue.shift()?.fail(why);
  next();
}

/** Starts the worker, so that the first who needs it does not wait for that. */
export function startMachine(): void {
  worker ??= start();
  if (!queue.length) worker.unref();
}

/** Ends the worker, where there is one and it has nothing to do. */
export async function restMachine(): Promise<void> {
  if (queue.length) return;
  const ended = worker;
  worker = null;
  await ended?.terminate();
}

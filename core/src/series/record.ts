import type { Instant } from '../calendar/zone.ts';
import { CoreError } from '../errors.ts';
import { deed, type Deed } from './actions.ts';
import { advance, begin } from './advance.ts';
import type { Occurrence, Progress } from './progress.ts';
import type { Plan } from './slots.ts';

/** Something a person did to a to-do, and the moment at which it counts. */
export interface Step {
  key: string;
  at: Instant;
  deed: Deed;
}

/** A step as it is kept: with what it needs to be taken back. */
export interface Entry {
  step: Step;
  /** The state just before it, advanced to its moment. */
  before: Progress;
  /** A time that had ended already and that it changed, as it was. */
  touched: Occurrence | null;
}

/** What follows from steps that were done, done again in another order, or taken back. */
export interface Outcome {
  progress: Progress;
  /** The times that opened, changed or ended, as they are now. */
  times: Occurrence[];
  /** Times with this number and higher that are not in `times` are no longer. */
  from: number;
  /** The steps that were gone through, with their new states. */
  entries: Entry[];
  /** Keys of the steps that found no time to be done to, and are not in `entries`. */
  lost: string[];
}

/** Lets time pass, as an outcome: nothing is taken back. */
export function pass(plan: Plan, progress: Progress, until: Instant): Outcome {
  return goThrough(plan, progress, [], [], until);
}

/**
 * Does a step now, at `step.at`, after everything that happened before it. A step that finds no
 * time comes back in `lost`. `past` are the ended times that it may mean.
 */
export function take(
  plan: Plan,
  progress: Progress,
  step: Step,
  past: readonly Occurrence[] = [],
): Outcome {
  return goThrough(plan, progress, past, [step], step.at);
}

/**
 * Enters a step at an earlier moment (R7, `when`): everything after it is computed as though it
 * had been entered then. `tail` holds, in order, the last step before that moment, if there is
 * one, and all later ones; without one the to-do is computed anew from `bornAt`.
 * @throws CoreError `when.conflict` when a later step would no longer find its time.
 */
export function takeEarlier(
  plan: Plan,
  tail: readonly Entry[],
  step: Step,
  now: Instant,
  bornAt: Instant,
): Outcome {
  const first = tail[0];
  const hasBase = first !== undefined && first.step.at <= step.at;
  const base = hasBase ? first.before : begin(plan, Math.min(bornAt, step.at));
  const steps = tail.map((entry) => entry.step);
  const at = steps.findIndex((other) => other.at > step.at);
  steps.splice(at < 0 ? steps.length : at, 0, step);
  const outcome = goThrough(plan, base, originals(tail), steps, now);
  const lost = outcome.lost.filter((key) => key !== step.key);
  if (lost.length)
    throw new CoreError(
      'when.conflict',
      'when',
      'What was entered after that moment would no longer fit: undo that first.',
    );
  return outcome;
}

/**
 * Takes a step back (R14): the result is as if it had never happened. `tail` holds that step and
 * all later ones, in order.
 * @throws CoreError `undo.conflict` when a later step depends on it.
 */
export function undo(plan: Plan, tail: readonly Entry[], now: Instant): Outcome {
  const [gone, ...later] = tail;
  if (!gone) throw new CoreError('undo.nothing', 'undo', 'There is nothing to undo.');
  const steps = later.map((entry) => entry.step);
  const outcome = goThrough(plan, gone.before, originals(tail), steps, now);
  if (outcome.lost.length)
    throw new CoreError(
      'undo.conflict',
      'undo',
      'Something done later depends on it: undo that first.',
    );
  if (gone.touched && !outcome.times.some((time) => time.number === gone.touched!.number))
    outcome.times.push(gone.touched);
  return outcome;
}

/** Ended times that some steps changed, as they were before the first of these. */
function originals(tail: readonly Entry[]): Occurrence[] {
  const found = new Map<number, Occurrence>();
  for (const { touched } of tail)
    if (touched && !found.has(touched.number)) found.set(touched.number, touched);
  return [...found.values()];
}

function goThrough(
  plan: Plan,
  base: Progress,
  past: readonly Occurrence[],
  steps: readonly Step[],
  until: Instant,
): Outcome {
  const ended = new Map<number, Occurrence>();
  const keep = (times: readonly Occurrence[]) => {
    for (const time of times) ended.set(time.number, time);
  };
  const entries: Entry[] = [];
  const lost: string[] = [];
  let { progress } = { progress: base };
  for (const step of steps) {
    const course = advance(plan, progress, step.at);
    keep(course.ended);
    progress = course.progress;
    const known = [...ended.values(), ...past.filter((time) => !ended.has(time.number))];
    const result = deed(plan, progress, step.deed, step.at, known);
    if (!result) {
      lost.push(step.key);
      continue;
    }
    const wasPast = result.before !== null && result.before.status !== 'open';
    entries.push({ step, before: progress, touched: wasPast ? result.before : null });
    keep(result.ended);
    progress = result.progress;
  }
  const course = advance(plan, progress, until);
  keep(course.ended);
  progress = course.progress;
  return {
    progress,
    times: [...ended.values(), ...progress.open].sort((a, b) => a.number - b.number),
    from: base.number,
    entries,
    lost,
  };
}

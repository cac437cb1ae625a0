import { formatDay, type LocalDate } from '../../calendar/day.ts';
import { shortDate } from '../../calendar/shortDates.ts';
import type { Instant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import { deed } from '../deeds/deed.ts';
import type { Deed, TimeDeed } from '../deeds/deeds.ts';
import { advance } from './advance.ts';
import { begin, beginLongAgo } from './begin.ts';
import type { Series } from '../definition/definition.ts';
import type { Occurrence, Progress } from './progress.ts';
import type { Planner } from '../plan/plan.ts';

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

/** How a to-do came to be: the definition that it had at first, and when. */
export interface Born {
  series: Series;
  at: Instant;
  /** Whether that is so long ago that it hinders nothing. */
  longAgo?: boolean;
  /** How it began, where it had a record elsewhere. */
  begun?: Progress;
}

/** A to-do as it began, or would have with something done before that. */
export function beginningOf(
  planner: Planner,
  { series, at, longAgo, begun }: Born,
  done = at,
): Progress {
  if (begun) return begun;
  const made = Math.min(at, done);
  return longAgo ? beginLongAgo(series, made) : begin(planner, series, made);
}

/** What follows from steps that were done, done again in another order, or taken back. */
export interface Outcome {
  progress: Progress;
  /** The times that opened, changed or ended, as they are now. */
  times: Occurrence[];
  /** Times with this number and higher that are not in `times` are no longer. */
  from: number;
  /** The numbers of times that are no longer, as a change of the definition took them out. */
  gone: number[];
  /** The steps that were gone through, with their new states. */
  entries: Entry[];
  /** Keys of the steps that found no time to be done to, and are not in `entries`. */
  lost: string[];
}

/** Lets time pass, as an outcome: nothing is taken back. */
export function pass(planner: Planner, progress: Progress, until: Instant): Outcome {
  return goThrough(planner, progress, [], { steps: [] }, until);
}

/**
 * Does a step now, at `step.at`, after everything that happened before it. A step that finds no
 * time comes back in `lost`. `past` are the ended times that it may mean.
 */
export function take(
  planner: Planner,
  progress: Progress,
  step: Step,
  past: readonly Occurrence[] = [],
): Outcome {
  return goThrough(planner, progress, past, { steps: [step], fresh: step }, step.at);
}

/** The last of what was done to a to-do, to be gone through again. */
export interface Tail {
  /** The steps in order. */
  entries: readonly Entry[];
  /** Whether nothing was done before them. */
  isAll: boolean;
  /** Ended times, as they are now, that the steps may mean: those of the slots that they name. */
  past: readonly Occurrence[];
}

/**
 * Enters a step at an earlier moment (R7, `when`): everything after it is computed as though it
 * had been entered then. `tail` holds the last step before that moment, if there is one, and all
 * later ones; without one the to-do is computed anew from when it came to be.
 * @param letsGo whether later moves, parts and put-off reminders of a time that has ended then already come
 * to nothing; they stay in the log, and count again once the step is taken back
 * @throws CoreError where a later step would no longer find its time, with its key as `where`: `when.moved`
 * where that is one which `letsGo` would let go of, else `when.conflict`
 */
export function takeEarlier(
  planner: Planner,
  born: Born,
  tail: Tail,
  step: Step,
  now: Instant,
  letsGo = false,
): Outcome {
  const first = tail.entries[0];
  const hasBase = first !== undefined && first.step.at <= step.at;
  const base = hasBase ? first.before : beginningOf(planner, born, step.at);
  const steps = tail.entries.map((entry) => entry.step);
  const at = steps.findIndex((other) => other.at > step.at);
  steps.splice(at < 0 ? steps.length : at, 0, step);
  const wasIdle = idleIn(planner, tail);
  const isIdle = (it: Step) => (letsGo && YIELDS.has(it.deed.do)) || wasIdle(it);
  const outcome = goAgain(planner, base, tail, { steps, isIdle, fresh: step }, now);
  const lost = steps.find(({ key }) => key !== step.key && outcome.lost.includes(key));
  if (lost) throw inTheWay(planner, lost, now);
  return outcome;
}

/** Deeds to a time that is open, which come to nothing where it has ended before. */
const YIELDS: ReadonlySet<Deed['do']> = new Set(['move', 'part', 'later']);

/** Whether a step was let go of: it did nothing when it was last gone through. */
const idleIn =
  (planner: Planner, { entries }: Tail) =>
  ({ key, at, deed: it }: Step): boolean => {
    if (!YIELDS.has(it.do)) return false;
    const entry = entries.find(({ step }) => step.key === key);
    return entry !== undefined && !tried(() => deed(planner, entry.before, it, at), true);
  };

function inTheWay(planner: Planner, { key, at, deed: it }: Step, now: Instant): CoreError {
  const today = formatDay(planner.clock.dayAt(now));
  const on = shortDate(formatDay(planner.clock.dayAt(at)), today);
  const code = YIELDS.has(it.do) ? 'when.moved' : 'when.conflict';
  return new CoreError(code, key, `${whatWasDone(it, today)} on ${on}, after that day.`);
}

function whatWasDone(it: Deed, today: LocalDate): string {
  switch (it.do) {
    case 'move':
      return it.plan === undefined
        ? 'It was moved'
        : `It was moved to ${shortDate(it.plan.slice(0, 10), today)}`;
    case 'part':
      return 'Part of it was done';
    case 'later':
      return 'Its reminder was put off';
    case 'done':
      return 'It was done';
    case 'skip':
      return 'It was skipped';
    case 'change':
      return 'Its pattern was changed';
    default:
      return 'Something else was entered';
  }
}

/**
 * Takes a step back (R14): the result is as if it had never happened. `tail` holds that step and
 * all later ones.
 * @throws CoreError `undo.conflict` when a later step depends on it.
 */
export function undo(planner: Planner, born: Born, tail: Tail, now: Instant): Outcome {
  const [gone, ...later] = tail.entries;
  if (!gone) throw new CoreError('undo.nothing', 'undo', 'There is nothing to undo.');
  const steps = later.map((entry) => entry.step);
  // The first one, done before the to-do was made, had moved its beginning.
  const isMoved = tail.isAll && gone.step.at < born.at;
  const base = isMoved ? beginningOf(planner, born, steps[0]?.at) : gone.before;
  const outcome = goAgain(planner, base, tail, { steps, isIdle: idleIn(planner, tail) }, now);
  if (outcome.lost.length)
    throw new CoreError(
      'undo.conflict',
      'undo',
      'Something done later depends on it: undo that first.',
    );
  return outcome;
}

/**
 * Goes through steps again from a state before them. Ended times that the tail had changed are what
 * they were at that state, unless the steps change them again.
 */
function goAgain(
  planner: Planner,
  base: Progress,
  { entries, past }: Tail,
  going: Going,
  now: Instant,
): Outcome {
  const hadEnded = (time: Occurrence) =>
    time.number < base.number && !base.open.some(({ number }) => number === time.number);
  const changed = originals(entries).filter(hadEnded);
  const isChanged = new Set(changed.map(({ number }) => number));
  const others = past.filter((time) => hadEnded(time) && !isChanged.has(time.number));
  const outcome = goThrough(planner, base, [...others, ...changed], going, now);
  const numbers = new Set(outcome.times.map(({ number }) => number));
  outcome.times.push(...changed.filter(({ number }) => !numbers.has(number)));
  outcome.times.sort((a, b) => a.number - b.number);
  return outcome;
}

function tried<T>(make: () => T, isOld: boolean): T | null {
  try {
    return make();
  } catch (error) {
    if (isOld && error instanceof CoreError) return null;
    throw error;
  }
}

/** Ended times that some steps changed, as they were before the first of these. */
function originals(tail: readonly Entry[]): Occurrence[] {
  const found = new Map<number, Occurrence>();
  for (const { touched } of tail)
    if (touched && !found.has(touched.number)) found.set(touched.number, touched);
  return [...found.values()];
}

interface Going {
  steps: readonly Step[];
  /** Whether a step that finds no time comes to nothing and stays in the log; else it is lost. */
  isIdle?: (step: Step) => boolean;
  /** The step that is done now: what is wrong with it is thrown; an old one that fails is lost. */
  fresh?: Step | null;
}

function goThrough(
  planner: Planner,
  base: Progress,
  past: readonly Occurrence[],
  { steps, isIdle, fresh = null }: Going,
  until: Instant,
): Outcome {
  const ended = new Map<number, Occurrence>();
  const keep = (times: readonly Occurrence[]) => {
    for (const time of times) ended.set(time.number, time);
  };
  const gone = new Set<number>();
  const entries: Entry[] = [];
  const lost: string[] = [];
  let { progress } = { progress: base };
  for (const step of steps) {
    const course = advance(planner, progress, step.at);
    keep(course.ended);
    progress = course.progress;
    const known = [...past.filter((time) => !ended.has(time.number)), ...ended.values()].sort(
      (a, b) => a.number - b.number,
    );
    const result = tried(() => deed(planner, progress, step.deed, step.at, known), step !== fresh);
    if (!result) {
      if (isIdle?.(step)) entries.push({ step, before: progress, touched: null });
      else lost.push(step.key);
      continue;
    }
    const wasPast = result.before !== null && result.before.status !== 'open';
    entries.push({ step, before: progress, touched: wasPast ? result.before : null });
    keep(result.ended);
    for (const number of result.gone) gone.add(number);
    progress = result.progress;
  }
  const course = advance(planner, progress, until);
  keep(course.ended);
  progress = course.progress;
  return {
    progress,
    times: [...ended.values(), ...progress.open].sort((a, b) => a.number - b.number),
    from: base.number,
    gone: [...gone],
    entries,
    lost,
  };
}

/** The number of the time that a step was done to, from the state before it; null for none. */
export function numberOf({ step, before, touched }: Entry): number | null {
  if (touched) return touched.number;
  const { deed: did } = step;
  if (!isOfTime(did)) return null;
  const open =
    did.slot === undefined ? before.open[0] : before.open.find((time) => time.slot === did.slot);
  if (!open && (did.do === 'later' || did.do === 'move')) return null;
  return open?.number ?? before.number;
}

const OF_TIMES: readonly Deed['do'][] = [
  'done',
  'skip',
  'tally',
  'move',
  'part',
  'note',
  'tick',
  'addStep',
  'answer',
  'file',
  'unfile',
  'later',
];
const isOfTime = (did: Deed): did is TimeDeed => OF_TIMES.includes(did.do);

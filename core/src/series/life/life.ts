import type { Instant } from '../../calendar/zone.ts';
import type { Occurrence, Progress } from './progress.ts';
import {
  beginningOf,
  pass,
  take,
  takeEarlier,
  undo,
  type Born,
  type Entry,
  type Outcome,
  type Step,
  type Tail,
} from './record.ts';
import { inOrder } from './openTimes.ts';
import type { Planner } from '../plan/plan.ts';

/** A to-do with its whole record: what is done to it is kept, can be entered earlier, and taken back. */
export class Life {
  progress: Progress;
  /** What was done, in the order in which it counts. */
  log: Entry[] = [];
  private readonly kept = new Map<number, Occurrence>();
  private readonly planner: Planner;
  private readonly born: Born;

  constructor(planner: Planner, born: Born) {
    this.planner = planner;
    this.born = born;
    this.progress = beginningOf(planner, born);
  }

  /** All times, open and ended, in order of their slots. */
  get times(): Occurrence[] {
    return [...this.kept.values()].sort(inOrder);
  }

  /** Lets time pass up to and including an instant. */
  pass(until: Instant): void {
    this.keep(pass(this.planner, this.progress, until), this.log.length);
  }

  /**
   * Does a step at its moment, after everything else; gives whether it found a time.
   * @throws CoreError as the deed does; then nothing has changed
   */
  do(step: Step): boolean {
    const past = [...this.kept.values()];
    const outcome = take(this.planner, this.progress, step, past);
    this.keep(outcome, this.log.length);
    return !outcome.lost.includes(step.key);
  }

  /**
   * Enters a step at a moment that has passed (R7); gives whether it found a time: else
   * nothing has changed.
   * @param letsGo as in {@link takeEarlier}
   * @throws CoreError `when.moved`, `when.conflict`, or as the deed does; then nothing has changed
   */
  doEarlier(step: Step, now: Instant, letsGo = false): boolean {
    const last = this.log.findLastIndex((entry) => entry.step.at <= step.at);
    const from = Math.max(0, last);
    const outcome = takeEarlier(this.planner, this.born, this.tail(from), step, now, letsGo);
    if (outcome.lost.includes(step.key)) return false;
    this.keep(outcome, from);
    return true;
  }

  /**
   * Takes a step back (R14); one that is not there changes nothing.
   * @throws CoreError `undo.conflict`; then nothing has changed
   */
  undo(key: string, now: Instant): void {
    const from = this.log.findIndex((entry) => entry.step.key === key);
    if (from < 0) return;
    this.keep(undo(this.planner, this.born, this.tail(from), now), from);
  }

  private tail(from: number): Tail {
    const past = [...this.kept.values()].filter(({ status }) => status !== 'open');
    return { entries: this.log.slice(from), isAll: from === 0, past };
  }

  private keep(outcome: Outcome, from: number): void {
    this.progress = outcome.progress;
    this.log = [...this.log.slice(0, from), ...outcome.entries];
    for (const number of [...this.kept.keys()])
      if (number >= outcome.from || outcome.gone.includes(number)) this.kept.delete(number);
    for (const time of outcome.times) this.kept.set(time.number, time);
  }
}

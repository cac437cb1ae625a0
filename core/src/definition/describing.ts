import type { Instant } from '../calendar/zone.ts';
import type { Details } from './details.ts';

/**
 * What a to-do or a place is, as it was described one time after another: what was said last holds, part
 * by part.
 */

/** Some parts of what something is, as a person said them at a moment. */
export interface Description<P = Details> {
  key: string;
  at: Instant;
  details: Partial<P>;
}

/** A description as it is kept: with the parts as they were before it. */
export interface Describing<P = Details> {
  step: Description<P>;
  was: Partial<P>;
}

/** What followed: the parts now, and the descriptions that were gone through, each with what was before it. */
export interface DescribedNow<P = Details> {
  details: P;
  log: Describing<P>[];
}

type Parts = Record<string, unknown>;

const copied = <P>(log: readonly Describing<P>[]) =>
  log.map((it) => ({ step: it.step as { details: object }, was: { ...it.was } as Parts, it }));
const logOf = <P>(log: readonly { it: Describing<P>; was: Parts }[]): Describing<P>[] =>
  log.map(({ it, was }) => ({ ...it, was: was as Partial<P> }));

/**
 * Enters a description at its moment: of each part the last one said holds.
 * @param later those from the first one after that moment on, in order
 */
export function describe<P extends object = Details>(
  details: P,
  later: readonly Describing<P>[],
  step: Description<P>,
): DescribedNow<P> {
  const was: Parts = {};
  const now = { ...details } as Parts;
  const after = copied(later);
  for (const [part, value] of Object.entries(step.details)) {
    const next = after.find(({ step: { details: said } }) => part in said);
    was[part] = next ? next.was[part] : now[part];
    if (next) next.was[part] = value;
    else now[part] = value;
  }
  return {
    details: now as unknown as P,
    log: [{ step, was: was as Partial<P> }, ...logOf<P>(after)],
  };
}

/** Takes the first of these descriptions back: the result is as if it had never been said. */
export function undescribe<P extends object = Details>(
  details: P,
  [gone, ...later]: readonly Describing<P>[],
): DescribedNow<P> {
  const now = { ...details } as Parts;
  const after = copied(later);
  for (const [part, value] of Object.entries(gone?.was ?? {})) {
    const next = after.find(({ step: { details: said } }) => part in said);
    if (next) next.was[part] = value;
    else now[part] = value;
  }
  return { details: now as unknown as P, log: logOf<P>(after) };
}

/**
 * What something was at an instant, from what it is now and what was said of it since.
 * @param log all that was said of it, in order
 */
export function detailsAt<P extends object = Details>(
  details: P,
  log: readonly Describing<P>[],
  at: Instant,
): P {
  const then = { ...details } as Parts;
  for (const { was } of log.filter(({ step }) => step.at > at).toReversed())
    Object.assign(then, was);
  return then as P;
}

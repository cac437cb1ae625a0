import type { Instant } from '../calendar/zone.ts';
import type { Details } from './details.ts';

/** What a to-do is, as it was described one time after another: what was said last holds, part by part. */

/** Some parts of what a to-do is, as a person said them at a moment. */
export interface Description {
  key: string;
  at: Instant;
  details: Partial<Details>;
}

/** A description as it is kept: with the parts as they were before it. */
export interface Describing {
  step: Description;
  was: Partial<Details>;
}

/** What followed: the details now, and the descriptions that were gone through, each with what was before it. */
export interface DescribedNow {
  details: Details;
  log: Describing[];
}

type Parts = Record<string, unknown>;

/**
 * Enters a description at its moment: of each part the last one said holds.
 * @param later those from the first one after that moment on, in order
 */
export function describe(
  details: Details,
  later: readonly Describing[],
  step: Description,
): DescribedNow {
  const was: Parts = {};
  const now: Parts = { ...details };
  const after = later.map((it) => ({ ...it, was: { ...it.was } as Parts }));
  for (const [part, value] of Object.entries(step.details)) {
    const next = after.find((it) => part in it.step.details);
    was[part] = next ? next.was[part] : now[part];
    if (next) next.was[part] = value;
    else now[part] = value;
  }
  return {
    details: now as unknown as Details,
    log: [{ step, was: was as Partial<Details> }, ...after],
  };
}

/** Takes the first of these descriptions back: the result is as if it had never been said. */
export function undescribe(
  details: Details,
  [gone, ...later]: readonly Describing[],
): DescribedNow {
  const now: Parts = { ...details };
  const after = later.map((it) => ({ ...it, was: { ...it.was } as Parts }));
  for (const [part, value] of Object.entries(gone?.was ?? {})) {
    const next = after.find((it) => part in it.step.details);
    if (next) next.was[part] = value;
    else now[part] = value;
  }
  return { details: now as unknown as Details, log: after };
}

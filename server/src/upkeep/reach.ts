import { CoreError, type Instant } from '@back-again/core';
import type { ActionRow, StepRow } from '../db/models.ts';

const DAY = 86_400_000;
/** How often the things of each person are tidied, in milliseconds. */
export const TIDY_EVERY = 7 * DAY;
/** So far back an action can be taken back, in days. */
export const REACH_DAYS = 400;
/** And so many changes back, however long ago they were. */
export const REACH_CHANGES = 2000;

/** The moment before which things are out of reach, as far as time goes. */
export const reachFrom = (now: Instant): Date => new Date(now - REACH_DAYS * DAY);

/**
 * Holds that an action can still be taken back: of what is older, the record alone is kept.
 * @param latest the person’s version
 * @throws CoreError `undo.old`
 */
export function needReach(
  { at, version }: Pick<ActionRow, 'at' | 'version'>,
  latest: number,
  now: Instant,
): void {
  if (at < reachFrom(now) && version <= latest - REACH_CHANGES)
    throw new CoreError(
      'undo.old',
      'of',
      `This was done more than ${REACH_DAYS} days and ${REACH_CHANGES.toLocaleString('en')} changes ago: it stands in the record, and can no longer be taken back.`,
    );
}

/**
 * Holds that steps still have the states before them, from which they can be gone through again.
 * @throws CoreError `when.old`
 */
export function needStates(rows: readonly Pick<StepRow, 'before'>[]): void {
  if (rows.some(({ before }) => before === null))
    throw new CoreError(
      'when.old',
      'when',
      `That is more than ${REACH_DAYS} days ago: what was done since can no longer be gone through again.`,
    );
}

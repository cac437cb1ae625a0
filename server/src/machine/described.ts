import { detailsAt, type Describing, type Details, type Instant } from '@back-again/core';
import type { Database } from '../db/database.ts';
import type { StepRow } from '../db/models.ts';
import { BY_MOMENT, describingOf } from './saying.ts';

/** What has ended keeps what it had: what to-dos were at an instant, from what was said of them since. */

/** What a to-do was, with what is told of a step or a question that it had before that or since. */
export interface Described {
  details: Details;
  /** All that was ever said of it, the details now among them, the newest first. */
  ever: Partial<Details>[];
}

/**
 * Tells what to-dos were at an instant.
 * @param now what each of them is, by its id
 */
export async function describedOf(
  db: Database,
  userId: string,
  now: ReadonlyMap<string, Details>,
): Promise<(id: string, at: Instant) => Described | null> {
  const steps = now.size
    ? await db.steps.findAll({
        where: { userId, seriesId: [...now.keys()], kind: 'describe', undone: false },
        order: BY_MOMENT,
      })
    : [];
  const logs = new Map<string, Describing[]>();
  for (const step of steps) {
    const log = logs.get(step.seriesId!) ?? [];
    log.push(describingOf<Details>(step.get() as StepRow));
    logs.set(step.seriesId!, log);
  }
  return (id, at) => {
    const details = now.get(id);
    if (!details) return null;
    const log = logs.get(id) ?? [];
    const ever = [details, ...log.flatMap(({ step, was }) => [step.details, was]).reverse()];
    return { details: detailsAt<Details>(details, log, at), ever };
  };
}

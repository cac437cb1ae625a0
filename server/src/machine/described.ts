import {
  detailsAt,
  type Describing,
  type Details,
  type Filled,
  type Instant,
} from '@back-again/core';
import type { Transaction } from 'sequelize';
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
  transaction?: Transaction,
): Promise<(id: string, at: Instant) => Described | null> {
  const steps = now.size
    ? await db.steps.findAll({
        where: { userId, seriesId: [...now.keys()], kind: 'describe', undone: false },
        order: BY_MOMENT,
        ...(transaction ? { transaction } : {}),
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

/** The steps and questions that a time had when it ended, and those that were answered all the same. */
export function hadWith(
  { details, ever }: Described,
  { ticks = [], answers = {} }: Filled = {},
): Pick<Details, 'steps' | 'questions'> {
  const find = <T extends { id: string }>(
    had: readonly T[],
    ids: readonly string[],
    of: (parts: Partial<Details>) => readonly T[] | undefined,
  ): T[] => {
    const known = new Set(had.map(({ id }) => id));
    const others = ids.filter((id) => !known.has(id));
    const all = ever.flatMap((parts) => of(parts) ?? []);
    return [...had, ...others.flatMap((id) => all.find((it) => it.id === id) ?? [])];
  };
  return {
    steps: find(details.steps, ticks, ({ steps }) => steps),
    questions: find(details.questions, Object.keys(answers), ({ questions }) => questions),
  };
}

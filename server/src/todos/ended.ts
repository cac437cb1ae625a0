import { Op } from 'sequelize';
import { CoreError, clockOf, formatInstant, parseDay } from '@back-again/core';
import type { EndedView } from '@back-again/contract';
import type { Database } from '../db/database.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import type { Actor } from '../machine/work.ts';

/** So many days at most are asked for at once. */
const MOST_DAYS = 62;
const MOST_ENDED = 5000;

/**
 * What ended of a person’s to-dos from one of their days to another, both inclusive, in order; what is
 * behind catches up before.
 * @throws CoreError `ended.span` for too many days, or none
 */
export async function endedBetween(
  db: Database,
  actor: Actor,
  { from, to }: { from: string; to: string },
): Promise<EndedView> {
  const { userId, settings, now } = actor;
  const [first, last] = [parseDay(from, 'from'), parseDay(to, 'to')];
  if (last < first || last - first >= MOST_DAYS)
    throw new CoreError('ended.span', 'to', `It is 1 to ${MOST_DAYS} days that are asked for.`);
  await catchUpAll(db, userId, settings, now);
  const clock = clockOf(settings);
  const rows = await db.occurrences.findAll({
    where: {
      userId,
      status: ['done', 'skipped', 'missed'],
      closedAt: {
        [Op.gte]: new Date(clock.startOf(first)),
        [Op.lt]: new Date(clock.startOf(last + 1)),
      },
    },
    attributes: ['seriesId', 'number', 'slot', 'due', 'planAt', 'status', 'closedAt'],
    order: ['closedAt', 'seriesId', 'number'],
    limit: MOST_ENDED,
    raw: true,
  });
  return {
    ended: rows.map(({ seriesId: todo, number, slot, due, planAt, status, closedAt }) => ({
      todo,
      number,
      slot,
      due,
      planAt,
      status: status as 'done' | 'skipped' | 'missed',
      closedAt: formatInstant(closedAt!.getTime()),
    })),
  };
}

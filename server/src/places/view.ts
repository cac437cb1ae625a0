import { Op, QueryTypes } from 'sequelize';
import { addMonths, clockOf, formatDay, parseDay } from '@back-again/core';
import type { PlacePage } from '@back-again/contract';
import type { Database } from '../db/database.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { aboutOf } from '../past/asked.ts';
import { pastRows } from '../past/rows.ts';
import { upToDate } from '../past/upToDate.ts';

/** What was done in a place: what belonged to it when it was done. */

const MONTHS = 12;
const MOST_DONE = 30;

/**
 * The record of a place and of all that it holds: what was done last, and its totals by month.
 * @throws CoreError `place.none` where there is none of this person's by that id
 */
export async function placePage(db: Database, actor: Actor, id: string): Promise<PlacePage> {
  const { userId, settings, now } = actor;
  const { sql, replacements } = await aboutOf(db, userId, { place: id }, { isThere: true });
  await upToDate(db, actor);
  const thisMonth = parseDay(`${formatDay(clockOf(settings).dayAt(now)).slice(0, 7)}-01`);
  const months = Array.from({ length: MONTHS }, (_, i) =>
    formatDay(addMonths(thisMonth, i + 1 - MONTHS)).slice(0, 7),
  );
  const sums = await db.sequelize.query<{ month: string; minutes: number; done: number }>(
    `SELECT DATE_FORMAT(o.doneOn, '%Y-%m') AS month, SUM(o.minutes) AS minutes, COUNT(*) AS done
      FROM occurrences o
      WHERE o.userId = :userId AND o.doneOn >= :from ${sql} GROUP BY 1`,
    {
      type: QueryTypes.SELECT,
      replacements: { userId, from: `${months[0]}-01`, ...replacements },
    },
  );
  const last = await db.occurrences.findAll({
    where: { userId, doneOn: { [Op.gte]: `${months[0]}-01` }, place: replacements.aboutPlaces! },
    order: [
      ['doneOn', 'DESC'],
      ['closedAt', 'DESC'],
      ['seriesId', 'ASC'],
    ],
    limit: MOST_DONE,
  });
  const rows = await pastRows(db, actor, last);
  return {
    ...stamp(actor),
    done: rows.map(({ todo, title, slot, closedAt }) => ({ todo, title, slot, closedAt })),
    months: months.map((month) => {
      const sum = sums.find((it) => it.month === month);
      return { month, minutes: Number(sum?.minutes ?? 0), done: Number(sum?.done ?? 0) };
    }),
  };
}

import { QueryTypes } from 'sequelize';
import type { PastDayView, PastDaysView } from '@back-again/contract/past';
import type { Outcome } from '@back-again/core/past';
import type { Database } from '../db/database.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { aboutOf, spanOf } from './asked.ts';
import { pastRows } from './rows.ts';
import { upToDate } from './upToDate.ts';

/** Days that have gone by: what happened on one, and what each of many came to. */

/** So many of each are in the lists of a day. */
const MOST = 300;

/** What happened on a day of a person: done on it; skipped and missed that were due on it. */
export async function pastDay(
  db: Database,
  actor: Actor,
  { on }: { on: string },
): Promise<PastDayView> {
  spanOf({ from: on, to: on });
  await upToDate(db, actor);
  const { userId } = actor;
  const find = (where: object) =>
    db.occurrences.findAndCountAll({
      where: { userId, ...where },
      order: ['closedAt', 'seriesId', 'number'],
      limit: MOST,
    });
  const done = await find({ doneOn: on });
  const skipped = await find({ dueOn: on, status: 'skipped' });
  const missed = await find({ dueOn: on, status: 'missed' });
  const rows = await pastRows(db, actor, [...done.rows, ...skipped.rows, ...missed.rows]);
  const [took] = await db.sequelize.query<{ minutes: number | null; estimated: number | null }>(
    `SELECT SUM(minutes) AS minutes, SUM(estimated) AS estimated FROM occurrences
      WHERE userId = :userId AND doneOn = :on`,
    { type: QueryTypes.SELECT, replacements: { userId, on } },
  );
  const of = (status: Outcome) => rows.filter((row) => row.status === status);
  return {
    ...stamp(actor),
    on,
    done: of('done'),
    skipped: of('skipped'),
    missed: of('missed'),
    counts: { done: done.count, skipped: skipped.count, missed: missed.count },
    minutes: Number(took?.minutes ?? 0),
    estimated: Number(took?.estimated ?? 0),
  };
}

/** So many days are given at once: two years. */
const MOST_DAYS = 732;

/**
 * What the days of a span came to, those that have something.
 * @throws CoreError `past.span`, `place.none`
 */
export async function pastDays(
  db: Database,
  actor: Actor,
  asked: { from: string; to: string; todo?: string | null; place?: string | null },
): Promise<PastDaysView> {
  const { from, to } = spanOf(asked, MOST_DAYS);
  await upToDate(db, actor);
  const { userId } = actor;
  const about = await aboutOf(db, userId, asked);
  const replacements = { userId, from, to, ...about.replacements };
  const query = <T extends object>(sql: string) =>
    db.sequelize.query<T>(sql, { type: QueryTypes.SELECT, replacements });
  const byDue = await query<{ date: string; status: Outcome; n: number }>(
    `SELECT o.dueOn AS date, o.status, COUNT(*) AS n FROM occurrences o
      WHERE o.userId = :userId AND o.dueOn BETWEEN :from AND :to ${about.sql}
      GROUP BY o.dueOn, o.status`,
  );
  const byDone = await query<{ date: string; n: number; minutes: number; estimated: number }>(
    `SELECT o.doneOn AS date, COUNT(*) AS n, SUM(o.minutes) AS minutes, SUM(o.estimated) AS estimated
      FROM occurrences o
      WHERE o.userId = :userId AND o.doneOn BETWEEN :from AND :to ${about.sql} GROUP BY o.doneOn`,
  );
  const days = new Map<string, PastDaysView['days'][number]>();
  const at = (date: string) => {
    const day = days.get(date) ?? {
      date,
      doneOn: 0,
      done: 0,
      skipped: 0,
      missed: 0,
      minutes: 0,
      estimated: 0,
    };
    days.set(date, day);
    return day;
  };
  for (const { date, status, n } of byDue) at(date)[status] += Number(n);
  for (const { date, n, minutes, estimated } of byDone)
    Object.assign(at(date), {
      doneOn: Number(n),
      minutes: Number(minutes),
      estimated: Number(estimated),
    });
  return {
    ...stamp(actor),
    days: [...days.values()].sort((a, b) => (a.date < b.date ? -1 : 1)),
  };
}

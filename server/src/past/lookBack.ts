import { Op, QueryTypes, type WhereOptions } from 'sequelize';
import {
  clockOf,
  formatDay,
  formatInstant,
  parseDay,
  type Day,
  type LocalMoment,
} from '@back-again/core';
import { intervalOf } from '@back-again/core/past';
import { noTime } from '@back-again/contract';
import type { LookBackView } from '@back-again/contract/past';
import type { Database } from '../db/database.ts';
import type { OccurrenceRow } from '../db/models.ts';
import { findTodo } from '../machine/todo.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { pastRows, placeNames } from './rows.ts';
import { upToDate } from './upToDate.ts';

/** What the page of a look-back fills itself with: what ended since the one before. */

/** The first one looks back by its interval; by so many days, where that is none of days or weeks. */
const FIRST = 31;
const DAY = 86_400_000;
const MOST = 200;
/** A time that was moved so often is told. */
const OFTEN = 3;

/**
 * What happened between the end of one time of a look-back and the next; without a number up to now.
 * @throws CoreError `todo.none`, `time.none`
 */
export async function lookBack(
  db: Database,
  actor: Actor,
  id: string,
  number: number | null,
): Promise<LookBackView> {
  const { userId, settings, now } = actor;
  await upToDate(db, actor);
  const todo = await findTodo(db, actor, id);
  const ended = { userId, seriesId: id, status: ['done', 'skipped', 'missed'] };
  const time =
    number === null ? null : await db.occurrences.findOne({ where: { ...ended, number } });
  if (number !== null && !time) throw noTime();
  const until = time?.closedAt ?? new Date(now);
  // What was skipped or missed was not looked back at: the next one looks back further.
  const others = time ? { number: { [Op.ne]: time.number } } : {};
  const beside = (closedAt: object, order: 'ASC' | 'DESC') =>
    db.occurrences.findOne({
      where: { ...ended, ...others, status: 'done', closedAt } as WhereOptions<OccurrenceRow>,
      order: [['closedAt', order]],
    });
  const before = await beside({ [Op.lte]: until }, 'DESC');
  const after = time ? await beside({ [Op.gt]: until }, 'ASC') : null;
  const { days } = intervalOf(todo.progress.series) ?? { days: FIRST };
  const since = before?.closedAt ?? new Date(until.getTime() - days * DAY);
  const meanwhile = { [Op.gt]: since, [Op.lte]: until };
  const those = { userId, closedAt: meanwhile, seriesId: { [Op.ne]: id } };
  const missed = await db.occurrences.findAll({
    where: { ...those, status: 'missed' },
    order: ['closedAt', 'seriesId', 'number'],
    limit: MOST,
  });
  const span = { userId, id, since, until };
  const names = await placeNames(db, userId);
  const done = await doneIn(db, span);
  const counts = await db.occurrences.count({
    where: { ...those, status: ended.status },
    attributes: ['status'],
    group: ['status'],
  });
  const count = (status: string) => counts.find((it) => it.status === status)?.count ?? 0;
  const sum = (of: 'minutes' | 'estimated') =>
    done.reduce((all, it) => all + Number(it[of] ?? 0), 0);
  const clock = clockOf(settings);
  const lastDay = clock.dayAt(until.getTime());
  const rows = await pastRows(db, actor, [...(time ? [time] : []), ...missed], names);
  return {
    ...stamp(actor),
    todo: id,
    title: todo.details.title,
    since: formatInstant(since.getTime()),
    until: formatInstant(until.getTime()),
    time: time ? rows[0]! : null,
    before: before?.number ?? null,
    after: after?.number ?? null,
    counts: { done: count('done'), skipped: count('skipped'), missed: count('missed') },
    minutes: sum('minutes'),
    estimated: sum('estimated'),
    done: done.slice(0, MOST).map((it) => ({
      todo: it.seriesId,
      title: it.title,
      place: it.place === null ? null : (names.get(it.place) ?? null),
      times: Number(it.times),
      minutes: Number(it.minutes ?? 0),
    })),
    missed: rows.slice(time ? 1 : 0),
    moved: await movedIn(db, span),
    late: (await lateAt(db, span, lastDay))
      .map((it) => ({ ...it, days: lastDay - clock.dayOfMoment(it.due) }))
      .filter(({ days }) => days > 0)
      .sort(
        (a, b) => b.days - a.days || parseDay(a.due.slice(0, 10)) - parseDay(b.due.slice(0, 10)),
      ),
  };
}

interface Span {
  userId: string;
  id: string;
  since: Date;
  until: Date;
}

function select<T extends object>(db: Database, span: Span & object, sql: string): Promise<T[]> {
  const replacements = { ...span, often: OFTEN };
  return db.sequelize.query<T>(sql, { type: QueryTypes.SELECT, replacements });
}

/** To-dos that were done, with how often, the most first. */
const doneIn = (db: Database, span: Span) =>
  select<
    Pick<OccurrenceRow, 'seriesId' | 'place' | 'minutes' | 'estimated'> & {
      title: string;
      times: number;
    }
  >(
    db,
    span,
    // Its index is named: the plan goes by it whatever else the person has.
    `SELECT o.seriesId, s.title, s.place, o.times, o.minutes, o.estimated
      FROM (SELECT seriesId, COUNT(*) AS times, SUM(minutes) AS minutes, SUM(estimated) AS estimated
        FROM occurrences FORCE INDEX (occurrencesByStatus)
        WHERE userId = :userId AND status = 'done' AND closedAt > :since AND closedAt <= :until
        GROUP BY seriesId) o
      JOIN series s ON s.userId = :userId AND s.id = o.seriesId
      WHERE o.seriesId <> :id ORDER BY o.times DESC, s.title`,
  );

/** Times that were moved often by hand, the last time meanwhile. */
const movedIn = async (db: Database, span: Span) => {
  const rows = await select<{
    todo: string;
    title: string;
    slot: LocalMoment;
    moves: number;
    due: LocalMoment | null;
  }>(
    db,
    span,
    `SELECT m.todo, s.title, m.slot, COUNT(*) AS moves, MAX(o.due) AS due
      FROM (
        SELECT st.seriesId AS todo, st.at,
          COALESCE(JSON_VALUE(st.deed, '$.slot'), JSON_VALUE(st.touched, '$.slot')) AS slot
        FROM steps st
        WHERE st.userId = :userId AND st.kind = 'deed' AND st.undone = FALSE
          AND JSON_VALUE(st.deed, '$.do') = 'move' AND st.at <= :until
          AND st.seriesId IN (SELECT seriesId FROM steps
            WHERE userId = :userId AND at > :since AND at <= :until AND kind = 'deed')
      ) m
      JOIN series s ON s.userId = :userId AND s.id = m.todo AND s.removedAt IS NULL
      LEFT JOIN occurrences o ON o.userId = :userId AND o.seriesId = m.todo AND o.slot = m.slot
      WHERE m.slot IS NOT NULL
      GROUP BY m.todo, s.title, m.slot HAVING COUNT(*) >= :often AND MAX(m.at) > :since
      ORDER BY moves DESC, s.title LIMIT 50`,
  );
  return rows.map((row) => ({ ...row, moves: Number(row.moves) }));
};

/** So many days back it is looked for what was late then and has ended since. */
const LONG_LATE = 366;

/** What was due before and not done by then: what is open still, and what has ended since. */
function lateAt(db: Database, span: Span, lastDay: Day) {
  const of = (index: string) => `SELECT o.seriesId AS todo, s.title, o.slot, o.due
    FROM occurrences o FORCE INDEX (${index})
    STRAIGHT_JOIN series s ON s.userId = o.userId AND s.id = o.seriesId
    WHERE o.userId = :userId AND o.seriesId <> :id AND o.due IS NOT NULL AND s.removedAt IS NULL
      AND o.openedAt <= :until`;
  const days = { from: formatDay(lastDay - LONG_LATE), to: formatDay(lastDay) };
  return select<{ todo: string; title: string; slot: LocalMoment; due: LocalMoment }>(
    db,
    { ...span, ...days },
    `(${of('occurrencesByStatus')} AND o.status = 'open')
      UNION ALL (${of('pastByDue')} AND o.dueOn BETWEEN :from AND :to AND o.closedAt > :until) LIMIT 500`,
  );
}

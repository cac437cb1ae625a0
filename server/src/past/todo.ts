import { Op, QueryTypes } from 'sequelize';
import { clockOf, formatDay, formatInstant, parseDay, type Answer } from '@back-again/core';
import { noTodo } from '@back-again/contract';
import { isAnswerTo, type Outcome } from '@back-again/core/past';
import type { PastTodoView } from '@back-again/contract/past';
import { compute } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { OccurrenceRow } from '../db/models.ts';
import { findSeries, todoOf } from '../machine/todo.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { spanOf } from './asked.ts';
import { pastRows, placeNames } from './rows.ts';
import { upToDate } from './upToDate.ts';

/** The record of one to-do: what a span says of it, and its times page by page. */

const YEAR = 365;
/** So many times are drawn, so many answers to a question, and so many times are on a page. */
const MOST_TRAIL = 24;
const MOST_ANSWERS = 60;
const PAGE = 30;
/** So many times are gone through for what a span says: the last ones. */
const MOST_TIMES = 20_000;

interface Asked {
  from?: string | undefined;
  to?: string | undefined;
  skip?: number;
}

/**
 * The record of a to-do over a span; left out, the year up to today. One that was taken away has its
 * record until it is removed for good.
 * @throws CoreError `todo.none`, `past.span`
 */
export async function pastTodo(
  db: Database,
  actor: Actor,
  id: string,
  { from, to, skip = 0 }: Asked,
): Promise<PastTodoView> {
  const { userId, settings, now } = actor;
  const today = clockOf(settings).dayAt(now);
  const end = to === undefined ? today : parseDay(to, 'to');
  const span = spanOf({ from: from ?? formatDay(end - YEAR + 1), to: formatDay(end) });
  await upToDate(db, actor, [id]);
  const [row] = await findSeries(db, userId, { id });
  if (!row) throw noTodo();
  const { details, progress } = todoOf(row, settings);
  const all = await timesIn(db, userId, id, span);
  const times = all.map((it) => ({
    slot: it.slot,
    due: it.due,
    status: it.status as Outcome,
    closedAt: it.closedAt!.getTime(),
    answers: it.filled?.answers,
    // What it counts for was worked out as it ended.
    spent: it.estimated ? undefined : (it.minutes ?? undefined),
    takes: it.estimated,
  }));
  const { series } = progress;
  const { questions } = details;
  const insight = await compute('insight', {
    settings,
    of: { series, questions, times, from: span.first, to: span.last },
  });
  const page = await db.occurrences.findAll({
    where: { userId, seriesId: id, status: { [Op.ne]: 'open' } },
    order: [
      ['dueOn', 'DESC'],
      ['number', 'DESC'],
    ],
    offset: skip,
    limit: PAGE + 1,
  });
  const names = await placeNames(db, userId);
  return {
    ...stamp(actor),
    todo: id,
    title: details.title,
    place: details.place === null ? null : (names.get(details.place) ?? null),
    series,
    details,
    removed: row.removedAt && {
      at: formatInstant(row.removedAt.getTime()),
      action: await removingOf(db, userId, id),
    },
    from: span.from,
    to: span.to,
    insight,
    trail: all
      .filter(({ dueOn }) => dueOn! >= span.from && dueOn! <= span.to)
      .slice(-MOST_TRAIL)
      .map((it) => ({
        slot: it.slot,
        dueOn: it.dueOn!,
        doneOn: it.doneOn,
        status: it.status as Outcome,
      })),
    answers: Object.fromEntries(
      questions.map((question) => {
        const said = all.flatMap(({ doneOn, filled }): { on: string; answer: Answer }[] => {
          const answer = filled?.answers?.[question.id];
          const isIn = doneOn !== null && doneOn >= span.from && doneOn <= span.to;
          return isIn && isAnswerTo(question, answer) ? [{ on: doneOn, answer }] : [];
        });
        return [question.id, said.slice(-MOST_ANSWERS)];
      }),
    ),
    isCut: all.length >= MOST_TIMES,
    times: await pastRows(db, actor, page.slice(0, PAGE), names),
    more: page.length > PAGE,
  };
}

/** The ended times that were due or done within a span, in the order of their days. */
async function timesIn(
  db: Database,
  userId: string,
  seriesId: string,
  { from, to }: { from: string; to: string },
): Promise<OccurrenceRow[]> {
  const between = { [Op.between]: [from, to] };
  const mine = { userId, seriesId };
  const attributes = [
    'number',
    'slot',
    'due',
    'status',
    'closedAt',
    'filled',
    'dueOn',
    'doneOn',
    'minutes',
    'estimated',
  ];
  // Two indexes, one for each kind of day.
  const due = await db.occurrences.findAll({
    attributes,
    where: { ...mine, dueOn: between },
    order: [['dueOn', 'DESC']],
    limit: MOST_TIMES,
  });
  const done = await db.occurrences.findAll({
    attributes,
    where: { ...mine, doneOn: between, dueOn: { [Op.notBetween]: [from, to] } },
  });
  const all = [...due, ...done].map((row) => row.get() as OccurrenceRow);
  return all.sort(
    (a, b) =>
      (a.doneOn ?? a.dueOn!).localeCompare(b.doneOn ?? b.dueOn!) ||
      a.closedAt!.getTime() - b.closedAt!.getTime(),
  );
}

/** The action that took a to-do away: undoing it brings it back. */
async function removingOf(db: Database, userId: string, id: string): Promise<string | null> {
  const [found] = await db.sequelize.query<{ id: string }>(
    `SELECT a.id FROM steps s JOIN actions a ON a.seq = s.actionSeq
      WHERE s.userId = :userId AND s.seriesId = :id AND s.kind = 'remove' AND s.undone = FALSE
      ORDER BY s.seq DESC LIMIT 1`,
    { type: QueryTypes.SELECT, replacements: { userId, id } },
  );
  return found?.id ?? null;
}

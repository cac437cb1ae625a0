import { Op, QueryTypes, type Transaction } from 'sequelize';
import { CoreError, type Details } from '@back-again/core';
import { turn } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import { describedOf } from '../machine/described.ts';
import { lock } from '../machine/lock.ts';
import type { OccurrenceRow } from '../db/models.ts';
import { countedAs, countsOf, type Todo } from '../machine/todo.ts';
import type { Actor, Person } from '../machine/work.ts';

/**
 * Before the record is read: what is behind catches up, whatever the clock did or did not do, and every
 * ended time counts by the person’s days as they run now.
 * @param ids the to-dos that are read; left out: all
 * @throws CoreError `machine.behind` where that takes too long; what was worked out is kept
 */
export async function upToDate(db: Database, actor: Actor, ids?: readonly string[]): Promise<void> {
  await catchUpAll(db, actor.userId, actor.settings, actor.now, ids);
  await countAll(db, actor);
}

/** A person waits so long for their record to be counted anew, in ms. */
const WAIT = 8000;
/** So many times are counted in one statement. */
const SOME = 1000;

const BEHIND = () =>
  new CoreError(
    'machine.behind',
    '',
    'Your record is being counted by your days as they run now. Try again in a moment.',
  );

async function countAll(db: Database, person: Person): Promise<void> {
  const until = performance.now() + WAIT;
  for (;;) {
    const rows = await db.series.findAll({
      attributes: ['id'],
      where: {
        userId: person.userId,
        countedAs: { [Op.or]: [{ [Op.is]: null }, { [Op.ne]: countedAs(person.settings) }] },
      },
      limit: 50,
    });
    if (!rows.length) return;
    for (const { id } of rows) {
      if (performance.now() > until) throw BEHIND();
      await db.transaction((transaction) => countOne(db, person, id, transaction));
    }
  }
}

/** Counts all ended times of a to-do by the days of its person, and by what it was when they ended. */
async function countOne(
  db: Database,
  { userId }: Person,
  id: string,
  transaction: Transaction,
): Promise<void> {
  const which = { withRemoved: true, mayBeMissing: true };
  const held = await lock(db, userId, [id], transaction, which);
  const [todo] = held.todos;
  // It was removed for good meanwhile.
  if (!todo) return;
  const detailsAt = await describedOf(db, userId, new Map([[id, todo.details]]), transaction);
  for (let number = 0; ;) {
    const rows = await endedAfter(db, { userId, id, number }, transaction);
    if (!rows.length) break;
    number = rows.at(-1)!.number;
    const counts = rows.map(({ number: nth, due, status, closedAt, spent }) => {
      const at = closedAt.getTime();
      const filled = spent === null ? {} : { spent: Number(spent) };
      const then: Details = detailsAt(id, at)?.details ?? todo.details;
      return {
        number: nth,
        ...countsOf(held.settings, then, { due, status, closedAt: at, filled }),
      };
    });
    await writeCounts(db, todo, counts, transaction);
    await turn();
  }
  await db.series.update(
    { countedAs: countedAs(held.settings) },
    { where: { userId, id }, transaction },
  );
}

type Ended = Pick<OccurrenceRow, 'number' | 'due' | 'status'> & {
  closedAt: Date;
  spent: string | null;
};

/** Some ended times of a to-do behind a number, with no more than what counts. */
const endedAfter = (
  { sequelize }: Database,
  of: { userId: string; id: string; number: number },
  transaction: Transaction,
) =>
  sequelize.query<Ended>(
    `SELECT number, due, status, closedAt, JSON_VALUE(filled, '$.spent') AS spent FROM occurrences
      WHERE userId = :userId AND seriesId = :id AND number > :number
        AND status <> 'open' AND closedAt IS NOT NULL
      ORDER BY number LIMIT ${SOME}`,
    { type: QueryTypes.SELECT, replacements: of, transaction },
  );

async function writeCounts(
  { sequelize }: Database,
  { row: { userId, id } }: Todo,
  counts: readonly object[],
  transaction: Transaction,
): Promise<void> {
  await sequelize.query(
    `UPDATE occurrences o JOIN JSON_TABLE(:counts, '$[*]' COLUMNS (
        number INT PATH '$.number', dueOn DATE PATH '$.dueOn', doneOn DATE PATH '$.doneOn',
        late INT PATH '$.late', minutes INT PATH '$.minutes', estimated INT PATH '$.estimated',
        place CHAR(36) CHARACTER SET utf8mb4 PATH '$.place')) c ON c.number = o.number
      SET o.dueOn = c.dueOn, o.doneOn = c.doneOn, o.late = c.late, o.minutes = c.minutes,
        o.estimated = c.estimated, o.place = c.place
      WHERE o.userId = :userId AND o.seriesId = :id`,
    {
      type: QueryTypes.UPDATE,
      replacements: { counts: JSON.stringify(counts), userId, id },
      transaction,
    },
  );
}

import { Op, QueryTypes } from 'sequelize';
import type { Instant } from '@back-again/core';
import { makeLoop, type Loop } from '../clock/loop.ts';
import type { Now } from '../clock/now.ts';
import type { Database } from '../db/database.ts';
import { earliest } from '../db/earliest.ts';
import type { Log } from '../log.ts';
import { REACH_CHANGES, TIDY_EVERY, reachFrom } from './reach.ts';

const DAY = 86_400_000;
/** For so long what was said is kept, and what was sent for it. */
const SAID_KEPT = 366 * DAY;
/** So many people at one go. */
const SOME = 20;
/** So many rows are taken out in one statement: nobody waits long for them. */
const ROWS = 1000;

/** Keeps what there is of each person within bounds: once a week, by whichever server is first. */
export function makeUpkeep(db: Database, now: Now, log: Log): Loop {
  return makeLoop(log, now, {
    name: 'the upkeep',
    async batch() {
      const at = now();
      const due = await db.users.findAll({
        attributes: ['id', 'tidyAt'],
        where: { tidyAt: { [Op.lte]: new Date(at) } },
        order: [['tidyAt', 'ASC']],
        limit: SOME,
      });
      let done = 0;
      for (const { id, tidyAt } of due) {
        // Whoever moves it on does it.
        const [n] = await db.users.update(
          { tidyAt: new Date(at + TIDY_EVERY) },
          { where: { id, tidyAt } },
        );
        if (!n) continue;
        await tidy(db, id, at);
        done++;
      }
      await db.limits.destroy({ where: { ends: { [Op.lt]: Date.now() } }, limit: ROWS });
      return { done, more: due.length === SOME };
    },
    nextAt: () => earliest(db.users, 'tidyAt'),
  });
}

/**
 * Takes out what was said and sent more than a year ago, and shrinks steps that are out of reach to what the record
 * needs: what was done, and when. Of each to-do the last of these keeps its state, so that what follows can be gone
 * through again from there.
 */
export async function tidy(db: Database, userId: string, now: Instant): Promise<void> {
  const old = new Date(now - SAID_KEPT);
  const some = async (table: string, column: string) => {
    for (;;) {
      const n = await db.sequelize.query(
        `DELETE FROM ${table} WHERE userId = :userId AND ${column} < :old LIMIT ${ROWS}`,
        { replacements: { userId, old }, type: QueryTypes.BULKDELETE },
      );
      if (Number(n) < ROWS) return;
    }
  };
  await some('arrivals', 'arrivesAt');
  // The messages of a notice go with it.
  await some('notices', 'saidAt');
  const user = await db.users.findByPk(userId, { attributes: ['version'] });
  const last = await db.actions.findOne({
    attributes: ['seq'],
    where: {
      userId,
      at: { [Op.lt]: reachFrom(now) },
      version: { [Op.lte]: (user?.version ?? 0) - REACH_CHANGES },
    },
    order: [['version', 'DESC']],
  });
  if (!last) return;
  await db.sequelize.query(
    `UPDATE steps s JOIN (
        SELECT seriesId, MAX(place) AS place FROM steps
          WHERE userId = :userId AND actionSeq <= :seq AND kind = 'deed' AND undone = FALSE GROUP BY seriesId
      ) k ON k.seriesId = s.seriesId
      SET s.\`before\` = NULL, s.touched = NULL
      WHERE s.userId = :userId AND s.actionSeq <= :seq AND s.kind = 'deed' AND s.\`before\` IS NOT NULL
        AND s.place < k.place`,
    { replacements: { userId, seq: last.seq }, type: QueryTypes.UPDATE },
  );
}

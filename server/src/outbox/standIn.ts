import { createHash } from 'node:crypto';
import { QueryTypes } from 'sequelize';
import type { StandIn } from '@back-again/contract';
import type { Now } from '../clock/now.ts';
import type { Database } from '../db/database.ts';
import type { Carrier, Outgoing } from './carrier.ts';

/** A stand-in that does what it should. */
export const WORKING: StandIn = { failsOneIn: 0, doublesOneIn: 0, delay: 0 };

/** Whether something that happens once in so many times happens now: by chance, but the same each time. */
function happens(oneIn: number, ...what: unknown[]): boolean {
  if (oneIn === 0) return false;
  return createHash('sha256').update(what.join(' ')).digest().readUInt32BE() % oneIn === 0;
}

/**
 * Stands in for a service that carries e-mail and text messages: nothing leaves the machine, and what
 * has arrived can be looked at. Each person can make it fail, lose its answers, or be late.
 * @param takes how many milliseconds it takes for each message
 */
export function makeStandIn(db: Database, now: Now, takes = 0): Carrier {
  return {
    async send({ id, userId, channel, address, subject, text }: Outgoing) {
      if (takes) await new Promise((resolve) => setTimeout(resolve, takes));
      const user = await db.users.findOne({ attributes: ['standIn'], where: { id: userId } });
      const { failsOneIn, doublesOneIn, delay } = user?.standIn ?? WORKING;
      const copies = await db.arrivals.findOne({
        attributes: ['copies'],
        where: { messageId: id },
      });
      const second = Math.floor(now() / 1000);
      if (happens(failsOneIn, 'fails', id, second))
        throw new Error('The stand-in was told to fail.');
      // An id that is there already is the same message: it does not arrive again.
      await db.sequelize.query(
        `INSERT INTO arrivals (messageId, userId, channel, address, subject, text, arrivesAt, copies)
         VALUES (:id, :userId, :channel, :address, :subject, :text, :arrivesAt, 1)
         ON DUPLICATE KEY UPDATE copies = copies + 1`,
        {
          replacements: {
            id,
            userId,
            channel,
            address,
            subject,
            text,
            arrivesAt: new Date(now() + delay * 1000),
          },
          type: QueryTypes.INSERT,
        },
      );
      if (!copies && happens(doublesOneIn, 'doubles', id))
        throw new Error('The stand-in was told to lose its answer.');
    },
  };
}

import type { Instant } from '@back-again/core';
import { makeClock } from '../clock/clock.ts';
import { systemNow } from '../clock/now.ts';
import { logFor } from '../log.ts';
import type { Database } from '../db/database.ts';
import { earliest } from '../db/earliest.ts';
import type { ArrivalRow, MessageRow, NoticeRow } from '../db/models.ts';

/** How many days of what was said the demo has. */
const DAYS = 13;
const DAY = 86_400_000;
/** Gives a message's text with its links. */
export type Linked = (message: MessageRow, seriesId: string | null) => string;
/** Which of the messages, counted from the last, was given up: for the outbox to show one. */
const GIVEN_UP = 4;

/**
 * Lets the demo's to-dos go on from wherever their stories end until now, one moment after another, and
 * lays down what was said on the way as though it had been said at its time and had arrived.
 */
export async function sayUntilNow(
  db: Database,
  userId: string,
  now: Instant,
  linked: Linked,
): Promise<void> {
  const at = systemNow();
  const clock = makeClock(db, at, logFor('silent'));
  for (;;) {
    const next = await earliest(db.series, 'speaksAt', { userId, removedAt: null });
    const wake = Math.min(next?.getTime() ?? now, now);
    at.set(wake);
    await clock.tick();
    if (wake === now) break;
  }
  const notices = (await db.notices.findAll({ where: { userId }, order: ['at', 'seq'] }))
    .filter((it) => it.at.getTime() > now - DAYS * DAY)
    .map((it) => plain<NoticeRow>(it));
  const messages = (await db.messages.findAll({ where: { userId } })).map((it) =>
    plain<MessageRow>(it),
  );
  await db.notices.destroy({ where: { userId } });
  await db.notices.bulkCreate(notices.map(({ seq: _seq, ...it }) => ({ ...it, saidAt: it.at })));
  const last = [...notices].reverse();
  const settled = last.flatMap((notice) =>
    messages
      .filter(({ noticeId }) => noticeId === notice.id)
      .map((it): MessageRow => ({ ...it, ...sentAt(notice.at), decidedAt: notice.at })),
  );
  const failed = settled[GIVEN_UP];
  if (failed) Object.assign(failed, givenUpAt(failed.decidedAt));
  await db.messages.bulkCreate(settled);
  const user = await db.users.findByPk(userId);
  const seriesOf = new Map(notices.map(({ id, seriesId }) => [id, seriesId]));
  // A server that runs meanwhile may have handed some over.
  await db.arrivals.bulkCreate(
    settled
      .filter(({ state }) => state === 'sent')
      .map((it): ArrivalRow => ({
        messageId: it.id,
        userId,
        channel: it.channel,
        address: user!.name,
        subject: it.subject,
        text: linked(it, seriesOf.get(it.noticeId)!),
        arrivesAt: it.decidedAt,
        copies: 1,
      })),
    { ignoreDuplicates: true },
  );
  await markOldSeen(db, userId, now);
}

const plain = <T>(row: unknown): T => (row as { get(): T }).get();

const sentAt = (at: Date) => ({
  state: 'sent' as const,
  tries: 1,
  nextTryAt: null,
  settledAt: at,
});

const givenUpAt = (at: Date) => ({
  state: 'given up' as const,
  tries: 14,
  settledAt: new Date(at.getTime() + DAY - 1),
  why: 'The stand-in was told to fail.',
});

/** What is from before today was seen. */
async function markOldSeen(db: Database, userId: string, now: Instant): Promise<void> {
  const old = (await db.notices.findAll({ where: { userId } })).filter(
    (it) => it.at.getTime() < now - DAY / 2,
  );
  const seenThrough = Math.max(0, ...old.map(({ seq }) => seq));
  await db.users.update({ seenThrough }, { where: { id: userId } });
}

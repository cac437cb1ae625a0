import { randomUUID } from 'node:crypto';
import { Op } from 'sequelize';
import { clockOf, formatDay, type Instant } from '@back-again/core';
import { notificationWords } from '@back-again/contract/notification';
import { makeLoop, type Loop } from '../clock/loop.ts';
import type { Now } from '../clock/now.ts';
import type { Log } from '../log.ts';
import type { Database } from '../db/database.ts';
import { earliest } from '../db/earliest.ts';
import type { DeviceRow, MessageRow, NoticeRow, SeriesRow, UserRow } from '../db/models.ts';
import { readyFor } from '../compute/compute.ts';
import { spokenOf } from '../said/notices.ts';
import { todoOf } from '../machine/todo.ts';
import { deviceUsed, dropDevice } from '../push/devices.ts';
import { Gone, Refused, type Carrier, type Outgoing } from './carrier.ts';
import { withLinks, type Links } from '../finish/links.ts';

/** What a server that is killed keeps from the others for as long as its lease runs. */
const BATCH = 80;
/** How many messages are handed over at one time. */
const AT_ONCE = 40;
/** For how long a batch is this server's alone. */
const LEASE = 90_000;
/** How long the carrier may take for one; then its answer counts as lost. */
export const CARRIER_LIMIT = 30_000;
const FIRST_WAIT = 10_000;
const LONGEST_WAIT = 3 * 3600_000;
/** A message that could not be handed over for so long is given up. */
const GIVES_UP = 24 * 3600_000;
/** How long one that could not be looked at is left alone. */
const REST = 3600_000;

/** Sends what waits in the outbox. A tick gives how many messages it settled. */
export type Sender = Loop;

interface Parts {
  db: Database;
  now: Now;
  log: Log;
  carrier: Carrier;
  links: Links;
  /** Hears of each message that was handed over, and how many seconds after it was decided. */
  said?: (channel: string, seconds: number) => void;
  /** Where the program is reached, for the links. */
  base(): string;
}

/** How long to wait after so many tries: three times as long each time, up to three hours. */
export function waitAfter(tries: number): number {
  return Math.min(FIRST_WAIT * 3 ** (tries - 1), LONGEST_WAIT);
}

/** What is promised, or an error where that takes too long. */
async function within(ms: number, promised: Promise<void>): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_resolve, reject) => {
    timer = setTimeout(() => reject(new Error('There was no answer in time.')), ms);
  });
  try {
    await Promise.race([promised, late]);
  } finally {
    clearTimeout(timer);
  }
}

/** Why it could not be handed over, as far as there is room for it. */
const wordsOf = (error: unknown) =>
  (error instanceof Error ? error.message : String(error)).slice(0, 250);

/** What a message is about, and whom it is for. */
interface About {
  notice: NoticeRow;
  user: UserRow;
  row: SeriesRow | null;
  device: DeviceRow | null;
}

type Settled = Pick<MessageRow, 'id' | 'state' | 'tries' | 'nextTryAt' | 'settledAt' | 'why'>;

/**
 * Hands over what waits in the outbox: a batch is leased in one short transaction, which skips what another
 * server leases; each message goes to the carrier while no row and no transaction is held; what came of it
 * is written only where the lease is still this one. A batch that is cut short is leased again once its
 * lease is over, and handed over with the same ids.
 */
export function makeSender({ db, now, log, carrier, links, base, said }: Parts): Sender {
  async function sendSome(at: Instant): Promise<{ done: number; more: boolean }> {
    const lease = randomUUID();
    const messages = await leaseSome(lease, at);
    if (!messages.length) return { done: 0, more: false };
    const aboutOf = await aboutAll(messages);
    const until = at + LEASE;
    let done = 0;
    const left = [...messages].reverse();
    const work = async () => {
      for (let it = left.pop(); it; it = left.pop()) {
        // What is left of a lease must be enough for the carrier.
        if (now() + CARRIER_LIMIT > until) return;
        // A batch takes its time: each message is judged, and waits, from its own moment.
        const result = await settledOrResting(it, aboutOf(it), now());
        if ((await write(result, lease)) && result.settledAt) done++;
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, work));
    return { done, more: messages.length === BATCH };
  }

  /** Takes a batch for this server alone, for a while. */
  async function leaseSome(lease: string, at: Instant): Promise<MessageRow[]> {
    return db.transaction(async (transaction) => {
      const messages = await db.messages.findAll({
        where: { nextTryAt: { [Op.lte]: new Date(at) } },
        order: [['nextTryAt', 'ASC']],
        limit: BATCH,
        transaction,
        lock: transaction.LOCK.UPDATE,
        skipLocked: true,
      });
      const ids = messages.map(({ id }) => id);
      if (ids.length)
        await db.messages.update(
          { lease, nextTryAt: new Date(at + LEASE) },
          { where: { id: ids }, transaction },
        );
      return messages;
    });
  }

  async function aboutAll(messages: readonly MessageRow[]): Promise<(it: MessageRow) => About> {
    const ids = (key: 'noticeId' | 'userId' | 'deviceId') => [
      ...new Set(messages.map((it) => it[key])),
    ];
    const notices = await db.notices.findAll({ where: { id: ids('noticeId') } });
    const userId = ids('userId');
    const deviceIds = ids('deviceId').filter(Boolean);
    const [users, devices, series] = await Promise.all([
      db.users.findAll({ where: { id: userId } }),
      deviceIds.length ? db.devices.findAll({ where: { userId, id: deviceIds } }) : [],
      db.series.findAll({
        where: {
          userId,
          id: notices.flatMap(({ seriesId }) => (seriesId === null ? [] : [seriesId])),
        },
      }),
    ]);
    const noticeById = new Map(notices.map((it) => [it.id, it]));
    const userById = new Map(users.map((it) => [it.id, it]));
    const deviceById = new Map(devices.map((it) => [`${it.userId} ${it.id}`, it]));
    const seriesById = new Map(series.map((it) => [`${it.userId} ${it.id}`, it]));
    return (it) => {
      const notice = noticeById.get(it.noticeId)!;
      return {
        notice,
        user: userById.get(it.userId)!,
        row: seriesById.get(`${it.userId} ${notice.seriesId}`) ?? null,
        device: deviceById.get(`${it.userId} ${it.deviceId}`) ?? null,
      };
    };
  }

  /** What fails is reported and rests: it holds up no other message. */
  async function settledOrResting(
    message: MessageRow,
    about: About,
    at: Instant,
  ): Promise<Settled> {
    const { id, tries, why } = message;
    try {
      return await settle(message, about, at);
    } catch (error) {
      log.error({ message: id, err: error }, 'a message could not be looked at');
      return { id, state: 'waiting', tries, nextTryAt: new Date(at + REST), settledAt: null, why };
    }
  }

  /** Hands one message over, unless nothing is to be said any more. */
  async function settle(message: MessageRow, about: About, at: Instant): Promise<Settled> {
    const { id, channel, decidedAt } = message;
    const { user, device } = about;
    const settled = (state: MessageRow['state'], tries: number, why: string | null): Settled => ({
      id,
      state,
      tries,
      nextTryAt: null,
      settledAt: new Date(at),
      why,
    });
    const isStopped = channel === 'email' && user.settings.noMail;
    // A device that was withdrawn wants no more.
    const isNobodys = channel === 'push' && !device;
    if (isStopped || isNobodys || !(await holds(about, at)))
      return settled('dropped', message.tries, null);
    const tries = message.tries + 1;
    const lastTry = decidedAt.getTime() + GIVES_UP;
    const outgoing = outgoingOf(message, about, at);
    if (!outgoing.address)
      return settled('given up', message.tries, 'There is no number in Settings.');
    if (at > lastTry && message.tries > 0) return settled('given up', message.tries, message.why);
    try {
      await within(CARRIER_LIMIT, carrier.send(outgoing));
      said?.(channel, (at - decidedAt.getTime()) / 1000);
      if (device) await deviceUsed(db, device.id, at);
      return settled('sent', tries, null);
    } catch (error) {
      if (error instanceof Gone && device) await dropDevice(db, user.id, device.id);
      if (error instanceof Refused) return settled('given up', tries, wordsOf(error));
      const why = wordsOf(error);
      const next = at + waitAfter(tries);
      if (next > lastTry) return settled('given up', tries, why);
      return { id, state: 'waiting', tries, nextTryAt: new Date(next), settledAt: null, why };
    }
  }

  function outgoingOf(message: MessageRow, about: About, at: Instant): Outgoing {
    const { id, channel, subject, decidedAt } = message;
    const { notice, user, row, device } = about;
    const { seriesId, due, overview } = notice;
    const all = { id, userId: user.id, channel, subject };
    if (channel === 'push' && device) {
      const today = formatDay(clockOf(user.settings).dayAt(at));
      const words = notificationWords(row?.title ?? null, due, overview, today);
      const token = seriesId === null ? {} : { token: links.token(id, decidedAt.getTime()) };
      const shows = { id: notice.id, ...words, ...token };
      return { ...all, address: device.name, text: words.body, push: { device, shows } };
    }
    const text = withLinks(message, seriesId, links, base());
    if (channel === 'text') return { ...all, address: user.settings.phone ?? '', text };
    return { ...all, address: user.name, text, stop: links.stopUrl(user.id, base()) };
  }

  async function holds({ notice, user, row }: About, at: Instant): Promise<boolean> {
    if (notice.seriesId === null) return true;
    if (!row || row.removedAt !== null) return false;
    await readyFor(user.settings);
    const standing = await spokenOf(todoOf(row, user.settings), notice, null, at);
    return standing?.holds ?? true;
  }

  /** Keeps what came of one, unless its lease is over and another has it; gives whether it did. */
  async function write({ id, ...columns }: Settled, lease: string): Promise<boolean> {
    const [n] = await db.messages.update({ ...columns, lease: null }, { where: { id, lease } });
    if (!n) log.warn({ message: id }, 'what came of a message was late: it is handed over again');
    return n > 0;
  }

  return makeLoop(log, now, {
    name: 'the outbox',
    batch: () => sendSome(now()),
    nextAt: () => earliest(db.messages, 'nextTryAt'),
  });
}

import { parseInstant } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { makeClock } from '../clock/clock.ts';
import { systemNow } from '../clock/now.ts';
import { makeLinks } from '../finish/links.ts';
import { logFor } from '../log.ts';
import { makeCrowd } from '../testing/crowd.ts';
import type { Outgoing } from './carrier.ts';
import { CARRIER_LIMIT, makeSender } from './sender.ts';

// While a message is being handed over nothing is held, and what comes too late overwrites nothing.

const BORN = parseInstant('2027-06-01T10:00:00Z');
const DUE = parseInstant('2027-06-12T09:00:00Z');

async function waiting(count: number) {
  const definition = read('Send the log on 2027-06-12', '2027-06-01').series;
  const crowd = await makeCrowd(
    { people: 1, each: count, born: BORN, settings: { channels: ['email'] } },
    () => ({ definition, progress: { later: [{ slot: '2027-06-12', to: DUE }] } }),
  );
  const now = systemNow();
  const clock = makeClock(crowd.db, now, logFor('silent'));
  // Every to-do first opens.
  now.set(DUE - 1);
  await clock.tick();
  now.set(DUE);
  await clock.tick();
  expect(await crowd.db.messages.count()).toBe(count);
  return { ...crowd, now };
}

/** A carrier that answers when it is let; `all` is when it has so many messages. */
function heldCarrier(count: number) {
  const held: { message: Outgoing; answer(error?: Error): void }[] = [];
  let arrived: () => void = () => undefined;
  const all = new Promise<void>((resolve) => (arrived = resolve));
  const send = (message: Outgoing) =>
    new Promise<void>((resolve, reject) => {
      held.push({ message, answer: (error) => (error ? reject(error) : resolve()) });
      if (held.length === count) arrived();
    });
  return { held, all, carrier: { send } };
}

const senderOf = (
  { db, now }: Pick<Awaited<ReturnType<typeof waiting>>, 'db' | 'now'>,
  carrier: { send(message: Outgoing): Promise<void> },
) =>
  makeSender({
    db,
    now,
    log: logFor('silent'),
    carrier,
    links: makeLinks('for tests alone'),
    base: () => 'http://127.0.0.1',
  });

test('a slow carrier holds no row and no transaction', async () => {
  const crowd = await waiting(3);
  const { db } = crowd;
  try {
    const { held, all, carrier } = heldCarrier(3);
    const ticking = senderOf(crowd, carrier).tick();
    await all;
    // Whoever wants a row of it has it at once.
    const rows = await db.transaction((transaction) =>
      db.messages.findAll({ transaction, lock: transaction.LOCK.UPDATE, skipLocked: true }),
    );
    expect(rows).toHaveLength(3);
    expect(rows.every(({ lease }) => lease !== null)).toBe(true);
    while (held.length) held.pop()!.answer();
    expect(await ticking).toBe(3);
    const after = await db.messages.findAll();
    expect(after.map(({ state, lease, tries }) => [state, lease, tries])).toEqual(
      Array.from({ length: 3 }, () => ['sent', null, 1]),
    );
  } finally {
    await db.close();
  }
});

test('another server takes up what a lease has let go of; the late answer overwrites nothing', async () => {
  const crowd = await waiting(1);
  const { db, now } = crowd;
  try {
    const slow = heldCarrier(1);
    const ticking = senderOf(crowd, slow.carrier).tick();
    await slow.all;
    // It is leased: nobody else takes it.
    const sent: string[] = [];
    const other = senderOf(crowd, {
      send: ({ id }) => Promise.resolve(void sent.push(id)),
    });
    expect(await other.tick()).toBe(0);
    now.set(DUE + 3 * CARRIER_LIMIT);
    expect(await other.tick()).toBe(1);
    expect(sent).toEqual([slow.held[0]!.message.id]);
    slow.held[0]!.answer(new Error('The answer was lost.'));
    expect(await ticking).toBe(0);
    const [message] = await db.messages.findAll();
    expect(message).toMatchObject({ state: 'sent', tries: 1, why: null, nextTryAt: null });
  } finally {
    await db.close();
  }
});

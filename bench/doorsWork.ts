import { randomUUID } from 'node:crypto';
import { isSlotted, checkSeries, plannerOf } from '../core/src/index.ts';
import { fromIcal } from '../core/src/exchange.ts';
import { startServer } from '../server/src/server.ts';
import { Client, testConfig } from '../server/src/testing/harness.ts';

// Figures: 5,000 entries read, taken in and taken back; the feed of 500 and of 2,000 to-dos, the first time,
// after one change and where nothing changed; the zip of a record of 20,000 and of 200,000 times, with the
// memory that the server grows by meanwhile.

const server = await startServer(testConfig(process.env.DATABASE_URL!));
server.now.set(Date.parse('2027-06-01T10:00:00Z'));
await server.clock.stop();
await server.sender.stop();
const say = (words: string) => process.stdout.write(`${words}\n`);
const timed = async <T>(work: () => Promise<T> | T): Promise<[T, number]> => {
  const from = performance.now();
  const result = await work();
  return [result, performance.now() - from];
};
const megabytes = (bytes: number) => `${Math.round(bytes / 1e6)} MB`;

const RULES = ['DAILY', 'WEEKLY;INTERVAL=2', 'WEEKLY', 'MONTHLY', 'MONTHLY;INTERVAL=3', 'YEARLY'];
const entry = (i: number) => [
  'BEGIN:VEVENT',
  `UID:entry-${i}@elsewhere`,
  `SUMMARY:Look at no. ${i}`,
  `DESCRIPTION:${'Words about it. '.repeat(20)}`,
  `DTSTART;VALUE=DATE:202705${String(1 + (i % 28)).padStart(2, '0')}`,
  ...(i % 4 ? [`RRULE:FREQ=${RULES[i % RULES.length]}`] : []),
  'LOCATION:Quay',
  'END:VEVENT',
];
const calendarOf = (n: number) =>
  [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    ...Array.from({ length: n }, (_, i) => entry(i)).flat(),
    'END:VCALENDAR',
    '',
  ].join('\r\n');
const settings = { zone: 'UTC' };
const now = '2027-06-01T10:00:00Z';

async function takeIn(
  n: number,
): Promise<{ client: Client; read: number; taken: number; action: string }> {
  const client = await new Client(server.url).register();
  const ical = calendarOf(n);
  const [{ todos }, read] = await timed(() => fromIcal({ ical, settings, now }));
  const action = randomUUID();
  const body = {
    id: action,
    todos: todos.map(({ id, series, details, kept }) => ({
      todo: randomUUID(),
      series: checkSeries(series),
      details: { ...details, came: { uid: id, kept } },
    })),
  };
  const [{ status }, taken] = await timed(() => client.send('POST', '/take-in', body));
  if (status !== 200) throw new Error(`taking in answered ${status}`);
  return { client, read, taken, action };
}

for (const n of [500, 5000]) {
  const { client, read, taken, action } = await takeIn(n);
  const undo = { do: 'undo' as const, id: randomUUID(), of: action };
  const [{ status }, back] = await timed(() => client.act(undo));
  say(
    `${n} entries: read ${read.toFixed(0)} ms, taken in ${taken.toFixed(0)} ms, taken back ${back.toFixed(0)} ms (${status}); all together ${((read + taken) / 1000).toFixed(1)} s (at most 20)`,
  );
}

for (const n of [500, 2000]) {
  const { client } = await takeIn(n);
  const { body } = await client.send<{ secret: string }>('POST', '/doors', { kind: 'feed' });
  const address = `${server.url}/api/feeds/${body.secret}.ics`;
  const get = (headers: Record<string, string> = {}) =>
    fetch(address, { headers }).then(async (answer) => ({ answer, text: await answer.text() }));
  const [{ text }, first] = await timed(() => get());
  const [, again] = await timed(() => get());
  const { todos } = await client.todos();
  await client.act({
    do: 'done',
    id: randomUUID(),
    todo: todos.find(({ open }) => open.length)!.id,
  });
  const [{ answer: newest }, changed] = await timed(() => get());
  const [{ answer: same }, known] = await timed(() =>
    get({ 'If-None-Match': newest.headers.get('etag')! }),
  );
  say(
    `Feed of ${n} to-dos: the first time ${first.toFixed(0)} ms, again ${again.toFixed(0)} ms, after one change ${changed.toFixed(0)} ms (at most 300), asked with a tag ${known.toFixed(0)} ms (${same.status}); ${text.split('BEGIN:VEVENT').length - 1} events, ${megabytes(text.length)}`,
  );
}

async function withRecord(todos: number, each: number): Promise<Client> {
  const client = await new Client(server.url).register();
  const series = checkSeries({
    start: '2017-01-01',
    repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
  });
  const plan = plannerOf({ ...settings, dayStart: '00:00', weekStart: 'MO' } as never)(series);
  if (!isSlotted(plan)) throw new Error('Every day is of the calendar.');
  const slots: string[] = [];
  for (let it = plan.slotAfter(null); it && slots.length < each; it = plan.slotAfter(it.slot))
    slots.push(it.slot);
  for (let i = 0; i < todos; i += 20) {
    const some = Array.from({ length: Math.min(20, todos - i) }, (_, k) => ({
      todo: randomUUID(),
      series,
      details: { title: `Look at no. ${i + k}` },
      times: slots.map((slot) => ({
        slot,
        due: slot,
        status: 'done',
        closedAt: `${slot}T18:00:00Z`,
        note: 'As ever, with a few words.',
      })),
    }));
    const { status } = await client.send('POST', '/take-in', { id: randomUUID(), todos: some });
    if (status !== 200) throw new Error(`taking in a record answered ${status}`);
  }
  return client;
}

for (const [todos, each] of [
  [40, 500],
  [400, 500],
] as const) {
  const client = await withRecord(todos, each);
  globalThis.gc?.();
  const before = process.memoryUsage().rss;
  let most = before;
  const watching = setInterval(() => (most = Math.max(most, process.memoryUsage().rss)), 20);
  const [zip, out] = await timed(async () => {
    const answer = await fetch(`${client.base}/api/everything`, {
      headers: { Cookie: client.cookies },
    });
    return Buffer.from(await answer.arrayBuffer());
  });
  const grown = most - before;
  const other = await new Client(server.url).register();
  const middle = process.memoryUsage().rss;
  most = middle;
  const [{ status }, back] = await timed(() =>
    fetch(`${other.base}/api/everything`, {
      method: 'POST',
      headers: { Cookie: other.cookies, Origin: other.base, 'Content-Type': 'application/zip' },
      body: new Uint8Array(zip),
    }),
  );
  clearInterval(watching);
  say(
    `Everything with ${(todos * each).toLocaleString('en')} times: out ${(out / 1000).toFixed(1)} s, ${megabytes(zip.length)}, memory grows by ${megabytes(grown)}; back ${(back / 1000).toFixed(1)} s (${status}), by ${megabytes(most - middle)}; a heap of 200 MB is enough`,
  );
}
await server.stop();

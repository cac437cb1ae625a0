import { randomUUID } from 'node:crypto';
import { Client, freshDatabase, startTestServer } from '../testing/harness.ts';
import type { Running } from '../server.ts';

// A window hears of what another server did, whatever order its database gives to numbers.

const AT = '2027-06-01T10:00:00Z';
let servers: [Running, Running];
beforeAll(async () => {
  const databaseUrl = await freshDatabase();
  servers = [
    await startTestServer(AT, { databaseUrl }),
    await startTestServer(AT, { databaseUrl }),
  ];
});
afterAll(() => Promise.all(servers.map((server) => server.stop())));

/** What a window hears, as lines. */
async function listen(client: Client, url: string) {
  const ending = new AbortController();
  const heard: string[] = [];
  const response = await fetch(`${url}/api/events`, {
    headers: { Cookie: client.cookies },
    signal: ending.signal,
  });
  void (async () => {
    const decoder = new TextDecoder();
    for await (const piece of response.body!) heard.push(decoder.decode(piece as Uint8Array));
  })().catch(() => undefined);
  const until = async (words: string, n: number) => {
    while (heard.join('').split(words).length - 1 < n)
      await new Promise((resolve) => setTimeout(resolve, 20));
  };
  return { until, end: () => ending.abort() };
}

test('of a change on another server, and of a notice whose number is lower than the last', async () => {
  const [first, second] = servers;
  const client = await new Client(first.url).register();
  const name = (await client.send<{ name: string }>('GET', '/session')).body.name;
  const { id: userId } = (await first.db.users.findOne({ where: { name } }))!;
  const { until, end } = await listen(client, first.url);
  try {
    // The second is heard of in a later look than the first: by then it has looked at the notices.
    for (let i = 0; i < 2; i++) {
      const { body } = await client
        .beside(second.url)
        .send<{ version: number }>('POST', '/actions', {
          ...{ do: 'create', id: randomUUID(), todo: randomUUID() },
          ...{
            series: { start: '2027-06-01', repeat: null },
            details: { title: 'Check the bilge' },
          },
        });
      await until(`data: ${body.version}`, 1);
    }
    const notice = (seq: number) =>
      second.db.notices.create({
        ...{ seq, id: randomUUID(), userId, seriesId: null, mark: `mark ${seq}`, slot: null },
        ...{ number: null, due: null, at: new Date(), saidAt: new Date(), browser: false },
        overview: null,
      });
    await notice(2000);
    await until('event: said', 1);
    // Another node gave this number before, and its transaction ended later.
    await notice(1500);
    await until('event: said', 2);
  } finally {
    end();
  }
});

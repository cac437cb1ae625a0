import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { SENTENCES } from '../../../core/src/phrase/check/sentences.ts';
import { DEMO } from '../demo/load.ts';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';
import { expectSame, partsOf, putBack, zipOf, zipped } from '../testing/zips.ts';
import { FORM, MANIFEST, type Manifest } from './everything/form.ts';

// Everything out, and back to the byte.

let server: Running;
beforeAll(async () => {
  server = await startTestServer('2027-06-01T10:00:00Z', { demo: true });
  await server.clock.stop();
  await server.sender.stop();
});
afterAll(() => server.stop());

const signedIn = async () => {
  const client = new Client(server.url);
  expect((await client.send('POST', '/session', DEMO)).status).toBe(200);
  return client;
};

test('the demo goes into an empty account, and comes out of it the same to the byte', async () => {
  const demo = await signedIn();
  const first = await zipOf(demo);
  const parts = await partsOf(first);
  expect([...parts.keys()].filter((name) => !name.startsWith('files/'))).toEqual([
    ...['data/places.jsonl', 'data/todos.jsonl', 'data/times.jsonl', 'data/actions.jsonl'],
    ...['data/steps.jsonl', 'data/said.jsonl', 'data/messages.jsonl', 'data/mailbox.jsonl'],
    ...[
      'data/files.jsonl',
      'data/person.json',
      'csv/to-dos.csv',
      'csv/times.csv',
      'csv/places.csv',
    ],
    ...['calendar.ics', 'READ ME.txt', MANIFEST],
  ]);
  expect(parts.get('READ ME.txt')!.toString()).not.toContain('Not in calendar.ics');
  expect(parts.get('data/times.jsonl')!.toString().split('\n').length).toBeGreaterThan(300);
  const other = await new Client(server.url).register();
  const { status, body } = await putBack(other, first as never);
  expect([status, body.error, body.there]).toEqual([200, undefined, 0]);
  await expectSame(first, await zipOf(other));
  // It is as it was there, record and undo included.
  const [theirs, ours] = [await demo.today(), await other.today()];
  expect(ours.open.map(({ series, open }) => [series.title, open[0]!.due])).toEqual(
    theirs.open.map(({ series, open }) => [series.title, open[0]!.due]),
  );
  const lines = parts.get('data/actions.jsonl')!.toString().trim().split('\n');
  const actions = lines.map(
    (line) => JSON.parse(line) as { id: string; do: string; undone: boolean },
  );
  const last = actions.findLast((it) => it.do === 'done' && !it.undone)!;
  for (const client of [demo, other])
    expect((await client.act({ do: 'undo', id: randomUUID(), of: last.id })).status).toBe(200);
  const timesOf = async (client: Client) =>
    (await partsOf(await zipOf(client))).get('data/times.jsonl')!.toString();
  expect(await timesOf(other)).toBe(await timesOf(demo));
  expect(await timesOf(other)).not.toBe(parts.get('data/times.jsonl')!.toString());
  // Put back once more, it is all there already.
  const again = await putBack(other, first as never);
  expect([again.status, again.body.todos, again.body.times]).toEqual([200, 0, 0]);
  expect(again.body.there).toBeGreaterThan(30);
});

test('every kind of definition, with files and all that can be done to one, comes out the same', async () => {
  const client = await new Client(server.url).register('Europe/London');
  const texts = SENTENCES.map(([text]) => text as string).filter((_, i) => i % 3 === 0);
  const ids: string[] = [];
  for (const text of texts) ids.push(await client.write(text).catch(() => ''));
  const there = ids.filter(Boolean);
  expect(there.length).toBeGreaterThan(60);
  const file = { id: randomUUID(), name: 'Tank “2”.txt', type: 'text/plain', size: 5 };
  const bytes = new TextEncoder().encode('water');
  expect((await client.send('POST', '/files', { ...file, sum: null })).status).toBe(200);
  expect((await client.sendPiece(file.id, 0, bytes)).body.done).toBe(true);
  const act = (draft: object) => client.act({ id: randomUUID(), ...draft } as never);
  const { todos } = await client.todos();
  for (const [i, { id, open }] of todos.entries()) {
    const slot = open[0]?.slot;
    if (!slot) continue;
    const deeds: object[] = [
      { do: 'done', todo: id, slot },
      { do: 'skip', todo: id, slot },
      { do: 'move', todo: id, slot, plan: '2027-06-03' },
      { do: 'note', todo: id, slot, note: '=1+2; “half”\nof it' },
      { do: 'file', todo: id, slot, file },
      { do: 'pause', todos: [id], from: '2027-07-01', to: null },
      { do: 'end', todo: id },
      { do: 'remove', todo: id },
    ];
    const deed = deeds[i % deeds.length]!;
    const { status, body } = await act(deed);
    if (status === 200 && i % 11 === 0)
      await act({ do: 'undo', of: (body as { action: { id: string } }).action.id });
  }
  const first = await zipOf(client);
  const parts = await partsOf(first);
  expect(parts.get(`files/${file.id}`)!.toString()).toBe('water');
  expect(parts.get('csv/times.csv')!.toString().split('\r\n')[0]).toBe(
    'to-do,title,number,slot,due,planned for,status,opened,ended,days late,minutes,part,tally,note,answers',
  );
  const other = await new Client(server.url).register();
  expect((await putBack(other, first as never)).body.error).toBeUndefined();
  await expectSame(first, await zipOf(other));
});

test('beside what is there it adds what is not', async () => {
  const client = await new Client(server.url).register();
  await client.write('Weigh the hives every Tuesday');
  const zip = await zipOf(client);
  const other = await new Client(server.url).register();
  await other.write('Turn the compost every Friday');
  const { body } = await putBack(other, zip as never);
  expect(body).toMatchObject({ todos: 1, there: 0 });
  const { todos } = await other.todos();
  expect(todos.map(({ series }) => series.title).sort()).toEqual([
    'Turn the compost',
    'Weigh the hives',
  ]);
});

describe('what is no such zip changes nothing, and says what is wrong', () => {
  let whole: Map<string, Buffer>;
  let client: Client;
  beforeAll(async () => {
    const source = await new Client(server.url).register();
    await source.write('Weigh the hives every Tuesday');
    const file = { id: randomUUID(), name: 'a.txt', type: 'text/plain', size: 5 };
    await source.send('POST', '/files', { ...file, sum: null });
    await source.sendPiece(file.id, 0, new TextEncoder().encode('water'));
    whole = await partsOf(await zipOf(source));
    client = await new Client(server.url).register();
  });
  const changed = (change: (parts: Map<string, Buffer>) => void) => {
    const parts = new Map(whole);
    change(parts);
    return zipped(parts);
  };
  const withManifest = (change: (manifest: Manifest) => void) =>
    changed((parts) => {
      const manifest = JSON.parse(parts.get(MANIFEST)!.toString()) as Manifest;
      change(manifest);
      parts.set(MANIFEST, Buffer.from(JSON.stringify(manifest)));
    });
  const swapped = (name: string, from: string | RegExp, to: string) =>
    changed((parts) => parts.set(name, Buffer.from(parts.get(name)!.toString().replace(from, to))));

  /** A zip that claims that a part has so many bytes. */
  function claiming(name: string, size: number, zip: Buffer): Buffer {
    const bytes = Buffer.from(zip);
    // The central directory has the length 24 bytes into each header (APPNOTE 4.3.12).
    for (
      let at = bytes.indexOf('PK\u0001\u0002');
      at >= 0;
      at = bytes.indexOf('PK\u0001\u0002', at + 4)
    ) {
      const length = bytes.readUInt16LE(at + 28);
      if (bytes.toString('utf8', at + 46, at + 46 + length) === name)
        bytes.writeUInt32LE(size, at + 24);
    }
    return bytes;
  }

  test.each<[string, () => Promise<Buffer> | Buffer, RegExp]>([
    ['nothing', () => Buffer.alloc(0), /no zip/u],
    ['an HTML page', () => Buffer.from('<html><body>no</body></html>'), /no zip/u],
    ['another zip', () => zipped(new Map([['a.txt', Buffer.from('a')]])), /no zip/u],
    ['half of one', async () => (await zipped(whole)).subarray(0, 700), /no zip/u],
    ['a later form', () => withManifest((it) => (it.form = FORM + 1)), /later form/u],
    [
      'a part that is missing',
      () => changed((parts) => parts.delete('data/steps.jsonl')),
      /missing/u,
    ],
    ['a part that was changed', () => swapped('data/todos.jsonl', 'Weigh', 'Weihg'), /SHA-256/u],
    [
      'a file that was changed',
      () =>
        changed((parts) => {
          const name = [...parts.keys()].find((it) => it.startsWith('files/'))!;
          parts.set(name, Buffer.from('wafer'));
        }),
      /SHA-256/u,
    ],
    [
      'a line that is not JSON',
      () => swapped('data/places.jsonl', /$/u, '{"id":\n'),
      /not JSON|SHA-256/u,
    ],
    [
      '4 GB of zeros',
      async () => claiming('data/times.jsonl', 0xfffffff0, await zipped(whole)),
      /larger than any/u,
    ],
    [
      'a part that is longer than it says',
      async () => claiming('data/todos.jsonl', 10, await zipped(whole)),
      /cannot be read/u,
    ],
  ])('%s', async (_, make, words) => {
    const { status, body } = await putBack(client, Buffer.from(await make()) as never);
    expect([status, body.error?.code, body.error?.message]).toEqual([
      400,
      'everything.form',
      expect.stringMatching(words),
    ]);
    expect((await client.todos()).todos).toEqual([]);
  });

  test('a name that leads out of it', async () => {
    const bytes = await zipped(
      new Map([...whole, ['data/../../evil.txt', Buffer.from('x')]].slice(0) as never),
    ).catch(() => null);
    // The library that writes refuses such a name: it is put there byte by byte.
    const plain = await zipped(new Map([...whole, ['data/aa/bb/evil.txt', Buffer.from('x')]]));
    const text = plain.toString('latin1').replaceAll('data/aa/bb/evil.txt', 'data/../../evil.txt');
    for (const zip of [bytes, Buffer.from(text, 'latin1')].filter((it) => it !== null)) {
      const { status, body } = await putBack(client, Buffer.from(zip) as never);
      expect([status, body.error.message]).toEqual([
        400,
        expect.stringContaining('cannot be read'),
      ]);
    }
  });

  test('what is not said to be a zip is not read', async () => {
    const { status } = await client.send('POST', '/everything', 'PK', {
      'Content-Type': 'text/plain',
    });
    expect(status).toBe(415);
  });
});

test('a zip of each form that was ever given out can be read', async () => {
  for (let form = 1; form <= FORM; form++) {
    const zip = readFileSync(join(__dirname, `everything/testing/form-${form}.zip`));
    const client = await new Client(server.url).register();
    const { status, body } = await putBack(client, Buffer.from(zip) as never);
    expect([status, body.todos > 2, body.times > 2, body.files]).toEqual([200, true, true, 1]);
    // What is written for reading (tables, the calendar) may have become another by then; what is put
    // back is the same.
    const kept = async (from: Buffer) =>
      [...(await partsOf(from))].filter(([name]) => /^(data|files)\//.test(name));
    expect(await kept(await zipOf(client))).toEqual(await kept(zip));
  }
});

import { createHash, randomUUID } from 'node:crypto';
import type { ApiError, FileView } from '@back-again/contract';
import { MOST_FILE } from '@back-again/core';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';
import { PIECE } from './kept.ts';

let server: Running;
beforeAll(async () => {
  server = await startTestServer('2027-06-01T10:00:00Z');
});
afterAll(() => server.stop());

const someone = () => new Client(server.url).register();
const id = randomUUID;
const PNG = Buffer.concat([Buffer.from('\x89PNG\r\n\x1a\n', 'latin1'), Buffer.alloc(900, 7)]);
const sumOf = (bytes: Buffer) => createHash('sha256').update(bytes).digest('hex');

interface Said {
  id?: string;
  name?: string;
  type?: string;
  size?: number;
  sum?: string | null;
}

const begin = (client: Client, bytes: Buffer, said: Said = {}) =>
  client.send<FileView>('POST', '/files', {
    id: id(),
    name: 'hive one.png',
    type: 'image/png',
    size: bytes.length,
    sum: sumOf(bytes),
    ...said,
  });

const put = (client: Client, file: string, n: number | string, bytes: Buffer) =>
  client.sendPiece(file, n, new Uint8Array(bytes));

const get = (client: Client, file: string) =>
  fetch(`${client.base}/api/files/${file}`, { headers: { Cookie: client.cookies } });

/** Sends all of a file; gives what belongs to a time. */
async function sent(client: Client, bytes: Buffer, said: Said = {}) {
  const { body } = await begin(client, bytes, said);
  for (let n = 0; n < body.pieces; n++) {
    const answer = await put(client, body.id, n, bytes.subarray(n * PIECE, (n + 1) * PIECE));
    expect(answer.status).toBe(200);
  }
  const { name = 'hive one.png', type = 'image/png' } = said;
  return { id: body.id, name, type, size: bytes.length };
}

const refusedAs = ({ status, body }: { status: number; body: ApiError }) => [
  status,
  body.error.code,
  body.error.where,
];

test('a file is sent in pieces, belongs to a time, is let go of and comes back', async () => {
  const client = await someone();
  const todo = await client.write('Weigh the hives every Tuesday');
  const slot = '2027-06-01';
  const bytes = Buffer.concat([PNG, Buffer.alloc(PIECE + 5, 3)]);
  const { body: begun } = await begin(client, bytes);
  expect(begun).toMatchObject({ pieces: 2, there: [], done: false });
  const file = { id: begun.id, name: 'hive one.png', type: 'image/png', size: bytes.length };
  const attach = (more: object = {}) =>
    client.act({ do: 'file', id: id(), todo, slot, file: { ...file, ...more } });
  // It is not there yet.
  expect(refusedAs(await attach())).toEqual([404, 'file.none', 'file']);
  expect((await put(client, file.id, 1, bytes.subarray(PIECE))).body.there).toEqual([1]);
  // After a connection was lost it goes on where it was.
  expect((await begin(client, bytes, { id: file.id })).body.there).toEqual([1]);
  expect((await put(client, file.id, 0, bytes.subarray(0, PIECE))).body.done).toBe(true);
  expect(refusedAs(await attach({ name: 'hive two.png' }))).toEqual([409, 'file.other', 'file']);
  expect((await attach()).status).toBe(200);
  const filesOf = async () => (await client.page(todo)).todo.open[0]!.filled?.files;
  expect(await filesOf()).toEqual([file]);
  const read = await get(client, file.id);
  expect(Buffer.from(await read.arrayBuffer()).equals(bytes)).toBe(true);
  const removal = id();
  await client.act({ do: 'unfile', id: removal, todo, slot, file: file.id });
  expect(await filesOf()).toBeUndefined();
  await client.act({ do: 'undo', id: id(), of: removal });
  expect(await filesOf()).toEqual([file]);
  // It stays with the time when that has ended.
  await client.act({ do: 'done', id: id(), todo, slot });
  const [ended] = (await client.page(todo)).record;
  expect(ended!.filled!.files).toEqual([file]);
});

test('what is wrong with a file is said, and nothing of it is kept', async () => {
  const client = await someone();
  const refused = async (bytes: Buffer, said: Said) => refusedAs(await begin(client, bytes, said));
  expect(await refused(PNG, { size: 11 * 1024 * 1024 })).toEqual([400, 'file.big', 'size']);
  expect(await refused(Buffer.alloc(0), {})).toEqual([400, 'file.empty', 'size']);
  expect(await refused(PNG, { name: '../x' })).toEqual([400, 'file.name', 'name']);
  expect((await refused(PNG, { sum: 'x' }))[0]).toBe(400);
  expect((await refused(PNG, { id: 'x' }))[0]).toBe(400);
  const { body } = await begin(client, PNG);
  const wrong = async (n: number | string, bytes: Buffer) =>
    refusedAs(await put(client, body.id, n, bytes));
  expect(await wrong(0, PNG.subarray(1))).toEqual([400, 'piece.size', 'body']);
  expect((await wrong(0, Buffer.alloc(PIECE + 1)))[0]).toBe(413);
  expect(await wrong(1, PNG)).toEqual([404, 'file.none', 'file']);
  expect(await wrong('x', PNG)).toEqual([404, 'file.none', 'file']);
  // What did not arrive as it was is sent anew.
  expect(await wrong(0, Buffer.alloc(PNG.length, 1))).toEqual([400, 'file.sum', 'sum']);
  expect(await wrong(0, PNG)).toEqual([404, 'file.none', 'file']);
  const response = await fetch(`${client.base}/api/files/${id()}/0`, {
    method: 'PUT',
    headers: { 'Content-Type': 'text/plain', Origin: client.base, Cookie: client.cookies },
    body: 'x',
  });
  expect(response.status).toBe(415);
});

test('what could run is given to be kept, whatever it says that it is', async () => {
  const client = await someone();
  const script = '<html><script>alert(1)</script></html>';
  const cases: [name: string, type: string, content: Buffer, shown: string | null][] = [
    ['a.png', 'image/png', PNG, 'image/png'],
    ['a.txt', 'text/plain', Buffer.from('Two frames of brood.'), 'text/plain; charset=utf-8'],
    ['a.pdf', 'application/pdf', Buffer.from('%PDF-1.7\n'), 'application/pdf'],
    ['a.svg', 'image/svg+xml', Buffer.from('<svg onload="alert(1)"/>'), null],
    ['a.html', 'text/html', Buffer.from(script), null],
    // What it begins with is not what it says.
    ['lies.png', 'image/png', Buffer.from(script), null],
    ['lies.pdf', 'application/pdf', PNG, null],
    ['odd', '', Buffer.from([0, 1, 2]), null],
    ['Waage “zwei”.png', 'image/png', PNG, 'image/png'],
  ];
  for (const [name, type, content, shown] of cases) {
    const file = await sent(client, content, { name, type });
    const { headers } = await get(client, file.id);
    expect([name, headers.get('content-type')]).toEqual([
      name,
      shown ?? 'application/octet-stream',
    ]);
    expect(headers.get('content-disposition')).toBe(
      `${shown ? 'inline' : 'attachment'}; filename*=UTF-8''${encodeURIComponent(name)}`,
    );
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    expect(headers.get('content-security-policy')).toContain("default-src 'none'");
  }
});

test('another person’s file is none', async () => {
  const [owner, other] = [await someone(), await someone()];
  const file = await sent(owner, PNG);
  const response = await get(other, file.id);
  expect([response.status, ((await response.json()) as ApiError).error.code]).toEqual([
    404,
    'file.none',
  ]);
  expect((await put(other, file.id, 0, PNG)).status).toBe(404);
  const todo = await other.write('Weigh the hives every Tuesday');
  const { status } = await other.act({ do: 'file', id: id(), todo, slot: '2027-06-01', file });
  expect(status).toBe(404);
  // The same id is another file of theirs.
  expect((await begin(other, PNG, { id: file.id })).body.there).toEqual([]);
  expect((await get(owner, file.id)).status).toBe(200);
  expect((await fetch(`${owner.base}/api/files/${file.id}`)).status).toBe(401);
});

test('what is not as it was kept is not given out', async () => {
  const client = await someone();
  const file = await sent(client, PNG);
  await server.db.sequelize.query('UPDATE filePieces SET bytes = ? WHERE fileId = ?', {
    replacements: [Buffer.alloc(PNG.length, 1), file.id],
  });
  const response = await get(client, file.id);
  expect([response.status, ((await response.json()) as ApiError).error.code]).toEqual([
    500,
    'file.broken',
  ]);
});

test('200 MB are used up; what was let go of makes room, what belongs to a time does not', async () => {
  const client = await someone();
  const todo = await client.write('Weigh the hives every Tuesday');
  const file = await sent(client, PNG);
  const slot = '2027-06-01';
  await client.act({ do: 'file', id: id(), todo, slot, file });
  const { body } = await client.send<{ name: string }>('GET', '/session');
  const user = await server.db.users.findOne({ where: { name: body.name } });
  const fill = (held: string, most: number) =>
    server.db.sequelize.query(
      `INSERT INTO files (userId, id, name, type, size, isDone, letGoAt, createdAt)
        SELECT ?, UUID(), 'x', '', ${MOST_FILE}, TRUE, ?, '2027-05-01' FROM seq_1_to_${most}`,
      { replacements: [user!.id, held] },
    );
  await fill('9999-01-01', 19);
  await fill('2027-05-20', 1);
  // One was let go of: it makes room.
  expect((await begin(client, PNG, { size: MOST_FILE - 2000 })).status).toBe(200);
  expect(refusedAs(await begin(client, PNG, { size: MOST_FILE }))).toEqual([
    409,
    'files.full',
    'size',
  ]);
  expect((await get(client, file.id)).status).toBe(200);
});

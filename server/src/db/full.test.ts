import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { randomUUID } from 'node:crypto';
import { startMariadb } from '../../../scripts/lib/mariadb.mjs';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';

// A disk that is full: what is answered is kept, what cannot be kept is refused in words and changes nothing, and
// once there is room everything goes on.

test('a database without room refuses in words, loses nothing, and goes on once there is room', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'back-again-full-'));
  let database = await startMariadb(folder, { most: 40 });
  let server: Running | null = null;
  try {
    server = await startTestServer('2027-06-01T10:00:00Z', { databaseUrl: database.url });
    const { sequelize } = server.db;
    const client = await new Client(server.url).register();
    const todo = await client.write('Check the bilge every day');
    await sequelize.query('CREATE TABLE filler (n INT AUTO_INCREMENT PRIMARY KEY, bytes LONGBLOB)');
    const fill = () =>
      sequelize.query('INSERT INTO filler (bytes) VALUES (REPEAT(UUID(), 7000))').then(
        () => true,
        () => false,
      );
    while (await fill());
    // What is left of pages that were begun takes a few more.
    const answered: string[] = [];
    let refused: Awaited<ReturnType<typeof client.send>> | null = null;
    for (let i = 0; !refused && i < 600; i++) {
      const note = `${i} ${'and more '.repeat(200)}`.trim();
      const answer = await client.send('POST', '/actions', {
        ...{ do: 'note', id: randomUUID(), todo, slot: '2027-06-01', note },
      });
      if (answer.status === 200) answered.push(note);
      else refused = answer;
    }
    expect([refused?.status, refused?.body.error.code]).toEqual([507, 'server.full']);
    expect(refused!.body.error.message).toContain('Nothing was changed');
    const noteNow = async () => (await client.page(todo)).todo.open[0]!.note;
    expect(await noteNow()).toBe(answered.at(-1) ?? null);
    expect(await server.db.actions.count()).toBe(answered.length + 1);
    // A larger disk: the database is stopped, and started on it where it was.
    process.kill(database.pid, 'SIGTERM');
    await database.ended;
    database = await startMariadb(folder, { at: database.at, most: 80 });
    const again = { do: 'note', id: randomUUID(), todo, slot: '2027-06-01', note: 'Dry' } as const;
    expect((await client.act(again)).status).toBe(200);
    expect(await noteNow()).toBe('Dry');
  } finally {
    await server?.stop();
    await database.stop();
    rmSync(folder, { recursive: true, force: true });
  }
});

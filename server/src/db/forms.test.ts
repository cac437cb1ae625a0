import { execFileSync } from 'node:child_process';
import { existsSync, readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { ChangesView, OutboxView, SaidView, TodoPage } from '@back-again/contract';
import { Client, freshDatabase, startTestServer } from '../testing/harness.ts';

// A backup of each form of the database that was given out, with what the server said of it then: brought to the
// newest form, it says the same. They are made by `npm run backup` of that program, and never made anew.

const FOLDER = join(__dirname, 'testing');
const ROOT = join(__dirname, '../../..');
const NOW = '2027-06-09T09:05:00Z';
const forms = readdirSync(FOLDER).filter((name) => name.endsWith('.backup'));

interface Then {
  pages: Record<string, TodoPage>;
  changes: ChangesView;
  said: SaidView;
  outbox: OutboxView;
}

test('there is one of each form since the first that could be backed up, but of the newest', () => {
  const names = readdirSync(join(__dirname, 'migrations')).map((name) => name.slice(0, 4));
  const older = names.filter((name) => name >= '0011' && name < names.sort().at(-1)!);
  expect(forms.map((name) => /\d{4}/u.exec(name)![0]).sort()).toEqual(older.sort());
});

test.each(forms)('%s says the same in the newest form', async (name) => {
  const url = await freshDatabase();
  execFileSync(process.execPath, [join(ROOT, 'scripts/restore.mjs'), join(FOLDER, name)], {
    env: { ...process.env, DATABASE_URL: url, NODE_OPTIONS: '' },
  });
  const told = join(FOLDER, name.replace('.backup', '.json'));
  expect(existsSync(told)).toBe(true);
  const then = JSON.parse(readFileSync(told, 'utf8')) as Then;
  const server = await startTestServer(NOW, { databaseUrl: url });
  try {
    const client = new Client(server.url);
    const session = { name: 'someone@example.org', password: 'a long password' };
    expect((await client.send('POST', '/session', session)).status).toBe(200);
    for (const [id, page] of Object.entries(then.pages)) {
      expect(page.record.length + page.todo.open.length).toBeGreaterThan(0);
      expect(await client.page(id)).toEqual(page);
    }
    expect((await client.send('GET', '/changes?since=0')).body).toEqual(then.changes);
    expect((await client.send('GET', '/said')).body).toEqual(then.said);
    const { leaves: _leaves, ...outbox } = (await client.send<OutboxView>('GET', '/outbox')).body;
    expect(then.outbox).toMatchObject(outbox);
    // And it goes on: what was done last is taken back.
    const done = then.pages[Object.keys(then.pages)[0]!]!.record.find((it) => it.action)!;
    const undo = { do: 'undo', id: crypto.randomUUID(), of: done.action! } as const;
    expect((await client.act(undo)).status).toBe(200);
  } finally {
    await server.stop();
  }
});

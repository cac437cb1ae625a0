import { request as newRequest } from '@playwright/test';
import { TODAY, create, done, expectKept, from, sendAll, type Sent } from './kept.ts';
import { expect, freshDatabase, register, startOn, test } from './program.ts';

const AT = `${TODAY}T10:00:00Z`;
const WORKERS = 4;

test('killed in the middle of a run of actions: each answered one is kept, once, and no other', async () => {
  test.setTimeout(120_000);
  const database = await freshDatabase();
  let program = await startOn(database, AT);
  let client = await newRequest.newContext(from(program));
  await register(client);
  const { cookies } = await client.storageState();
  const todos: string[] = [];
  for (let i = 0; i < WORKERS; i++) todos.push(await create(client));

  const sent: Sent[] = [];
  for (const killAfter of [30, 75]) {
    const before = sent.filter(({ answered }) => answered).length;
    let over = false;
    const runs = sendAll(client, todos, sent, () => over);
    await expect
      .poll(() => sent.filter(({ answered }) => answered).length - before, { intervals: [5] })
      .toBeGreaterThan(killAfter);
    await program.stop('SIGKILL');
    over = true;
    await runs;
    await client.dispose();
    program = await startOn(database, AT);
    client = await newRequest.newContext({
      ...from(program),
      storageState: { cookies, origins: [] },
    });
    await expectKept(client, todos, sent, (it) => it.answered);
  }
  const unanswered = sent.filter(({ answered }) => !answered);
  expect(unanswered.length).toBeGreaterThan(0);

  // Sent again with their ids, those that got no answer happen once, whether or not they had.
  for (const it of sent) expect(await done(client, it)).toBe(true);
  await expectKept(client, todos, sent, () => true);
  await client.dispose();
  await program.stop();
});

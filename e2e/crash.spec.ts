import { randomUUID } from 'node:crypto';
import { request as newRequest, type APIRequestContext } from '@playwright/test';
import { read } from '../core/src/reading.ts';
import { expect, freshDatabase, register, startOn, test, type Program } from './program.ts';

const AT = '2027-06-01T10:00:00Z';
const TODAY = '2027-06-01';
const WORKERS = 4;

interface Sent {
  id: string;
  slot: string;
  answered: boolean;
}

test('killed in the middle of a run of actions: each answered one is kept, once, and no other', async () => {
  test.setTimeout(120_000);
  const database = await freshDatabase();
  let program = await startOn(database, AT);
  let client = await newRequest.newContext(from(program));
  await register(client);
  const { cookies } = await client.storageState();
  const todos: string[] = [];
  for (let i = 0; i < WORKERS; i++) todos.push(await create(client));

  const sent: (Sent & { todo: string })[] = [];
  for (const killAfter of [30, 75]) {
    const before = sent.filter(({ answered }) => answered).length;
    let over = false;
    const runs = todos.map(async (todo) => {
      for (let i = sent.filter((it) => it.todo === todo).length; !over && i < 300; i++) {
        const it = { todo, id: randomUUID(), slot: dayAfter(i), answered: false };
        sent.push(it);
        it.answered = await done(client, it);
        if (!it.answered) return;
      }
    });
    await expect
      .poll(() => sent.filter(({ answered }) => answered).length - before, { intervals: [5] })
      .toBeGreaterThan(killAfter);
    await program.stop('SIGKILL');
    over = true;
    await Promise.all(runs);
    await client.dispose();
    program = await startOn(database, AT);
    client = await newRequest.newContext({
      ...from(program),
      storageState: { cookies, origins: [] },
    });
    await compare((it) => it.answered);
  }
  const unanswered = sent.filter(({ answered }) => !answered);
  expect(unanswered.length).toBeGreaterThan(0);

  // Sent again with their ids, those that got no answer happen once, whether or not they had.
  for (const it of sent) expect(await done(client, it)).toBe(true);
  await compare(() => true);
  await client.dispose();
  await program.stop();

  /** Holds what is kept against what was sent: what must be there is, once; nothing else is. */
  async function compare(must: (it: Sent) => boolean) {
    for (const todo of todos) {
      const mine = sent.filter((it) => it.todo === todo);
      const kept = await slotsDone(client, todo);
      expect(new Set(kept).size).toBe(kept.length);
      expect(kept).toEqual(expect.arrayContaining(mine.filter(must).map(({ slot }) => slot)));
      expect(mine.map(({ slot }) => slot)).toEqual(expect.arrayContaining(kept));
    }
  }
});

const from = ({ url }: Program) => ({ baseURL: url, extraHTTPHeaders: { Origin: url } });

const dayAfter = (i: number) =>
  new Date(Date.parse(`${TODAY}T00:00:00Z`) + i * 86_400_000).toISOString().slice(0, 10);

async function create(client: APIRequestContext): Promise<string> {
  const todo = randomUUID();
  const { series } = read('Check the bilge every day', TODAY);
  const answer = await client.post('/api/actions', {
    data: { do: 'create', id: randomUUID(), todo, series },
  });
  expect(answer.status()).toBe(200);
  return todo;
}

/** Marks a slot as done; gives whether the server answered that it is. */
async function done(
  client: APIRequestContext,
  { todo, id, slot }: { todo: string; id: string; slot: string },
): Promise<boolean> {
  try {
    const answer = await client.post('/api/actions', { data: { do: 'done', id, todo, slot } });
    return answer.status() === 200;
  } catch {
    return false;
  }
}

async function slotsDone(client: APIRequestContext, todo: string): Promise<string[]> {
  const page = (await (await client.get(`/api/todos/${todo}`)).json()) as {
    totals: { done: number };
    record: { slot: string; status: string }[];
  };
  const slots = page.record.filter(({ status }) => status === 'done').map(({ slot }) => slot);
  // The page lists the last 50 at most; the total counts all of them.
  expect(page.totals.done).toBeGreaterThanOrEqual(slots.length);
  return slots;
}

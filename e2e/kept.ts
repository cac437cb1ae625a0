import { randomUUID } from 'node:crypto';
import { expect, type APIRequestContext } from '@playwright/test';
import { whatOf, whenOf } from '../core/src/index.ts';
import { read } from '../core/src/reading.ts';

/** Runs of actions that are cut short, and whether each that was answered is kept, once, and no other. */

export const TODAY = '2027-06-01';

export const from = ({ url }: { url: string }) => ({
  baseURL: url,
  extraHTTPHeaders: { Origin: url },
});

/** One that was sent: a day of a to-do that is done. */
export interface Sent {
  todo: string;
  id: string;
  slot: string;
  answered: boolean;
}

/** Sends one after another to each to-do until one is not answered, or `isOver`. */
export function sendAll(
  client: APIRequestContext,
  todos: readonly string[],
  sent: Sent[],
  isOver: () => boolean,
): Promise<unknown> {
  return Promise.all(
    todos.map(async (todo) => {
      for (let i = sent.filter((it) => it.todo === todo).length; !isOver() && i < 300; i++) {
        const it = { todo, id: randomUUID(), slot: dayAfter(i), answered: false };
        sent.push(it);
        it.answered = await done(client, it);
        if (!it.answered) return;
      }
    }),
  );
}

/** Holds what is kept against what was sent: what must be there is, once; nothing else is. */
export async function expectKept(
  client: APIRequestContext,
  todos: readonly string[],
  sent: readonly Sent[],
  must: (it: Sent) => boolean,
): Promise<void> {
  for (const todo of todos) {
    const mine = sent.filter((it) => it.todo === todo);
    const kept = await slotsDone(client, todo);
    expect(new Set(kept).size).toBe(kept.length);
    const last = kept.length < 50 ? '' : kept.at(-1)!;
    const wanted = mine.filter(must).map(({ slot }) => slot);
    expect(kept).toEqual(expect.arrayContaining(wanted.filter((slot) => slot >= last)));
    expect(mine.map(({ slot }) => slot)).toEqual(expect.arrayContaining(kept));
  }
}

const dayAfter = (i: number) =>
  new Date(Date.parse(`${TODAY}T00:00:00Z`) + i * 86_400_000).toISOString().slice(0, 10);

export async function create(client: APIRequestContext, today = TODAY): Promise<string> {
  const todo = randomUUID();
  const { series } = read('Check the bilge every day', today);
  const answer = await client.post('/api/actions', {
    data: {
      do: 'create',
      id: randomUUID(),
      todo,
      series: whenOf(series),
      details: whatOf(series),
    },
  });
  expect(answer.status()).toBe(200);
  return todo;
}

/** Marks a slot as done; gives whether the server answered that it is. */
export async function done(
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

import { randomUUID } from 'node:crypto';
import { read } from '@back-again/core/reading';
import { Client, halvesOf, startTestServer } from '../testing/harness.ts';

// What an operator reads of a server (Prometheus exposition format 0.0.4: a line is a name, labels and a figure).

const LINE = /^[a-z0-9_]+(?:\{(?:[a-z_]+="[^"]*",?)*\})? [-+0-9.eNaInf]+$/u;

test('requests, actions, sync and the pool, for the operator’s key alone and with nothing of anybody’s', async () => {
  const server = await startTestServer('2027-06-01T10:00:00Z', { operatorKey: 'shown' });
  try {
    const client = await new Client(server.url).register();
    const said = halvesOf(read('Check the bilge every Tuesday', '2027-06-01').series);
    const todo = randomUUID();
    await client.send('POST', '/actions', { id: randomUUID(), do: 'create', todo, ...said });
    await client.send('GET', '/changes?since=0');
    await client.send('GET', `/todos/${todo}`);
    const ask = (key?: string) =>
      fetch(
        `${server.url}/api/metrics`,
        key ? { headers: { Authorization: `Bearer ${key}` } } : {},
      );
    expect((await ask()).status).toBe(401);
    expect((await ask('guessed')).status).toBe(401);
    const answer = await ask('shown');
    const text = await answer.text();
    expect(answer.headers.get('content-type')).toContain('version=0.0.4');
    const lines = text.split('\n').filter((it) => it && !it.startsWith('#'));
    expect(lines.filter((it) => !LINE.test(it))).toEqual([]);
    expect(text).toContain('back_again_actions_total{do="create"} 1');
    expect(text).toContain('route="/todos/:id",status="200"');
    expect(text).toContain('back_again_changes_bytes_count 1');
    expect(text).toContain('back_again_pool{state="waiting"} 0');
    expect(text).toContain('nodejs_eventloop_lag');
    expect(text).not.toContain(todo);
    expect(text).not.toContain('bilge');
  } finally {
    await server.stop();
  }
});

test('without a key nobody reads them', async () => {
  const server = await startTestServer();
  try {
    const answer = await fetch(`${server.url}/api/metrics`, {
      headers: { Authorization: 'Bearer null' },
    });
    expect(answer.status).toBe(401);
    expect(await answer.text()).not.toContain('back_again');
  } finally {
    await server.stop();
  }
});

import { rehearse } from './rehearsal.ts';

// A short form of `npm run check:cluster`, by TLS: one node, one server and the proxy are killed under a few people.

test('kills of a node, a server and the proxy: nothing lost, doubled or out of order', async () => {
  const plan = { people: 5, span: 1500, measured: 0, nodes: [0], servers: [1] };
  await rehearse({ ...plan, byTls: true });
}, 240_000);

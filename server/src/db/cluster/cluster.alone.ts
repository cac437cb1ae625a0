import { measureOne, rehearse } from './rehearsal.ts';

// The whole rehearsal, of twenty minutes, with its figures: `npm run check:cluster`. CLUSTER_PEOPLE, CLUSTER_SPAN and
// CLUSTER_MEASURED make it shorter.

const { CLUSTER_PEOPLE, CLUSTER_SPAN, CLUSTER_MEASURED } = process.env;
const people = Number(CLUSTER_PEOPLE ?? 50);
const measured = Number(CLUSTER_MEASURED ?? 60_000);

test('kills of each node, each server and the proxy: nothing lost, doubled or out of order', async () => {
  const span = Number(CLUSTER_SPAN ?? 85_000);
  await rehearse({ people, span, measured, nodes: [0, 1, 2], servers: [0, 1] });
}, 3_600_000);

test('the same on one node, for its figures', async () => {
  await measureOne({ people, measured });
}, 3_600_000);

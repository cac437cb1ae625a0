import { createServer } from 'node:http';
import { setTimeout as wait } from 'node:timers/promises';
import { createProxyServer } from 'httpxy';

/**
 * A small proxy before several servers, for trying and for tests: `TO` names them, parted by commas, `PORT` where it
 * listens. Requests go to them in turn; one that does not answer `/api/health` gets none until it does again. In
 * earnest a proxy of its own stands there, with HTTPS.
 */

const servers = (process.env.TO ?? '').split(',').map((url) => ({ url, isUp: true }));
/** How often the servers are asked whether they are well, and how long they may take, in milliseconds. */
const LOOK = 500;
const PATIENCE = 2000;

const proxy = createProxyServer({ xfwd: true });
let turn = 0;

/** The next one that is well; the next one where none is. */
function next() {
  const from = turn++;
  const order = servers.map((_, i) => servers[(from + i) % servers.length]);
  return order.find(({ isUp }) => isUp) ?? order[0];
}

/** Says that nothing came of it; whether it was done nobody knows: who asked sends the same id again. */
function lost(to, response) {
  to.isUp = false;
  if (!response.headersSent) response.writeHead(502);
  response.end();
}

const server = createServer((request, response) => {
  const to = next();
  asked.set(request, to);
  proxy.web(request, response, { target: to.url }).catch(() => lost(to, response));
});
/** Who was asked for a request: of a line that is cut later the proxy says so by an event. */
const asked = new WeakMap();
proxy.on('error', (_error, request, response) => {
  if (response && !response.writableEnded) lost(asked.get(request) ?? {}, response);
});
server.listen(Number(process.env.PORT ?? 0), '127.0.0.1', () =>
  process.stdout.write(`listening http://127.0.0.1:${server.address().port}\n`),
);
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => process.exit(0));

for (;;) {
  await Promise.all(
    servers.map(async (it) => {
      try {
        const signal = AbortSignal.timeout(PATIENCE);
        const { ok, status } = await fetch(`${it.url}/api/health`, { signal });
        // Clocks that differ are said to who looks after it, and are no reason to send nobody there.
        it.isUp = ok || status < 500;
      } catch {
        it.isUp = false;
      }
    }),
  );
  await wait(LOOK);
}

import { configFrom } from './config.ts';
import { startServer } from './server.ts';

const config = configFrom(process.env);
const running = await startServer(config);
process.stdout.write(`listening ${running.url}\n`);

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const)
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    running.stop().then(
      () => process.exit(0),
      () => process.exit(1),
    );
  });

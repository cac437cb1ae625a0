import type { DestinationStream } from 'pino';
import { openDatabase } from './db/database.ts';
import { logFor } from './log.ts';

function written(work: (log: ReturnType<typeof logFor>) => void): string {
  const lines: string[] = [];
  const to: DestinationStream = { write: (line) => void lines.push(line) };
  work(logFor('info', to));
  return lines.join('');
}

test('an error of the database leaves nothing in the log of what people wrote', async () => {
  const db = openDatabase(process.env.TEST_DATABASE_URL!);
  const failed = await db.sequelize
    .query("INSERT INTO nowhere (title) VALUES ('Pump out the tank')")
    .catch((error: unknown) => error);
  await db.close();
  expect((failed as Error).message).toContain('nowhere');
  expect(JSON.stringify(failed)).toContain('Pump out');
  const line = written((log) => log.error({ err: failed }, 'a request failed'));
  expect(line).toContain('a request failed');
  expect(line).toContain('SequelizeDatabaseError');
  expect(line).not.toContain('Pump out');
  expect(line).not.toContain('INSERT');
});

test('an error of the code keeps its message and its places', () => {
  const line = written((log) => log.error({ err: new TypeError('no such part') }, 'failed'));
  expect(JSON.parse(line)).toMatchObject({ err: { type: 'TypeError', message: 'no such part' } });
  expect(JSON.parse(line).err.stack[0]).toMatch(/^at /u);
});

import { rmSync } from 'node:fs';

export default async function databaseDown() {
  if (!globalThis.testDatabase) return;
  const { folder, database } = globalThis.testDatabase;
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
}

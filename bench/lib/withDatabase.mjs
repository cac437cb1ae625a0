import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { startMariadb } from '../../scripts/lib/mariadb.mjs';
import { ROOT, ensureMariadb } from '../../scripts/lib/setup.mjs';

/** Runs a part of the bench on a database of its own, whose URL it finds as DATABASE_URL. */
export async function withDatabase(work, ...flags) {
  ensureMariadb();
  const folder = mkdtempSync(join(tmpdir(), 'back-again-bench-'));
  const database = await startMariadb(folder);
  const { status } = spawnSync(
    process.execPath,
    [...flags, '--import', 'tsx', join(ROOT, 'bench', work)],
    {
      cwd: ROOT,
      stdio: 'inherit',
      env: { ...process.env, DATABASE_URL: database.url },
    },
  );
  await database.stop();
  rmSync(folder, { recursive: true, force: true });
  process.exitCode = status ?? 1;
}

import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { coreAliases } from './lib/core.mjs';
import { ROOT, ensurePackages, run, say } from './lib/setup.mjs';

/** `npm run bench`: each part made into one file first, so that what is measured is the code as it ships. */

ensurePackages();
const folder = join(ROOT, '.cache/bench');
ensureRust();
// Each by itself: what one does to the machine’s guesses is no matter of the other.
const PARTS = ['run', 'corners', 'agenda', 'planning'];
const { build } = await import('esbuild');
await build({
  entryPoints: PARTS.map((name) => join(ROOT, `bench/${name}.ts`)),
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  alias: coreAliases(),
  outdir: folder,
  outExtension: { '.js': '.mjs' },
  logLevel: 'error',
});
const made = PARTS.map((name) => join(folder, `${name}.mjs`));
const whole = ['neighbours', 'both', 'touch', 'clock', 'past', 'doors'].map((name) =>
  join(ROOT, `bench/${name}.mjs`),
);
for (const part of [...made, ...whole]) {
  const { status } = spawnSync(process.execPath, [part], { cwd: ROOT, stdio: 'inherit' });
  process.exitCode ||= status ?? 1;
}

/**
 * Its packages for some machines are not in each registry, so the lock file cannot name them all
 * and `npm ci` would refuse it: it is installed here, and only by who measures.
 */
function ensureRust() {
  if (existsSync(join(folder, 'node_modules/rrule-rust'))) return;
  say('Installing rrule-rust to measure against');
  mkdirSync(folder, { recursive: true });
  writeFileSync(
    join(folder, 'package.json'),
    JSON.stringify({ private: true, dependencies: { 'rrule-rust': '3.1.1' } }),
  );
  run('npm', ['install', '--prefix', folder, '--no-package-lock', '--no-audit', '--no-fund']);
}

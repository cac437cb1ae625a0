import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ROOT } from '../scripts/lib/setup.mjs';

const git = (...args) => spawnSync('git', args, { cwd: ROOT, stdio: 'ignore' }).status === 0;

/**
 * An earlier state of the program beside this one, with the packages that are here, to be measured
 * against; null where the history does not have it.
 */
export function checkout(commit) {
  const folder = mkdtempSync(join(tmpdir(), 'back-again-before-'));
  const code = join(folder, 'code');
  if (!git('worktree', 'add', '--detach', code, commit)) {
    rmSync(folder, { recursive: true, force: true });
    return null;
  }
  const modules = join(code, 'node_modules');
  mkdirSync(join(modules, '@back-again'), { recursive: true });
  for (const name of readdirSync(join(ROOT, 'node_modules')))
    if (name !== '@back-again') symlinkSync(join(ROOT, 'node_modules', name), join(modules, name));
  for (const name of ['core', 'contract', 'server', 'app'])
    symlinkSync(join(code, name), join(modules, '@back-again', name));
  return {
    code,
    remove() {
      git('worktree', 'remove', '--force', code);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { ROOT } from './setup.mjs';

/** The ways into the core, each by its name, for what bundles it. */
export function coreAliases() {
  const { name, exports } = JSON.parse(readFileSync(join(ROOT, 'core/package.json'), 'utf8'));
  return Object.fromEntries(
    Object.entries(exports).map(([path, file]) => [
      `${name}${path.slice(1)}`,
      join(ROOT, 'core', file),
    ]),
  );
}

import { join } from 'node:path';
import { ROOT, ensurePackages, run } from './lib/setup.mjs';

/** `npm run bench`: made into one file first, so that what is measured is the code as it ships. */

ensurePackages();
const file = join(ROOT, '.cache/bench.mjs');
const { build } = await import('esbuild');
await build({
  entryPoints: [join(ROOT, 'bench/run.ts')],
  bundle: true,
  platform: 'node',
  format: 'esm',
  packages: 'external',
  alias: { '@back-again/core': join(ROOT, 'core/src/index.ts') },
  outfile: file,
  logLevel: 'error',
});
run(process.execPath, [file]);

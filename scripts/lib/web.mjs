import { createHash } from 'node:crypto';
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  rmSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { coreAliases } from './core.mjs';
import { ROOT, run, say } from './setup.mjs';

/** Where the built app lies. */
export const WEB = join(ROOT, 'app/dist');

const FONTS = [
  [
    'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
    'text.woff2',
  ],
  [
    'atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2',
    'text-ext.woff2',
  ],
  ['bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2', 'display.woff2'],
  ['atkinson-hyperlegible-next/LICENSE', 'text-licence.txt'],
  ['bricolage-grotesque/LICENSE', 'display-licence.txt'],
];
const SOURCES = ['app', 'contract/src', 'core/src', 'package-lock.json'];
const NOT = new Set(['node_modules', 'dist', '.expo', 'fonts']);

/**
 * Lays the service worker beside the bundle: it keeps the program, its fonts and its page on the device. A
 * newer one waits until the person takes it.
 */
async function addWorker(folder) {
  // The packages may only just have been installed.
  const { generateSW } = await import('workbox-build');
  const { count, size, warnings } = await generateSW({
    globDirectory: folder,
    globPatterns: ['index.html', '**/*.js', 'fonts/*.woff2', 'assets/**', '*.svg', 'icons/*.png'],
    globIgnores: ['worker.js', 'speak.js'],
    swDest: join(folder, 'worker.js'),
    importScripts: ['/speak.js'],
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//u],
    dontCacheBustURLsMatching: /^(_expo|assets)\//u,
    cleanupOutdatedCaches: true,
    skipWaiting: false,
    clientsClaim: true,
    inlineWorkboxRuntime: true,
    sourcemap: false,
    mode: 'production',
    maximumFileSizeToCacheInBytes: 8 * 1024 * 1024,
  });
  if (warnings.length || count === 0) throw new Error(`The worker: ${warnings.join(' ')}`);
  say(`The program on a device: ${count} files, ${Math.round(size / 1024)} KB`);
}

/** The workers that screens start, each a file of its own beside the bundle. */
const WORKERS = {
  'ahead.worker.js': 'app/src/features/ahead/desk.worker.ts',
  'doors.worker.js': 'app/src/features/doors/looking.worker.ts',
};

async function addWorkers(folder) {
  for (const [name, entry] of Object.entries(WORKERS)) await bundleWorker(folder, name, entry);
}

async function bundleWorker(folder, name, entry) {
  const { build } = await import('esbuild');
  await build({
    entryPoints: [join(ROOT, entry)],
    bundle: true,
    minify: true,
    platform: 'browser',
    format: 'iife',
    target: 'es2022',
    alias: coreAliases(),
    outfile: join(folder, name),
    logLevel: 'error',
  });
}

/** Builds the web bundle where it is missing or older than what it is made of; gives its folder. */
export async function buildWeb() {
  const stamp = join(WEB, '.stamp');
  const now = digest();
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return WEB;
  say('Building the web bundle (a minute or so the first time)');
  copyFonts();
  rmSync(WEB, { recursive: true, force: true });
  const env = {
    ...process.env,
    CI: '1',
    EXPO_OFFLINE: '1',
    EXPO_NO_TELEMETRY: '1',
    NODE_ENV: 'production',
  };
  run('npm', ['exec', '-w', 'app', '--', 'expo', 'export', '--platform', 'web'], {
    env,
    quiet: true,
  });
  await addWorkers(WEB);
  await addWorker(WEB);
  compress(WEB);
  writeFileSync(stamp, now);
  return WEB;
}

/** Lays a compressed copy beside each file of text, so that the server does not do it for each request. */
function compress(folder) {
  for (const name of readdirSync(folder, { recursive: true })) {
    if (!/\.(js|css|html|svg|json|webmanifest)$/u.test(name)) continue;
    const file = join(folder, name);
    const content = readFileSync(file);
    writeFileSync(`${file}.br`, brotliCompressSync(content));
    writeFileSync(`${file}.gz`, gzipSync(content, { level: 9 }));
  }
}

function copyFonts() {
  const to = join(ROOT, 'app/public/fonts');
  mkdirSync(to, { recursive: true });
  for (const [from, name] of FONTS)
    copyFileSync(join(ROOT, 'node_modules/@fontsource-variable', from), join(to, name));
}

function digest() {
  const hash = createHash('sha256');
  for (const source of SOURCES)
    for (const file of filesIn(source))
      hash
        .update(file)
        .update('\0')
        .update(readFileSync(join(ROOT, file)));
  return hash.digest('hex');
}

function filesIn(path) {
  if (/\.\w+$/u.test(path)) return [path];
  return readdirSync(join(ROOT, path), { withFileTypes: true })
    .filter(({ name }) => !NOT.has(name) && !/\.test\.|\.tsbuildinfo$/u.test(name))
    .flatMap((entry) =>
      entry.isDirectory() ? filesIn(join(path, entry.name)) : [join(path, entry.name)],
    )
    .sort();
}

import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, statSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { PROVIDER } from './galera.mjs';
import { findMariadbd } from './mariadb.mjs';

/** The project’s folder. */
export const ROOT = resolve(import.meta.dirname, '../..');

/** Says what is being done. */
export function say(words) {
  process.stdout.write(`· ${words}\n`);
}

/** Stops with one plain line. */
export function giveUp(words) {
  process.stderr.write(`${words}\n`);
  process.exit(1);
}

/** Installs the packages of the lock file where they are missing or older than it. */
export function ensurePackages() {
  const lock = join(ROOT, 'package-lock.json');
  const installed = join(ROOT, 'node_modules/.package-lock.json');
  if (existsSync(installed) && statSync(installed).mtimeMs >= statSync(lock).mtimeMs) return;
  say('Installing packages (a minute or so)');
  run('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error']);
}

/** Finds MariaDB’s server, or installs it. */
export function ensureMariadb() {
  if (!findMariadbd()) install('mariadb-server', 'MariaDB');
  if (!findMariadbd()) giveUp('MariaDB was installed, but mariadbd is not where it should be.');
}

/** Finds what makes a cluster of MariaDB’s servers, or installs it. */
export function ensureGalera() {
  ensureMariadb();
  const isThere = () => existsSync(PROVIDER) && spawnSync('rsync', ['--version']).status === 0;
  if (!isThere()) install(['galera-4', 'rsync'], 'Galera');
  if (!isThere()) giveUp(`Galera was installed, but ${PROVIDER} or rsync is not there.`);
}

/** The browser that people have, and the same without a window to draw: a page costs half as much in it. */
const CHROMIUM = '/usr/bin/chromium';
const WINDOWLESS = '/usr/bin/chromium-headless-shell';

/** The browser that tests and pictures use; CHROMIUM names one elsewhere. Installs it where it can. */
export function ensureChromium() {
  const path = process.env.CHROMIUM ?? CHROMIUM;
  if (!existsSync(path)) install('chromium', 'Chromium');
  return path;
}

/** Both, as variables for the browser tests; where there is no windowless one, the other takes its place. */
export function ensureBrowsers() {
  const chromium = ensureChromium();
  const isOwn = process.env.CHROMIUM !== undefined && process.env.CHROMIUM !== CHROMIUM;
  if (!isOwn && !existsSync(WINDOWLESS) && canInstall('chromium-headless-shell'))
    install('chromium-headless-shell', 'the windowless Chromium');
  const windowless = !isOwn && existsSync(WINDOWLESS) ? WINDOWLESS : chromium;
  return { CHROMIUM: chromium, WINDOWLESS: windowless };
}

const READERS = [
  'python3-icalendar',
  'python3-recurring-ical-events',
  'python3-gi',
  'gir1.2-ical-3.0',
];
const CAN_READ =
  "import icalendar, recurring_ical_events, gi; gi.require_version('ICalGLib', '3.0'); from gi.repository import ICalGLib";

/** Independent readers of iCalendar, against which what goes out is held. */
export function ensureReaders() {
  const isThere = () => spawnSync('/usr/bin/python3', ['-c', CAN_READ]).status === 0;
  if (!isThere()) install(READERS, 'readers of iCalendar');
  if (!isThere()) giveUp('The readers of iCalendar were installed, but Python does not find them.');
}

const isDebianRoot = () =>
  process.getuid?.() === 0 && spawnSync('apt-get', ['--version']).status === 0;

/** Whether Debian’s packages have it, as far as they are known here. */
const canInstall = (name) =>
  isDebianRoot() && spawnSync('apt-cache', ['show', '--quiet=2', name]).stdout.length > 0;

function install(names, title) {
  const all = [names].flat();
  const name = all.join(' ');
  if (!isDebianRoot())
    giveUp(`${title} is missing. Install it first: on Debian “sudo apt-get install ${name}”.`);
  say(`Installing ${title}`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update', '-qq'], { env });
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...all], { env, quiet: true });
}

/** Runs a command to its end; stops with its output where it fails. */
export function run(command, args, { env = process.env, quiet = false } = {}) {
  try {
    execFileSync(command, args, {
      cwd: ROOT,
      env,
      stdio: quiet ? 'pipe' : ['ignore', 'inherit', 'inherit'],
    });
  } catch (error) {
    if (quiet) process.stderr.write(`${error.stdout ?? ''}${error.stderr ?? ''}`);
    giveUp(`“${[command, ...args].join(' ')}” failed.`);
  }
}

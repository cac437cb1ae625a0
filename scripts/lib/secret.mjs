import { randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { writeWhole } from './wholeFile.mjs';

const SECRET = /^[0-9a-f]{64}$/u;

/**
 * A secret of this installation by its name, 256 bits in hexadecimal: made the first time and kept
 * beside its data. A broken one is made anew; `lost` says what that means.
 */
export function secretIn(folder, name, lost) {
  const file = join(folder, name);
  mkdirSync(folder, { recursive: true });
  const kept = existsSync(file) ? readFileSync(file, 'utf8').trim() : null;
  if (kept !== null && SECRET.test(kept)) return kept;
  if (kept !== null) process.stdout.write(`· ${file} was broken and is made anew: ${lost}\n`);
  const made = randomBytes(32).toString('hex');
  writeWhole(file, made);
  return made;
}

import { closeSync, fsyncSync, openSync, renameSync, writeSync } from 'node:fs';

/** Writes a file whole or not at all: beside it first, then renamed. */
export function writeWhole(file, text, mode = 0o600) {
  const beside = `${file}.${process.pid}.new`;
  const out = openSync(beside, 'w', mode);
  try {
    writeSync(out, text);
    fsyncSync(out);
  } finally {
    closeSync(out);
  }
  renameSync(beside, file);
}

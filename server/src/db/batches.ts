import { turn } from '../compute/compute.ts';

/** So many rows go into one statement. */
const BATCH = 200;

export async function inBatches<T>(
  rows: readonly T[],
  write: (some: T[]) => Promise<unknown>,
): Promise<void> {
  for (let i = 0; i < rows.length; i += BATCH) {
    await write(rows.slice(i, i + BATCH));
    await turn();
  }
}

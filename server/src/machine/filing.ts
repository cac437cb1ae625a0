import type { Deed } from '@back-again/core';
import { holdFile } from '../files/kept.ts';
import type { Todo } from './todo.ts';
import type { Work } from './work.ts';

/** Files belong to times: what is in them is kept as long as a time has them, or may have them again. */

/** Holds the file of a deed, or lets go of it; the other way round where the deed is taken back. */
export async function holdFileOf(
  work: Work,
  { row }: Todo,
  deed: Deed,
  isTakenBack = false,
): Promise<void> {
  if (deed.do !== 'file' && deed.do !== 'unfile') return;
  const file = deed.do === 'file' ? deed.file.id : deed.file;
  const isHeld = (deed.do === 'file') !== isTakenBack;
  await holdFile(work, row.id, { file, isHeld, now: work.now() });
}

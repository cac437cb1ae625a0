import type { Action } from '@back-again/contract';
import { useMemo } from 'react';
import type { Overlay } from './local/overlay.ts';
import type { Local } from './local/slice.ts';
import { useRoom } from './room.tsx';
import { useLocal } from './todos.ts';

/** What was done last to a to-do on this device, and can be taken back. */
export interface LastDeed {
  /** By its action. */
  action: string;
  /** A short verb: “Undo the move”. */
  label: string;
}

/** What takes it back, for deeds that leave no row of their own behind. */
const LABELS: Partial<Record<Action['do'], string>> = {
  move: 'Undo the move',
  bring: 'Undo the move',
  arrange: 'Undo the move',
  part: 'Undo the part',
  done: 'Undo the last one',
  tally: 'Undo the last one',
  note: 'Undo the note',
  change: 'Undo the change',
  describe: 'Undo the change',
  pause: 'Undo the pause',
  resume: 'Undo going on',
  later: 'Undo putting it off',
  above: 'Undo above all',
};

/** The last deed to each to-do that is known here: of what waits, else of what the server took. */
function lastDeeds(
  { pending, undoable, name }: Pick<Local, 'pending' | 'undoable' | 'name'>,
  { changes }: Pick<Overlay, 'changes'>,
): ReadonlyMap<string, LastDeed> {
  const found = new Map<string, LastDeed>();
  const waiting = pending.filter(({ by }) => by === name).map(({ action }) => action);
  const undone = new Set(waiting.flatMap((it) => (it.do === 'undo' ? [it.of] : [])));
  const put = (todo: string, action: string, did: Action['do'] | undefined) => {
    const label = did && LABELS[did];
    if (undone.has(action)) return;
    if (label) found.set(todo, { action, label });
    else found.delete(todo);
  };
  for (const { action, did, things } of undoable)
    for (const { key, before } of things) if (before) put(key, action, did);
  for (const action of waiting)
    for (const { key, before } of changes.get(action.id) ?? [])
      if (before && action.do !== 'undo') put(key, action.id, action.do);
  return found;
}

export function useLastDeeds(): ReadonlyMap<string, LastDeed> {
  const { looking } = useRoom();
  const local = useLocal();
  const { pending, undoable, name } = local;
  const overlay = looking.overlay(local);
  return useMemo(
    () => lastDeeds({ pending, undoable, name }, overlay),
    [pending, undoable, name, overlay],
  );
}

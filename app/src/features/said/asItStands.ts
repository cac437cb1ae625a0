import type { SaidRow } from '@back-again/contract';
import { spokenOf, timeView } from '@back-again/core';
import type { Shown } from '../../data/todos.ts';

/** A row of what was said, with its time as it stands here: what was done meanwhile is done. */
export function asItStands(shown: Shown, row: SaidRow): SaidRow {
  const state = row.todo && shown.stateOf(row.todo.id);
  if (!state || row.slot === null) return row;
  const todo = shown.view(state);
  if (todo.wrong !== null) return { ...row, todo };
  const { planner, now } = shown;
  const { progress, lately } = state;
  const here = lately.findLast(({ time }) => time.slot === row.slot);
  const standing = spokenOf(planner, {
    progress,
    slot: row.slot,
    due: row.due,
    ended: here?.time ?? null,
    now,
  });
  const wasEnded = row.time && row.time.status !== 'open';
  // What ended before today is known to the server; unless it is open again here.
  const time = standing.time ?? (wasEnded && !here ? stillEnded(row, progress) : null);
  return {
    ...row,
    todo,
    due: standing.due,
    time: time ?? (here ? timeView(planner, progress, here.time, now) : null),
    canAct: standing.canAct && time?.status !== 'done' && time?.status !== 'skipped',
    later: standing.later,
    action: here?.action ?? (time === row.time ? row.action : null),
  };
}

function stillEnded({ time }: SaidRow, { open }: { open: readonly { number: number }[] }) {
  return time && open.some(({ number }) => number === time.number) ? null : time;
}

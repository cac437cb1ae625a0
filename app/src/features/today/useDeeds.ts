import type { Action } from '@back-again/contract';
import type { LocalDate } from '@back-again/core';
import { useState } from 'react';
import { newId } from '../../data/ids.ts';
import { useSend } from '../../data/useSend.ts';
import { answerOf, type Held, type Row, type SectionId } from './rows.ts';

/** What can be done with a row. */
export type RowDeed =
  { do: 'done'; when?: string } | { do: 'skip' } | { do: 'move'; plan: LocalDate } | { do: 'undo' };

/** What is done on Today, where finished rows stay meanwhile, and what can be taken back. */
export function useDeeds(today: LocalDate, announce: (words: string) => void) {
  const { send, busy, failure } = useSend(announce);
  const [held, setHeld] = useState<Held>({});
  const [brought, setBrought] = useState<{ action: string; n: number } | null>(null);

  const hold = (key: string, section: SectionId | null) =>
    setHeld(({ [key]: _before, ...rest }) => (section ? { ...rest, [key]: section } : rest));

  /** Gives whether it was done. */
  async function deed(row: Row, section: SectionId, it: RowDeed): Promise<boolean> {
    const { todo, time } = row;
    const id = newId();
    if (it.do === 'undo') {
      const sent = await send(
        { do: 'undo', id, of: row.action! },
        () => `${todo.series.title} is open again`,
      );
      if (sent) hold(row.key, null);
      return sent !== null;
    }
    const of = { id, todo: todo.id, slot: time.slot };
    if (it.do === 'move')
      return (await send({ do: 'move', ...of, plan: it.plan }, () => 'Moved')) !== null;
    hold(row.key, section);
    const status = it.do === 'done' ? 'done' : 'skipped';
    const body: Action =
      it.do === 'done' && it.when ? { do: 'done', ...of, when: it.when } : { do: it.do, ...of };
    const sent = await send(body, ({ todos: [now] }) =>
      now ? answerOf({ todo: now, time: { ...time, status } }, today) : 'Done',
    );
    return sent !== null;
  }

  async function bring(rows: readonly Row[]): Promise<void> {
    const action = newId();
    const times = rows.map(({ todo, time }) => ({ todo: todo.id, slot: time.slot }));
    const words = `${times.length} brought to today`;
    if (await send({ do: 'bring', id: action, times }, () => words))
      setBrought({ action, n: times.length });
  }

  async function unbring(): Promise<void> {
    if (!brought) return;
    const undo: Action = { do: 'undo', id: newId(), of: brought.action };
    if (await send(undo, () => 'As it was before')) setBrought(null);
  }

  return { deed, bring, unbring, held, brought, busy, failure };
}

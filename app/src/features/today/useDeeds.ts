import type { Action } from '@back-again/contract';
import type { LocalDate } from '@back-again/core';
import { useState } from 'react';
import { newId } from '../../data/ids.ts';
import { useSend } from '../../data/useSend.ts';
import { answerOf, type Held, type Row, type SectionId } from './rows.ts';

/** What can be done with a row. */
export type RowDeed =
  | { do: 'done'; when?: string }
  | { do: 'skip' }
  | { do: 'move'; plan: LocalDate }
  | { do: 'part'; part: number }
  | { do: 'undo' };

/** Something done that has no row of its own to be undone in. */
export interface Noted {
  action: string;
  words: string;
  /** What its Undo is of. */
  name: string;
}

/** What is done on Today, where finished rows stay meanwhile, and what can be taken back. */
export function useDeeds(today: LocalDate, announce: (words: string) => void) {
  const { send, busy, failure } = useSend(announce);
  const [held, setHeld] = useState<Held>({});
  const [noted, setNoted] = useState<Noted | null>(null);

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
    if (it.do === 'part')
      return (await send({ do: 'part', ...of, part: it.part }, () => `${it.part} % done`)) !== null;
    hold(row.key, section);
    const status = it.do === 'done' ? 'done' : 'skipped';
    const body: Action =
      it.do === 'done' && it.when ? { do: 'done', ...of, when: it.when } : { do: it.do, ...of };
    const sent = await send(body, ({ todos: [now] }) => {
      if (!now) return 'Done';
      const tally = now.open[0]?.tally ?? now.quota;
      return answerOf({ todo: now, time: { ...time, status, tally } }, today);
    });
    const tallied = sent && it.do === 'done' && todo.quota !== null ? sent.todos[0] : null;
    if (tallied?.open.some(({ slot }) => slot === time.slot))
      setNoted({
        action: id,
        words: `${todo.series.title}: ${answerOf({ todo: tallied, time: tallied.open[0]! }, today)}.`,
        name: todo.series.title,
      });
    return sent !== null;
  }

  async function bring(rows: readonly Row[]): Promise<void> {
    const action = newId();
    const times = rows.map(({ todo, time }) => ({ todo: todo.id, slot: time.slot }));
    const words = `${times.length} brought to today`;
    if (!(await send({ do: 'bring', id: action, times }, () => words))) return;
    const are = times.length === 1 ? 'One is' : `${times.length} are`;
    setNoted({
      action,
      words: `${are} brought to today. What is due stays due.`,
      name: 'bring to today',
    });
  }

  async function unnote(): Promise<void> {
    if (!noted) return;
    const undo: Action = { do: 'undo', id: newId(), of: noted.action };
    if (await send(undo, () => 'As it was before')) setNoted(null);
  }

  return { deed, bring, unnote, held, noted, busy, failure };
}

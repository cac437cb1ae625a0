import type { Left, LocalDate, SectionId, StepText, WrittenDown } from '@back-again/core';
import { useState } from 'react';
import { useAct, type Draft } from '../../data/act.ts';
import { momentText } from '../../ui/dates.ts';
import { answerOf, type Held, type Row } from './rows.ts';

/** What can be done with a row. */
export type RowDeed =
  | { do: 'done'; when?: string; left?: Left }
  | { do: 'tick'; step: string; on: boolean }
  | { do: 'addStep'; step: StepText }
  | ({ do: 'answer' } & WrittenDown)
  | { do: 'above'; on: boolean }
  | { do: 'skip' }
  | { do: 'move'; plan: LocalDate }
  | { do: 'part'; part: number }
  /** What was done to it before, by its action. */
  | { do: 'takeBack'; of: string }
  | { do: 'undo' };

/** Something done that has no row of its own to be undone in. */
export interface Noted {
  action: string;
  words: string;
  /** What its Undo is of. */
  name: string;
  /** Where it was done, for it to be said there: a section, and behind how many of its rows. */
  at?: { section: SectionId; index: number };
}

/** What is done on Today, where finished rows stay meanwhile, and what can be taken back. */
export function useDeeds(
  today: LocalDate,
  announce: (words: string) => void,
  /** What becomes of a time that is moved to a day, in words; nothing, where that goes without saying. */
  thenOf: (todo: string, slot: string, plan: LocalDate) => string,
) {
  const { does, failure } = useAct(announce);
  const [held, setHeld] = useState<Held>({});
  const [noted, setNoted] = useState<Noted | null>(null);

  const hold = (key: string, section: SectionId | null) =>
    setHeld(({ [key]: _before, ...rest }) => (section ? { ...rest, [key]: section } : rest));

  /** Gives whether it could be done; `index` says where in its section the row stands. */
  function deed(row: Row, section: SectionId, index: number, it: RowDeed): boolean {
    const { todo, time } = row;
    const { title } = todo.series;
    if (it.do === 'undo') {
      const undone = does({ do: 'undo', of: row.action! }, () => `${title} is open again`);
      if (undone) hold(row.key, null);
      return undone !== null;
    }
    const of = { todo: todo.id, slot: time.slot };
    if (it.do === 'takeBack')
      return does({ do: 'undo', of: it.of }, () => `${title}: as it was before`) !== null;
    if (it.do === 'move') return moved(row, { section, index }, it.plan);
    if (it.do === 'part')
      return does({ do: 'part', ...of, part: it.part }, () => `${it.part} % done`) !== null;
    if (it.do === 'tick')
      return does({ ...it, ...of }, () => (it.on ? 'Done' : 'Not done')) !== null;
    if (it.do === 'addStep') return does({ ...it, ...of }, () => 'Added') !== null;
    if (it.do === 'answer') return does({ ...it, ...of }, () => 'Kept') !== null;
    if (it.do === 'above') {
      const say = () => `${title} is ${it.on ? '' : 'no longer '}above all`;
      return does({ do: 'above', ...of, on: it.on }, say) !== null;
    }
    const status = it.do === 'done' ? 'done' : 'skipped';
    const draft: Draft = { ...it, ...of };
    const did = does(draft, ({ todos: [now] }) => {
      if (!now) return 'Done';
      const tally = now.open[0]?.tally ?? now.quota;
      return answerOf({ todo: now, time: { ...time, status, tally } }, today);
    });
    if (!did) return false;
    hold(row.key, section);
    const tallied = it.do === 'done' && todo.quota !== null ? did.todos[0] : undefined;
    if (tallied?.open.some(({ slot }) => slot === time.slot))
      setNoted({
        action: did.id,
        words: `${title}: ${answerOf({ todo: tallied, time: tallied.open[0]! }, today)}.`,
        name: title,
      });
    return true;
  }

  /** Puts a time off, and says where it stood for when that is and what becomes of it. */
  function moved({ todo, time }: Row, at: Noted['at'], plan: LocalDate): boolean {
    const { title } = todo.series;
    const then = thenOf(todo.id, time.slot, plan);
    const words = `${title} is for ${momentText(plan, today, true)}.${then ? ` ${then}.` : ''}`;
    const did = does({ do: 'move', todo: todo.id, slot: time.slot, plan }, () => words);
    if (did) setNoted({ action: did.id, words, name: title, ...(at ? { at } : {}) });
    return did !== null;
  }

  /** Puts several off to one day. */
  function putOff(rows: readonly Row[], to: LocalDate): void {
    const times = rows.map(({ todo, time }) => ({ todo: todo.id, slot: time.slot }));
    const on = momentText(to, today, true);
    const words = times.length === 1 ? `One is for ${on}.` : `${times.length} are for ${on}.`;
    const did = does({ do: 'bring', times, to }, () => words);
    const at = { section: 'late' as const, index: 0 };
    if (did) setNoted({ action: did.id, words, name: 'putting several off', at });
  }

  /** Puts in sight one sphere alone, or all of them. */
  function focus(place: string | null, name: string): void {
    does({ do: 'focus', place }, () =>
      place === null ? 'All spheres are in sight' : `${name} is in sight`,
    );
  }

  /** Puts what was left of the day before above all again. */
  function aboveAgain(todo: string, slot: string, title: string): void {
    does({ do: 'above', todo, slot, on: true }, () => `${title} is above all`);
  }

  function bring(rows: readonly Row[]): void {
    const times = rows.map(({ todo, time }) => ({ todo: todo.id, slot: time.slot }));
    const did = does({ do: 'bring', times }, () => `${times.length} brought to today`);
    if (!did) return;
    const are = times.length === 1 ? 'One is' : `${times.length} are`;
    setNoted({
      action: did.id,
      words: `${are} brought to today, and still due when ${times.length === 1 ? 'it was' : 'they were'}.`,
      name: 'bring to today',
    });
  }

  function unnote(): void {
    if (noted && does({ do: 'undo', of: noted.action }, () => 'As it was before')) setNoted(null);
  }

  return { does, deed, focus, aboveAgain, bring, putOff, unnote, held, noted, failure };
}

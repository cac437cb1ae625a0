import type { LocalDate, LocalTime } from '@back-again/core';
import { entryKey, type DayAhead, type Entry, type Proposed } from '@back-again/core/planning';

import { useState } from 'react';
import { useAct, useLast, type Draft } from '../../data/act.ts';
import type { Shown } from '../../data/todos.ts';
import type { Hollow } from './DayRow.tsx';
import { moveTo, type Move, type Standing } from '../../parts/time/moving.ts';

type Arranged = Extract<Draft, { do: 'arrange' }>['moves'];

/** What is done on the days ahead: each is one action, with an undo that stands there until the next. */
export function useArranging(shown: Shown, announce: (words: string) => void) {
  const { does, failure } = useAct(announce);
  const { last, setLast, undo, did } = useLast(does);
  /** Why what was wanted last cannot be. */
  const [refused, setRefused] = useState<string | null>(null);
  const { today, planner, person } = shown;

  function titleOf({ todo }: Pick<Entry, 'todo'>): string {
    return shown.stateOf(todo)?.details.title ?? '';
  }

  /** What moving it there would do. */
  function moveOf(
    entry: Standing,
    to: { day: LocalDate; at?: LocalTime },
    entries: readonly Entry[],
  ): Move {
    const todo = shown.stateOf(entry.todo);
    if (!todo) return { refused: 'It is no more.' };
    const others = entries
      .filter((it) => it.todo === entry.todo && it.slot === entry.slot && it.nth !== entry.nth)
      .filter(({ nth }) => nth !== null)
      .map(({ day }) => day);
    return moveTo({ entry, todo, others }, to, {
      planner,
      now: shown.now,
      today,
      settings: person.settings,
    });
  }

  /** Moves it there; what stands against it is said. */
  function move(
    entry: Standing,
    to: { day: LocalDate; at?: LocalTime },
    entries: readonly Entry[],
  ): void {
    const made = moveOf(entry, to, entries);
    if (!made) announce('It stands there already');
    else if ('refused' in made) {
      announce(made.refused);
      setLast(null);
      setRefused(made.refused);
      return;
    } else did(made.draft, `${titleOf(entry)}: ${made.words}.`);
    setRefused(null);
  }

  function deed(entry: Standing, it: 'done' | 'skip'): void {
    const draft: Draft = { do: it, todo: entry.todo, slot: entry.slot };
    did(draft, `${titleOf(entry)} is ${it === 'done' ? 'done' : 'skipped'}.`);
    setRefused(null);
  }

  /** Takes proposed moves over, as one action. */
  function takeOver(moves: readonly Proposed[], days: readonly DayAhead[]): void {
    const entries = days.flatMap((day) => day.entries);
    const found = new Map(entries.map((entry) => [entryKey(entry), entry]));
    const arranged = new Map<string, Arranged[number]>();
    for (const { key, to } of moves) {
      const entry = found.get(key);
      const todo = entry && shown.stateOf(entry.todo);
      if (!entry || !todo) continue;
      const { todo: id, slot } = entry;
      const { repeat } = todo.progress.series;
      const at = `${id} ${slot}`;
      if (repeat?.by === 'quota') {
        const mates = entries.filter((it) => it.todo === id && it.slot === slot && it.nth !== null);
        const placeOf = (it: Entry) =>
          moves.find((move) => move.key === entryKey(it))?.to ?? it.day;
        arranged.set(at, { todo: id, slot, days: mates.map(placeOf).sort(), proposed: true });
      } else if (repeat?.by === 'completion')
        arranged.set(at, { todo: id, slot, due: to, proposed: true });
      else arranged.set(at, { todo: id, slot, plan: to, proposed: true });
    }
    const all = [...arranged.values()];
    if (!all.length) return;
    const count = moves.length === 1 ? 'One is' : `${moves.length} are`;
    did({ do: 'arrange', moves: all }, `${count} moved, and still due when they were.`);
    setRefused(null);
  }

  /** Takes proposed hours of a day over. */
  function takeHours(day: DayAhead, laid: readonly Hollow[]): void {
    const found = new Map(day.entries.map((entry) => [entryKey(entry), entry]));
    const moves = laid.flatMap(({ key, at }): Arranged => {
      const entry = found.get(key);
      return entry
        ? [{ todo: entry.todo, slot: entry.slot, plan: `${day.date}T${at}`, proposed: true }]
        : [];
    });
    if (!moves.length) return;
    const count = moves.length === 1 ? 'One has' : `${moves.length} have`;
    did({ do: 'arrange', moves }, `${count} an hour now.`);
    setRefused(null);
  }

  return {
    did,
    say: setRefused,
    titleOf,
    moveOf,
    move,
    deed,
    takeOver,
    takeHours,
    last,
    undo,
    failure,
    refused,
  };
}

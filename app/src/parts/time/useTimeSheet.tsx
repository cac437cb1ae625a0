import type { Ahead, LocalDate, TimeView, TodoView } from '@back-again/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useLast, type Does } from '../../data/act.ts';
import type { Shown } from '../../data/todos.ts';
import { Note } from '../../ui/Note.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { momentText } from '../../ui/dates.ts';
import { LazyTimeSheet } from './LazyTimeSheet.tsx';
import { moveTo, type Move, type Standing } from './moving.ts';

interface Opened {
  entry: Standing;
  title: string;
}

export interface TimeSheetOf {
  /** Opens what can be done with one time of a to-do. */
  open: (todo: TodoView, time: Ahead | TimeView) => void;
  /** The sheet while it is open. */
  sheet: ReactNode;
  /** What was done last with its undo, or why it could not be done; null where there is neither. */
  note: ReactNode;
}

/** One time of a to-do, open or to come, done, skipped or moved where it stands. */
export function useTimeSheet(
  shown: Shown,
  does: Does,
  onPage?: (todo: string) => void,
): TimeSheetOf {
  const [opened, setOpened] = useState<Opened | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const { last, undo, did } = useLast(does);
  const { today, planner, person, now } = shown;

  function moveOf(entry: Standing, day: LocalDate): Move {
    const state = shown.stateOf(entry.todo);
    if (!state) return { refused: 'It is no more.' };
    const where = { planner, now, today, settings: person.settings };
    return moveTo({ entry, todo: state, others: [] }, { day }, where);
  }
  function move({ entry, title }: Opened, day: LocalDate): void {
    const made = moveOf(entry, day);
    setOpened(null);
    setRefused(made && 'refused' in made ? `${title}: ${made.refused}` : null);
    if (made && !('refused' in made)) did(made.draft, `${title}: ${made.words}.`);
  }
  function end({ entry, title }: Opened, how: 'done' | 'skip'): void {
    const on = entry.due === null ? 'without a day' : momentText(entry.due, today);
    const ahead = entry.number === null ? ' ahead' : '';
    did(
      { do: how, todo: entry.todo, slot: entry.slot },
      `${title}, ${on}: ${how === 'done' ? 'done' : 'skipped'}${ahead}.`,
    );
    setOpened(null);
    setRefused(null);
  }
  return {
    open: (todo, time) => setOpened({ entry: standingOf(todo, time), title: todo.series.title }),
    sheet: opened ? (
      <LazyTimeSheet
        entry={opened.entry}
        title={opened.title}
        shown={shown}
        onMove={(day) => move(opened, day)}
        onDeed={(how) => end(opened, how)}
        {...(onPage ? { onPage: () => onPage(opened.entry.todo) } : {})}
        onClose={() => setOpened(null)}
      />
    ) : null,
    note:
      refused || last ? (
        <View style={{ gap: 6 }}>
          {refused ? <Note words={refused} /> : null}
          {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
        </View>
      ) : null,
  };
}

/** A time on its day. */
function standingOf({ id, series }: TodoView, time: Ahead | TimeView): Standing {
  const isOpen = 'number' in time;
  const { slot, due } = time;
  const plan = time.plan ?? undefined;
  const planAt = isOpen ? undefined : time.planAt;
  const day = plan ?? due?.slice(0, 10) ?? null;
  const moment = planAt ?? (day !== null && due?.startsWith(day) ? due : day);
  return {
    todo: id,
    slot,
    number: isOpen ? time.number : null,
    nth: null,
    kind: isOpen ? 'open' : time.kind,
    day,
    at: moment?.includes('T') ? moment.slice(11) : null,
    due,
    once: series.repeat === null,
    byHand: plan !== undefined && (!isOpen || time.planBy === 'person'),
    takes: series.takes ?? null,
  };
}

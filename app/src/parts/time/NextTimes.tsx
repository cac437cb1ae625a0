import type { Ahead, LocalDate, TodoView } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useLast, type Does } from '../../data/act.ts';
import type { Shown } from '../../data/todos.ts';
import { Note } from '../../ui/Note.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { WordLink } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { LazyTimeSheet } from './LazyTimeSheet.tsx';
import { moveTo, type Move, type Standing } from './moving.ts';

interface NextTimesProps {
  todo: TodoView;
  ahead: readonly Ahead[];
  shown: Shown;
  does: Does;
}

/** The times to come of a to-do: each can be done ahead, skipped or moved where it stands. */
export function NextTimes({ todo, ahead, shown, does }: NextTimesProps) {
  const [opened, setOpened] = useState<Standing | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const { last, undo, did } = useLast(does);
  const { today, planner, person } = shown;
  const { title } = todo.series;
  const moveOf = (entry: Standing, day: LocalDate): Move => {
    const state = shown.stateOf(todo.id);
    if (!state) return { refused: 'It is no more.' };
    const where = { planner, today, settings: person.settings };
    return moveTo({ entry, todo: state, others: [] }, { day }, where);
  };
  const move = (entry: Standing, day: LocalDate) => {
    const made = moveOf(entry, day);
    setOpened(null);
    setRefused(made && 'refused' in made ? made.refused : null);
    if (!made || 'refused' in made) return;
    did(made.draft, `${title}: ${made.words}.`);
  };
  const end = (entry: Standing, how: 'done' | 'skip') => {
    const words = `${title}, ${textOf(entry.due, today)}: ${how === 'done' ? 'done' : 'skipped'} ahead.`;
    did({ do: how, todo: todo.id, slot: entry.slot }, words);
    setOpened(null);
    setRefused(null);
  };
  return (
    <View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
        {ahead.map((time) => {
          const text = timeText(time, today);
          return (
            <WordLink
              key={time.slot}
              label={text}
              name={`${text}: do it ahead, skip or move it`}
              size={15.5}
              onPress={() => setOpened(standingOf(todo, time))}
            />
          );
        })}
      </View>
      {refused ? <Note words={refused} /> : null}
      {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
      {opened ? (
        <LazyTimeSheet
          entry={opened}
          title={title}
          shown={shown}
          moveOf={(day) => moveOf(opened, day)}
          onMove={(day) => move(opened, day)}
          onDeed={(how) => end(opened, how)}
          onClose={() => setOpened(null)}
        />
      ) : null}
    </View>
  );
}

const textOf = (due: string | null, today: LocalDate) =>
  due === null ? 'without a day' : momentText(due, today);

/** When it comes, and when it is due where that is another day. */
function timeText({ due, plan, planAt }: Ahead, today: LocalDate): string {
  if (plan === undefined || (planAt === undefined && due.startsWith(plan)))
    return momentText(due, today);
  return `${momentText(planAt ?? plan, today)}, due ${momentText(due, today)}`;
}

/** A time to come, on its day. */
function standingOf({ id, series }: TodoView, { slot, due, kind, plan, planAt }: Ahead): Standing {
  const day = plan ?? due.slice(0, 10);
  const moment = planAt ?? (due.startsWith(day) ? due : day);
  return {
    todo: id,
    slot,
    number: null,
    nth: null,
    kind,
    day,
    at: moment.includes('T') ? moment.slice(11) : null,
    due,
    once: series.repeat === null,
    byHand: plan !== undefined,
    takes: series.takes ?? null,
  };
}

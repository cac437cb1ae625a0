import type { TodoView } from '@back-again/contract';
import type { LocalDate, Pause, Weekday } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useAct, useLast } from '../../data/act.ts';
import { PauseSpan } from '../../parts/time/PauseSpan.tsx';
import { useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { WordLink } from '../../ui/Words.tsx';
import { pausedUntil } from '../../ui/standing.ts';

const lowerFirst = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

interface PauseAllProps {
  todos: readonly TodoView[];
  today: LocalDate;
  weekStart: Weekday;
}

/** Pauses everything for a holiday, and takes it up again; each is one action with one undo. */
export function PauseAll({ todos, today, weekStart }: PauseAllProps) {
  const { does, failure } = useAct(useAnnounce());
  const [choosing, setChoosing] = useState(false);
  const { last, setLast, undo } = useLast(does);
  const live = todos.filter(({ ended }) => !ended);
  const paused = live.filter((todo) => pausedUntil(todo, today) !== undefined).length;

  const act = (what: ({ do: 'pause' } & Pause) | { do: 'resume' }, said = '') => {
    const did = does(what, ({ todos: changed }) =>
      what.do === 'pause' ? `${changed.length} are paused` : `${changed.length} come back again`,
    );
    if (!did) return;
    setChoosing(false);
    const n = did.todos.length;
    const words =
      what.do === 'pause'
        ? `${n === 1 ? 'One to-do' : `${n} to-dos`}: ${lowerFirst(said)} Nothing comes or is missed meanwhile.`
        : `${n} come back again from today on.`;
    setLast({ action: did.id, words });
  };
  return (
    <View style={{ paddingHorizontal: 20, gap: 6 }}>
      {failure ? <Note words={failure} /> : null}
      {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
        {paused < live.length ? (
          <WordLink
            label="Pause everything"
            expanded={choosing}
            onPress={() => setChoosing(!choosing)}
          />
        ) : null}
        {paused ? (
          <WordLink
            label={paused === 1 ? 'Resume the paused one' : `Resume all ${paused}`}
            onPress={() => act({ do: 'resume' })}
          />
        ) : null}
      </View>
      {choosing ? (
        <PauseSpan
          of="everything"
          today={today}
          weekStart={weekStart}
          onPause={(pause, words) => act({ do: 'pause', ...pause }, words)}
        />
      ) : null}
    </View>
  );
}

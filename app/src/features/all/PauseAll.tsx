import type { TodoView } from '@back-again/contract';
import { formatDay, parseDay, type LocalDate } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { useAct, useLast } from '../../data/act.ts';
import { useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { pausedUntil } from '../../ui/standing.ts';

interface PauseAllProps {
  todos: readonly TodoView[];
  today: LocalDate;
}

/** Pauses everything for a holiday, and takes it up again; each is one action with one undo. */
export function PauseAll({ todos, today }: PauseAllProps) {
  const { does, failure } = useAct(useAnnounce());
  const [choosing, setChoosing] = useState(false);
  const { last, setLast, undo } = useLast(does);
  const live = todos.filter(({ ended }) => !ended);
  const paused = live.filter((todo) => pausedUntil(todo, today) !== undefined).length;
  const day = parseDay(today);

  const act = (what: { do: 'pause'; to: LocalDate | null } | { do: 'resume' }) => {
    const did = does(what, ({ todos: changed }) =>
      what.do === 'pause' ? `${changed.length} are paused` : `${changed.length} come back again`,
    );
    if (!did) return;
    setChoosing(false);
    const n = did.todos.length;
    const words =
      what.do === 'pause'
        ? `${n} are paused. Nothing comes, rolls over or is missed meanwhile.`
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
        <View
          style={{
            flexDirection: 'row',
            flexWrap: 'wrap',
            alignItems: 'center',
            columnGap: 16,
          }}
        >
          <Words size={15} tint="soft">
            From today
          </Words>
          {LENGTHS.map(({ label, days }) => (
            <WordLink
              key={label}
              label={label}
              name={`Pause everything ${label}`}
              onPress={() =>
                act({ do: 'pause', to: days === null ? null : formatDay(day + days - 1) })
              }
            />
          ))}
        </View>
      ) : null}
    </View>
  );
}

const LENGTHS: { label: string; days: number | null }[] = [
  { label: 'for a week', days: 7 },
  { label: 'for two weeks', days: 14 },
  { label: 'until I resume it', days: null },
];

import type { Page } from './page.ts';
import type { Weekday } from '@back-again/core';
import { router, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { useLast, type Does, type Draft } from '../../data/act.ts';
import { PauseSpan, pauseText } from '../../parts/time/PauseSpan.tsx';
import { Action } from '../../ui/Action.tsx';
import { Note } from '../../ui/Note.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { pauseAhead, pausedUntil } from '../../ui/standing.ts';

interface WaysProps {
  page: Page;
  weekStart: Weekday;
  does: Does;
  onRemove: () => void;
}

type Panel = 'pause' | 'away' | null;

/** What can be done with the to-do itself: change it, pause it, take times away, end it. */
export function Ways({ page, weekStart, does, onRemove }: WaysProps) {
  const [panel, setPanel] = useState<Panel>(null);
  const { last, undo, did } = useLast(does);
  const { todo, today } = page;
  const { id, series } = todo;
  const isPaused = pausedUntil(todo, today) !== undefined;
  const coming = pauseAhead(todo, today);
  const toggle = (which: Panel) => setPanel(panel === which ? null : which);
  const like = () => router.push({ pathname: '/write', params: { like: id } });

  const act = (what: Draft, words: string) => {
    if (did(what, words)) setPanel(null);
  };
  return (
    <View style={{ gap: 6 }}>
      {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
      {coming ? (
        <Note
          words={pauseText(coming, today)}
          action={{
            label: 'No pause',
            name: `No pause: ${series.title}`,
            onPress: () => act({ do: 'resume', todos: [id] }, 'It is not paused.'),
          }}
        />
      ) : null}
      <View style={{ flexDirection: 'row', columnGap: 24, flexWrap: 'wrap' }}>
        <WordLink
          label="Change it"
          onPress={() => router.push({ pathname: '/write', params: { todo: id } })}
        />
        {series.repeat ? (
          <WordLink
            label="Try it out"
            onPress={() => router.push({ pathname: '/write', params: { todo: id, try: '1' } })}
          />
        ) : null}
        {todo.ended ? (
          <WordLink
            label="Bring it back"
            onPress={() => act({ do: 'reopen', todo: id }, 'It comes back, from today on.')}
          />
        ) : isPaused ? (
          <WordLink
            label="Resume"
            onPress={() => act({ do: 'resume', todos: [id] }, 'It comes back, from today on.')}
          />
        ) : (
          <WordLink label="Pause" expanded={panel === 'pause'} onPress={() => toggle('pause')} />
        )}
        <WordLink label="Write one like it" onPress={like} />
        <WordLink
          label="Its record"
          name={`The record of ${series.title}`}
          onPress={() => router.push(`/past/todo/${id}` as Href)}
        />
        {todo.ended ? null : (
          <WordLink
            label="A way of its own"
            name={`A way of its own: ${series.title}`}
            onPress={() => router.push(`/way/${id}` as Href)}
          />
        )}
        {series.looksBack ? (
          <WordLink
            label="Look back"
            name={`Look back: ${series.title}`}
            onPress={() => router.push(`/past/look/${id}` as Href)}
          />
        ) : null}
        {todo.ended ? null : (
          <WordLink
            label={series.looksBack ? 'No longer a look-back' : 'Make it a look-back'}
            onPress={() =>
              act(
                { do: 'describe', todos: [id], details: { looksBack: !series.looksBack } },
                series.looksBack
                  ? 'It is a to-do like any other.'
                  : 'It is a look-back: its page fills itself with what happened.',
              )
            }
          />
        )}
        <WordLink label="Take away" expanded={panel === 'away'} onPress={() => toggle('away')} />
      </View>
      {panel === 'pause' ? (
        <PauseSpan
          of={series.title}
          today={today}
          weekStart={weekStart}
          onPause={(pause, words) => act({ do: 'pause', todos: [id], ...pause }, words)}
        />
      ) : null}
      {panel === 'away' ? <TakeAway page={page} onAct={act} onRemove={onRemove} /> : null}
    </View>
  );
}

interface TakeAwayProps {
  page: Page;
  onAct: (what: Draft, words: string) => void;
  onRemove: () => void;
}

/** Asks what is meant: this time alone, all that is to come, or the to-do with its record. */
function TakeAway({ page: { todo, ahead, today }, onAct, onRemove }: TakeAwayProps) {
  const slot = todo.open[0]?.slot ?? ahead[0]?.slot;
  const due = todo.open[0]?.due ?? ahead[0]?.due;
  const time = due ? momentText(due, today) : 'this time';
  const of = { todo: todo.id };
  return (
    <View style={{ gap: 8 }}>
      <Words size={15.5}>What is to be taken away?</Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {slot !== undefined && todo.series.repeat ? (
          <Action
            label={`Only ${time}`}
            onPress={() => onAct({ do: 'drop', ...of, slot }, `${time} is taken away.`)}
          />
        ) : null}
        {todo.ended ? null : (
          <Action
            label="All that is to come"
            name={`All that is to come: ${todo.series.title}`}
            onPress={() =>
              onAct({ do: 'end', ...of }, 'Nothing more comes of it. Its record stays.')
            }
          />
        )}
        <Action
          label="Its record too"
          name={`Remove ${todo.series.title}`}
          filled
          onPress={onRemove}
        />
      </View>
      <Words size={14.5} tint="soft">
        With its record it lies in Taken away for 30 days, and can be brought back.
      </Words>
    </View>
  );
}

import type { Page } from './page.ts';
import { formatDay, parseDay } from '@back-again/core';
import { router, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { useLast, type Does, type Draft } from '../../data/act.ts';
import { Action } from '../../ui/Action.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { pausedUntil } from '../../ui/standing.ts';

interface WaysProps {
  page: Page;
  does: Does;
  onRemove: () => void;
}

type Panel = 'pause' | 'away' | null;

/** What can be done with the to-do itself: change it, pause it, take times away, end it. */
export function Ways({ page, does, onRemove }: WaysProps) {
  const [panel, setPanel] = useState<Panel>(null);
  const { last, undo, did } = useLast(does);
  const { todo, today } = page;
  const { id, series } = todo;
  const isPaused = pausedUntil(todo, today) !== undefined;
  const toggle = (which: Panel) => setPanel(panel === which ? null : which);
  const like = () => router.push({ pathname: '/write', params: { like: id } });

  const act = (what: Draft, words: string) => {
    if (did(what, words)) setPanel(null);
  };
  return (
    <View style={{ gap: 6 }}>
      {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
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
        <PauseLengths
          today={today}
          onPick={(to, words) => act({ do: 'pause', todos: [id], to }, words)}
        />
      ) : null}
      {panel === 'away' ? <TakeAway page={page} onAct={act} onRemove={onRemove} /> : null}
    </View>
  );
}

function PauseLengths({
  today,
  onPick,
}: {
  today: string;
  onPick: (to: string | null, words: string) => void;
}) {
  const day = parseDay(today);
  const lengths = [
    { label: 'for a week', to: formatDay(day + 6) },
    { label: 'for two weeks', to: formatDay(day + 13) },
    { label: 'for a month', to: formatDay(day + 29) },
    { label: 'until I resume it', to: null },
  ];
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 16, alignItems: 'center' }}>
      <Words size={15} tint="soft">
        From today
      </Words>
      {lengths.map(({ label, to }) => (
        <WordLink
          key={label}
          label={label}
          name={`Pause ${label}`}
          onPress={() =>
            onPick(
              to,
              to === null
                ? 'Paused until you resume it.'
                : `Paused until ${momentText(to, today)}.`,
            )
          }
        />
      ))}
    </View>
  );
}

interface TakeAwayProps {
  page: Page;
  onAct: (what: Draft, words: string) => void;
  onRemove: () => void;
}

/** Asks what is meant: this time, this time and what follows, or the whole to-do with its record. */
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
          <>
            <Action
              label={`Only ${time}`}
              onPress={() => onAct({ do: 'drop', ...of, slot }, `${time} is taken away.`)}
            />
            <Action
              label={`${time} and what follows`}
              onPress={() =>
                onAct({ do: 'end', ...of, slot }, `${time} and what follows are taken away.`)
              }
            />
          </>
        ) : null}
        {todo.ended ? null : (
          <Action
            label="End it, keep its record"
            onPress={() => onAct({ do: 'end', ...of }, 'It has ended. Its record stays.')}
          />
        )}
        <Action label="All of it" name={`Remove ${todo.series.title}`} filled onPress={onRemove} />
      </View>
    </View>
  );
}

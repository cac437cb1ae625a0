import { CoreError, whatOf, whenOf } from '@back-again/core';
import type { Reading } from '@back-again/core/reading';
import { router } from 'expo-router';
import { useState } from 'react';
import type { TodoView } from '@back-again/contract';
import { newId } from '../../data/ids.ts';
import { act } from '../../data/local/act.ts';
import { serverNow } from '../../data/local/time.ts';
import { useRoom } from '../../data/room.tsx';
import { useAnnounce } from '../../ui/Frame.tsx';
import { firstWrong, type Wrongs } from '../../ui/wrong.ts';
import { withIds } from './beside.ts';
import { changeTo, type Person } from './edit.ts';

/** Keeps the to-do, at once and whatever the connection. */
export function useKeep(
  text: string,
  reading: Reading,
  of: TodoView | null,
  { places = [] }: Person,
  /** The controls in which something is typed that cannot be taken. */
  wrongs: Wrongs,
  clear: () => void,
) {
  const [failed, setFailed] = useState<{ text: string; words: string } | null>(null);
  const room = useRoom();
  const announce = useAnnounce();

  function refuse(words: string) {
    setFailed({ text, words });
    announce(words);
  }

  function keep() {
    const { series: said, problems } = reading;
    const series = withIds(said, of?.series ?? null, newId);
    const wrong = firstWrong(wrongs);
    const problem =
      problems[0]?.message ??
      (series.title ? null : 'Say in a few words what it is.') ??
      (wrong && `${wrong.label}: ${wrong.words}`);
    if (problem) return refuse(problem);
    try {
      const { place } = series;
      if (place !== undefined && !places.some(({ id }) => id === place)) {
        const id = newId();
        const parts = { kind: 'sphere', name: place } as const;
        act(room, { do: 'place', place: id, parts }, serverNow());
        series.place = id;
      }
      if (of) {
        const change = changeTo(series, of.series);
        const moved = () =>
          room.looking.todo(room.store.getState().local, of.id)?.progress.moved ?? [];
        const before = moved();
        if (change.series) act(room, { do: 'change', todo: of.id, ...change }, serverNow());
        else if (change.details)
          act(room, { do: 'describe', todos: [of.id], details: change.details }, serverNow());
        const after = new Set(moved().map(({ slot }) => slot));
        const letGo = before.filter(({ slot }) => !after.has(slot)).map(({ plan }) => plan);
        router.replace({
          pathname: '/todo/[id]',
          params: { id: of.id, ...(letGo.length ? { letGo: letGo.join(',') } : {}) },
        });
        return;
      }
      const todo = newId();
      const halves = { series: whenOf(series), details: whatOf(series) };
      act(room, { do: 'create', todo, ...halves }, serverNow());
      clear();
      router.replace({ pathname: '/', params: { kept: todo } });
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      refuse(error.message);
    }
  }
  return { keep, failed: failed?.text === text ? failed.words : null };
}

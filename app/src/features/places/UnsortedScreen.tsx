import { formatDay, parseDay, putOffFrom } from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useAct, type Does } from '../../data/act.ts';
import type { Unsorted } from '../../data/local/shown.ts';
import { useShown, type Shown } from '../../data/todos.ts';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { TodoLine } from '../../ui/TodoLine.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { standingOf } from '../../ui/standing.ts';

/** What still lacks a place or a date, with what mends that in place; mended rows stay until it is left. */
export function UnsortedScreen() {
  const shown = useShown();
  const unsorted = shown.unsorted();
  const listed = useRef(new Set<string>());
  for (const { state } of unsorted) listed.current.add(state.id);
  useEffect(() => {
    document.title = 'Unsorted · Back Again';
  }, []);
  const { does, failure } = useAct(useAnnounce());
  const rows = [...listed.current].flatMap((id) => {
    const state = shown.stateOf(id);
    const lacks = unsorted.find((it) => it.state.id === id)?.lacks ?? [];
    return state ? [{ state, lacks }] : [];
  });
  return (
    <Screen width={620}>
      <View style={{ padding: 20, gap: 8 }}>
        <Heading level={1}>{unsorted.length ? `Unsorted, ${unsorted.length}` : 'Unsorted'}</Heading>
        <Words size={15.5} tint="soft">
          {unsorted.length
            ? 'Each lacks where it belongs, or when it is to be done.'
            : 'All is sorted: each has its place, and a date or none on purpose.'}
        </Words>
        {failure ? <Note words={failure} /> : null}
        {rows.map((row, i) => (
          <Row key={row.state.id} shown={shown} row={row} first={i === 0} does={does} />
        ))}
      </View>
    </Screen>
  );
}

interface RowProps {
  shown: Shown;
  row: Unsorted;
  first: boolean;
  does: Does;
}

function Row({ shown, row: { state, lacks }, first, does }: RowProps) {
  const todo = shown.view(state);
  const { today, person } = shown;
  const { id } = todo;
  const { title } = todo.series;
  const [last, setLast] = useState<string | null>(null);
  const keep = (did: { id: string } | null) => did && setLast(did.id);
  const day = parseDay(today);
  const { tomorrow, weekend, nextWeek } = putOffFrom(day, person.settings);
  const days = [
    { label: 'today', on: today },
    { label: 'tomorrow', on: tomorrow },
    { label: 'at the weekend', on: weekend },
    { label: 'next week', on: nextWeek },
    { label: momentText(formatDay(day + 14), today), on: formatDay(day + 14) },
  ].filter(
    (it, i, all): it is { label: string; on: string } =>
      it.on !== null && all.findIndex(({ on }) => on === it.on) === i,
  );
  return (
    <TodoLine
      todo={todo}
      first={first}
      standing={standingOf(todo, today, person.settings)}
      onOpen={() => router.push(`/todo/${id}`)}
    >
      <View style={{ paddingLeft: 74, paddingBottom: 8 }}>
        {lacks.includes('place') ? (
          <Mend words="It belongs to" label={`Where it belongs: ${title}`}>
            {shown.names().map((place) => (
              <WordLink
                key={place.id}
                label={place.name}
                name={`${title} belongs to ${place.name}`}
                onPress={() =>
                  keep(
                    does(
                      { do: 'describe', todos: [id], details: { place: place.id } },
                      () => place.name,
                    ),
                  )
                }
              />
            ))}
          </Mend>
        ) : null}
        {lacks.includes('date') ? (
          <Mend words="It is for" label={`When it is to be done: ${title}`}>
            {days.map(({ label, on }) => (
              <WordLink
                key={label}
                label={label}
                name={`${title} is for ${label}`}
                onPress={() =>
                  keep(does({ do: 'change', todo: id, series: { start: on } }, () => label))
                }
              />
            ))}
            <WordLink
              label="someday"
              name={`${title} is for someday`}
              onPress={() =>
                keep(
                  does(
                    { do: 'describe', todos: [id], details: { someday: true } },
                    () => 'someday',
                  ),
                )
              }
            />
          </Mend>
        ) : null}
        {lacks.length ? null : (
          <Words size={15} tint="moss" weight={600}>
            Sorted
          </Words>
        )}
        {last ? (
          <View style={{ alignItems: 'flex-start' }}>
            <WordLink
              label="Undo"
              name={`Undo: ${title}`}
              onPress={() => {
                if (does({ do: 'undo', of: last }, () => 'As it was before')) setLast(null);
              }}
            />
          </View>
        ) : null}
      </View>
    </TodoLine>
  );
}

function Mend({ words, label, children }: { words: string; label: string; children: ReactNode }) {
  return (
    <View
      role="group"
      aria-label={label}
      style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 14, alignItems: 'center' }}
    >
      <Words size={15} tint="soft">
        {words}
      </Words>
      {children}
    </View>
  );
}

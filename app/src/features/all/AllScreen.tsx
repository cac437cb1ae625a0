import type { TodoView } from '@back-again/contract';
import { repeatText, type LocalDate, type Settings } from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { useShown } from '../../data/todos.ts';
import { Field } from '../../ui/Field.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { arcKind, arcOf } from '../../ui/arcs.ts';
import { useLook, useWide } from '../../ui/look.ts';
import { standingOf } from '../../ui/standing.ts';
import { PauseAll } from './PauseAll.tsx';
import { arrange, fits } from './arrange.ts';

/** All definitions, with search. `story` shows one to-do beside the list. */
export function AllScreen({ story }: { story: (id: string | null) => ReactNode }) {
  const shown = useShown();
  const [search, setSearch] = useState('');
  const [chosen, setChosen] = useState<string | null>(null);
  const wide = useWide();
  useEffect(() => {
    document.title = 'All · Back Again';
  }, []);
  const { today } = shown;
  const { settings } = shown.person;
  const todos = shown.all().map(shown.view);
  const found = todos.filter((todo) => fits(todo, search, settings));
  const groups = arrange(found, today);
  return (
    <Screen width={620} detail={story(chosen)}>
      <View style={{ padding: 20, paddingBottom: 8, gap: 14 }}>
        <View
          style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}
        >
          <Heading level={1}>All</Heading>
          {wide ? null : (
            <View style={{ flexDirection: 'row', gap: 18 }}>
              <WordLink label="Reminders" onPress={() => router.push('/said')} />
              <WordLink label="Settings" onPress={() => router.push('/settings')} />
            </View>
          )}
        </View>
        {todos.length ? (
          <Field
            label="Search in all to-dos"
            labelHidden
            placeholder="Search"
            value={search}
            onChangeText={setSearch}
            inputMode="search"
          />
        ) : null}
      </View>
      {todos.length ? <PauseAll todos={todos} today={today} /> : null}
      {groups.map(({ title, todos: some }) => (
        <View key={title} role="region" aria-label={title}>
          <View
            style={{
              paddingHorizontal: 20,
              paddingTop: 14,
              paddingBottom: 4,
              flexDirection: 'row',
              justifyContent: 'space-between',
            }}
          >
            <Heading level={2} size={16}>
              {title}
            </Heading>
            <Words size={14} tint="soft">
              {String(some.length)}
            </Words>
          </View>
          {some.map((todo, i) => (
            <AllRow
              key={todo.id}
              todo={todo}
              first={i === 0}
              today={today}
              settings={settings}
              chosen={wide && chosen === todo.id}
              onOpen={() => (wide ? setChosen(todo.id) : router.push(`/todo/${todo.id}`))}
            />
          ))}
        </View>
      ))}
      {found.length ? null : (
        <View style={{ paddingHorizontal: 20, alignItems: 'flex-start' }}>
          <Words tint="soft">
            {todos.length ? `Nothing here has “${search.trim()}” in it.` : 'Nothing yet.'}
          </Words>
          {todos.length ? (
            <WordLink label="Show all" onPress={() => setSearch('')} />
          ) : (
            <WordLink label="Write the first one" onPress={() => router.push('/write')} />
          )}
        </View>
      )}
    </Screen>
  );
}

interface AllRowProps {
  todo: TodoView;
  today: LocalDate;
  settings: Settings;
  first: boolean;
  chosen: boolean;
  onOpen: () => void;
}

function AllRow({ todo, today, settings, first, chosen, onOpen }: AllRowProps) {
  const look = useLook();
  const { series } = todo;
  const { words, late } = standingOf(todo, today, settings);
  const repeat = series.repeat && todo.wrong === null ? repeatText(series, settings) : null;
  const over = todo.ended;
  return (
    <Pressable
      onPress={onOpen}
      role="button"
      aria-label={`${series.title}, ${words}${repeat ? `, ${repeat}` : ''}. Open`}
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 12,
        paddingHorizontal: 20,
        paddingVertical: 9,
        minHeight: 64,
        borderTopWidth: first ? 0 : 1,
        borderTopColor: look.line,
        backgroundColor: chosen ? look.card : 'transparent',
      }}
    >
      <ReturnArc kind={arcKind(series)} state={over ? { at: 'done' } : arcOf(todo, late)} />
      <View style={{ flex: 1, minWidth: 0 }}>
        <Words size={16.5} weight={600} tint={over ? 'soft' : 'ink'} style={{ lineHeight: 21 }}>
          {series.title}
        </Words>
        <Words size={14} tint="soft" style={{ lineHeight: 19 }}>
          <Words size={14} weight={600} tint={late ? 'late' : 'soft'} style={{ lineHeight: 19 }}>
            {words}
          </Words>
          {repeat ? ` · ${repeat}` : ''}
        </Words>
      </View>
    </Pressable>
  );
}

import type { TodoView } from '@back-again/contract';
import { queryOf, repeatText, type LocalDate, type Settings } from '@back-again/core';
import { router, type Href } from 'expo-router';
import { memo, type ReactNode, useCallback, useEffect, useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';
import { useAct, useLast, type Draft } from '../../data/act.ts';
import { useShown } from '../../data/todos.ts';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { ListRow } from '../../ui/ListRow.tsx';
import { Marked } from '../../ui/Marked.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Search } from '../../ui/Search.tsx';
import { VirtualRows } from '../../ui/VirtualRows.tsx';
import { Tabs } from '../../ui/Tabs.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { arcKind, arcOf } from '../../ui/arcs.ts';
import { APART, useLook, useWide } from '../../ui/look.ts';
import { useSameList } from '../../ui/steady.ts';
import { standingOf } from '../../ui/standing.ts';
import { InRecord } from './InRecord.tsx';
import { PauseAll } from './PauseAll.tsx';
import { byKind, byPlace, finder, lookThrough, type Group } from './arrange.ts';
import { Several } from './Several.tsx';

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
  const [way, setWay] = useState<'place' | 'kind'>('place');
  const [several, setSeveral] = useState<ReadonlySet<string> | null>(null);
  const { does, failure } = useAct(useAnnounce());
  const { last, setLast, undo } = useLast(does);
  const all = shown.inSight();
  const { focus } = shown.own();
  const sphere = shown.places().find(({ id }) => id === focus)?.name;
  const places = shown.places();
  useEffect(() => {
    let from = 0;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const next = () => {
      lookThrough(shown, all.slice(from, from + AT_ONCE));
      from += AT_ONCE;
      if (from < all.length) timer = setTimeout(next, 0);
    };
    timer = setTimeout(next, 0);
    return () => clearTimeout(timer);
    // With the clock alone nothing of it becomes another.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [all]);
  const names = shown.names();
  const query = useMemo(() => queryOf(search, names), [search, names]);
  // The clock goes on while it is looked at: what stays as it was is not put in order again.
  const todos = useSameList(all.map(shown.view));
  const found = useSameList(
    search.trim() ? all.filter(finder(shown, query)).map(shown.view) : todos,
  );
  const isByPlace = way === 'place' && places.length > 0;
  const groups = useMemo(
    () => (isByPlace ? byPlace(found, places) : byKind(found, today)),
    [isByPlace, found, places, today],
  );
  const rows = useMemo(() => flat(groups), [groups]);
  const unsorted = shown.unsorted().length;
  const isPicked = several !== null;
  const picked = found.filter(({ id }) => several?.has(id));
  const act = (draft: Draft, words: string) => {
    const did = does(draft, () => words);
    if (did) setLast({ action: did.id, words: `${words}.` });
  };
  const open = useCallback(
    (id: string) => {
      if (isPicked)
        setSeveral((before) => {
          const next = new Set(before);
          if (!next.delete(id)) next.add(id);
          return next;
        });
      else if (wide) setChosen(id);
      else router.push(`/todo/${id}`);
    },
    [isPicked, wide],
  );
  const rowOf = (todo: TodoView, isFirst: boolean) => (
    <AllRow
      key={todo.id}
      todo={todo}
      first={isFirst}
      today={today}
      settings={settings}
      words={query.words}
      picked={isPicked ? (several?.has(todo.id) ?? false) : null}
      chosen={wide && chosen === todo.id}
      onOpen={open}
    />
  );
  return (
    <Screen width={620} detail={story(chosen)}>
      <View style={{ padding: 20, paddingBottom: 8, gap: 14 }}>
        <View style={APART}>
          <Heading level={1}>All</Heading>
          {wide ? null : (
            <View style={{ flexDirection: 'row', gap: 18 }}>
              <WordLink label="Reminders" onPress={() => router.push('/said')} />
              <WordLink label="Settings" onPress={() => router.push('/settings')} />
            </View>
          )}
        </View>
        {todos.length ? (
          <Search
            label="Search in all to-dos"
            placeholder="Search"
            value={search}
            onChange={setSearch}
          />
        ) : null}
        {failure ? <Note words={failure} /> : null}
        {sphere === undefined ? null : (
          <Note
            words={`Only ${sphere} is in sight.`}
            action={{
              label: 'Show all',
              name: 'Show all spheres',
              onPress: () =>
                void does({ do: 'focus', place: null }, () => 'All spheres are in sight'),
            }}
          />
        )}
        {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
          {unsorted ? (
            <WordLink
              label={`Unsorted, ${unsorted}`}
              onPress={() => router.push('/unsorted' as Href)}
            />
          ) : null}
          <WordLink label="Places" onPress={() => router.push('/places' as Href)} />
          <WordLink label="Taken away" onPress={() => router.push('/taken-away' as Href)} />
          {todos.length ? (
            <WordLink
              label="Choose several"
              expanded={isPicked}
              onPress={() => setSeveral(isPicked ? null : new Set())}
            />
          ) : null}
        </View>
        {places.length && todos.length ? (
          <Tabs label="How they are shown" options={WAYS} value={way} onChange={setWay} />
        ) : null}
      </View>
      {isPicked ? (
        <Several
          chosen={picked}
          of={found.length}
          places={places}
          names={shown.names()}
          today={today}
          onAct={act}
          onAll={() =>
            setSeveral(new Set(picked.length === found.length ? [] : found.map(({ id }) => id)))
          }
          onLeave={() => setSeveral(null)}
        />
      ) : null}
      {todos.length && !isPicked ? (
        <PauseAll todos={todos} today={today} weekStart={settings.weekStart} />
      ) : null}
      {found.length > FEW ? (
        <VirtualRows rows={rows} keyOf={({ key }) => key} height={65}>
          {(item) =>
            'group' in item ? <GroupHead group={item.group} /> : rowOf(item.todo, item.isFirst)
          }
        </VirtualRows>
      ) : (
        groups.map((group) => (
          <View key={group.place ?? group.title} role="region" aria-label={group.title}>
            <GroupHead group={group} />
            {group.todos.map((todo, i) => rowOf(todo, i === 0))}
          </View>
        ))
      )}
      {query.words.length ? (
        <InRecord search={search} words={query.words} today={today} settings={settings} />
      ) : null}
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

const WAYS = [
  { value: 'place', label: 'By place' },
  { value: 'kind', label: 'By kind' },
] as const;

/** So many are looked through at a time, before anything is looked for. */
const AT_ONCE = 100;
/** Up to so many are drawn by group; of more, those in sight alone: a search answers each key within a frame. */
const FEW = 100;

type Flat = { key: string } & ({ group: Group } | { todo: TodoView; isFirst: boolean });

/** Groups and what is in them, one beneath the other. */
const flat = (groups: readonly Group[]): Flat[] =>
  groups.flatMap((group) => [
    { key: `of ${group.place ?? group.title}`, group },
    ...group.todos.map((todo, i) => ({ key: todo.id, todo, isFirst: i === 0 })),
  ]);

/** The name of a group, by which its place opens, and how many are in it. */
function GroupHead({ group: { title, place, todos } }: { group: Group }) {
  return (
    <View
      style={{
        paddingHorizontal: 20,
        paddingTop: 10,
        flexDirection: 'row',
        justifyContent: 'space-between',
        alignItems: 'center',
        minHeight: 48,
      }}
    >
      {place === null ? (
        <Heading level={2} size={16}>
          {title}
        </Heading>
      ) : (
        <Pressable
          role="link"
          aria-label={`Open ${title}`}
          onPress={() => router.push(`/place/${place}` as Href)}
          style={{ minHeight: 48, justifyContent: 'center' }}
        >
          <Heading level={2} size={16} style={{ textDecorationLine: 'underline' }}>
            {title}
          </Heading>
        </Pressable>
      )}
      <Words size={14} tint="soft">
        {String(todos.length)}
      </Words>
    </View>
  );
}

interface AllRowProps {
  todo: TodoView;
  today: LocalDate;
  settings: Settings;
  first: boolean;
  /** What is looked for, to be marked. */
  words: readonly string[];
  /** Whether it is one of several that are chosen; null while none are. */
  picked: boolean | null;
  chosen: boolean;
  onOpen: (id: string) => void;
}

/** Drawn again only where something of it is another. */
const AllRow = memo(function AllRow({
  todo,
  today,
  settings,
  first,
  words: wanted,
  picked,
  chosen,
  onOpen,
}: AllRowProps) {
  const look = useLook();
  const { series } = todo;
  const { words, late } = standingOf(todo, today, settings);
  const repeat = series.repeat && todo.wrong === null ? repeatText(series, settings) : null;
  const over = todo.ended;
  return (
    <ListRow
      first={first}
      onPress={() => onOpen(todo.id)}
      role={picked === null ? 'button' : 'checkbox'}
      {...(picked === null ? {} : { checked: picked })}
      name={`${series.title}, ${words}${repeat ? `, ${repeat}` : ''}${picked === null ? '. Open' : ''}`}
      inset={20}
      background={picked ? look.slateFill : chosen ? look.card : 'transparent'}
    >
      <ReturnArc kind={arcKind(series)} state={over ? { at: 'done' } : arcOf(todo, late)} />
      <View style={{ flex: 1, minWidth: 0 }}>
        <Marked
          text={series.title}
          wanted={wanted}
          found={{ weight: 700 }}
          size={16.5}
          weight={600}
          tint={over ? 'soft' : 'ink'}
          style={{ lineHeight: 21 }}
        />
        <Words size={14} tint="soft" style={{ lineHeight: 19 }}>
          <Words size={14} weight={600} tint={late ? 'late' : 'soft'} style={{ lineHeight: 19 }}>
            {words}
          </Words>
          {repeat ? ` · ${repeat}` : ''}
        </Words>
      </View>
      {picked ? (
        <Words size={14} weight={600}>
          chosen
        </Words>
      ) : null}
    </ListRow>
  );
});

import type { PlaceState, TodoView } from '@back-again/contract';
import { MOST_PLACE, MOST_PLACE_NOTE, daysLate, within, type LocalDate } from '@back-again/core';
import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useAct, useLast, type Does, type Draft } from '../../data/act.ts';
import { usePlaceQuery } from '../../data/api.ts';
import { useLocal, useShown, type Shown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { LazyMarkdown } from '../../ui/LazyMarkdown.tsx';
import { Note } from '../../ui/Note.tsx';
import { Part } from '../../ui/Part.tsx';
import { Share } from '../../ui/Share.tsx';
import { TodoLine } from '../../ui/TodoLine.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { instantText, minutesText, momentText } from '../../ui/dates.ts';
import { standingOf } from '../../ui/standing.ts';
import { Months } from './Months.tsx';
import { stateText } from './placeWords.ts';
import { rem } from '../../ui/rem.ts';

/** The page of a place: what is open, what comes, what was done, its notes and its totals. */
export function PlaceScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const shown = useShown();
  const [gone, setGone] = useState<{ action: string; name: string } | null>(null);
  const { does } = useAct(useAnnounce());
  const place = shown.places().find((it) => it.id === id);
  useEffect(() => {
    if (place) document.title = `${place.name} · Back Again`;
  }, [place]);
  return (
    <Screen width={620}>
      <View style={{ paddingHorizontal: 20, paddingTop: 8, gap: 6, maxWidth: 620 }}>
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label="Back"
            onPress={() => (router.canGoBack() ? router.back() : router.replace('/all'))}
          />
        </View>
        {gone ? (
          <Note
            words={`${gone.name} is taken away. What belonged to it is unsorted.`}
            action={{
              label: 'Undo',
              name: `Undo: take away ${gone.name}`,
              onPress: () => {
                const words = () => `${gone.name} is back`;
                if (does({ do: 'undo', of: gone.action }, words)) setGone(null);
              },
            }}
          />
        ) : null}
        {place ? (
          <Loaded
            key={place.id}
            shown={shown}
            place={place}
            onGone={(action) => setGone({ action, name: place.name })}
          />
        ) : gone ? null : (
          <Words>There is no such place.</Words>
        )}
      </View>
    </Screen>
  );
}

interface LoadedProps {
  shown: Shown;
  place: PlaceState;
  onGone: (action: string) => void;
}

function Loaded({ shown, place, onGone }: LoadedProps) {
  const { does, failure } = useAct(useAnnounce());
  const { today } = shown;
  const { settings } = shown.person;
  const { data, isLoading } = usePlaceQuery(place.id, { refetchOnMountOrArgChange: true });
  const { isConnected } = useLocal();
  const inside = within(shown.places(), place.id);
  const todos = shown
    .all()
    .filter(({ over, details }) => !over && details.place !== null && inside.has(details.place))
    .map(shown.view);
  const done = shown
    .all()
    .filter(
      ({ over, details, progress }) =>
        over && progress.done > 0 && details.place !== null && inside.has(details.place),
    ).length;
  const open = todos.filter((todo) => todo.open.length).sort(byDue);
  const coming = todos.filter((todo) => !todo.open.length && todo.next).sort(byDue);
  const holder = shown.places().find(({ id }) => id === place.in);
  const held = shown.places().filter((it) => it.in === place.id);
  const late = open.filter((todo) =>
    todo.open.some((time) => daysLate(time, today, settings) > 0),
  ).length;
  const row = (todo: TodoView, i: number) => (
    <TodoLine
      key={todo.id}
      todo={todo}
      first={i === 0}
      standing={standingOf(todo, today, settings)}
      onOpen={() => router.push(`/todo/${todo.id}`)}
      {...(todo.open[0]
        ? {
            onDone: () =>
              void does({ do: 'done', todo: todo.id, slot: todo.open[0]!.slot }, () => 'Done'),
          }
        : {})}
    />
  );
  return (
    <View style={{ gap: 14 }}>
      <View style={{ gap: 4 }}>
        <Words size={14.5} tint="soft">
          {holder ? `A ${place.kind} in ${holder.name}` : 'A sphere'}
        </Words>
        <Heading level={1} size={30}>
          {place.name}
        </Heading>
        <Words size={15.5}>{standsText(place, todos, late, today)}</Words>
      </View>
      {failure ? <Note words={failure} /> : null}
      {place.kind === 'project' && done + todos.length > 0 ? (
        <Share
          label="How far the project is"
          share={done / (done + todos.length)}
          words={`${done} of ${done + todos.length} done`}
        />
      ) : null}
      <Ways
        place={place}
        beside={shown.places().filter((it) => it.in === place.in)}
        todos={todos}
        does={does}
        onGone={onGone}
      />
      {place.note ? <LazyMarkdown text={place.note} /> : null}
      {data?.months.some(({ done }) => done) ? <Months months={data.months} /> : null}
      {held.length ? (
        <Part title="Holds">
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
            {held.map((it) => (
              <WordLink
                key={it.id}
                label={[it.name, stateText(it)].filter(Boolean).join(', ')}
                onPress={() => router.push(`/place/${it.id}` as Href)}
              />
            ))}
          </View>
        </Part>
      ) : null}
      {open.length ? <Part title="Now">{open.map(row)}</Part> : null}
      {coming.length ? <Part title="Comes back">{coming.map(row)}</Part> : null}
      {todos.length ? null : (
        <Words size={15.5} tint="soft">
          Nothing belongs to it yet.
        </Words>
      )}
      {data?.done.length ? (
        <Part title="What was done">
          <View style={{ flexDirection: 'row', columnGap: 20 }}>
            <WordLink
              label="Totals"
              name={`Totals of ${place.name}`}
              onPress={() => router.push(`/past/totals?by=todo&place=${place.id}` as Href)}
            />
            <WordLink
              label="By year"
              name={`${place.name}, by year`}
              onPress={() => router.push(`/past/year?place=${place.id}` as Href)}
            />
          </View>
          {data.done.map(({ todo, slot, title, closedAt }) => (
            <View
              key={`${todo} ${slot} ${closedAt}`}
              style={{ flexDirection: 'row', gap: 12, minHeight: 36, alignItems: 'center' }}
            >
              <Words size={15} tint="soft" style={{ width: rem(132) }}>
                {instantText(closedAt, today, settings).split(',')[0]}
              </Words>
              <Words size={15.5} style={{ flex: 1 }}>
                {title}
              </Words>
            </View>
          ))}
        </Part>
      ) : isConnected ? (
        isLoading ? (
          <Waiting lines={4} label="What was done is on its way" />
        ) : null
      ) : (
        <Words size={15} tint="soft">
          What was done shows once there is a connection.
        </Words>
      )}
    </View>
  );
}

const dueOf = ({ open, next }: TodoView) => open[0]?.due ?? next?.due ?? '9999';
const byDue = (a: TodoView, b: TodoView) => (dueOf(a) < dueOf(b) ? -1 : 1);

/** “Goes on. 7 things come back, 1 is late. About 1 h 20 a week.” */
function standsText(
  { kind, state, from, to }: PlaceState,
  todos: readonly TodoView[],
  late: number,
  today: LocalDate,
): string {
  const states = { on: 'Goes on', rests: 'Rests', planned: 'Is planned', finished: 'Is finished' };
  const dates = [
    from ? `from ${momentText(from, today)}` : '',
    to ? `until ${momentText(to, today)}` : '',
  ].filter(Boolean);
  const standing = kind === 'sphere' ? [] : [[states[state], ...dates].join(' ')];
  const repeating = todos.filter(({ series }) => series.repeat).length;
  const once = todos.length - repeating;
  const counts = [
    repeating ? `${repeating} ${repeating === 1 ? 'thing comes' : 'things come'} back` : '',
    once ? `${once} ${once === 1 ? 'is' : 'are'} to be done once` : '',
    late ? `${late} ${late === 1 ? 'is' : 'are'} late` : '',
  ].filter(Boolean);
  const minutes = todos.reduce((sum, { series }) => sum + (series.takes ?? 0), 0);
  const takes = minutes ? [`Each of them once takes ${minutesText(minutes)}`] : [];
  const all = [...standing, ...(counts.length ? [counts.join(', ')] : []), ...takes];
  return all.length ? `${all.join('. ')}.` : '';
}

interface WaysProps {
  place: PlaceState;
  /** Those that stand beside it in order, itself among them. */
  beside: readonly PlaceState[];
  todos: readonly TodoView[];
  does: Does;
  onGone: (action: string) => void;
}

type Panel = 'name' | 'note' | 'finish' | null;

/** What can be done with a place itself. */
function Ways({ place, beside, todos, does, onGone }: WaysProps) {
  const [panel, setPanel] = useState<Panel>(null);
  const [text, setText] = useState('');
  const { last, setLast, undo } = useLast(does);
  const { id: place_, name, kind, state } = place;
  const act = (draft: Draft, words: string) => {
    const did = does(draft, () => words);
    if (!did) return;
    setPanel(null);
    setLast({ action: did.id, words: `${words}.` });
  };
  const open = (which: Panel, value: string) => {
    setText(value);
    setPanel(panel === which ? null : which);
  };
  const live = todos.length;
  const order = orderBefore(place, beside);
  return (
    <View style={{ gap: 6 }}>
      {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
        {kind === 'strand' ? (
          <WordLink
            label={state === 'rests' ? 'Let it go on' : 'Let it rest'}
            onPress={() =>
              act(
                { do: 'rest', place: place_, rests: state !== 'rests' },
                state === 'rests' ? `${name} goes on` : `${name} rests: nothing in it comes`,
              )
            }
          />
        ) : null}
        {kind === 'project' && state === 'planned' ? (
          <WordLink
            label="Begin it"
            onPress={() =>
              act({ do: 'place', place: place_, parts: { state: 'on' } }, `${name} goes on`)
            }
          />
        ) : null}
        {kind === 'project' && state !== 'finished' ? (
          <WordLink
            label="Finish it"
            expanded={panel === 'finish'}
            onPress={() =>
              live
                ? open('finish', '')
                : act({ do: 'finishProject', place: place_, open: 'leave' }, `${name} is finished`)
            }
          />
        ) : null}
        <WordLink label="Rename" expanded={panel === 'name'} onPress={() => open('name', name)} />
        <WordLink
          label={place.note ? 'Change the note' : 'Write a note'}
          expanded={panel === 'note'}
          onPress={() => open('note', place.note)}
        />
        {order === null ? null : (
          <WordLink
            label="Further up"
            name={`Further up among the others: ${name}`}
            onPress={() =>
              act({ do: 'place', place: place_, parts: { order } }, `${name} stands further up`)
            }
          />
        )}
        <WordLink
          label="Write one here"
          onPress={() => router.push({ pathname: '/write', params: { place: place_ } })}
        />
        <WordLink
          label="As a calendar"
          name={`Take ${name} along as a calendar`}
          onPress={() => window.location.assign(`/api/calendar.ics?place=${place_}`)}
        />
        <WordLink
          label="Take away"
          name={`Take away ${name}`}
          onPress={() => {
            const did = does({ do: 'unplace', place: place_ }, () => `${name} is taken away`);
            if (did) onGone(did.id);
          }}
        />
      </View>
      {panel === 'finish' ? (
        <View role="group" aria-label="What becomes of what is open" style={{ gap: 8 }}>
          <Words size={15.5}>
            {live === 1 ? 'One thing is open in it.' : `${live} things are open in it.`}
          </Words>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
            {FINISHES.map(({ open: what, label }) => (
              <Action
                key={what}
                label={label}
                onPress={() =>
                  act({ do: 'finishProject', place: place_, open: what }, `${name} is finished`)
                }
              />
            ))}
          </View>
        </View>
      ) : null}
      {panel === 'name' || panel === 'note' ? (
        <View style={{ gap: 8 }}>
          <Field
            label={panel === 'name' ? 'What it is called' : 'Its note'}
            value={text}
            onChangeText={setText}
            maxLength={panel === 'name' ? MOST_PLACE : MOST_PLACE_NOTE}
            multiline={panel === 'note'}
            autoFocus
          />
          <View style={{ flexDirection: 'row', gap: 8 }}>
            <Action
              label="Keep it"
              filled
              disabled={panel === 'name' && !text.trim()}
              onPress={() =>
                panel === 'name'
                  ? act(
                      { do: 'place', place: place_, parts: { name: text } },
                      `It is ${text.trim()} now`,
                    )
                  : act({ do: 'place', place: place_, parts: { note: text } }, 'The note is kept')
              }
            />
            <Action label="Leave it" onPress={() => setPanel(null)} />
          </View>
        </View>
      ) : null}
    </View>
  );
}

/** The order by which a place stands before the one that is before it now; null where it is the first. */
function orderBefore(place: PlaceState, beside: readonly PlaceState[]): number | null {
  const at = beside.findIndex(({ id }) => id === place.id);
  if (at < 1) return null;
  const [before, two] = [beside[at - 1]!.order, beside[at - 2]?.order];
  return two === undefined ? before - 1 : (before + two) / 2;
}

const FINISHES = [
  { open: 'end', label: 'End them' },
  { open: 'strand', label: 'Keep them where the project is' },
  { open: 'leave', label: 'Leave them in it' },
] as const;

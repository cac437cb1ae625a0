import {
  CoreError,
  formatDay,
  clockOf,
  habitDay,
  lastDayOfHabit,
  parseDay,
  whatOf,
  whenOf,
  type LocalDate,
  type NamedPlace,
  type Definition,
  type Settings,
  type Progress,
} from '@back-again/core';
import {
  nameText,
  read,
  rewritten,
  sentBack,
  typed,
  type Reading,
  type Source,
} from '@back-again/core/reading';
import { router, useLocalSearchParams } from 'expo-router';
import { useEffect, useMemo, useRef, useState } from 'react';
import { View, type TextInput } from 'react-native';
import type { TodoState, TodoView } from '@back-again/contract';
import { act } from '../../data/local/act.ts';
import { serverNow } from '../../data/local/time.ts';
import { useBesideDraft, useDraft } from '../../data/draft.ts';
import { newId } from '../../data/ids.ts';
import { useRoom } from '../../data/room.tsx';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Examples } from '../../ui/Examples.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { useWide } from '../../ui/look.ts';
import { Controls } from './Controls.tsx';
import { Doubts } from './Doubts.tsx';
import { NextTimes } from './NextTimes.tsx';
import { Offers } from './Offers.tsx';
import { Sentence, type PanelName } from './Sentence.tsx';
import { TryItOut } from './TryItOut.tsx';
import { dateOrderOf } from './dateOrder.ts';
import { changeTo, withStart, type Person } from './edit.ts';
import {
  besideAfter,
  besideOf,
  textOf,
  withBeside,
  withIds,
  withoutBeside,
  type Beside,
} from './beside.ts';
import { Moments } from './Moments.tsx';
import { useUsual } from './useUsual.ts';
import { previewOf } from './preview.ts';

/** What comes back? A plain field, the sentence as understood, and the next dates. */
export function EditorScreen() {
  const params = useLocalSearchParams<{
    text?: string;
    todo?: string;
    like?: string;
    try?: string;
    place?: string;
  }>();
  const { todo: id, like } = params;
  /** The to-do that is changed, or whose words a new one begins with. */
  const source = id ?? like;
  const shown = useShown();
  // The time at which the screen was opened: the next dates do not move while they are read.
  const [now] = useState(shown.now);
  const { settings, holidays } = shown.person;
  const todo = source === undefined ? null : shown.viewOf(source);
  const progress = id === undefined ? null : (shown.stateOf(id)?.progress ?? null);
  if (source !== undefined && !todo)
    return <Unreachable words="There is no such to-do." onRetry={() => router.back()} />;
  const other = shown
    .all()
    .find(({ id: it, over, details }) => details.takingUp && !over && it !== id);
  const options = { ...settings, places: shown.names() };
  const given = todo
    ? typed(withoutBeside(withoutPauses(todo.series)), shown.today, options)
    : (params.text ?? hereText(shown.names(), params.place));
  return (
    <Editor
      key={source ?? given ?? ''}
      given={given}
      todo={id === undefined ? null : todo}
      progress={progress}
      givenBeside={todo ? besideOf(todo.series) : null}
      trying={params.try !== undefined}
      settings={settings}
      holidays={holidays}
      places={shown.names()}
      other={other ?? null}
      now={now}
    />
  );
}

/** Words that say where a new one belongs, to be written behind. */
function hereText(names: readonly NamedPlace[], place: string | undefined): string | undefined {
  const name = names.find(({ id }) => id === place)?.name;
  return name === undefined ? undefined : ` belongs to ${nameText(name)}`;
}

interface EditorProps {
  given: string | undefined;
  /** What stands beside the sentence at first. */
  givenBeside: Beside | null;
  /** The to-do that is changed; null for a new one. */
  todo: TodoView | null;
  /** Where it stands. */
  progress: Progress | null;
  /** Whether it was opened to try it out. */
  trying: boolean;
  settings: Settings;
  holidays: readonly LocalDate[];
  places: readonly NamedPlace[];
  /** Another habit that is being taken up. */
  other: TodoState | null;
  now: number;
}

function Editor({
  given,
  givenBeside,
  todo,
  progress,
  trying,
  settings,
  holidays,
  places,
  other,
  now,
}: EditorProps) {
  const [text, write] = useDraft(given, todo === null);
  const [beside, setBeside] = useBesideDraft(givenBeside, todo === null);
  const [panel, setPanel] = useState<PanelName | null>(null);
  const wide = useWide();
  const person: Person = useMemo(
    () => ({
      today: formatDay(clockOf(settings).dayAt(now)),
      weekStart: settings.weekStart,
      dateOrder: dateOrderOf(settings.holidays, navigator.language),
      places,
      ...(settings.workdays ? { workdays: settings.workdays } : {}),
      holidayDates: holidays,
    }),
    [settings, holidays, places, now],
  );
  const reading = useMemo(() => read(text, person.today, person), [text, person]);
  const isAll = useMemo(
    () => ({ ...reading, series: withBeside(reading.series, beside) }),
    [reading, beside],
  );
  const usual = useUsual(text, isAll, settings, todo === null);
  const { problems } = reading;
  const series = usual.series;
  const sound = problems.length === 0 && series.title !== '';
  const preview = useMemo(() => {
    const standing = todo && progress ? { series: todo.series, progress } : null;
    return sound ? previewOf(series, settings, now, holidays, standing) : null;
  }, [sound, series, settings, now, holidays, todo, progress]);
  /** Whether it was asked about the habit that is under way, for this sentence. */
  const [isAsked, setAsked] = useState(false);
  const [asks, setAsks] = useState(false);
  const habit = asks && !isAsked && series.takingUp && other ? other : null;
  const { keep: keepIt, failed } = useKeep(text, { ...reading, series }, todo, person, () => {
    write('');
    setBeside({});
  });

  /** A second habit is asked about first. */
  const keep = (isSure = false) => {
    if (series.takingUp && other && !isSure && !isAsked) setAsks(true);
    else keepIt();
  };

  useEffect(() => {
    document.title = 'What comes back? · Back Again';
  }, []);

  const field = useRef<TextInput>(null);
  const announce = useAnnounce();
  const change = (next: Definition) => {
    const after = besideAfter(series, next, beside);
    setBeside(after);
    const said = textOf(usual.without(next), after);
    write(rewritten(text, reading, said, person.today, person));
  };
  const leave = (source: Source) => {
    write(sentBack(text, reading, source));
    setPanel(null);
    field.current?.focus();
    announce(`“${source.text}” stays in the title.`);
  };
  const choose = (next: string, words: string) => {
    write(next);
    field.current?.focus();
    announce(`Taken: ${words}.`);
  };
  // What is changed was in no doubt when it was kept.
  const doubts = todo && text === given ? [] : reading.doubts;
  const next = preview ? (
    <NextTimes preview={preview} series={series} weekStart={settings.weekStart} />
  ) : null;
  return (
    <Screen width={620} {...(wide ? { detail: next ?? <View /> } : {})}>
      <Head isNew={todo === null} onKeep={() => keep()} />
      <View style={{ paddingHorizontal: 20, gap: 12 }}>
        <Field
          ref={field}
          label="What comes back, and how?"
          labelHidden
          placeholder="What comes back, and how?"
          value={text}
          onChangeText={write}
          multiline
          onKeyPress={(event) => {
            const { key, ctrlKey, metaKey } = event.nativeEvent as unknown as KeyboardEvent;
            if (key === 'Enter' && (ctrlKey || metaKey)) keep();
          }}
          size={18.5}
          autoFocus
          error={failed ?? undefined}
          hint={text ? undefined : 'Say it in your own words.'}
        />
        {habit ? (
          <SecondHabit
            habit={habit}
            today={person.today}
            onQueue={(start) => {
              setAsked(true);
              change(withStart(series, start, person));
            }}
            onKeep={() => keep(true)}
          />
        ) : null}
        {text.trim() ? null : <Examples words="Such as one of these:" onPick={write} />}
        <Unsound reading={reading} typedSome={text.trim() !== ''} />
        {sound ? (
          <View>
            <Sentence
              series={series}
              person={person}
              open={panel}
              onOpen={(name) => setPanel(panel === name ? null : name)}
            />
            {todo ? null : (
              <FirstTime
                series={series}
                reading={reading}
                today={person.today}
                onSay={() => setPanel('start')}
              />
            )}
            <Doubts
              doubts={doubts}
              settings={settings}
              holidays={holidays}
              today={person.today}
              now={now}
              onChoose={choose}
            />
            <Offers series={series} panel={panel} onOpen={setPanel} />
          </View>
        ) : null}
        {preview ? <Moments preview={preview} settings={settings} isUsual={usual.isUsual} /> : null}
        {sound && panel ? (
          <Controls
            key={panel}
            panel={panel}
            series={series}
            person={person}
            onChange={change}
            sources={reading.sources.filter(({ part }) => part === panel)}
            onLeave={leave}
            onClose={() => setPanel(null)}
          />
        ) : null}
        {wide ? null : next}
        {sound ? (
          <TryItOut
            series={series}
            person={person}
            settings={settings}
            holidays={holidays}
            isOpen={trying}
          />
        ) : null}
      </View>
    </Screen>
  );
}

interface FirstTimeProps {
  series: Definition;
  reading: Reading;
  today: LocalDate;
  onSay: () => void;
}

/** An after-I-finish one of which nothing says when it was last done is first due today. */
function FirstTime({ series, reading, today, onSay }: FirstTimeProps) {
  const isSaid = reading.sources.some(({ part }) => part === 'start');
  if (series.repeat?.by !== 'completion' || series.start !== today || isSaid) return null;
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 12 }}>
      <Words size={15} tint="soft">
        Its first time is due today.
      </Words>
      <WordLink label="I did it before" size={15} onPress={onSay} />
    </View>
  );
}

/** Keeps the to-do, at once and whatever the connection. */
function useKeep(
  text: string,
  reading: Reading,
  of: TodoView | null,
  { places = [] }: Person,
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
    const problem =
      problems[0]?.message ?? (series.title ? null : 'Say in a few words what it is.');
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

/** Pauses are set on the page of the to-do, and stay as they are when it is changed. */
function withoutPauses({ pauses: _pauses, ...rest }: Definition): Definition {
  return rest;
}

interface SecondHabitProps {
  /** The habit that is under way. */
  habit: TodoState;
  today: LocalDate;
  /** Begins this one on a day. */
  onQueue: (start: LocalDate) => void;
  onKeep: () => void;
}

/** One habit at a time: why, and what can be done about a second one. */
function SecondHabit({ habit, today, onQueue, onKeep }: SecondHabitProps) {
  const { series } = habit.progress;
  const at = habitDay(series, today);
  const last = lastDayOfHabit(series);
  const next = last === null ? null : formatDay(parseDay(last) + 1);
  const far = at ? `, day ${at.day} of ${at.of}` : '';
  return (
    <View role="group" aria-label="A second habit" style={{ gap: 8 }}>
      <Note
        words={`You are taking up “${habit.details.title}”${far}. One habit at a time is kept to more easily than two.`}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {next === null ? null : (
          <Action
            label={`Begin it ${momentText(next, today)}`}
            name={`Begin it when that has ended, ${momentText(next, today)}`}
            filled
            onPress={() => onQueue(next)}
          />
        )}
        <Action label="Both all the same" onPress={onKeep} />
      </View>
    </View>
  );
}

interface HeadProps {
  isNew: boolean;
  onKeep: () => void;
}

function Head({ isNew, onKeep }: HeadProps) {
  return (
    <View
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        justifyContent: 'space-between',
        gap: 12,
        paddingHorizontal: 20,
        paddingTop: 14,
        paddingBottom: 12,
      }}
    >
      <WordLink
        label="Close"
        {...(isNew ? { name: 'Close; what you typed is kept' } : {})}
        onPress={() => (router.canGoBack() ? router.back() : router.replace('/'))}
      />
      <Heading level={1} size={20}>
        {isNew ? 'What comes back?' : 'From this time on'}
      </Heading>
      <Action label="Keep it" filled onPress={onKeep} />
    </View>
  );
}

/** What is wrong with the sentence, and what in it was not understood. */
function Unsound({ reading, typedSome }: { reading: Reading; typedSome: boolean }) {
  const { problems, notUnderstood, series } = reading;
  if (!typedSome) return null;
  const said = (text: string) => reading.sources.some((source) => source.text === text);
  return (
    <>
      {problems.map(({ code, where, message }) => (
        <Note
          key={code + message}
          words={
            <>
              {said(where) ? <Words size={15} weight={650}>{`“${where}”. `}</Words> : null}
              {message}
            </>
          }
        />
      ))}
      {problems.length ? (
        <Words size={15} tint="soft">
          Once that is mended, the sentence and its next times show here. What you typed is kept.
        </Words>
      ) : null}
      {!problems.length && !series.title ? (
        <Note words="What is it? The words say when, but not what." />
      ) : null}
      {notUnderstood.length ? (
        <Note
          words={`Not understood: ${notUnderstood.map((words) => `“${words}”`).join(', ')}. It stays in the title.`}
        />
      ) : null}
    </>
  );
}

import {
  formatDay,
  clockOf,
  type LocalDate,
  type NamedPlace,
  type Definition,
  type Settings,
  type Progress,
} from '@back-again/core';
import {
  type Choice,
  nameText,
  read,
  rewritten,
  sentBack,
  typed,
  type Doubt,
  type Source,
} from '@back-again/core/reading';
import { router, useLocalSearchParams } from 'expo-router';
import { useDeferredValue, useEffect, useMemo, useRef, useState, type Ref } from 'react';
import { View, type TextInput } from 'react-native';
import type { TodoState, TodoView } from '@back-again/contract';
import { useBesideDraft, useDraft } from '../../data/draft.ts';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Examples } from '../../ui/Examples.tsx';
import { TypedField, useTyping } from './TypedField.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { APART, useWide } from '../../ui/look.ts';
import { WrongFields, useWrongs } from '../../ui/wrong.ts';
import { Controls } from './Controls.tsx';
import { Doubts } from './Doubts.tsx';
import { FirstTime, GoneBy } from './FirstTime.tsx';
import { NextTimes } from './NextTimes.tsx';
import { Offers } from './Offers.tsx';
import { SecondHabit } from './SecondHabit.tsx';
import { Sentence, type PanelName } from './Sentence.tsx';
import { TryItOut } from './TryItOut.tsx';
import { Unsound } from './Unsound.tsx';
import { dateOrderOf } from './dateOrder.ts';
import { withStart, type Person } from './edit.ts';
import { besideAfter, besideOf, textOf, withBeside, withoutBeside, type Beside } from './beside.ts';
import { Moments } from './Moments.tsx';
import { useKeep } from './useKeep.ts';
import { useSaid } from './useSaid.ts';
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
  const { text, isRead, typed: typing, write } = useTyping(useDraft(given, todo === null));
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
  // What is played through for it comes after what is typed: no key waits for it.
  const shown = useDeferredValue(sound ? series : null);
  const preview = useMemo(() => {
    const standing = todo && progress ? { series: todo.series, progress } : null;
    return shown && previewOf(shown, settings, now, holidays, standing);
  }, [shown, settings, now, holidays, todo, progress]);
  const wrongs = useWrongs();
  /** What was asked for by a key before all that is typed was read. */
  const wanted = useRef<'keep' | 'goOn' | null>(null);
  /** Whether it was asked about the habit that is under way, for this sentence. */
  const [isAsked, setAsked] = useState(false);
  const [asks, setAsks] = useState(false);
  const habit = asks && !isAsked && series.takingUp && other ? other : null;
  const about = { ...reading, series };
  const { keep: keepIt, failed } = useKeep(text, about, todo, person, wrongs, () => {
    write('');
    setBeside({});
  });

  /** A second habit is asked about first. */
  const keep = (isSure = false) => {
    if (!isRead()) wanted.current = 'keep';
    else if (series.takingUp && other && !isSure && !isAsked) setAsks(true);
    else keepIt();
  };

  useEffect(() => {
    document.title = 'What comes back? · Back Again';
  }, []);

  const field = useRef<TextInput>(null);
  const announce = useAnnounce();
  const change = (next: Definition) => {
    if (!isRead()) return;
    const after = besideAfter(series, next, beside);
    setBeside(after);
    const said = textOf(usual.without(next), after);
    write(rewritten(text, reading, said, person.today, person));
  };
  const leave = (source: Source) => {
    if (!isRead()) return;
    write(sentBack(text, reading, source));
    setPanel(null);
    field.current?.focus();
    announce(`“${source.text}” stays in the title.`);
  };
  // What is changed was in no doubt when it was kept.
  const doubts = todo && text === given ? NO_DOUBTS : reading.doubts;
  // What is asked comes after what is typed; it is answered in the text as it stands, in which it may have gone.
  const asked = useDeferredValue(doubts);
  const choose = ({ code, where }: Doubt, { words }: Choice) => {
    const doubt = doubts.find((it) => it.code === code && it.where === where);
    const choice = doubt?.choices.find((it) => it.words === words);
    field.current?.focus();
    if (!choice || !isRead()) return;
    write(choice.text);
    announce(`Taken: ${words}.`);
  };
  useSaid(text === given ? null : { reading: { ...reading, series, doubts }, preview, person });
  const next =
    preview && shown ? (
      <NextTimes preview={preview} series={shown} weekStart={settings.weekStart} />
    ) : null;
  const isNew = todo === null;
  const questions = useRef<View>(null);
  const keepsIt = useRef<View>(null);
  /** Enter: to what is asked about the sentence, else to what keeps it. */
  const goOn = () => {
    if (!isRead()) {
      wanted.current = 'goOn';
      return;
    }
    const at = [questions, keepsIt].map(({ current }) => current as unknown as HTMLElement | null);
    const found = at.map((it) =>
      it?.querySelector<HTMLElement>('[role=radio][tabindex="0"], button'),
    );
    found.find((it) => it)?.focus();
  };
  useEffect(() => {
    const { current } = wanted;
    if (!current || !isRead()) return;
    wanted.current = null;
    if (current === 'keep') keep();
    else goOn();
  });
  return (
    <Screen
      width={620}
      {...(wide ? { detail: next ?? <View /> } : {})}
      foot={<Foot at={keepsIt} isNew={isNew} onKeep={() => keep()} />}
    >
      <Head isNew={isNew} />
      <View style={{ paddingHorizontal: 20, gap: 12 }}>
        <TypedField
          ref={field}
          label="What comes back, and how?"
          labelHidden
          placeholder="What comes back, and how?"
          typed={typing}
          multiline
          onKeyPress={(event) => {
            const { key, ctrlKey, metaKey, shiftKey, isComposing } =
              event.nativeEvent as unknown as KeyboardEvent;
            if (key !== 'Enter' || shiftKey || isComposing) return;
            event.preventDefault();
            if (ctrlKey || metaKey) keep();
            else goOn();
          }}
          size={18.5}
          autoFocus
          error={failed ?? undefined}
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
            {preview && shown && isNew ? (
              <GoneBy
                series={shown}
                preview={preview}
                now={clockOf(settings).momentAt(now)}
                onBegin={(day) => change(withStart(series, day, person))}
              />
            ) : null}
            <View ref={questions}>
              <Doubts
                doubts={asked}
                settings={settings}
                holidays={holidays}
                today={person.today}
                now={now}
                onChoose={choose}
              />
            </View>
            <Offers series={series} panel={panel} onOpen={setPanel} />
          </View>
        ) : null}
        {preview ? <Moments preview={preview} settings={settings} isUsual={usual.isUsual} /> : null}
        {sound && panel ? (
          <WrongFields value={wrongs}>
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
          </WrongFields>
        ) : null}
        {wide ? null : next}
        {shown ? (
          <TryItOut
            series={shown}
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

/** Pauses are set on the page of the to-do, and stay as they are when it is changed. */
function withoutPauses({ pauses: _pauses, ...rest }: Definition): Definition {
  return rest;
}

/** Nothing is asked of what was kept once. */
const NO_DOUBTS: readonly Doubt[] = [];

function Head({ isNew }: { isNew: boolean }) {
  return (
    <View
      style={{
        flexDirection: 'row',
        flexWrap: 'wrap',
        alignItems: 'center',
        columnGap: 18,
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
        {isNew ? 'What comes back?' : 'Change it'}
      </Heading>
    </View>
  );
}

interface FootProps {
  at: Ref<View>;
  isNew: boolean;
  onKeep: () => void;
}

/** What keeps it stays in reach, however long what stands above has grown. */
function Foot({ at, isNew, onKeep }: FootProps) {
  return (
    <View ref={at} style={APART}>
      <Words size={14.5} tint="soft" style={{ flexShrink: 1 }}>
        {isNew ? 'Nothing is kept before that.' : 'From now on; what was done stays as it was.'}
      </Words>
      <Action label="Keep it" filled onPress={onKeep} />
    </View>
  );
}

import {
  formatDay,
  clockOf,
  read,
  typed,
  type LocalDate,
  type Reading,
  type Series,
  type Settings,
} from '@back-again/core';
import { router, useLocalSearchParams } from 'expo-router';
import { useEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import { errorOf, useActMutation, useNowQuery, useSessionQuery } from '../../data/api.ts';
import { useDraft } from '../../data/draft.ts';
import { newId } from '../../data/ids.ts';
import { Action } from '../../ui/Action.tsx';
import { Examples } from '../../ui/Examples.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useWide } from '../../ui/look.ts';
import { Controls } from './Controls.tsx';
import { NextTimes } from './NextTimes.tsx';
import { PartLink, Sentence, type PanelName } from './Sentence.tsx';
import { isOfWorkdays, type Person } from './edit.ts';
import { previewOf } from './preview.ts';

/** What comes back? A plain field, the sentence as understood, and the next dates. */
export function EditorScreen() {
  const { text: given } = useLocalSearchParams<{ text?: string }>();
  const { data: session } = useSessionQuery();
  const now = useNow();
  if (!session || now === null) return null;
  return (
    <Editor
      key={given ?? ''}
      given={given}
      settings={session.settings}
      holidays={session.holidays}
      now={now}
    />
  );
}

/** The server’s time when the screen was opened: the device’s clock may be wrong. */
function useNow(): number | null {
  const { data, isError } = useNowQuery(undefined, { refetchOnMountOrArgChange: true });
  if (data) return Date.parse(data.now);
  return isError ? Date.now() : null;
}

interface EditorProps {
  given: string | undefined;
  settings: Settings;
  holidays: readonly LocalDate[];
  now: number;
}

function Editor({ given, settings, holidays, now }: EditorProps) {
  const [text, write] = useDraft(given);
  const [panel, setPanel] = useState<PanelName | null>(null);
  const wide = useWide();
  const person: Person = useMemo(
    () => ({ today: formatDay(clockOf(settings).dayAt(now)), weekStart: settings.weekStart }),
    [settings, now],
  );
  const reading = useMemo(() => read(text, person.today, person), [text, person]);
  const { series, problems } = reading;
  const sound = problems.length === 0 && series.title !== '';
  const preview = useMemo(
    () => (sound ? previewOf(series, settings, now, holidays) : null),
    [sound, series, settings, now, holidays],
  );
  const { keep, busy, failed } = useKeep(text, reading, () => write(''));

  useEffect(() => {
    document.title = 'What comes back? · Back Again';
  }, []);

  const change = (next: Series) => write(typed(next, person.today, settings));
  const next = preview ? (
    <NextTimes preview={preview} series={series} weekStart={settings.weekStart} />
  ) : null;
  return (
    <Screen width={620} {...(wide ? { detail: next ?? <View /> } : {})}>
      <Head busy={busy} onKeep={() => void keep()} />
      <View style={{ paddingHorizontal: 20, gap: 12 }}>
        <Field
          label="What comes back, and how?"
          labelHidden
          placeholder="What comes back, and how?"
          value={text}
          onChangeText={write}
          multiline
          size={18.5}
          autoFocus
          error={failed ?? undefined}
          hint={text ? undefined : 'Say it in your own words.'}
        />
        {text.trim() ? null : <Examples words="Such as one of these:" onPick={write} />}
        <Doubts reading={reading} typedSome={text.trim() !== ''} />
        {sound ? (
          <View>
            <Sentence
              series={series}
              person={person}
              open={panel}
              onOpen={(name) => setPanel(panel === name ? null : name)}
            />
            <Offers series={series} panel={panel} onOpen={setPanel} />
          </View>
        ) : null}
        {sound && panel ? (
          <Controls
            key={panel}
            panel={panel}
            series={series}
            person={person}
            onChange={change}
            onClose={() => setPanel(null)}
          />
        ) : null}
        {wide ? null : next}
      </View>
    </Screen>
  );
}

/** Keeps the to-do. Sent again after a failure it is the same to-do, so that there is only one. */
function useKeep(text: string, reading: Reading, clear: () => void) {
  const [act, { isLoading }] = useActMutation();
  const [failed, setFailed] = useState<{ text: string; words: string } | null>(null);
  const ids = useRef({ todo: newId(), action: newId(), text });
  const announce = useAnnounce();

  async function keep() {
    const { series, problems } = reading;
    const problem =
      problems[0]?.message ?? (series.title ? null : 'Say in a few words what it is.');
    if (problem) {
      setFailed({ text, words: problem });
      announce(problem);
      return;
    }
    if (ids.current.text !== text) ids.current = { ...ids.current, action: newId(), text };
    const { todo, action } = ids.current;
    try {
      await act({ do: 'create', id: action, todo, series }).unwrap();
      clear();
      router.replace({ pathname: '/', params: { kept: todo } });
    } catch (error) {
      const { code, message } = errorOf(error);
      if (code === 'todo.taken') {
        clear();
        router.replace(`/todo/${todo}`);
        return;
      }
      setFailed({ text, words: message });
      announce(message);
    }
  }
  return { keep, busy: isLoading, failed: failed?.text === text ? failed.words : null };
}

function Head({ busy, onKeep }: { busy: boolean; onKeep: () => void }) {
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
        name="Close; what you typed is kept"
        onPress={() => (router.canGoBack() ? router.back() : router.replace('/'))}
      />
      <Heading level={1} size={20}>
        What comes back?
      </Heading>
      <Action label="Keep it" filled busy={busy} onPress={onKeep} />
    </View>
  );
}

/** What is wrong with the sentence, and what in it was not understood. */
function Doubts({ reading, typedSome }: { reading: Reading; typedSome: boolean }) {
  const { problems, notUnderstood, series } = reading;
  if (!typedSome) return null;
  return (
    <>
      {problems.map(({ code, message }) => (
        <Note key={code + message} words={message} />
      ))}
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

interface OffersProps {
  series: Series;
  panel: PanelName | null;
  onOpen: (panel: PanelName | null) => void;
}

/** What is not set yet, in words. */
function Offers({ series, panel, onOpen }: OffersProps) {
  const hourly = series.repeat?.by === 'completion' && series.repeat.every.includes('T');
  const offers: { panel: PanelName; label: string }[] = [
    ...(series.start === null ? [{ panel: 'repeat' as const, label: 'how it comes back' }] : []),
    ...(series.at || hourly ? [] : [{ panel: 'at' as const, label: 'a time of day' }]),
    ...(series.repeat && !series.ends ? [{ panel: 'ends' as const, label: 'an end' }] : []),
    ...(series.repeat && !series.closedDays && !hourly && !isOfWorkdays(series)
      ? [{ panel: 'closed' as const, label: 'what to do on closed days' }]
      : []),
  ];
  if (!offers.length) return null;
  return (
    <Words size={16} tint="soft" style={{ lineHeight: 48 }}>
      {'Add '}
      {offers.map(({ panel: name, label }, i) => (
        <Words key={name} size={16} tint="soft" style={{ lineHeight: 48 }}>
          {i ? ', ' : ''}
          <PartLink
            text={label}
            name={`Add ${label}`}
            expanded={panel === name}
            onPress={() => onOpen(panel === name ? null : name)}
          />
        </Words>
      ))}
    </Words>
  );
}

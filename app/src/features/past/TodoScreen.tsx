import type { PastRow, PastTodoView } from '@back-again/contract/past';
import { momentText, parseInstant } from '@back-again/core';
import { intervalOf } from '@back-again/core/past';
import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useAct, useLast } from '../../data/act.ts';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { Part } from '../../ui/Part.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useWide } from '../../ui/look.ts';
import { Answers } from './Answers.tsx';
import { Asked } from './Asked.tsx';
import { Instead } from './Instead.tsx';
import { MonthBars } from './MonthBars.tsx';
import { PastLine } from './PastLine.tsx';
import { Trail } from './Trail.tsx';
import { rowsCsv, saveCsv } from './csv.ts';
import { useLazyPastTodoQuery, usePastTodoQuery, useRemoveForGoodMutation } from './pastApi.ts';
import { dayAfter, insightText, rowText } from './words.ts';

const SPANS = [
  { value: 'year', label: 'the last year', days: 365 },
  { value: 'quarter', label: 'three months', days: 91 },
  { value: 'all', label: 'all of it', days: null },
] as const;
type SpanName = (typeof SPANS)[number]['value'];

/** The record of one to-do: how it came back, what was answered, and each of its times. */
export function TodoScreen() {
  const { id, span } = useLocalSearchParams<{ id: string; span?: string }>();
  const shown = useShown();
  const { today } = shown;
  const of = SPANS.find(({ value }) => value === span) ?? SPANS[0];
  // The record begins a hundred years ago at most.
  const from = of.days === null ? dayAfter(today, 1 - 36_525) : dayAfter(today, 1 - of.days);
  const it = usePastTodoQuery({ id, from, to: today });
  return (
    <Screen>
      <View style={{ paddingTop: 18 }}>
        <Asked it={it}>
          {(view) =>
            view.todo === id ? (
              <Record
                key={id}
                view={view}
                span={of.value}
                onSpan={(next) => router.setParams({ span: next })}
              />
            ) : null
          }
        </Asked>
      </View>
    </Screen>
  );
}

interface RecordProps {
  view: PastTodoView;
  span: SpanName;
  onSpan: (span: SpanName) => void;
}

function Record({ view, span, onSpan }: RecordProps) {
  const shown = useShown();
  const wide = useWide();
  const { does, failure } = useAct(useAnnounce());
  const { last, undo, did } = useLast(does);
  const { title, insight, details, series, place, removed, today, trail } = view;
  const meant = intervalOf(series);
  const isHere = shown.stateOf(view.todo) !== null;
  useEffect(() => {
    document.title = `${title}, past · Back Again`;
  }, [title]);
  return (
    <View style={wide ? BESIDE : { gap: 22, paddingBottom: 28 }}>
      <View style={{ gap: 22, ...(wide ? { flex: 1, minWidth: 0, maxWidth: 640 } : {}) }}>
        <View style={{ paddingHorizontal: 20, gap: 4 }}>
          <View
            style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 18 }}
          >
            <Words size={14.5} tint="soft">
              {place ? `Past · ${place}` : 'Past'}
            </Words>
            {isHere ? (
              <WordLink
                label="Open it"
                name={`Open ${title}`}
                size={14.5}
                onPress={() => router.push(`/todo/${view.todo}` as Href)}
              />
            ) : null}
          </View>
          <Heading level={1} size={wide ? 32 : 28}>
            {title}
          </Heading>
          {removed ? <Removed view={view} onUndo={did} /> : null}
          {failure ? <Note words={failure} /> : null}
          {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
          <Words size={17} live>
            {insightText(insight, meant)}
          </Words>
          {view.isCut ? (
            <Words size={15} tint="soft">
              Of its last 20,000 times.
            </Words>
          ) : null}
          {isHere ? <Instead view={view} shown={shown} did={did} /> : null}
          <View
            style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 12 }}
          >
            <Words size={15} tint="soft">
              In
            </Words>
            <Choice label="In which span" options={SPANS} value={span} onChange={onSpan} />
            <WordLink
              label="By year"
              name={`${title}, by year`}
              onPress={() => router.push(`/past/year?todo=${view.todo}` as Href)}
            />
            <WordLink
              label="Totals"
              name={`Totals of ${title}`}
              onPress={() => router.push(`/past/totals?by=month&todo=${view.todo}` as Href)}
            />
          </View>
        </View>
        {trail.length ? (
          <View style={{ paddingHorizontal: 20 }}>
            <Part title="How it came back" aside={rowText(insight.inARow)}>
              {trail.length < 2 ? (
                <Words size={15} tint="soft">
                  Too little to draw yet: it came once.
                </Words>
              ) : (
                <Trail
                  name={title}
                  trail={trail}
                  today={today}
                  isAfter={series.repeat?.by === 'completion'}
                />
              )}
            </Part>
          </View>
        ) : null}
        {details.questions.map((question) => (
          <View key={question.id} style={{ paddingHorizontal: 20 }}>
            <Answers
              question={question}
              figures={insight.answers[question.id]}
              said={view.answers[question.id] ?? []}
              today={today}
            />
          </View>
        ))}
        <MonthBars months={insight.months} name={title} />
      </View>
      <View style={wide ? { flex: 1, minWidth: 0, maxWidth: 560 } : {}}>
        <Times view={view} isHere={isHere} does={does} did={did} />
      </View>
    </View>
  );
}

/** On a wide screen its times stand beside what they say. */
const BESIDE = { flexDirection: 'row', alignItems: 'flex-start', paddingBottom: 28 } as const;

/** It was taken away: its record stays until it is removed for good. */
function Removed({
  view,
  onUndo,
}: {
  view: PastTodoView;
  onUndo: ReturnType<typeof useLast>['did'];
}) {
  const [isSure, setSure] = useState(false);
  const [forget, { error }] = useRemoveForGoodMutation();
  const shown = useShown();
  const { removed, title, todo, today } = view;
  if (!removed) return null;
  const on = momentText(
    shown.planner.clock.momentAt(parseInstant(removed.at)).slice(0, 10),
    today,
    true,
  );
  const { action } = removed;
  return (
    <View style={{ gap: 8, paddingVertical: 6 }}>
      <Words size={15.5} weight={600}>
        {`It was taken away (${on}). Its record stays until it is removed for good.`}
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {action ? (
          <Action
            label="Bring it back"
            name={`Bring back ${title}`}
            onPress={() => void onUndo({ do: 'undo', of: action }, `${title} is back.`)}
          />
        ) : null}
        <Action
          label={isSure ? 'Yes, with its record' : 'Remove it for good'}
          name={isSure ? `Yes, remove ${title} with its record` : `Remove ${title} for good`}
          onPress={() =>
            isSure
              ? void forget(todo)
                  .unwrap()
                  .then(() => router.replace('/past' as Href))
                  .catch(() => undefined)
              : setSure(true)
          }
        />
        {isSure ? <Action label="Leave it" onPress={() => setSure(false)} /> : null}
      </View>
      {isSure ? (
        <Words size={15} tint="soft" live>
          Nothing brings it back then.
        </Words>
      ) : null}
      {error ? <Note words="It could not be removed just now. Try again in a moment." /> : null}
    </View>
  );
}

interface TimesProps {
  view: PastTodoView;
  isHere: boolean;
  does: ReturnType<typeof useAct>['does'];
  did: ReturnType<typeof useLast>['did'];
}

/** Each of its times, the newest first; with questions that come every day it reads as a journal. */
function Times({ view, isHere, does, did }: TimesProps) {
  const { person } = useShown();
  const [older, setOlder] = useState<PastRow[]>([]);
  const [isMore, setMore] = useState(view.more);
  const [ask] = useLazyPastTodoQuery();
  const { todo, today, times, details, series, title } = view;
  const known = new Set(times.map(({ number }) => number));
  const rows = [...times, ...older.filter(({ number }) => !known.has(number))];
  const isJournal = details.questions.length > 0 && intervalOf(series)?.days === 1;
  const showOlder = () =>
    void ask({ id: todo, skip: rows.length })
      .unwrap()
      .then(({ times: page, more }) => {
        setOlder((before) => [...before, ...page]);
        setMore(more);
      })
      // Without a connection it can be asked for again.
      .catch(() => undefined);
  return (
    <View role="region" aria-label={isJournal ? 'Journal' : 'Its times'}>
      <View
        style={{
          flexDirection: 'row',
          justifyContent: 'space-between',
          alignItems: 'center',
          paddingHorizontal: 20,
        }}
      >
        <Heading level={2} size={16}>
          {isJournal ? 'Journal' : 'Its times'}
        </Heading>
        {rows.length ? (
          <WordLink
            label="As CSV"
            name={`The times of ${title} as CSV`}
            onPress={() => saveCsv(`${title}.csv`, rowsCsv(rows, details.questions))}
          />
        ) : null}
      </View>
      {rows.length ? null : (
        <Words size={15} tint="soft" style={{ paddingHorizontal: 20 }}>
          None has ended yet.
        </Words>
      )}
      {rows.map((row) => (
        <PastLine
          key={row.number}
          row={row}
          today={today}
          settings={person.settings}
          byDay
          isHere={isHere}
          does={does}
          did={did}
        />
      ))}
      {isMore ? (
        <View style={{ alignItems: 'flex-start', paddingHorizontal: 20 }}>
          <WordLink label="Show older ones" onPress={showOlder} />
        </View>
      ) : null}
    </View>
  );
}

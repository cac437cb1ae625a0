import type { LookBackView } from '@back-again/contract/past';
import {
  clockOf,
  daysLate,
  forecast,
  parseDay,
  parseInstant,
  shortDate,
  standsAt,
  type LocalDate,
  type LocalMoment,
} from '@back-again/core';
import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useMemo, type ReactNode } from 'react';
import { View } from 'react-native';
import { useAct, useLast } from '../../data/act.ts';
import { useShown, type Shown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { Part } from '../../ui/Part.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { days, minutesText, momentText } from '../../ui/dates.ts';
import { useLook, useWide } from '../../ui/look.ts';
import { Questions } from '../../ui/time/Questions.tsx';
import { Asked } from './Asked.tsx';
import { PastLine, linesOf } from './PastLine.tsx';
import { useLookBackQuery } from './pastApi.ts';
import { dayText, summaryText } from './words.ts';

/** A look-back: its page fills itself with what happened since the one before, beside its own questions. */
export function LookBackScreen() {
  const { id, number } = useLocalSearchParams<{ id: string; number?: string }>();
  const shown = useShown();
  const it = useLookBackQuery({ id, number });
  const goTo = (n: number | null) =>
    router.push((n === null ? `/past/look/${id}` : `/past/look/${id}?number=${n}`) as Href);
  return (
    <Screen>
      <View style={{ paddingTop: 18, paddingBottom: 28, maxWidth: 760 }}>
        <Asked it={it}>
          {(view) =>
            view.todo === id ? (
              <Page view={view} isNow={number === undefined} shown={shown} onGo={goTo} />
            ) : null
          }
        </Asked>
      </View>
    </Screen>
  );
}

interface PageProps {
  view: LookBackView;
  isNow: boolean;
  shown: Shown;
  onGo: (number: number | null) => void;
}

function Page({ view, isNow, shown, onGo }: PageProps) {
  const wide = useWide();
  const { does, failure } = useAct(useAnnounce());
  const { last, undo, did } = useLast(does);
  const { settings } = shown.person;
  const { today, title, time, before, after, counts, minutes, estimated } = view;
  useEffect(() => {
    document.title = `${title} · Back Again`;
  }, [title]);
  const clock = clockOf(settings);
  const on = (at: string) => clock.momentAt(parseInstant(at)).slice(0, 10);
  const from = on(view.since);
  const to = on(view.until);
  return (
    <View style={{ gap: 20 }}>
      <View style={{ paddingHorizontal: 20 }}>
        <Words size={14.5} tint="soft">
          {`Past · ${title}`}
        </Words>
        <Heading level={1} size={wide ? 30 : 26}>
          {isNow
            ? `Since ${dayText(from, today)}`
            : `${dayText(from, today)} to ${dayText(to, today)}`}
        </Heading>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
          {before === null ? null : (
            <WordLink label="The one before" onPress={() => onGo(before)} />
          )}
          {isNow ? null : (
            <WordLink
              label={after === null ? 'The one now' : 'The one after'}
              onPress={() => onGo(after)}
            />
          )}
          <WordLink
            label="All its times"
            onPress={() => router.push(`/past/todo/${view.todo}` as Href)}
          />
        </View>
        {failure ? <Note words={failure} /> : null}
        {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
        <Words size={17} live>
          {summaryText({ ...counts, minutes, estimated })}
        </Words>
      </View>
      <Done view={view} />
      <Missed view={view} line={linesOf(shown, { does, did })} />
      <Moved view={view} />
      {isNow ? <LateNow shown={shown} self={view.todo} /> : <LateThen view={view} />}
      {isNow ? <Coming shown={shown} self={view.todo} /> : null}
      <View style={{ paddingHorizontal: 20 }}>
        {isNow ? (
          <OwnNow view={view} shown={shown} does={does} did={did} />
        ) : time ? (
          <Part title="What you wrote" name="What you wrote then">
            <View style={{ marginHorizontal: -20 }}>
              <PastLine
                row={time}
                today={today}
                settings={settings}
                byDay
                isHere={shown.stateOf(view.todo) !== null}
                does={does}
                did={did}
              />
            </View>
          </Part>
        ) : null}
      </View>
    </View>
  );
}

/** A line of a look-back: a to-do by its name, which leads to it, and a few words. */
function Line({
  to,
  title,
  words,
  name,
}: {
  to: string;
  title: string;
  words: string;
  name: string;
}) {
  const look = useLook();
  return (
    <View
      style={{
        flexDirection: 'row',
        justifyContent: 'space-between',
        alignItems: 'center',
        flexWrap: 'wrap',
        columnGap: 14,
        minHeight: 48,
        borderTopWidth: 1,
        borderTopColor: look.line,
      }}
    >
      <WordLink label={title} name={name} onPress={() => router.push(to as Href)} />
      <Words size={15} tint="soft">
        {words}
      </Words>
    </View>
  );
}

const Section = ({
  title,
  aside,
  children,
}: {
  title: string;
  aside?: string;
  children: ReactNode;
}) => (
  <View style={{ paddingHorizontal: 20 }}>
    <Part title={title} aside={aside}>
      {children}
    </Part>
  </View>
);
const Nothing = ({ words }: { words: string }) => (
  <Words size={15} tint="soft">
    {words}
  </Words>
);

function Done({ view: { done } }: { view: LookBackView }) {
  return (
    <Section title="What was done">
      {done.length ? null : <Nothing words="Nothing else was done in this span." />}
      {done.map(({ todo, title, times, minutes, place }) => (
        <Line
          key={todo}
          to={`/past/todo/${todo}`}
          title={title}
          name={`The record of ${title}`}
          words={[
            times === 1 ? 'once' : times === 2 ? 'twice' : `${times} times`,
            ...(minutes ? [minutesText(minutes)] : []),
            ...(place ? [place] : []),
          ].join(' · ')}
        />
      ))}
    </Section>
  );
}

function Missed({
  view: { missed },
  line,
}: {
  view: LookBackView;
  line: (row: LookBackView['missed'][number]) => ReactNode;
}) {
  if (!missed.length) return null;
  return (
    <View role="region" aria-label="What was missed">
      <Heading level={2} size={16} style={{ paddingHorizontal: 20, paddingBottom: 4 }}>
        What was missed
      </Heading>
      {missed.map(line)}
    </View>
  );
}

function Moved({ view: { moved, today } }: { view: LookBackView }) {
  if (!moved.length) return null;
  return (
    <Section title="Moved three times and more" aside="is it still what you want?">
      {moved.map(({ todo, title, slot, moves, due }) => (
        <Line
          key={`${todo} ${slot}`}
          to={`/todo/${todo}`}
          title={title}
          name={`Open ${title}`}
          words={`moved ${moves} times${due ? `, due ${momentText(due, today, true)}` : ''}`}
        />
      ))}
    </Section>
  );
}

/** What was late as an earlier one ended. */
function LateThen({ view: { late } }: { view: LookBackView }) {
  if (!late.length) return null;
  return (
    <Section title="Late then">
      {late.map(({ todo, title, slot, days: n }) => (
        <Line
          key={`${todo} ${slot}`}
          to={`/past/todo/${todo}`}
          title={title}
          name={`The record of ${title}`}
          words={`${days(n)} late`}
        />
      ))}
    </Section>
  );
}

function LateNow({ shown, self }: { shown: Shown; self: string }) {
  const { today, person } = shown;
  const late = shown
    .all()
    .filter(({ id, over, progress }) => id !== self && !over && progress.open.length)
    .map((state) => shown.view(state))
    .flatMap((todo) => {
      const time = todo.open[0];
      const n = time && todo.wrong === null ? daysLate(time, today, person.settings) : 0;
      return n > 0 ? [{ todo, n }] : [];
    })
    .sort((a, b) => b.n - a.n);
  return (
    <Section title="Late now">
      {late.length ? null : <Nothing words="Nothing is late." />}
      {late.map(({ todo, n }) => (
        <Line
          key={todo.id}
          to={`/todo/${todo.id}`}
          title={todo.series.title}
          name={`Open ${todo.series.title}`}
          words={`${days(n)} late`}
        />
      ))}
    </Section>
  );
}

const MOST_COMING = 30;

/** What comes in the span to its next time, by days. */
function Coming({ shown, self }: { shown: Shown; self: string }) {
  const { today, planner, now } = shown;
  const until = useMemo(() => untilNext(shown, self), [shown, self]);
  const coming = useMemo(() => {
    const last = parseDay(until);
    return shown
      .all()
      .filter(
        ({ id, over, nextDue }) =>
          id !== self && !over && nextDue !== null && nextDue.slice(0, 10) <= until,
      )
      .flatMap((state): { todo: string; title: string; due: LocalMoment }[] => {
        try {
          const { progress } = standsAt(planner, state, now);
          return forecast(planner, progress, now, last, MOST_COMING).map(({ due }) => ({
            todo: state.id,
            title: state.details.title,
            due,
          }));
        } catch {
          // One that cannot be worked out says so where it is shown.
          return [];
        }
      })
      .sort((a, b) => (a.due < b.due ? -1 : 1));
  }, [shown, self, until, planner, now]);
  const byTodo = new Map<string, { title: string; dues: LocalMoment[] }>();
  for (const { todo, title, due } of coming) {
    const known = byTodo.get(todo) ?? { title, dues: [] };
    known.dues.push(due);
    byTodo.set(todo, known);
  }
  return (
    <Section title="What comes" aside={`up to ${shortDate(until, today)}`}>
      {byTodo.size ? null : <Nothing words="Nothing comes until then." />}
      {[...byTodo].map(([todo, { title, dues }]) => (
        <Line
          key={todo}
          to={`/todo/${todo}`}
          title={title}
          name={`Open ${title}`}
          words={
            dues.length > 3
              ? `${dues.length} times`
              : dues.map((due) => shortDate(due.slice(0, 10), today)).join(', ')
          }
        />
      ))}
    </Section>
  );
}

/** The day of the next time of a look-back; a week on, where none is known. */
function untilNext(shown: Shown, self: string): LocalDate {
  const { today, planner } = shown;
  const state = shown.stateOf(self);
  const week = parseDay(today) + 7;
  const format = (day: number) => planner.clock.momentAt(planner.clock.startOf(day)).slice(0, 10);
  if (!state) return format(week);
  const dues = forecast(
    planner,
    standsAt(planner, state, shown.now).progress,
    shown.now,
    week + 400,
    1,
  );
  return dues[0] ? dues[0].due.slice(0, 10) : format(week);
}

/** Its own questions, and finishing it. */
function OwnNow({
  view,
  shown,
  does,
  did,
}: {
  view: LookBackView;
  shown: Shown;
  does: ReturnType<typeof useAct>['does'];
  did: ReturnType<typeof useLast>['did'];
}) {
  const todo = shown.viewOf(view.todo);
  const time = todo?.open[0];
  if (!todo) return null;
  if (!time)
    return (
      <Words size={15} tint="soft">
        {todo.next
          ? `It comes next ${momentText(todo.next.due, view.today, true)}; what is above goes on until then.`
          : 'It does not come again; what is above goes on.'}
      </Words>
    );
  const of = { todo: view.todo, slot: time.slot };
  return (
    <Part title="What you write">
      <Questions
        name={view.title}
        todo={todo}
        time={time}
        onAnswer={(written) => void does({ do: 'answer', ...of, ...written }, () => 'Kept')}
      />
      <View style={{ flexDirection: 'row', gap: 8, paddingTop: 6 }}>
        <Action
          filled
          label="Done"
          name={`Done: ${view.title}`}
          onPress={() => void did({ do: 'done', ...of }, `${view.title} is done.`)}
        />
      </View>
    </Part>
  );
}

import type { TodoPage } from '@back-again/contract';
import {
  repeatText,
  type Left,
  type LocalDate,
  type Settings,
  type TimeView,
  type TodoView,
  type WrittenDown,
} from '@back-again/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useAct, type Does } from '../../data/act.ts';
import { useLazyRecordQuery, useRecordQuery } from '../../data/api.ts';
import { useLocal, useShown, type Shown } from '../../data/todos.ts';
import { newId } from '../../data/ids.ts';
import { useLastDeeds } from '../../data/lastDeed.ts';
import { Files } from '../../parts/Files.tsx';
import { RefusedHere } from '../../parts/RefusedHere.tsx';
import { AnyDay } from '../../parts/time/AnyDay.tsx';
import { noonOf } from '../../parts/time/noonOf.ts';
import { useTimeSheet } from '../../parts/time/useTimeSheet.tsx';
import { NextTimes } from '../../parts/time/NextTimes.tsx';
import { TimeNote } from '../../parts/time/TimeNote.tsx';
import { Action } from '../../ui/Action.tsx';
import { useAnnounce } from '../../ui/Frame.tsx';
import { LazyMarkdown } from '../../ui/LazyMarkdown.tsx';
import { Note } from '../../ui/Note.tsx';
import { Part } from '../../ui/Part.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { arcKind, arcOf } from '../../ui/arcs.ts';
import { instantText, minutesText, momentText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';
import { LeftSteps } from '../../ui/time/LeftSteps.tsx';
import { Questions, answerText } from '../../ui/time/Questions.tsx';
import { Steps } from '../../ui/time/Steps.tsx';
import { detailsOf, leftOf } from '../../ui/time/left.ts';
import { standingOf } from '../../ui/standing.ts';
import { Broken } from './Broken.tsx';
import { LastDeeds } from './LastDeeds.tsx';
import { Ways } from './Ways.tsx';
import { pageOf, type Page } from './page.ts';
import { apartText, factsOf, outcomeOf, totalsText } from './outcome.ts';
import { rem } from '../../ui/rem.ts';

/** The story of a to-do: its sentence, this time, the next times, what became of the last ones. */
export function Story({ id }: { id: string | null }) {
  if (id === null)
    return (
      <Words size={15} tint="soft">
        Choose a row to see its story here: its sentence, its next times, what became of the last
        ones.
      </Words>
    );
  return <Loaded key={id} id={id} />;
}

function Loaded({ id }: { id: string }) {
  const [removed, setRemoved] = useState<{ action: string; title: string } | null>(null);
  const { data: first } = useRecordQuery(
    { id, skip: 0 },
    { skip: removed !== null, refetchOnMountOrArgChange: true },
  );
  const [older, setOlder] = useState<TodoPage['record']>([]);
  const [ask] = useLazyRecordQuery();
  const shownSoFar = first ? [...first.record, ...older] : [];
  const kept = first && { ...first, record: shownSoFar };
  const isMore = first !== undefined && first.more && shownSoFar.length < totalOf(first);
  const showOlder = () =>
    void ask({ id, skip: shownSoFar.length })
      .unwrap()
      .then(({ record }) => setOlder((before) => [...before, ...record]))
      // Without a connection it can be asked for again.
      .catch(() => undefined);
  const shown = useShown();
  const { does, failure } = useAct(useAnnounce());
  const sheet = useTimeSheet(shown, does);
  const lastHere = useLastDeeds();
  const state = shown.stateOf(id);
  const page = state ? pageOf(shown, state, kept) : null;
  const title = page?.todo.series.title;
  useEffect(() => {
    if (title) document.title = `${title} · Back Again`;
  }, [title]);

  if (removed)
    return (
      <Note
        words={`${removed.title} is taken away, with its record. It lies in Taken away for 30 days.`}
        action={{
          label: 'Undo',
          name: `Undo: remove ${removed.title}`,
          onPress: () => {
            const words = () => `${removed.title} is back`;
            if (does({ do: 'undo', of: removed.action }, words)) setRemoved(null);
          },
        }}
      />
    );
  if (!page) return <Words>There is no such to-do.</Words>;
  const { settings } = shown.person;

  const remove = () => {
    const did = does({ do: 'remove', todo: id }, () => `${title} is removed`);
    if (did) setRemoved({ action: did.id, title: page.todo.series.title });
  };
  const finish = (time: TimeView, how: Finish) =>
    void does({ ...how, todo: id, slot: time.slot }, ({ todos: [todo] }) =>
      todo ? standingOf(todo, page.today, settings).words : 'Done',
    );
  const doneOn = (time: TimeView, day: LocalDate) =>
    void does(
      { do: 'done', todo: id, slot: time.slot, when: noonOf(day, settings) },
      ({ todos: [todo] }) => (todo ? standingOf(todo, page.today, settings).words : 'Done'),
    );
  const undo = (action: string) => void does({ do: 'undo', of: action }, () => 'As it was before');
  const failed = failure ? <Note words={failure} /> : null;
  if (page.todo.wrong !== null)
    return (
      <View style={{ gap: 22 }}>
        {failed}
        <Broken todo={page.todo} does={does} onRemove={remove} />
      </View>
    );
  return (
    <View style={{ gap: 22 }}>
      {failed}
      <Head page={page} settings={settings} />
      {shown.isUnknown(id) ? (
        <Words tint="soft">It is being done: what follows comes from the server.</Words>
      ) : null}
      {page.todo.open.map((time) => (
        <ThisTime
          key={time.number}
          page={page}
          time={time}
          settings={settings}
          onFinish={(how) => finish(time, how)}
          onDoneOn={(day) => doneOn(time, day)}
          onMove={() => sheet.open(page.todo, time)}
          onNote={(note) =>
            void does({ do: 'note', todo: id, slot: time.slot, note }, () => 'Kept')
          }
          onTick={(step, on) =>
            void does({ do: 'tick', todo: id, slot: time.slot, step, on }, () =>
              on ? 'Done' : 'Not done',
            )
          }
          does={does}
          onAdd={(text) =>
            void does(
              { do: 'addStep', todo: id, slot: time.slot, step: { id: newId(), text } },
              () => 'Added',
            )
          }
        />
      ))}
      {sheet.note}
      {sheet.sheet}
      <TimesToCome page={page} shown={shown} does={does} />
      <NextReminders page={page} settings={settings} />
      <Ways page={page} weekStart={settings.weekStart} does={does} onRemove={remove} />
      <LastDeeds
        title={page.todo.series.title}
        deeds={page.deeds}
        here={lastHere.get(id) ?? null}
        today={page.today}
        settings={settings}
        onUndo={undo}
      />
      <LastTimes
        page={page}
        settings={settings}
        does={does}
        onUndo={undo}
        onDone={doneOn}
        onAnswer={(time, written) =>
          void does({ do: 'answer', todo: id, slot: time.slot, ...written }, () => 'Kept')
        }
        onOlder={isMore ? showOlder : null}
      />
    </View>
  );
}

const totalOf = ({ totals }: TodoPage) => totals.done + totals.skipped + totals.missed;

interface PartProps {
  page: Page;
  settings: Settings;
}

function Head({ page: { todo, today, says }, settings }: PartProps) {
  const { words, late } = standingOf(todo, today, settings);
  return (
    <View style={{ gap: 6 }}>
      <ReturnArc
        kind={arcKind(todo.series)}
        state={todo.ended ? { at: 'done' } : arcOf(todo, late)}
        scale={1.3}
      />
      <Heading level={1} size={26}>
        {todo.series.title}
      </Heading>
      <Words size={15.5} weight={600} tint={late ? 'late' : 'soft'}>
        {words}
      </Words>
      <Words size={16}>{says}</Words>
      {todo.series.note ? <LazyMarkdown text={todo.series.note} /> : null}
    </View>
  );
}

/** How a time is ended, and what becomes of steps that are left. */
type Finish = { do: 'done'; left?: Left } | { do: 'skip' };

interface ThisTimeProps extends PartProps {
  time: TimeView;
  onFinish: (how: Finish) => void;
  /** It was done on an earlier day. */
  onDoneOn: (day: LocalDate) => void;
  onMove: () => void;
  onNote: (note: string) => void;
  onTick: (step: string, on: boolean) => void;
  onAdd: (text: string) => void;
  does: Does;
}

function ThisTime({
  page: { todo, today },
  time,
  settings,
  onFinish,
  onDoneOn,
  onMove,
  onNote,
  onTick,
  onAdd,
  does,
}: ThisTimeProps) {
  const { title } = todo.series;
  const { left, label, spoken } = leftOf({ todo, time });
  const [asks, setAsks] = useState(false);
  return (
    <Part title="This time">
      {factsOf(todo, time, today).map((fact) => (
        <Words key={fact} size={15.5}>
          {fact}
        </Words>
      ))}
      <Steps
        name={title}
        details={detailsOf({ todo })}
        filled={time.filled}
        onTick={onTick}
        onAdd={onAdd}
      />
      {asks && left ? (
        <LeftSteps
          name={title}
          left={left}
          onDone={(what) => onFinish({ do: 'done', left: what })}
          onNotYet={() => setAsks(false)}
        />
      ) : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8, paddingTop: 6 }}>
        <Action
          label={label}
          name={`Done: ${title}${spoken}`}
          filled
          onPress={() => (left ? setAsks(true) : onFinish({ do: 'done' }))}
        />
        <Action label="Move" name={`Move: ${title}`} onPress={onMove} />
        <Action label="Skip" name={`Skip: ${title}`} onPress={() => onFinish({ do: 'skip' })} />
      </View>
      <AnyDay
        label="Done on an earlier day"
        name={title}
        value={null}
        today={today}
        until={today}
        weekStart={settings.weekStart}
        onPick={onDoneOn}
      />
      <RefusedHere todo={todo.id} slot={time.slot} does={does} />
      <TimeNote note={time.note} onKeep={onNote} />
      <Files
        name={title}
        todo={todo.id}
        slot={time.slot}
        files={time.filled?.files ?? []}
        does={does}
      />
    </Part>
  );
}

function TimesToCome({ page, shown, does }: { page: Page; shown: Shown; does: Does }) {
  const { ahead, left, today, todo } = page;
  if (!ahead.length)
    return todo.ended && todo.series.repeat ? (
      <Part title="Next times">
        <Words size={15.5}>It has ended: nothing more will come.</Words>
      </Part>
    ) : null;
  const expected = ahead[0]!.kind === 'expected';
  return (
    <Part
      title="Next times"
      aside={expected ? 'expected: they move with the day you finish' : 'by the calendar'}
    >
      <NextTimes todo={todo} ahead={ahead} shown={shown} does={does} />
      {left === null ? null : (
        <Words size={15.5} tint="soft">
          {left === 1 ? 'That is the last one.' : `${left} are still to come.`}
        </Words>
      )}
      {todo.turns.map(({ from, series }) => (
        <Words key={from} size={15.5} tint="soft">
          {`From ${momentText(from, today)} on: ${repeatText(series)}.`}
        </Words>
      ))}
    </Part>
  );
}

/** When something is said about it. */
function NextReminders({ page: { reminders, today }, settings }: PartProps) {
  if (!reminders.length) return null;
  return (
    <Part title="Reminders">
      <Words size={15.5}>
        {reminders.map(({ at }) => instantText(at, today, settings)).join(' · ')}
      </Words>
    </Part>
  );
}

interface LastTimesProps extends PartProps {
  does: Does;
  onUndo: (action: string) => void;
  onDone: (time: TimeView, day: LocalDate) => void;
  onAnswer: (time: TimeView, written: WrittenDown) => void;
  /** Shows older ones; null where there are none. */
  onOlder: (() => void) | null;
}

function LastTimes({ page, settings, does, onUndo, onDone, onAnswer, onOlder }: LastTimesProps) {
  const look = useLook();
  /** The number of the time that something is written down with. */
  const [writing, setWriting] = useState<number | null>(null);
  /** The number of the one of which it is asked on which day it was done. */
  const [asking, setAsking] = useState<number | null>(null);
  const { record, today, totals, todo } = page;
  if (!record || !totals) return <Unread done={todo.done} />;
  if (!record.length) return null;
  const asked = (todo.series.questions?.length ?? 0) > 0 || todo.series.takes !== undefined;
  const apart = todo.series.repeat ? apartText(record, settings) : null;
  return (
    <Part title="Last times" aside={totalsText(totals)}>
      {apart ? (
        <Words size={15} tint="soft" style={{ paddingBottom: 6 }}>
          {apart}
        </Words>
      ) : null}
      {record.map((time) => {
        const { words, tint } = outcomeOf(time, settings);
        const date = time.due === null ? 'No date' : momentText(time.due, today);
        return (
          <View
            key={time.number}
            style={{
              flexDirection: 'row',
              flexWrap: 'wrap',
              alignItems: 'center',
              gap: 12,
              minHeight: 48,
              borderTopWidth: 1,
              borderTopColor: look.line,
            }}
          >
            <Words size={15.5} style={{ width: rem(132) }}>
              {date}
            </Words>
            <View style={{ flex: 1, minWidth: rem(132) }}>
              <Words size={15} tint={tint} weight={600}>
                {words}
              </Words>
              {time.note ? (
                <Words size={14.5} tint="soft">
                  {time.note}
                </Words>
              ) : null}
              {time.via ? (
                <Words size={14.5} tint="soft">
                  {time.via === 'way' ? 'by its own address' : 'by a key'}
                </Words>
              ) : null}
              {writtenText(time, todo).map((line) => (
                <Words key={line} size={14.5} tint="soft">
                  {line}
                </Words>
              ))}
              {asking === time.number ? (
                <AnyDay
                  isOpen
                  label="On which day?"
                  name={`The day on which it was done: ${todo.series.title}, ${date}`}
                  value={time.due?.slice(0, 10) ?? null}
                  today={today}
                  until={today}
                  weekStart={settings.weekStart}
                  onPick={(day) => {
                    setAsking(null);
                    onDone(time, day);
                  }}
                />
              ) : null}
              <RefusedHere todo={todo.id} slot={time.slot} does={does} />
              {time.filled?.files ? (
                <Files
                  name={`${todo.series.title}, ${date}`}
                  todo={todo.id}
                  slot={time.slot}
                  files={time.filled.files}
                  does={does}
                />
              ) : null}
              {time.status === 'done' && asked ? (
                <View style={{ alignItems: 'flex-start' }}>
                  <WordLink
                    label={writing === time.number ? 'That is all' : 'Write down'}
                    name={`Write down: ${todo.series.title}, ${date}`}
                    expanded={writing === time.number}
                    onPress={() => setWriting(writing === time.number ? null : time.number)}
                  />
                </View>
              ) : null}
              {writing === time.number ? (
                <Questions
                  name={`${todo.series.title}, ${date}`}
                  todo={todo}
                  time={time}
                  onAnswer={(written) => onAnswer(time, written)}
                />
              ) : null}
            </View>
            {time.status === 'missed' ? (
              <WordLink
                label="I did it"
                name={`I did it: ${todo.series.title}, ${date}`}
                expanded={asking === time.number}
                onPress={() => setAsking(asking === time.number ? null : time.number)}
              />
            ) : time.action ? (
              <WordLink
                label="Undo"
                name={`Undo: ${todo.series.title}, ${date}`}
                onPress={() => onUndo(time.action!)}
              />
            ) : null}
          </View>
        );
      })}
      {onOlder ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink label="Show older ones" onPress={onOlder} />
        </View>
      ) : null}
    </Part>
  );
}

/** What was written down with a time, in words: by the questions and steps that it had when it ended. */
function writtenText(time: TodoPage['record'][number], { series }: TodoView): string[] {
  const { filled } = time;
  if (!filled) return [];
  const { steps, questions } = time.had ?? {
    steps: series.steps ?? [],
    questions: series.questions ?? [],
  };
  const { ticks = [], added = [], answers = {}, spent } = filled;
  const all = steps.length + added.length;
  const said = questions.flatMap((question) => {
    const answer = answers[question.id];
    return answer === undefined ? [] : [`${question.asks}: ${answerText(question, answer)}`];
  });
  return [
    ...(said.length ? [said.join(' · ')] : []),
    ...(all && ticks.length ? [`${ticks.length} of ${all} steps`] : []),
    ...(spent === undefined ? [] : [`took ${minutesText(spent)}`]),
  ];
}

/** The record is not here yet, or cannot be without a connection. */
function Unread({ done }: { done: number }) {
  const { isConnected } = useLocal();
  if (isConnected || !done) return null;
  return (
    <Part title="Last times">
      <Words size={15} tint="soft">
        What became of the last ones shows once there is a connection.
      </Words>
    </Part>
  );
}

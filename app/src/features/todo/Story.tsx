import type { TimeView, TodoPage } from '@back-again/contract';
import { repeatText, type Settings } from '@back-again/core';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { errorOf, useSessionQuery, useTodoQuery } from '../../data/api.ts';
import { newId } from '../../data/ids.ts';
import { useSend } from '../../data/useSend.ts';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { Part } from '../../ui/Part.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { arcKind, arcOf } from '../../ui/arcs.ts';
import { instantText, momentText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';
import { standingOf } from '../../ui/standing.ts';
import { Broken } from './Broken.tsx';
import { Ways } from './Ways.tsx';
import { apartText, factsOf, outcomeOf, totalsText } from './outcome.ts';

/** What is written down with this time. */
function TimeNote({ note, onKeep }: { note: string | null; onKeep: (note: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  if (text === null)
    return (
      <View style={{ alignItems: 'flex-start' }}>
        {note ? <Words size={15.5}>{note}</Words> : null}
        <WordLink
          label={note ? 'Change the note' : 'Write a note'}
          onPress={() => setText(note ?? '')}
        />
      </View>
    );
  return (
    <View style={{ gap: 8 }}>
      <Field label="Note for this time" value={text} onChangeText={setText} multiline autoFocus />
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Action
          label="Keep the note"
          onPress={() => {
            onKeep(text);
            setText(null);
          }}
        />
        <Action label="Leave it" onPress={() => setText(null)} />
      </View>
    </View>
  );
}

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
  const { data: page, error, refetch } = useTodoQuery(id, { skip: removed !== null });
  const { data: session } = useSessionQuery();
  const { send, busy, failure } = useSend(useAnnounce());
  const title = page?.todo.series.title;
  useEffect(() => {
    if (title) document.title = `${title} · Back Again`;
  }, [title]);

  if (removed)
    return (
      <Note
        words={`${removed.title} is removed, with its record.`}
        action={{
          label: 'Undo',
          name: `Undo: remove ${removed.title}`,
          onPress: () =>
            void send(
              { do: 'undo', id: newId(), of: removed.action },
              () => `${removed.title} is back`,
            ).then((answer) => answer && setRemoved(null)),
        }}
      />
    );
  if (error && errorOf(error).code === 'todo.none') return <Words>There is no such to-do.</Words>;
  if (!page || !session)
    return error ? (
      <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
    ) : null;

  const remove = async () => {
    const action = newId();
    const sent = await send({ do: 'remove', id: action, todo: id }, () => `${title} is removed`);
    if (sent) setRemoved({ action, title: page.todo.series.title });
  };
  const finish = (time: TimeView, how: 'done' | 'skip') =>
    void send({ do: how, id: newId(), todo: id, slot: time.slot }, ({ todos: [todo] }) =>
      todo ? standingOf(todo, page.today, session.settings).words : 'Done',
    );
  const undo = (action: string) =>
    void send({ do: 'undo', id: newId(), of: action }, () => 'As it was before');
  const failed = failure ? (
    <Note words={failure.words} action={{ label: 'Try again', onPress: failure.retry }} />
  ) : null;
  if (page.todo.wrong !== null)
    return (
      <View style={{ gap: 22 }}>
        {failed}
        <Broken todo={page.todo} send={send} onRemove={() => void remove()} />
      </View>
    );
  return (
    <View style={{ gap: 22 }}>
      {failed}
      <Head page={page} settings={session.settings} />
      {page.todo.open.map((time) => (
        <ThisTime
          key={time.number}
          page={page}
          time={time}
          settings={session.settings}
          busy={busy}
          onFinish={(how) => finish(time, how)}
          onNote={(note) =>
            void send({ do: 'note', id: newId(), todo: id, slot: time.slot, note }, () => 'Kept')
          }
        />
      ))}
      <NextTimes page={page} />
      <NextReminders page={page} settings={session.settings} />
      <Ways page={page} send={send} onRemove={() => void remove()} />
      <LastTimes
        page={page}
        settings={session.settings}
        onUndo={undo}
        onDone={(time) => finish(time, 'done')}
      />
    </View>
  );
}

interface PartProps {
  page: TodoPage;
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
    </View>
  );
}

interface ThisTimeProps extends PartProps {
  time: TimeView;
  busy: boolean;
  onFinish: (how: 'done' | 'skip') => void;
  onNote: (note: string) => void;
}

function ThisTime({ page: { todo, today }, time, busy, onFinish, onNote }: ThisTimeProps) {
  const { title } = todo.series;
  return (
    <Part title="This time">
      {factsOf(todo, time, today).map((fact) => (
        <Words key={fact} size={15.5}>
          {fact}
        </Words>
      ))}
      <View style={{ flexDirection: 'row', gap: 8, paddingTop: 6 }}>
        <Action
          label="Done"
          name={`Done: ${title}`}
          filled
          busy={busy}
          onPress={() => onFinish('done')}
        />
        <Action label="Skip" name={`Skip: ${title}`} busy={busy} onPress={() => onFinish('skip')} />
      </View>
      <TimeNote note={time.note} onKeep={onNote} />
    </Part>
  );
}

function NextTimes({ page: { ahead, left, today, todo } }: { page: TodoPage }) {
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
      aside={expected ? 'expected: they move with the day you finish' : 'fixed by the calendar'}
    >
      <Words size={15.5}>{ahead.map(({ due }) => momentText(due, today)).join(' · ')}</Words>
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
  onUndo: (action: string) => void;
  onDone: (time: TimeView) => void;
}

function LastTimes({ page, settings, onUndo, onDone }: LastTimesProps) {
  const look = useLook();
  const { record, today, totals, todo } = page;
  if (!record.length) return null;
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
              alignItems: 'center',
              gap: 12,
              minHeight: 48,
              borderTopWidth: 1,
              borderTopColor: look.line,
            }}
          >
            <Words size={15.5} style={{ width: 132 }}>
              {date}
            </Words>
            <View style={{ flex: 1 }}>
              <Words size={15} tint={tint} weight={600}>
                {words}
              </Words>
              {time.note ? (
                <Words size={14.5} tint="soft">
                  {time.note}
                </Words>
              ) : null}
            </View>
            {time.status === 'missed' ? (
              <WordLink
                label="I did it"
                name={`I did it: ${todo.series.title}, ${date}`}
                onPress={() => onDone(time)}
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
    </Part>
  );
}

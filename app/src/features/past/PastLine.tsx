import type { PastRow } from '@back-again/contract/past';
import {
  clockOf,
  formatInstant,
  parseInstant,
  type LocalDate,
  type Settings,
  type TodoView,
} from '@back-again/core';
import { router, type Href } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import type { Does, useLast } from '../../data/act.ts';
import type { Shown } from '../../data/todos.ts';
import { TimeNote } from '../../parts/time/TimeNote.tsx';
import { Action } from '../../ui/Action.tsx';
import { ReturnArc, type ArcState } from '../../ui/ReturnArc.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { minutesText } from '../../ui/dates.ts';
import { Questions, answerText } from '../../ui/time/Questions.tsx';
import { dayText, endedText } from './words.ts';

interface PastLineProps {
  row: PastRow;
  today: LocalDate;
  settings: Settings;
  /** Whether the row is called by its day and not by its to-do: on the page of that to-do. */
  byDay?: boolean;
  /** Whether the to-do is here, so that something can be done to it. */
  isHere: boolean;
  /** Does something to it, and keeps in words what that was. */
  did: ReturnType<typeof useLast>['did'];
  does: Does;
}

/** Draws rows of times of any to-do, for a screen on which something can be done to them. */
export const linesOf = (shown: Shown, { does, did }: Pick<PastLineProps, 'does' | 'did'>) =>
  function line(row: PastRow) {
    return (
      <PastLine
        key={`${row.todo} ${row.number}`}
        row={row}
        today={shown.today}
        settings={shown.person.settings}
        isHere={shown.stateOf(row.todo) !== null}
        does={does}
        did={did}
      />
    );
  };

/** How the arc of a time that has ended is drawn: back at the left foot where it was done. */
function arcOf({ status, tally, quota }: PastRow): ArcState {
  if (quota !== null) return { at: 'posts', done: tally ?? 0, of: quota };
  return status === 'done' ? { at: 'done' } : { at: 'way', share: 1 };
}

/** The questions that a time was asked and that have no answer. */
export const unanswered = ({ status, had, filled }: PastRow) =>
  status === 'done' ? had.questions.filter(({ id }) => filled?.answers?.[id] === undefined) : [];

/** One time that has ended; touched it unfolds, with what can still be written down. */
export function PastLine(props: PastLineProps) {
  const { row, today, settings, byDay = false } = props;
  const look = useLook();
  const [open, setOpen] = useState(false);
  const title = byDay ? dayText(row.doneOn ?? row.dueOn, today) : row.title;
  const name = byDay ? `${row.title}, ${title}` : row.title;
  const asks = unanswered(row);
  const canFill = props.isHere && asks.length > 0;
  return (
    <View style={{ borderTopWidth: 1, borderTopColor: look.line }}>
      <View
        style={{
          flexDirection: 'row',
          alignItems: 'center',
          gap: 12,
          paddingHorizontal: 20,
          minHeight: 64,
        }}
      >
        <Pressable
          role="button"
          aria-expanded={open}
          aria-label={`${name}: ${factsText(row, settings)}`}
          onPress={() => setOpen(!open)}
          style={{
            flex: 1,
            flexDirection: 'row',
            alignItems: 'center',
            gap: 12,
            paddingVertical: 8,
          }}
        >
          <ReturnArc kind={row.kind} state={arcOf(row)} />
          <View style={{ flex: 1 }}>
            <Words size={17} weight={600} style={{ lineHeight: 22 }}>
              {title}
            </Words>
            <Facts row={row} settings={settings} byDay={byDay} />
            {textsOf(row).map((text) => (
              <Words key={text} size={15} style={{ paddingTop: 2 }}>
                {`“${text}”`}
              </Words>
            ))}
          </View>
        </Pressable>
        {canFill && !open ? (
          <Action label="Fill in" name={`Fill in: ${name}`} onPress={() => setOpen(true)} />
        ) : null}
      </View>
      {open ? <Unfolded {...props} name={name} /> : null}
    </View>
  );
}

function Facts({ row, settings, byDay }: { row: PastRow; settings: Settings; byDay: boolean }) {
  const facts = factsOf(row, settings);
  const first = hourOf(row, settings);
  const words = byDay ? endedText(row) : first;
  // On its day the outcome is said already.
  const rest = byDay ? [...(first ? [first] : []), ...facts.filter((it) => it !== words)] : facts;
  return (
    <Words size={15} tint="soft">
      {words ? (
        <Words size={15} weight={650} tint={row.status === 'done' ? 'moss' : 'soft'}>
          {words}
        </Words>
      ) : null}
      {`${words && rest.length ? ' · ' : ''}${rest.join(' · ')}`}
    </Words>
  );
}

/** The hour at which it was done. */
const hourOf = ({ status, closedAt }: PastRow, settings: Settings) =>
  status === 'done' ? clockOf(settings).momentAt(parseInstant(closedAt)).slice(11) : '';

/** What was answered, what it took, how late: short. */
function factsOf(row: PastRow, settings: Settings): string[] {
  const { had, filled, minutes, estimated, status, late, isGone } = row;
  const answers = had.questions.flatMap((question) => {
    const answer = filled?.answers?.[question.id];
    return answer === undefined || question.kind === 'text' ? [] : [answerText(question, answer)];
  });
  const outcome = hourOf(row, settings) ? (late ? [endedText(row)] : []) : [status];
  const asks = unanswered(row);
  return [
    ...(row.quota !== null ? [endedText(row)] : outcome),
    ...(answers.length ? [answers.join(' and ')] : []),
    ...(minutes ? [`${minutesText(minutes)}${estimated ? ' estimated' : ''}`] : []),
    ...(asks.length ? [`not filled in: ${asks.map((it) => it.asks).join(', ')}`] : []),
    ...(isGone ? ['taken away since'] : []),
  ];
}

const factsText = (row: PastRow, settings: Settings) =>
  [hourOf(row, settings), ...factsOf(row, settings), ...textsOf(row)].filter(Boolean).join(', ');

/** What was written: the note, and answers in words. */
function textsOf({ note, had, filled }: PastRow): string[] {
  const said = had.questions.flatMap(({ kind, id }) => {
    const answer = filled?.answers?.[id];
    return kind === 'text' && typeof answer === 'string' && answer ? [answer] : [];
  });
  return [...said, ...(note ? [note] : [])];
}

/** What can be written down with it, or done to it, even now. */
function Unfolded({
  row,
  settings,
  isHere,
  did,
  does,
  byDay,
  name,
}: PastLineProps & { name: string }) {
  const { todo, slot, dueOn, due, status, filled, number } = row;
  const of = { todo, slot };
  const thatDay = due?.includes('T') ? due : `${dueOn}T12:00`;
  return (
    <View style={{ paddingLeft: 94, paddingRight: 20, paddingBottom: 12, gap: 4 }}>
      {isHere && status === 'done' ? (
        <>
          <Questions
            name={name}
            todo={asTodo(row)}
            time={{ number, ...(filled ? { filled } : {}) }}
            onAnswer={(written) => void does({ do: 'answer', ...of, ...written }, () => 'Kept')}
          />
          <TimeNote
            note={row.note}
            name={name}
            isShown={false}
            onKeep={(note) => void does({ do: 'note', ...of, note }, () => 'Kept')}
          />
        </>
      ) : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
        {isHere && status === 'missed' ? (
          <WordLink
            label="I did it that day"
            name={`I did it that day: ${name}`}
            onPress={() =>
              did(
                {
                  do: 'done',
                  ...of,
                  when: formatInstant(clockOf(settings).instantOf(thatDay)),
                },
                `${row.title} is done on that day.`,
              )
            }
          />
        ) : null}
        {byDay ? null : (
          <Go label="Its record" name={`The record of ${name}`} to={`/past/todo/${todo}`} />
        )}
        {isHere && !byDay ? <Go label="Open" name={`Open ${name}`} to={`/todo/${todo}`} /> : null}
      </View>
    </View>
  );
}

const Go = ({ label, name, to }: { label: string; name: string; to: string }): ReactNode => (
  <WordLink label={label} name={name} onPress={() => router.push(to as Href)} />
);

/** As the fields of the questions take it: what was asked of it then. */
const asTodo = ({ todo, had }: PastRow): TodoView =>
  ({
    id: todo,
    series: { questions: had.questions, ...(had.takes === null ? {} : { takes: had.takes }) },
  }) as unknown as TodoView;

import { comingAt, shortDate, type LocalDate } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import type { Shown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { Sheet } from '../../ui/Sheet.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import type { Move, Standing } from './moving.ts';
import { later } from './span.ts';
import { dayName, entryText, longDay } from './words.ts';

interface TimeSheetProps {
  entry: Standing;
  title: string;
  shown: Shown;
  moveOf: (day: LocalDate) => Move;
  onMove: (day: LocalDate) => void;
  onDeed: (deed: 'done' | 'skip') => void;
  /** To its page, where it is not there already. */
  onPage?: () => void;
  onClose: () => void;
}

/** What can be done with one time where it stands. */
export function TimeSheet(props: TimeSheetProps) {
  const { entry, title, shown, moveOf, onMove, onDeed, onPage, onClose } = props;
  const { today } = shown;
  const [date, setDate] = useState('');
  const ended = ['done', 'skipped', 'missed'].includes(entry.kind);
  const todo = shown.stateOf(entry.todo);
  const isThere =
    entry.number !== null ||
    (todo !== null && comingAt(shown.planner, todo.progress, entry.slot) !== null);
  const from = entry.day !== null && entry.day > today ? entry.day : today;
  const days = [...new Set([today, later(today, 1), ...[1, 2, 3, 4, 7].map((n) => later(from, n))])]
    .filter((day) => day !== entry.day)
    .sort();
  const picked = /^\d{4}-\d{2}-\d{2}$/u.test(date) ? date : null;
  const pickedMove = picked === null ? null : moveSafely(moveOf, picked);
  return (
    <Sheet title={title} close="Close" onClose={onClose}>
      <Words size={15} tint="soft">
        {[
          entry.day === null ? 'Without a day' : longDay(entry.day),
          entryText(entry),
          entry.due === null ? '' : `due ${shortDate(entry.due.slice(0, 10), today)}`,
        ]
          .filter(Boolean)
          .join(' · ')}
      </Words>
      {!ended && isThere ? (
        <>
          <View style={{ flexDirection: 'row', gap: 8, paddingVertical: 8 }}>
            <Action filled label="Done" name={`Done: ${title}`} onPress={() => onDeed('done')} />
            <Action label="Skip" name={`Skip: ${title}`} onPress={() => onDeed('skip')} />
          </View>
          <Words size={15} weight={600}>
            Move to
          </Words>
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
            {days.map((day) => (
              <WordLink
                key={day}
                label={day === today ? 'today' : dayName(day)}
                name={`Move to ${longDay(day)}: ${title}`}
                onPress={() => onMove(day)}
              />
            ))}
          </View>
          <View style={{ maxWidth: 220 }}>
            <Field
              label="Another day"
              placeholder="2027-06-12"
              value={date}
              onChangeText={setDate}
            />
          </View>
          {pickedMove ? (
            'refused' in pickedMove ? (
              <Words size={15} weight={600}>
                {pickedMove.refused}
              </Words>
            ) : (
              <WordLink
                label={`Move ${pickedMove.words}`}
                name={`Move ${pickedMove.words}: ${title}`}
                onPress={() => onMove(picked!)}
              />
            )
          ) : null}
        </>
      ) : null}
      {!ended && !isThere ? <Words size={15}>When it comes hangs on the one before.</Words> : null}
      {onPage ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink label="Its page" name={`Its page: ${title}`} onPress={onPage} />
        </View>
      ) : null}
    </Sheet>
  );
}

function moveSafely(moveOf: (day: LocalDate) => Move, day: LocalDate): Move {
  try {
    return moveOf(day);
  } catch {
    return { refused: 'There is no such day.' };
  }
}

import type { TodoState } from '@back-again/contract';
import { formatDay, habitDay, lastDayOfHabit, parseDay, type LocalDate } from '@back-again/core';
import { View } from 'react-native';
import { Action } from '../../ui/Action.tsx';
import { Note } from '../../ui/Note.tsx';
import { momentText } from '../../ui/dates.ts';

interface SecondHabitProps {
  /** The habit that is under way. */
  habit: TodoState;
  today: LocalDate;
  /** Begins this one on a day. */
  onQueue: (start: LocalDate) => void;
  onKeep: () => void;
}

/** One habit at a time: why, and what can be done about a second one. */
export function SecondHabit({ habit, today, onQueue, onKeep }: SecondHabitProps) {
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

import { comingAt, shortDate, type LocalDate } from '@back-again/core';
import { View } from 'react-native';
import type { Shown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Sheet } from '../../ui/Sheet.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { AnyDay } from './AnyDay.tsx';
import type { Standing } from './moving.ts';
import { later } from '../../ui/span.ts';
import { dayName, entryText, longDay } from './words.ts';

interface TimeSheetProps {
  entry: Standing;
  title: string;
  shown: Shown;
  onMove: (day: LocalDate) => void;
  onDeed: (deed: 'done' | 'skip') => void;
  /** To its page, where it is not there already. */
  onPage?: () => void;
  onClose: () => void;
}

/** What can be done with one time where it stands. */
export function TimeSheet(props: TimeSheetProps) {
  const { entry, title, shown, onMove, onDeed, onPage, onClose } = props;
  const { today } = shown;
  const ended = ['done', 'skipped', 'missed'].includes(entry.kind);
  const todo = shown.stateOf(entry.todo);
  const isThere =
    entry.number !== null ||
    (todo !== null && comingAt(shown.planner, todo.progress, entry.slot) !== null);
  const from = entry.day !== null && entry.day > today ? entry.day : today;
  const days = [...new Set([today, later(today, 1), ...[1, 2, 3, 4, 7].map((n) => later(from, n))])]
    .filter((day) => day !== entry.day)
    .sort();
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
          <AnyDay
            label="Another day"
            name={`Move ${title}`}
            value={entry.day}
            today={today}
            from={today}
            weekStart={shown.person.settings.weekStart}
            onPick={onMove}
          />
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

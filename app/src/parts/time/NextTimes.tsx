import type { Ahead, LocalDate, TodoView } from '@back-again/core';
import { View } from 'react-native';
import type { Does } from '../../data/act.ts';
import type { Shown } from '../../data/todos.ts';
import { WordLink } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { useTimeSheet } from './useTimeSheet.tsx';

interface NextTimesProps {
  todo: TodoView;
  ahead: readonly Ahead[];
  shown: Shown;
  does: Does;
}

/** The times to come of a to-do: each can be done ahead, skipped or moved where it stands. */
export function NextTimes({ todo, ahead, shown, does }: NextTimesProps) {
  const time = useTimeSheet(shown, does);
  return (
    <View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
        {ahead.map((it) => {
          const text = timeText(it, shown.today);
          return (
            <WordLink
              key={it.slot}
              label={text}
              name={`${text}: do it ahead, skip or move it`}
              size={15.5}
              onPress={() => time.open(todo, it)}
            />
          );
        })}
      </View>
      {time.note}
      {time.sheet}
    </View>
  );
}

/** When it comes, and when it is due where that is another day. */
function timeText({ due, plan, planAt }: Ahead, today: LocalDate): string {
  if (plan === undefined || (planAt === undefined && due.startsWith(plan)))
    return momentText(due, today);
  return `${momentText(planAt ?? plan, today)}, due ${momentText(due, today)}`;
}

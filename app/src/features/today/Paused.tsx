import type { TodoState } from '@back-again/contract';
import { momentText, pauseOn, type LocalDate } from '@back-again/core';
import { router } from 'expo-router';
import { View } from 'react-native';
import { WordLink, Words } from '../../ui/Words.tsx';
import { later } from '../../ui/span.ts';

interface PausedProps {
  todos: readonly TodoState[];
  today: LocalDate;
}

/** What is paused today, and through when: an empty day is explained. */
export function Paused({ todos, today }: PausedProps) {
  const live = todos.filter(({ over }) => !over);
  const pauses = live.flatMap(({ progress }) => pauseOn(progress.series, today) ?? []);
  if (!pauses.length) return null;
  const ends = pauses.flatMap(({ to }) => to ?? []).sort();
  const first = ends[0];
  const isAll = pauses.length === live.length;
  const who = isAll ? 'Everything is' : pauses.length === 1 ? 'One is' : `${pauses.length} are`;
  const back = first === undefined ? null : momentText(later(first, 1), today, true);
  const until =
    first === undefined
      ? 'until you resume it'
      : ends.length === pauses.length && ends.at(-1) === first
        ? `through ${momentText(first, today, true)}, back ${back}`
        : `the first back ${back}`;
  return (
    <View
      role="region"
      aria-label="Paused"
      style={{
        flexDirection: 'row',
        flexWrap: 'wrap',
        alignItems: 'center',
        columnGap: 14,
        paddingHorizontal: 20,
      }}
    >
      <Words size={15} weight={isAll ? 650 : 400} tint={isAll ? 'ink' : 'soft'}>
        {`${who} paused, ${until}.`}
      </Words>
      <WordLink
        label="See in All"
        name="See what is paused, in All"
        onPress={() => router.push('/all')}
      />
    </View>
  );
}

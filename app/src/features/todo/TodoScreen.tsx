import { router, useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';
import { shortDate, type LocalDate } from '@back-again/core';
import { useShown } from '../../data/todos.ts';
import { Screen } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { WordLink } from '../../ui/Words.tsx';
import { LazyStory } from './LazyStory.tsx';

/** The page of one to-do. */
export function TodoScreen() {
  const { id, letGo } = useLocalSearchParams<{ id: string; letGo?: string }>();
  const { today } = useShown();
  return (
    <Screen>
      <View style={{ paddingHorizontal: 20, paddingTop: 8, maxWidth: 620 }}>
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label="Back"
            onPress={() => (router.canGoBack() ? router.back() : router.replace('/all'))}
          />
        </View>
        {letGo ? <Note words={letGoText(letGo.split(','), today)} /> : null}
        <LazyStory id={id} />
      </View>
    </Screen>
  );
}

/** What a changed repeat let go of: the days to which times had been moved that it does not yield. */
function letGoText(days: readonly LocalDate[], today: LocalDate): string {
  const dates = days.map((day) => shortDate(day, today)).join(', ');
  return days.length === 1
    ? `The time that you had moved to ${dates} is let go of: as it comes back now, there is none of that name.`
    : `The times that you had moved to ${dates} are let go of: as it comes back now, there are none of those names.`;
}

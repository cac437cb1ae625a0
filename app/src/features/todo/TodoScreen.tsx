import { router, useLocalSearchParams } from 'expo-router';
import { View } from 'react-native';
import { Screen } from '../../ui/Frame.tsx';
import { WordLink } from '../../ui/Words.tsx';
import { Story } from './Story.tsx';

/** The page of one to-do. */
export function TodoScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  return (
    <Screen>
      <View style={{ paddingHorizontal: 20, paddingTop: 8, maxWidth: 620 }}>
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label="Back"
            onPress={() => (router.canGoBack() ? router.back() : router.replace('/all'))}
          />
        </View>
        <Story id={id} />
      </View>
    </Screen>
  );
}

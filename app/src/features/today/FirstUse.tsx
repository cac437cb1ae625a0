import { router } from 'expo-router';
import { View } from 'react-native';
import { WordLink, Words } from '../../ui/Words.tsx';

const SENTENCES = [
  'Water the herbs every 3 days',
  'Change the filter 60 days after done',
  'Pay the mooring fee on the 1st of each month',
];

/** What a person sees before anything comes back: three sentences to try. */
export function FirstUse() {
  return (
    <View style={{ padding: 20, gap: 4 }}>
      <Words size={17}>
        Nothing comes back yet. Write one as you would say it, or try one of these:
      </Words>
      {SENTENCES.map((sentence) => (
        <View key={sentence} style={{ alignItems: 'flex-start' }}>
          <WordLink
            label={sentence}
            size={16}
            onPress={() => router.push({ pathname: '/write', params: { text: sentence } })}
          />
        </View>
      ))}
    </View>
  );
}

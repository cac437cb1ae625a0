import { View } from 'react-native';
import { WordLink, Words } from './Words.tsx';

const SENTENCES = [
  'Water the herbs every 3 days',
  'Change the filter 60 days after done',
  'Pay the mooring fee on the 1st of each month',
];

/** Three sentences to try. */
export function Examples({ words, onPick }: { words: string; onPick: (text: string) => void }) {
  return (
    <View style={{ gap: 4 }}>
      <Words size={17}>{words}</Words>
      {SENTENCES.map((sentence) => (
        <View key={sentence} style={{ alignItems: 'flex-start' }}>
          <WordLink label={sentence} size={16} onPress={() => onPick(sentence)} />
        </View>
      ))}
    </View>
  );
}

import { View } from 'react-native';
import { Action } from './Action.tsx';
import { Words } from './Words.tsx';

/** What stands in place of a screen that could not be loaded. */
export function Unreachable({ words, onRetry }: { words: string; onRetry: () => void }) {
  return (
    <View style={{ padding: 24, gap: 16, alignItems: 'flex-start' }}>
      <Words live>{words}</Words>
      <Action label="Try again" onPress={onRetry} />
    </View>
  );
}

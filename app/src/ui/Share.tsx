import LinearProgress from '@rneui/themed/dist/LinearProgress';
import { View } from 'react-native';
import { Words } from './Words.tsx';
import { useLook } from './look.ts';

interface ShareProps {
  /** What is measured. */
  label: string;
  /** From 0 to 1. */
  share: number;
  words: string;
}

/** How much of something there is already, as a line and in words. */
export function Share({ label, share, words }: ShareProps) {
  const look = useLook();
  const spoken = {
    role: 'progressbar',
    'aria-label': label,
    'aria-valuemin': 0,
    'aria-valuemax': 100,
    'aria-valuenow': Math.round(share * 100),
    'aria-valuetext': words,
  } as object;
  return (
    <View style={{ gap: 4 }}>
      <LinearProgress
        value={Math.min(1, Math.max(0, share))}
        variant="determinate"
        animation={{ duration: 0 }}
        color={look.slate}
        trackColor={look.line}
        style={{ height: 6, borderRadius: 3 }}
        {...spoken}
      />
      <Words size={14.5} tint="soft">
        {words}
      </Words>
    </View>
  );
}

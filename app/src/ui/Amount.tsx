import Slider from '@rneui/themed/dist/Slider';
import { useState } from 'react';
import { View } from 'react-native';
import { Action } from './Action.tsx';
import { Words } from './Words.tsx';
import { THUMB, useLook } from './look.ts';

interface AmountProps {
  label: string;
  /** Where it stands at first, from 0 to `most`. */
  value: number;
  most: number;
  step: number;
  /** What a value means, in words. */
  words: (value: number) => string;
  onKeep: (value: number) => void;
}

/** How much, on a line from nothing to all; the arrows go a step, Home and End to its ends. */
export function Amount({ label, value, most, step, words, onKeep }: AmountProps) {
  const look = useLook();
  const [now, setNow] = useState(value);
  const set = (next: number) => setNow(Math.min(most, Math.max(0, next)));
  const hear = (event: { key: string; preventDefault: () => void }) => {
    const next: Record<string, number> = {
      ArrowRight: now + step,
      ArrowUp: now + step,
      ArrowLeft: now - step,
      ArrowDown: now - step,
      Home: 0,
      End: most,
    };
    if (!(event.key in next)) return;
    event.preventDefault();
    set(next[event.key]!);
  };
  const spoken = {
    role: 'slider',
    tabIndex: 0,
    'aria-label': label,
    'aria-valuemin': 0,
    'aria-valuemax': most,
    'aria-valuenow': now,
    'aria-valuetext': words(now),
    onKeyDown: hear,
  } as object;
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', gap: 12 }}>
      <View style={{ flexGrow: 1, minWidth: 180 }}>
        <Slider
          value={now}
          minimumValue={0}
          maximumValue={most}
          step={step}
          allowTouchTrack
          onValueChange={set}
          thumbTintColor={look.ink}
          minimumTrackTintColor={look.slate}
          maximumTrackTintColor={look.line}
          thumbStyle={{ width: 24, height: 24, borderRadius: 12 }}
          thumbTouchSize={{ width: THUMB, height: THUMB }}
          trackStyle={{ height: 4 }}
          {...spoken}
        />
      </View>
      <Words size={15} style={{ minWidth: 70 }}>
        {words(now)}
      </Words>
      <Action label="Keep it" name={`Keep: ${words(now)}`} onPress={() => onKeep(now)} />
    </View>
  );
}

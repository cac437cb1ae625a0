import RneSwitch from '@rneui/themed/dist/Switch';
import { View } from 'react-native';
import { Words } from './Words.tsx';
import { THUMB, useLook } from './look.ts';

interface OnOffProps {
  label: string;
  /** What it means that it is on. */
  words: string;
  on: boolean;
  onChange: (on: boolean) => void;
}

/** Something that is on or off, with the word for it beside. */
export function OnOff({ label, words, on, onChange }: OnOffProps) {
  const look = useLook();
  const tints = {
    activeThumbColor: look.ink,
    activeTrackColor: look.slateFill,
    thumbColor: look.track,
    trackColor: look.line,
    'aria-label': label,
  } as object;
  return (
    <View style={{ flexDirection: 'row', alignItems: 'center', gap: 14, minHeight: THUMB }}>
      <RneSwitch value={on} onValueChange={onChange} style={{ height: 28, width: 48 }} {...tints} />
      <Words size={16} tint={on ? 'ink' : 'soft'}>
        {on ? words : 'off'}
      </Words>
    </View>
  );
}

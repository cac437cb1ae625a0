import Chip from '@rneui/themed/dist/Chip';
import { View } from 'react-native';
import { FONT, THUMB, useLook } from './look.ts';
import { rem } from './rem.ts';

interface TogglesProps<T> {
  label: string;
  items: readonly { value: T; name: string; short: string }[];
  value: readonly T[];
  /** What is chosen after a touch, in the order of `items` as given by the caller. */
  onToggle: (value: T, on: boolean) => void;
  /** How many stand in a row. */
  columns: number;
}

/** A few things, each of which can be chosen: in rows of the same width. */
export function Toggles<T>({ label, items, value, onToggle, columns }: TogglesProps<T>) {
  const look = useLook();
  return (
    <View
      role="group"
      aria-label={label}
      style={{ flexDirection: 'row', flexWrap: 'wrap', maxWidth: columns * 60 }}
    >
      {items.map((item) => {
        const on = value.includes(item.value);
        return (
          <View key={item.name} style={{ width: `${100 / columns}%`, padding: 2 }}>
            <Chip
              title={item.short}
              accessibilityRole="button"
              accessibilityLabel={item.name}
              aria-pressed={on}
              onPress={() => onToggle(item.value, !on)}
              radius={10}
              containerStyle={{ borderRadius: 10, overflow: 'visible' }}
              buttonStyle={{
                minHeight: THUMB,
                borderRadius: 10,
                paddingHorizontal: 0,
                borderWidth: 1.5,
                borderColor: on ? look.ink : look.track,
                backgroundColor: on ? look.ink : 'transparent',
              }}
              titleStyle={{
                fontFamily: FONT,
                fontSize: rem(14.5),
                fontWeight: '650' as never,
                color: on ? look.paper : look.ink,
              }}
            />
          </View>
        );
      })}
    </View>
  );
}

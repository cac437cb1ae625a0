import { WEEKDAYS, type Weekday } from '@back-again/core';
import { Pressable, View } from 'react-native';
import { Words } from './Words.tsx';
import { WEEKDAYS as NAMES } from './dates.ts';
import { THUMB, useLook } from './look.ts';

interface WeekdayTogglesProps {
  label: string;
  value: readonly Weekday[];
  weekStart: Weekday;
  onChange: (days: Weekday[]) => void;
}

/** The days of the week, each of which can be chosen; they are given in order from Monday. */
export function WeekdayToggles({ label, value, weekStart, onChange }: WeekdayTogglesProps) {
  const look = useLook();
  const first = WEEKDAYS.indexOf(weekStart);
  return (
    <View role="group" aria-label={label} style={{ flexDirection: 'row', gap: 4 }}>
      {WEEKDAYS.map((_, i) => {
        const index = (i + first) % 7;
        const day = WEEKDAYS[index]!;
        const on = value.includes(day);
        const next = WEEKDAYS.filter((other) => (other === day ? !on : value.includes(other)));
        return (
          <Pressable
            key={day}
            role="button"
            aria-label={NAMES[index]!}
            aria-pressed={on}
            onPress={() => onChange(next)}
            style={{
              flex: 1,
              maxWidth: 56,
              height: THUMB,
              borderRadius: 10,
              alignItems: 'center',
              justifyContent: 'center',
              borderWidth: 1.5,
              borderColor: on ? look.ink : look.track,
              backgroundColor: on ? look.ink : 'transparent',
            }}
          >
            <Words size={14.5} weight={650} style={{ color: on ? look.paper : look.ink }}>
              {NAMES[index]!.slice(0, 3)}
            </Words>
          </Pressable>
        );
      })}
    </View>
  );
}

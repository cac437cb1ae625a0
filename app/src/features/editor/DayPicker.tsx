import {
  WEEKDAYS,
  dateOf,
  dayOf,
  daysInMonth,
  formatDay,
  parseDay,
  weekdayIndex,
  type LocalDate,
  type Weekday,
} from '@back-again/core';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { MONTHS, WEEKDAYS as NAMES } from '../../ui/dates.ts';
import { THUMB, useLook } from '../../ui/look.ts';

interface DayPickerProps {
  /** The chosen day, or several. */
  value: LocalDate | readonly LocalDate[] | null;
  /** The month to begin with where there is no value. */
  today: LocalDate;
  /** Days before it cannot be chosen. */
  from?: LocalDate;
  /** Nor can days after this one. */
  until?: LocalDate;
  weekStart: Weekday;
  onChange: (date: LocalDate) => void;
}

/** A month to choose a day from. */
export function DayPicker({ value, today, from, until, weekStart, onChange }: DayPickerProps) {
  const look = useLook();
  const chosenDates = value === null ? [] : typeof value === 'string' ? [value] : value;
  const shown = dateOf(parseDay(chosenDates[0] ?? today));
  const [at, setAt] = useState(shown.year * 12 + shown.month - 1);
  const year = Math.floor(at / 12);
  const month = (at % 12) + 1;
  const first = dayOf(year, month, 1);
  const start = WEEKDAYS.indexOf(weekStart);
  const lead = (weekdayIndex(first) - start + 7) % 7;
  const length = daysInMonth(year, month);
  const earliest = from === undefined ? -Infinity : parseDay(from);
  const latest = until === undefined ? Infinity : parseDay(until);
  const cell = { width: `${100 / 7}%` as const, height: THUMB };
  return (
    <View>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
        <WordLink label="Earlier" name="The month before" onPress={() => setAt(at - 1)} />
        <View aria-live="polite">
          <Heading level={3} size={16}>{`${MONTHS[month - 1]} ${year}`}</Heading>
        </View>
        <WordLink label="Later" name="The month after" onPress={() => setAt(at + 1)} />
      </View>
      <View style={{ flexDirection: 'row' }} aria-hidden>
        {NAMES.map((_, i) => (
          <Words
            key={i}
            size={13.5}
            tint="soft"
            style={{ width: `${100 / 7}%`, textAlign: 'center' }}
          >
            {NAMES[(i + start) % 7]!.slice(0, 2)}
          </Words>
        ))}
      </View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap' }}>
        {Array.from({ length: lead }, (_, i) => (
          <View key={-i} style={cell} />
        ))}
        {Array.from({ length }, (_, i) => {
          const day = first + i;
          const date = formatDay(day);
          const chosen = chosenDates.includes(date);
          const off = day < earliest || day > latest;
          return (
            <Pressable
              key={date}
              role="button"
              aria-label={`${NAMES[weekdayIndex(day)]} ${i + 1} ${MONTHS[month - 1]} ${year}`}
              aria-pressed={chosen}
              disabled={off}
              onPress={() => onChange(date)}
              style={[
                cell,
                { alignItems: 'center', justifyContent: 'center', borderRadius: 10 },
                chosen ? { backgroundColor: look.ink } : null,
                date === today && !chosen ? { borderWidth: 1.5, borderColor: look.track } : null,
              ]}
            >
              <Words
                size={16}
                weight={chosen ? 700 : 400}
                style={{ color: chosen ? look.paper : off ? look.track : look.ink }}
              >
                {String(i + 1)}
              </Words>
            </Pressable>
          );
        })}
      </View>
    </View>
  );
}

import {
  addMonths,
  dateOf,
  dayOf,
  daysInMonth,
  formatDay,
  parseDay,
  weekdayIndex,
  type Day,
  type LocalDate,
  type Weekday,
} from '@back-again/core';
import { useEffect, useRef, useState } from 'react';
import { Pressable, View } from 'react-native';
import { CELL, MonthGrid } from './MonthGrid.tsx';
import { Heading, WordLink, Words } from './Words.tsx';
import { MONTHS, WEEKDAYS as NAMES } from './dates.ts';
import { THUMB, useLook } from './look.ts';
import { EACH_COUNTS } from './oncePressed.ts';

interface DayPickerProps {
  /** What the day is for, said with each; nothing where the days alone say enough. */
  name?: string;
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

/** What the web needs and the types of React Native lack. */
interface Heard {
  key: string;
  preventDefault(): void;
}

const STEPS: Record<string, number> = {
  ArrowLeft: -1,
  ArrowRight: 1,
  ArrowUp: -7,
  ArrowDown: 7,
};
const MONTH_STEPS: Record<string, number> = { PageUp: -1, PageDown: 1 };

/** A month to choose a day from: by touch, or with the arrows, and with Page up and down by the month. */
export function DayPicker({
  name,
  value,
  today,
  from,
  until,
  weekStart,
  onChange,
}: DayPickerProps) {
  const look = useLook();
  const chosenDates = value === null ? [] : typeof value === 'string' ? [value] : value;
  const first = from !== undefined && from > today ? from : today;
  /** The day that the tabulator stops at; its month is shown. */
  const [at, setAt] = useState<Day>(parseDay(chosenDates[0] ?? first));
  const grid = useRef<View>(null);
  const isMoving = useRef(false);
  const { year, month } = dateOf(at);
  const one = dayOf(year, month, 1);
  const length = daysInMonth(year, month);
  const earliest = from === undefined ? -Infinity : parseDay(from);
  const latest = until === undefined ? Infinity : parseDay(until);
  /** Where the tabulator stops: a day of this month that can be chosen, if there is one. */
  const stop = Math.min(Math.max(at, earliest), latest, one + length - 1);
  const cell = { width: CELL, minHeight: THUMB };
  useEffect(() => {
    if (!isMoving.current) return;
    isMoving.current = false;
    const days = grid.current as unknown as HTMLElement | null;
    days?.querySelector<HTMLElement>('[tabindex="0"]')?.focus();
  }, [at]);
  const hear = (event: Heard) => {
    const months = MONTH_STEPS[event.key];
    const days = STEPS[event.key];
    if (months === undefined && days === undefined) return;
    event.preventDefault();
    const to = months === undefined ? at + days! : addMonths(at, months);
    isMoving.current = true;
    setAt(Math.min(latest, Math.max(earliest, to)));
  };
  return (
    <View>
      <View
        {...EACH_COUNTS}
        style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}
      >
        <WordLink
          label="Earlier"
          name="The month before"
          onPress={() => setAt(addMonths(one, -1))}
        />
        <View aria-live="polite">
          <Heading level={3} size={16}>{`${MONTHS[month - 1]} ${year}`}</Heading>
        </View>
        <WordLink label="Later" name="The month after" onPress={() => setAt(addMonths(one, 1))} />
      </View>
      <View ref={grid} {...({ onKeyDown: hear } as object)}>
        <MonthGrid month={formatDay(at)} weekStart={weekStart}>
          {(date, i) => {
            const day = one + i;
            const chosen = chosenDates.includes(date);
            const off = day < earliest || day > latest;
            const spoken = `${NAMES[weekdayIndex(day)]} ${i + 1} ${MONTHS[month - 1]} ${year}`;
            return (
              <Pressable
                key={date}
                role="button"
                aria-label={name === undefined ? spoken : `${spoken}: ${name}`}
                aria-pressed={chosen}
                disabled={off}
                tabIndex={day === stop ? 0 : -1}
                onPress={() => {
                  setAt(day);
                  onChange(date);
                }}
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
          }}
        </MonthGrid>
      </View>
    </View>
  );
}

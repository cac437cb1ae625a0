import { formatDay, parseDay, type LocalDate, type Weekday } from '@back-again/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Words } from './Words.tsx';
import { monthDays, weekOrder } from './span.ts';

/** How wide a day is: a seventh. */
export const CELL = `${100 / 7}%` as const;

interface MonthGridProps {
  /** Any day of the month. */
  month: LocalDate;
  weekStart: Weekday;
  /** A day of it, {@link CELL} wide. */
  children: (date: LocalDate, i: number) => ReactNode;
}

/** The days of a month beneath each other by their weekdays, in a person’s order. */
export function MonthGrid({ month, weekStart, children }: MonthGridProps) {
  const { first, last } = monthDays(month);
  const names = weekOrder(weekStart);
  const lead = (((parseDay(first) + 3) % 7) - names.first + 7) % 7;
  const many = parseDay(last) - parseDay(first) + 1;
  return (
    <>
      <View style={{ flexDirection: 'row' }} aria-hidden>
        {names.short.map((name) => (
          <Words key={name} size={14} tint="soft" style={{ width: CELL, textAlign: 'center' }}>
            {name}
          </Words>
        ))}
      </View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap' }}>
        {Array.from({ length: lead }, (_, i) => (
          <View key={`lead ${i}`} style={{ width: CELL }} />
        ))}
        {Array.from({ length: many }, (_, i) => children(formatDay(parseDay(first) + i), i))}
      </View>
    </>
  );
}

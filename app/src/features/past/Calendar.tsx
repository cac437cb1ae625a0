import type { LocalDate, Weekday } from '@back-again/core';
import type { PastDaysView } from '@back-again/contract/past';
import { Pressable, View } from 'react-native';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { CELL, MonthGrid } from '../../ui/MonthGrid.tsx';
import { monthDays, monthLater } from '../../ui/span.ts';
import { longDay, monthName } from '../../parts/time/words.ts';
import { usePastDaysQuery } from './pastApi.ts';
import { countsText } from './words.ts';

type DayTrace = PastDaysView['days'][number];

interface CalendarProps {
  /** A day of the month that is shown. */
  month: LocalDate;
  chosen: LocalDate;
  today: LocalDate;
  weekStart: Weekday;
  onMonth: (month: LocalDate) => void;
  onChoose: (day: LocalDate) => void;
}

/** A small month whose days carry a trace of how full they were. */
export function Calendar({ month, chosen, today, weekStart, onMonth, onChoose }: CalendarProps) {
  const { first, last } = monthDays(month);
  const { data } = usePastDaysQuery({ from: first, to: last });
  const traces = new Map(data?.days.map((day) => [day.date, day]));
  return (
    <View role="group" aria-label={`Days of ${monthName(first)}`} style={{ maxWidth: 420 }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', columnGap: 18 }}>
        <Heading level={2} size={17} style={{ flex: 1 }}>
          {monthName(first)}
        </Heading>
        <WordLink
          label="Before"
          name="The month before"
          onPress={() => onMonth(monthLater(first, -1))}
        />
        {last < today ? (
          <WordLink
            label="After"
            name="The month after"
            onPress={() => onMonth(monthLater(first, 1))}
          />
        ) : null}
      </View>
      <MonthGrid month={first} weekStart={weekStart}>
        {(date) => (
          <Day
            key={date}
            date={date}
            trace={traces.get(date)}
            isChosen={date === chosen}
            isAhead={date > today}
            onChoose={onChoose}
          />
        )}
      </MonthGrid>
    </View>
  );
}

/** So many times fill the line under a day. */
const FULL = 10;

/** What a day came to, in words. */
const traceText = (date: LocalDate, trace: DayTrace | undefined): string =>
  trace
    ? `${longDay(date)}: ${countsText({ ...trace, done: trace.doneOn })}`
    : `${longDay(date)}: nothing`;

function Day({
  date,
  trace,
  isChosen,
  isAhead,
  onChoose,
}: {
  date: LocalDate;
  trace: DayTrace | undefined;
  isChosen: boolean;
  isAhead: boolean;
  onChoose: (day: LocalDate) => void;
}) {
  const look = useLook();
  const full = Math.min(1, (trace?.doneOn ?? 0) / FULL);
  return (
    <Pressable
      role="button"
      aria-pressed={isChosen}
      aria-label={isAhead ? longDay(date) : traceText(date, trace)}
      disabled={isAhead}
      onPress={() => onChoose(date)}
      style={{
        width: CELL,
        height: 48,
        alignItems: 'center',
        justifyContent: 'center',
        borderRadius: 8,
        borderWidth: isChosen ? 2 : 0,
        borderColor: look.ink,
      }}
    >
      <Words
        size={15}
        weight={isChosen ? 700 : 400}
        tint={isAhead ? 'soft' : 'ink'}
        style={{ lineHeight: 18 }}
      >
        {String(Number(date.slice(8)))}
      </Words>
      <View style={{ height: 8, flexDirection: 'row', alignItems: 'center', gap: 2 }}>
        {full ? (
          <View
            style={{ height: 4, width: 5 + full * 18, borderRadius: 2, backgroundColor: look.moss }}
          />
        ) : null}
        {trace?.missed ? (
          <View
            style={{
              height: 7,
              width: 7,
              borderRadius: 4,
              borderWidth: 1.5,
              borderColor: look.ink,
            }}
          />
        ) : null}
      </View>
    </Pressable>
  );
}

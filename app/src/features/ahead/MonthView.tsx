import type { LocalDate, Weekday } from '@back-again/core';
import type { DayInMonth } from '@back-again/core/planning';
import { Fragment, memo, startTransition, useState, type ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Heading, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { CELL, MonthGrid } from '../../ui/MonthGrid.tsx';
import { monthDays, monthLater } from '../../ui/span.ts';
import { More } from './OnView.tsx';
import { useAnswer, type Forecast } from './useForecast.ts';
import { useEndedDays } from './useWithEnded.ts';
import { monthDayText, monthName, overBy } from '../../parts/time/words.ts';

interface MonthsProps {
  forecast: Forecast;
  weekStart: Weekday;
  today: LocalDate;
  chosen: LocalDate | null;
  over: LocalDate | null;
  onChoose: (day: LocalDate) => void;
  /** What stands on the chosen day: it lies beneath its month. */
  children: ReactNode;
}

const MOST_MONTHS = 120;

/** This month and those after it, as far as one scrolls. */
export function MonthsView({ children, ...props }: MonthsProps) {
  const [months, setMonths] = useState(2);
  // What comes into sight is drawn in pieces, so that no frame waits for it.
  const more = () => startTransition(() => setMonths((n) => Math.min(MOST_MONTHS, n + 1)));
  return (
    <>
      {Array.from({ length: months }, (_, i) => {
        const month = monthLater(props.today, i);
        const chosen = within(props.chosen, month);
        return (
          <Fragment key={i}>
            <MonthView {...props} month={month} chosen={chosen} over={within(props.over, month)} />
            {chosen ? children : null}
          </Fragment>
        );
      })}
      <More key={months} onSeen={more} />
    </>
  );
}

/** A day, where it lies in a month. */
const within = (day: LocalDate | null, month: LocalDate) =>
  day?.slice(0, 7) === month.slice(0, 7) ? day : null;

interface MonthProps extends Omit<MonthsProps, 'children'> {
  /** Its first day. */
  month: LocalDate;
}

/** So many minutes are as high as a line gets. */
const HIGHEST = 180;
const LINE = 22;

/** A month: each day with how full it is, and what lands on it. */
const MonthView = memo(function MonthView({
  month,
  forecast,
  weekStart,
  today,
  chosen,
  over,
  onChoose,
}: MonthProps) {
  const { first, last } = monthDays(month);
  const coming = useAnswer(forecast, 'months', first, last);
  const days = useEndedDays(coming, first, today);
  return (
    <View
      role="group"
      aria-label={monthName(month)}
      style={{ paddingHorizontal: 14, paddingTop: 14 }}
    >
      <Heading level={2} size={20} style={{ paddingHorizontal: 6, paddingBottom: 4 }}>
        {monthName(month)}
      </Heading>
      <MonthGrid month={month} weekStart={weekStart}>
        {(date, i) => (
          <Day
            key={date}
            date={date}
            day={days?.[i] ?? null}
            isToday={date === today}
            isPast={date < today}
            isChosen={date === chosen}
            isOver={date === over}
            onChoose={onChoose}
          />
        )}
      </MonthGrid>
    </View>
  );
});

interface DayProps {
  date: LocalDate;
  day: DayInMonth | null;
  isToday: boolean;
  isPast: boolean;
  isChosen: boolean;
  isOver: boolean;
  onChoose: (day: LocalDate) => void;
}

const Day = memo(function Day({
  date,
  day,
  isToday,
  isPast,
  isChosen,
  isOver,
  onChoose,
}: DayProps) {
  const look = useLook();
  const tint = isPast ? look.track : look.slate;
  const height = day ? Math.min(1, day.minutes / HIGHEST) * LINE : 0;
  const over = day !== null && overBy(day) > 0;
  return (
    <Pressable
      role="button"
      aria-pressed={isChosen}
      aria-label={day ? monthDayText(day) : date}
      onPress={() => onChoose(date)}
      style={{
        width: CELL,
        height: 58,
        alignItems: 'center',
        justifyContent: 'flex-start',
        borderWidth: isChosen || isOver ? 2 : 0,
        borderColor: look.ink,
        borderRadius: 8,
        backgroundColor: isOver ? look.slateFill : isToday ? look.card : 'transparent',
      }}
      {...({ dataSet: { day: date } } as object)}
    >
      <Words size={15.5} weight={isToday ? 700 : 500} tint={isPast ? 'soft' : 'ink'}>
        {String(Number(date.slice(8)))}
      </Words>
      <View style={{ flexDirection: 'row', alignItems: 'flex-end', height: LINE + 4, gap: 3 }}>
        {height ? (
          <View
            style={{
              width: over ? 6 : 3,
              height: Math.max(3, height),
              backgroundColor: tint,
              borderTopWidth: over ? 2 : 0,
              borderTopColor: look.ink,
            }}
          />
        ) : null}
        {day?.firm ? (
          <View style={[DOT, { backgroundColor: isPast ? look.track : look.ink }]} />
        ) : null}
        {day?.expected ? (
          <View style={[DOT, { borderWidth: 1.5, borderStyle: 'dashed', borderColor: look.ink }]} />
        ) : null}
        {day?.done ? <View style={[DOT, { borderWidth: 1.5, borderColor: look.moss }]} /> : null}
      </View>
    </Pressable>
  );
});

const DOT = { width: 7, height: 7, borderRadius: 4 } as const;

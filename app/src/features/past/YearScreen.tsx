import type { PastDaysView } from '@back-again/contract/past';
import {
  dayOf,
  daysInMonth,
  formatDay,
  inTree,
  weekdayIndex,
  WEEKDAYS,
  type LocalDate,
} from '@back-again/core';
import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useState } from 'react';
import { Pressable, View } from 'react-native';
import Svg, { Circle, G, Path, Text as SvgText } from 'react-native-svg';
import { useShown } from '../../data/todos.ts';
import { Choice } from '../../ui/Choice.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { MONTHS } from '../../ui/dates.ts';
import { FONT, useLook, useWide } from '../../ui/look.ts';
import { AsTable } from './AsTable.tsx';
import { Asked } from './Asked.tsx';
import { ofText } from './asked.ts';
import { search, usePastDaysQuery } from './pastApi.ts';
import { countsText, summaryText } from './words.ts';

type Day = PastDaysView['days'][number];

const NOTHING = { done: 0, skipped: 0, missed: 0, minutes: 0, estimated: 0, doneOn: 0 };
const add = (days: readonly Day[]) =>
  days.reduce(
    (sum, day) => ({
      done: sum.done + day.done,
      skipped: sum.skipped + day.skipped,
      missed: sum.missed + day.missed,
      minutes: sum.minutes + day.minutes,
      estimated: sum.estimated + day.estimated,
      doneOn: sum.doneOn + day.doneOn,
    }),
    NOTHING,
  );

/** Twelve months of one to-do, of a place, or of everything. */
export function YearScreen() {
  const { year: given, todo, place } = useLocalSearchParams<Record<string, string>>();
  const shown = useShown();
  const wide = useWide();
  const { today, person } = shown;
  const thisYear = Number(today.slice(0, 4));
  const year = /^\d{4}$/u.test(given ?? '') ? Number(given) : thisYear;
  const about = { ...(todo ? { todo } : {}), ...(place ? { place } : {}) };
  const it = usePastDaysQuery({ from: `${pad(year)}-01-01`, to: `${pad(year)}-12-31`, ...about });
  const [isPicking, setPicking] = useState(false);
  const titleOf = (id: string) => shown.stateOf(id)?.details.title ?? null;
  const of = todo || place ? ofText(about, shown.places(), titleOf) : 'everything';
  const goTo = (more: object) => {
    setPicking(false);
    router.push(`/past/year?${search({ year: pad(year), ...about, ...more })}` as Href);
  };
  useEffect(() => {
    document.title = `${year} · Back Again`;
  }, [year]);
  const weekStart = WEEKDAYS.indexOf(person.settings.weekStart);
  return (
    <Screen>
      <View style={{ paddingHorizontal: 20, paddingTop: 18, paddingBottom: 28, gap: 4 }}>
        <Words size={14.5} tint="soft">
          Past
        </Words>
        <View
          style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 18 }}
        >
          <Heading level={1} size={wide ? 32 : 30}>
            {String(year)}
          </Heading>
          <WordLink
            label={String(year - 1)}
            name={`The year before: ${year - 1}`}
            onPress={() => goTo({ year: pad(year - 1) })}
          />
          {year < thisYear ? (
            <WordLink
              label={String(year + 1)}
              name={`The year after: ${year + 1}`}
              onPress={() => goTo({ year: pad(year + 1) })}
            />
          ) : null}
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 6 }}>
            <Words size={16}>of</Words>
            <WordLink
              label={of}
              name={`Of what: ${of}`}
              expanded={isPicking}
              onPress={() => setPicking(!isPicking)}
            />
          </View>
        </View>
        {isPicking ? (
          <Choice
            label="Of what"
            options={[
              { value: 'all', label: 'everything' },
              ...inTree(shown.places()).map((at) => ({ value: at.place.id, label: at.place.name })),
            ]}
            value={todo ? null : (place ?? 'all')}
            onChange={(id) => goTo({ todo: undefined, place: id === 'all' ? undefined : id })}
          />
        ) : null}
        <Asked it={it}>
          {({ days }) => (
            <Year
              year={year}
              days={days}
              of={of}
              weekStart={weekStart}
              about={about}
              today={today}
            />
          )}
        </Asked>
      </View>
    </Screen>
  );
}

const pad = (year: number) => String(year).padStart(4, '0');

interface YearProps {
  year: number;
  days: readonly Day[];
  of: string;
  weekStart: number;
  about: { todo?: string; place?: string };
  today: LocalDate;
}

function Year({ year, days, of, weekStart, about, today }: YearProps) {
  // Three beside each other on a phone, four on a wide screen.
  const width = useWide() ? 230 : 106;
  const months = Array.from({ length: 12 }, (_, i) => {
    const month = `${pad(year)}-${String(i + 1).padStart(2, '0')}`;
    const own = days.filter(({ date }) => date.startsWith(month));
    return { month, name: MONTHS[i]!, own, sum: add(own) };
  }).filter(({ month }) => month <= today.slice(0, 7));
  const sum = add(days);
  return (
    <View style={{ gap: 10 }}>
      <Words size={16.5} live>
        {summaryText(sum)}
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 16, rowGap: 12 }}>
        {months.map(({ month, name, own, sum: came }) => (
          <Pressable
            key={month}
            role="button"
            aria-label={`${name}: ${countsText(came)}`}
            onPress={() =>
              router.push(
                (about.todo
                  ? `/past/todo/${about.todo}?span=all`
                  : `/past?on=${own.at(-1)?.date ?? `${month}-01`}`) as Href,
              )
            }
            style={{ width }}
          >
            <MonthOf
              year={year}
              month={Number(month.slice(5))}
              days={own}
              width={width}
              weekStart={weekStart}
            />
            <Words size={14} tint="soft">
              {came.done + came.missed + came.skipped ? countsText(came) : 'nothing'}
            </Words>
          </Pressable>
        ))}
      </View>
      <Words size={14.5} tint="soft">
        A dot: done, the bigger the more. A ring: missed, and nothing done. A stroke: skipped alone.
      </Words>
      <AsTable
        name={`${year} of ${of}`}
        heads={['Month', 'What ended', 'Took']}
        rows={months.map(({ name, sum: came }) => [
          name,
          countsText(came),
          came.minutes
            ? summaryText({ ...NOTHING, ...came })
                .split('. ')
                .at(-1)!
                .replace('.', '')
            : '–',
        ])}
      />
    </View>
  );
}

const TOP = 24;
/** So many done on a day are as big as a dot gets. */
const FULL = 12;

function MonthOf({
  year,
  month,
  days,
  width,
  weekStart,
}: {
  year: number;
  month: number;
  days: readonly Day[];
  width: number;
  weekStart: number;
}) {
  const look = useLook();
  const column = width / 7;
  const row = Math.min(22, column + 1);
  const lead = (weekdayIndex(dayOf(year, month, 1)) - weekStart + 7) % 7;
  const length = daysInMonth(year, month);
  const byDate = new Map(days.map((day) => [day.date, day]));
  return (
    <Svg width={width} height={TOP + 6 * row} aria-hidden>
      <SvgText x={2} y={16} fontSize={15} fontWeight="700" fontFamily={FONT} fill={look.ink}>
        {MONTHS[month - 1]}
      </SvgText>
      {Array.from({ length }, (_, i) => {
        const cell = lead + i;
        const x = (cell % 7) * column + column / 2;
        const y = TOP + Math.floor(cell / 7) * row + row / 2;
        const day = byDate.get(formatDay(dayOf(year, month, i + 1)));
        return (
          <G key={i}>
            <Mark day={day} x={x} y={y} most={row / 2 - 1} look={look} />
          </G>
        );
      })}
    </Svg>
  );
}

function Mark({
  day,
  x,
  y,
  most,
  look,
}: {
  day: Day | undefined;
  x: number;
  y: number;
  /** How far a dot reaches at most. */
  most: number;
  look: ReturnType<typeof useLook>;
}) {
  if (day?.doneOn)
    return (
      <Circle
        cx={x}
        cy={y}
        r={2.4 + (most - 2.4) * Math.min(1, day.doneOn / FULL)}
        fill={look.moss}
      />
    );
  if (day?.missed)
    return <Circle cx={x} cy={y} r={3.6} fill="none" stroke={look.ink} strokeWidth={1.6} />;
  if (day?.skipped) return <Path d={`M${x} ${y - 5}v10`} stroke={look.ink} strokeWidth={2} />;
  return <Circle cx={x} cy={y} r={1.3} fill={look.track} />;
}

import { WEEKDAYS, dateOf, parseDay, type Definition, type Weekday } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Part } from '../../ui/Part.tsx';
import { Words } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { MiniMonth, type Month } from './MiniMonth.tsx';
import type { Preview } from './preview.ts';

const MONTHS_SHOWN = 3;
const GAP = 22;
const MOST_LISTED = 6;

interface NextTimesProps {
  preview: Preview;
  series: Definition;
  weekStart: Weekday;
}

/** When a definition comes back: three months with dots, and the next dates in words. */
export function NextTimes({ preview, series, weekStart }: NextTimesProps) {
  const [width, setWidth] = useState(350);
  const { dates, today } = preview;
  const first = dates[0];
  if (!first) return null;
  const months = monthsFrom(first.due);
  const columns = width >= 600 ? MONTHS_SHOWN : 2;
  const cell = Math.min(210, (width - GAP * (columns - 1)) / columns);
  const after = series.repeat?.by === 'completion';
  return (
    <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
      <Part
        name="Next times"
        title={series.repeat ? 'Next times' : 'When'}
        aside={after ? 'each done on its day' : undefined}
        gap={10}
      >
        <Sums preview={preview} series={series} />
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: GAP, rowGap: 14 }}>
          {(series.repeat ? months : months.slice(0, 1)).map(({ year, month }) => (
            <MiniMonth
              key={`${year} ${month}`}
              year={year}
              month={month}
              width={cell}
              weekStart={WEEKDAYS.indexOf(weekStart)}
              firm={landing(preview, 'firm', year, month)}
              expected={landing(preview, 'expected', year, month)}
            />
          ))}
          {series.repeat ? (
            <View style={{ width: columns === 2 ? cell : '100%' }}>
              {dates.slice(0, MOST_LISTED).map(({ due, kind }, i) => (
                <Words key={due} size={15} weight={i === 0 ? 650 : 400} style={{ lineHeight: 25 }}>
                  {momentText(due, today)}
                  {kind === 'expected' ? (
                    <Words size={14} tint="soft">
                      {' expected'}
                    </Words>
                  ) : null}
                </Words>
              ))}
              {dates.length > MOST_LISTED ? (
                <Words size={15} tint="soft">
                  and so on
                </Words>
              ) : null}
            </View>
          ) : (
            <Words size={15} weight={650}>
              {momentText(first.due, today)}
            </Words>
          )}
        </View>
      </Part>
    </View>
  );
}

/** What a person should know before keeping it: what already went by, and how it ends. */
function Sums({ preview, series }: { preview: Preview; series: Definition }) {
  const { dates, goneBy, complete, today } = preview;
  const last = dates.at(-1);
  const ends = series.ends && complete && last && series.repeat?.by === 'calendar';
  const lines = [
    goneBy
      ? `It starts in the past: ${goneBy === 1 ? '1 time has' : `${goneBy} times have`} gone by, and ${goneBy === 1 ? 'is' : 'are'} in no record.`
      : '',
    ends
      ? dates.length === 1
        ? `One time, ${momentText(last.due, today)}.`
        : `${dates.length} times, the last on ${momentText(last.due, today)}.`
      : '',
  ].filter(Boolean);
  return lines.length ? <Words size={15}>{lines.join(' ')}</Words> : null;
}

function monthsFrom(due: string): Month[] {
  const { year, month } = dateOf(parseDay(due.slice(0, 10)));
  return Array.from({ length: MONTHS_SHOWN }, (_, i) => {
    const at = year * 12 + month - 1 + i;
    return { year: Math.floor(at / 12), month: (at % 12) + 1 };
  });
}

function landing(preview: Preview, kind: 'firm' | 'expected', year: number, month: number) {
  const prefix = `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-`;
  const found = preview.dates.filter((date) => date.kind === kind && date.due.startsWith(prefix));
  return new Set(found.map(({ due }) => Number(due.slice(8, 10))));
}

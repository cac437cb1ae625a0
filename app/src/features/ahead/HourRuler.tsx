import { formatTime, type LocalTime } from '@back-again/core';
import type { Entry } from '@back-again/core/planning';
import { useState } from 'react';
import { View } from 'react-native';
import Svg, { Line, Path, Rect, Text as SvgText } from 'react-native-svg';
import { FIRST, HOURS, LAST, along, minuteOf } from '../../ui/hours.ts';
import { FONT, useLook } from '../../ui/look.ts';

const [EDGE, LINE] = [8, 16];

/** The hour at a place along a ruler, to the quarter; null outside of it. */
export function hourAt(x: number, left: number, width: number): LocalTime {
  const share = Math.min(1, Math.max(0, (x - left - EDGE) / (width - 2 * EDGE)));
  const minute = Math.min(Math.round((FIRST * 60 + share * (LAST - FIRST) * 60) / 15) * 15, 1425);
  return formatTime(minute);
}

interface HourRulerProps {
  day: string;
  entries: readonly Entry[];
  /** Hours that are proposed, drawn hollow. */
  laid: readonly { at: LocalTime; takes: number }[];
  /** The hour now, where it is today. */
  now: LocalTime | null;
  /** Where what is carried would come to lie. */
  over: LocalTime | null;
  numbered: boolean;
}

/** The hours of a day, what has one along it with its length, and what is proposed hollow. */
export function HourRuler({ day, entries, laid, now, over, numbered }: HourRulerProps) {
  const look = useLook();
  const [width, setWidth] = useState(320);
  const x = along(width, EDGE);
  const bar = (at: LocalTime, takes: number | null) => {
    const from = x(minuteOf(at));
    const to = x(minuteOf(at) + (takes ?? 0));
    return { x: from - 4, y: LINE - 4, width: Math.max(8, to - from + 4), height: 8, rx: 4 };
  };
  return (
    <View
      onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
      style={{ height: numbered ? 44 : 28 }}
      {...({ dataSet: { ruler: day } } as object)}
      aria-hidden
    >
      <Svg width={width} height={numbered ? 44 : 28}>
        <Line
          x1={EDGE}
          x2={width - EDGE}
          y1={LINE}
          y2={LINE}
          stroke={look.track}
          strokeWidth={1.2}
        />
        {HOURS.map((hour) => (
          <Line
            key={hour}
            x1={x(hour * 60)}
            x2={x(hour * 60)}
            y1={LINE}
            y2={LINE - (hour % 3 === 0 ? 8 : 4)}
            stroke={look.track}
            strokeWidth={1.2}
          />
        ))}
        {numbered
          ? HOURS.filter((hour) => hour % 3 === 0).map((hour) => (
              <SvgText
                key={hour}
                x={x(hour * 60)}
                y={LINE + 22}
                fontSize={13.5}
                fontFamily={FONT}
                fill={look.soft}
                textAnchor="middle"
              >
                {String(hour)}
              </SvgText>
            ))
          : null}
        {laid.map(({ at, takes }, i) => (
          <Rect
            key={`${at} ${i}`}
            {...bar(at, takes)}
            fill={look.paper}
            stroke={look.slate}
            strokeWidth={1.8}
            strokeDasharray="4 2"
          />
        ))}
        {entries.map((entry, i) =>
          entry.at === null ? null : (
            <Rect
              key={`${entry.todo} ${entry.slot} ${i}`}
              {...bar(entry.at, entry.takes)}
              fill={
                entry.kind === 'done'
                  ? look.moss
                  : entry.kind === 'expected'
                    ? look.paper
                    : look.ink
              }
              stroke={entry.kind === 'done' ? look.moss : look.ink}
              strokeWidth={1.6}
              {...(entry.kind === 'expected' ? { strokeDasharray: '3 2' } : {})}
            />
          ),
        )}
        {over === null ? null : (
          <Rect {...bar(over, 0)} fill="none" stroke={look.ink} strokeWidth={2.4} />
        )}
        {now === null ? null : (
          <Path d={`M${x(minuteOf(now))} ${LINE + 2}l-6 9h12z`} fill={look.ink} />
        )}
      </Svg>
    </View>
  );
}

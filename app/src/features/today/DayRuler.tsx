import { useState } from 'react';
import { View } from 'react-native';
import Svg, { Circle, Path, Text as SvgText } from 'react-native-svg';
import { HOURS, along, minuteOf } from '../../ui/hours.ts';
import { FONT, useLook } from '../../ui/look.ts';

export interface RulerMark {
  key: string;
  /** `HH:MM`. */
  at: string;
  done: boolean;
}

interface DayRulerProps {
  marks: RulerMark[];
  /** When something is said, `HH:MM`. */
  bells: string[];
  /** The time now, `HH:MM`. */
  now: string;
}

const [EDGE, LINE] = [20, 30];

/**
 * The hours of the day from 6 to 22, what has a time on them, when something is said as a small hollow
 * wedge above, and now as a notch below the line.
 */
export function DayRuler({ marks, bells, now }: DayRulerProps) {
  const look = useLook();
  const [width, setWidth] = useState(390);
  const x = along(width, EDGE);
  const at = x(minuteOf(now));
  const nearEnd = at > width - 70;
  const hidden = (hour: number) => {
    const gap = x(hour * 60) - at;
    return nearEnd ? gap > -56 && gap < 10 : gap > -10 && gap < 56;
  };
  return (
    <View
      onLayout={(event) => setWidth(event.nativeEvent.layout.width)}
      aria-hidden
      style={{ height: 52 }}
    >
      <Svg width={width} height={52}>
        {HOURS.map((hour) => (
          <Path
            key={hour}
            d={`M${x(hour * 60)} ${LINE}v${hour % 3 === 0 ? -9 : -4}`}
            stroke={look.track}
            strokeWidth={1.2}
          />
        ))}
        {HOURS.filter((hour) => hour % 3 === 0 && !hidden(hour)).map((hour) => (
          <SvgText
            key={hour}
            x={x(hour * 60)}
            y={47}
            fontSize={13.5}
            fontFamily={FONT}
            fill={look.soft}
            textAnchor="middle"
          >
            {String(hour)}
          </SvgText>
        ))}
        <Path d={`M${EDGE} ${LINE}H${width - EDGE}`} stroke={look.track} strokeWidth={1.2} />
        {marks.map((mark) => (
          <Circle
            key={mark.key}
            cx={x(minuteOf(mark.at))}
            cy={LINE - 14}
            r={5}
            fill={mark.done ? look.paper : look.slate}
            stroke={mark.done ? look.moss : look.slate}
            strokeWidth={2.4}
          />
        ))}
        {bells.map((bell, i) => (
          <Path
            key={`${bell} ${i}`}
            d={`M${x(minuteOf(bell))} ${LINE - 21}l-5 -7h10z`}
            fill={look.paper}
            stroke={look.ink}
            strokeWidth={1.6}
            strokeLinejoin="round"
          />
        ))}
        <Path d={`M${at} ${LINE + 1}l-6 9h12z`} fill={look.ink} />
        <SvgText
          x={nearEnd ? at - 9 : at + 9}
          y={LINE + 15}
          fontSize={14}
          fontWeight="700"
          fontFamily={FONT}
          fill={look.ink}
          textAnchor={nearEnd ? 'end' : 'start'}
        >
          {now}
        </SvgText>
      </Svg>
    </View>
  );
}

import { dayOf, daysInMonth, weekdayIndex } from '@back-again/core';
import Svg, { Circle, G, Text as SvgText } from 'react-native-svg';
import { MONTHS } from '../../ui/dates.ts';
import { DISPLAY, FONT, useLook } from '../../ui/look.ts';

export interface Month {
  year: number;
  /** 1 to 12. */
  month: number;
}

interface MiniMonthProps extends Month {
  width: number;
  /** Index of the first day of the week, 0 for Monday. */
  weekStart: number;
  /** Days of the month on which something lands: fixed, or expected. */
  firm: ReadonlySet<number>;
  expected: ReadonlySet<number>;
}

const ROW = 27;
const TOP = 38;

/**
 * A month as numerals, with a dot where a time lands: full where it is fixed, an open dashed one
 * where it is expected. Screen readers pass it by: the list beside it says the same.
 */
export function MiniMonth({ year, month, width, weekStart, firm, expected }: MiniMonthProps) {
  const look = useLook();
  const column = width / 7;
  const lead = (weekdayIndex(dayOf(year, month, 1)) - weekStart + 7) % 7;
  const length = daysInMonth(year, month);
  const rows = Math.ceil((lead + length) / 7);
  return (
    <Svg width={width} height={TOP + rows * ROW - 10} aria-hidden>
      <SvgText x={2} y={14} fontSize={15} fontWeight="700" fontFamily={DISPLAY} fill={look.ink}>
        {MONTHS[month - 1]}
      </SvgText>
      {Array.from({ length }, (_, i) => {
        const day = i + 1;
        const cell = lead + i;
        const x = (cell % 7) * column + column / 2;
        const y = TOP + Math.floor(cell / 7) * ROW;
        const lands = firm.has(day) || expected.has(day);
        return (
          <G key={day}>
            <SvgText
              x={x}
              y={y}
              fontSize={13.5}
              fontWeight={lands ? '750' : '400'}
              fontFamily={FONT}
              fill={lands ? look.ink : look.soft}
              textAnchor="middle"
            >
              {String(day)}
            </SvgText>
            {firm.has(day) ? <Circle cx={x} cy={y + 8} r={3.6} fill={look.ink} /> : null}
            {expected.has(day) ? (
              <Circle
                cx={x}
                cy={y + 8}
                r={3.2}
                fill={look.paper}
                stroke={look.ink}
                strokeWidth={1.6}
                strokeDasharray="2.2 1.6"
              />
            ) : null}
          </G>
        );
      })}
    </Svg>
  );
}

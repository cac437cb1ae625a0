import { dateOf, dayOf, type LocalDate } from '@back-again/core';
import type { TrailTime } from '@back-again/contract/past';
import { View } from 'react-native';
import Svg, { Circle, G, Path, Text as SvgText } from 'react-native-svg';
import { Words } from '../../ui/Words.tsx';
import { FONT, useLook } from '../../ui/look.ts';
import { MONTHS } from '../../ui/dates.ts';
import { AsTable } from './AsTable.tsx';
import { archesOf, reachOf, type Arch } from './trail.ts';
import { trailRow, trailText } from './words.ts';
import { useWidth } from './useWidth.ts';

interface TrailProps {
  name: string;
  trail: readonly TrailTime[];
  today: LocalDate;
  /** After I finish: its arches are dashed. */
  isAfter: boolean;
}

const HIGH = 72;
const GROUND = 46;
const EDGE = 8;
/** An arch is so wide at least, so that it can be told from the next. */
const LEAST = 26;
const LABEL = 40;

/** The same arch again and again along the days: how a to-do really came back. */
export function Trail({ name, trail, today, isAfter }: TrailProps) {
  const look = useLook();
  const { width, onLayout } = useWidth();
  const shown = trail.slice(-Math.max(3, Math.floor(width / LEAST)));
  const arches = archesOf(shown);
  const { first, last } = reachOf(arches);
  const x = (day: number) =>
    EDGE + ((day - first) / Math.max(1, last - first)) * (width - 2 * EDGE);
  return (
    <View onLayout={onLayout}>
      <Words size={15.5}>{trailText(shown)}</Words>
      <Svg width={width} height={HIGH} viewBox={`0 0 ${width} ${HIGH}`} aria-hidden>
        <Path d={`M2 ${GROUND}H${width - 2}`} stroke={look.track} strokeWidth={1.6} />
        {monthsIn(first, last).map(({ day, name: month }, i, all) => {
          const before = all[i - 1];
          const isClose = before !== undefined && x(day) - x(before.day) < LABEL;
          return (
            <G key={day}>
              <Path d={`M${x(day)} ${GROUND}v4`} stroke={look.track} strokeWidth={1.6} />
              {(isClose && i % 2) || x(day) > width - 30 ? null : (
                <SvgText
                  x={x(day)}
                  y={GROUND + 18}
                  fontSize={13.5}
                  fontFamily={FONT}
                  fill={look.soft}
                >
                  {month}
                </SvgText>
              )}
            </G>
          );
        })}
        {arches.map((arch, i) => (
          <ArchOf key={i} arch={arch} x={x} isAfter={isAfter} />
        ))}
      </Svg>
      <Words size={14.5} tint="soft">
        {legendOf(arches, isAfter)}
      </Words>
      <AsTable
        name={`How ${name} came back`}
        heads={['Due', 'What became of it']}
        rows={shown.map((time) => trailRow(time, today)).reverse()}
      />
    </View>
  );
}

function ArchOf({
  arch,
  x,
  isAfter,
}: {
  arch: Arch;
  x: (day: number) => number;
  isAfter: boolean;
}) {
  const look = useLook();
  const { from, due, end, ending } = arch;
  const [left, right, at] = [x(from), x(due), x(end)];
  const half = (right - left) / 2;
  const dash = isAfter ? { strokeDasharray: '5 4' } : {};
  return (
    <G>
      {half > 0.5 ? (
        <Path
          d={`M${left} ${GROUND}A${half} ${Math.min(34, Math.max(10, half))} 0 0 1 ${right} ${GROUND}`}
          fill="none"
          stroke={look.slate}
          strokeWidth={1.8}
          {...dash}
        />
      ) : null}
      {ending === 'late' ? (
        <Path d={`M${right} ${GROUND}H${at}`} stroke={look.late} strokeWidth={4} />
      ) : null}
      {ending === 'missed' ? (
        <Circle cx={at} cy={GROUND} r={4} fill={look.paper} stroke={look.ink} strokeWidth={1.8} />
      ) : null}
      {ending === 'skipped' ? (
        <Path d={`M${at} ${GROUND - 7}v14`} stroke={look.ink} strokeWidth={2.2} />
      ) : null}
      {ending === 'kept' || ending === 'late' ? (
        <Circle cx={at} cy={GROUND} r={4.5} fill={look.moss} />
      ) : null}
    </G>
  );
}

function monthsIn(first: number, last: number): { day: number; name: string }[] {
  const found = [];
  let { year, month } = dateOf(first);
  for (;;) {
    month += 1;
    if (month > 12) [year, month] = [year + 1, 1];
    const day = dayOf(year, month, 1);
    if (day > last) return found;
    found.push({ day, name: MONTHS[month - 1]!.slice(0, 3) });
  }
}

/** What the marks mean, those that are there. */
function legendOf(arches: readonly Arch[], isAfter: boolean): string {
  const has = (ending: Arch['ending']) => arches.some((arch) => arch.ending === ending);
  return [
    `Each arch is the span that was meant${isAfter ? ', from the day it was done' : ''}.`,
    ...(has('late') ? ['What runs on along the ground was late.'] : []),
    ...(has('missed') ? ['A ring was missed.'] : []),
    ...(has('skipped') ? ['A stroke was skipped.'] : []),
  ].join(' ');
}

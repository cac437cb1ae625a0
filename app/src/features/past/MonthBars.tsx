import type { MonthFigures } from '@back-again/core/past';
import { View } from 'react-native';
import Svg, { G, Path, Rect } from 'react-native-svg';
import { Part } from '../../ui/Part.tsx';
import { Words } from '../../ui/Words.tsx';
import { MONTHS, minutesText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';
import { AsTable } from './AsTable.tsx';
import { countsText, tookText } from './words.ts';
import { useWidth } from './useWidth.ts';

const nameOf = (month: string) => `${MONTHS[Number(month.slice(5)) - 1]!} ${month.slice(0, 4)}`;

/** So many months there have to be before they are drawn. */
const LEAST = 2;
const HIGH = 64;
const MOST = 24;

/** How many were done and missed in each month: done from the ground up, missed as hollow on top. */
export function MonthBars({ months, name }: { months: readonly MonthFigures[]; name: string }) {
  const look = useLook();
  const { width, onLayout } = useWidth();
  const shown = months.slice(-MOST);
  if (shown.length < LEAST) return null;
  const most = Math.max(1, ...shown.map(({ done, missed }) => done + missed));
  const step = Math.min(40, (width - 8) / shown.length);
  const bar = step * 0.6;
  const unit = (HIGH - 8) / most;
  const best = shown.reduce((a, b) => (b.done > a.done ? b : a));
  const minutes = shown.reduce((sum, it) => sum + it.minutes, 0);
  const estimated = shown.reduce((sum, it) => sum + it.estimated, 0);
  return (
    <View style={{ paddingHorizontal: 20 }}>
      <Part
        title="Month by month"
        aside={`most in ${nameOf(best.month).split(' ')[0]!}: ${best.done} done`}
      >
        {minutes ? <Words size={15}>{`It took ${tookText({ minutes, estimated })}.`}</Words> : null}
        <View onLayout={onLayout}>
          <Svg width={width} height={HIGH + 6} viewBox={`0 0 ${width} ${HIGH + 6}`} aria-hidden>
            {shown.map(({ month, done, missed }, i) => {
              const x = 4 + i * step;
              return (
                <G key={month}>
                  {done ? (
                    <Rect
                      x={x}
                      y={HIGH - done * unit}
                      width={bar}
                      height={done * unit}
                      fill={look.moss}
                    />
                  ) : null}
                  {missed ? (
                    <Rect
                      x={x + 0.7}
                      y={HIGH - (done + missed) * unit}
                      width={bar - 1.4}
                      height={missed * unit}
                      fill="none"
                      stroke={look.ink}
                      strokeWidth={1.4}
                    />
                  ) : null}
                </G>
              );
            })}
            <Path d={`M2 ${HIGH}H${width - 2}`} stroke={look.track} strokeWidth={1.6} />
          </Svg>
        </View>
        <Words size={14.5} tint="soft">
          {`From ${nameOf(shown[0]!.month)} to ${nameOf(shown.at(-1)!.month)}. Filled: done. Hollow: missed.`}
        </Words>
        <AsTable
          name={`${name}, month by month`}
          heads={['Month', 'What ended', 'Kept', 'Took']}
          rows={shown
            .map((it) => [
              nameOf(it.month),
              countsText(it),
              it.kept === null ? '–' : `${it.kept} %`,
              it.minutes ? minutesText(it.minutes) : '–',
            ])
            .reverse()}
        />
      </Part>
    </View>
  );
}

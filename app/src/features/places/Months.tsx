import type { PlacePage } from '@back-again/contract';
import { View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import { Words } from '../../ui/Words.tsx';
import { MONTHS, minutesText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';

const [HIGH, STEP, BAR] = [54, 28, 18];

/** What a place took, month by month, as bars with the most in words. */
export function Months({ months }: Pick<PlacePage, 'months'>) {
  const look = useLook();
  const isTimed = months.some(({ minutes }) => minutes > 0);
  const of = (it: PlacePage['months'][number]) => (isTimed ? it.minutes : it.done);
  const most = Math.max(...months.map(of), 1);
  const full = months.filter((it) => of(it) > 0);
  const sum = months.reduce((all, it) => all + of(it), 0);
  const top = months.find((it) => of(it) === most);
  const name = (month: string) => MONTHS[Number(month.slice(5)) - 1]!;
  const amount = (n: number) => (isTimed ? minutesText(Math.round(n)) : `${Math.round(n)} done`);
  const average = amount(sum / Math.max(1, full.length));
  const words = `${average} a month, most in ${top ? name(top.month) : ''}.`;
  return (
    <View style={{ gap: 4 }}>
      <Svg
        width={months.length * STEP}
        height={HIGH + 2}
        aria-label={`By month: ${full.map((it) => `${name(it.month)} ${amount(of(it))}`).join(', ')}`}
        role="img"
      >
        <Line
          x1={0}
          x2={months.length * STEP}
          y1={HIGH}
          y2={HIGH}
          stroke={look.track}
          strokeWidth={1.2}
        />
        {months.map((it, i) => {
          const high = of(it) ? Math.max(4, (of(it) / most) * (HIGH - 4)) : 0;
          return (
            <Rect
              key={it.month}
              x={i * STEP + 4}
              y={HIGH - high}
              width={BAR}
              height={high}
              rx={2}
              fill={look.slateFill}
              stroke={look.slate}
              strokeWidth={high ? 1.2 : 0}
            />
          );
        })}
      </Svg>
      <Words size={14.5} tint="soft">
        {words}
      </Words>
    </View>
  );
}

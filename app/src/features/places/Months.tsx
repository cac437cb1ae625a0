import type { PlacePage } from '@back-again/contract';
import { View } from 'react-native';
import Svg, { Rect } from 'react-native-svg';
import { Hint } from '../../ui/Hint.tsx';
import { Words } from '../../ui/Words.tsx';
import { MONTHS, minutesText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';

const [HIGH, STEP, BAR] = [54, 28, 18];

/** A bar of a share of the whole height; one of nothing has none. */
function barOf(share: number) {
  const height = share ? Math.max(4, share * (HIGH - 4)) : 0;
  return { x: 4, y: HIGH - height, width: BAR, height, rx: 2, strokeWidth: height ? 1.2 : 0 };
}

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
      <View
        role="group"
        aria-label={`By month: ${full.map((it) => `${name(it.month)} ${amount(of(it))}`).join(', ')}`}
        style={{
          flexDirection: 'row',
          alignSelf: 'flex-start',
          borderBottomWidth: 1.2,
          borderBottomColor: look.track,
        }}
      >
        {months.map((it) => (
          <Hint key={it.month} words={`${name(it.month)}: ${amount(of(it))}`} width={190}>
            <Svg width={STEP} height={HIGH} aria-hidden>
              <Rect {...barOf(of(it) / most)} fill={look.slateFill} stroke={look.slate} />
            </Svg>
          </Hint>
        ))}
      </View>
      <Words size={14.5} tint="soft">
        {words}
      </Words>
    </View>
  );
}

import Svg, { Path, Rect } from 'react-native-svg';
import { useLook } from '../../ui/look.ts';

interface BarProps {
  /** Of the whole width, 0 to 1; and the part of it that was not entered. */
  share: number;
  estimated: number;
  width: number;
}

const HIGH = 16;
const STEP = 7;

/** How much something came to; hatched where that is estimated. */
export function Bar({ share, estimated, width }: BarProps) {
  const look = useLook();
  const whole = Math.max(2, share * (width - 2));
  const solid = whole - estimated * (width - 2);
  const lines = [];
  // Slanted strokes within the hatched part.
  for (let x = solid - HIGH; x < whole; x += STEP) {
    const [a, b] = [Math.max(solid, x), Math.min(whole, x + HIGH)];
    if (b > a) lines.push(`M${a + 1} ${1 + HIGH - (a - x)}L${b + 1} ${1 + HIGH - (b - x)}`);
  }
  return (
    <Svg width={width} height={HIGH + 2} aria-hidden>
      {estimated ? (
        <>
          <Path d={lines.join('')} stroke={look.slate} strokeWidth={1.2} />
          <Rect
            x={Math.max(1, solid + 1)}
            y={1}
            width={Math.max(1, whole - solid - 1)}
            height={HIGH}
            rx={2}
            fill="none"
            stroke={look.slate}
            strokeWidth={1.2}
          />
        </>
      ) : null}
      {solid > 0.5 ? (
        <Rect x={1} y={1} width={solid} height={HIGH} rx={2} fill={look.slate} />
      ) : null}
    </Svg>
  );
}

/** How it went from one period to the next, as small bars. */
export function SmallBars({
  values,
  width,
}: {
  values: readonly (number | null)[];
  width: number;
}) {
  const look = useLook();
  const most = Math.max(1, ...values.map((value) => value ?? 0));
  const step = Math.min(17, width / Math.max(1, values.length));
  const high = 26;
  return (
    <Svg width={Math.max(step, step * values.length)} height={high + 2} aria-hidden>
      {values.map((value, i) =>
        value ? (
          <Rect
            key={i}
            x={i * step + 0.7}
            y={high - Math.max(3, (value / most) * (high - 1)) + 1}
            width={Math.max(1.5, step * 0.66)}
            height={Math.max(3, (value / most) * (high - 1))}
            rx={step > 8 ? 2 : 0}
            fill={look.slateFill}
            stroke={look.slate}
            strokeWidth={step > 4 ? 1.2 : 0.6}
          />
        ) : null,
      )}
      <Path d={`M0 ${high + 1}H${step * values.length}`} stroke={look.line} strokeWidth={1} />
    </Svg>
  );
}

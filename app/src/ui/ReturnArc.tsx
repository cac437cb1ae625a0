import Svg, { Circle, Path } from 'react-native-svg';
import { useLook } from './look.ts';

/** What an arc shows of a time. */
export type ArcState =
  /** On its way: `share` of the span has gone by, 0 to 1; 1 has landed and is due. */
  | { at: 'way'; share: number }
  /** Past due, by so many days. */
  | { at: 'late'; days: number }
  /** Just done: back at the left foot. */
  | { at: 'done' }
  /** So many times a period: how many of them are done. */
  | { at: 'posts'; done: number; of: number };

interface ReturnArcProps {
  state: ArcState;
  /** Solid: fixed. Dashed: after I finish. Flat: a one-off. */
  kind: 'fixed' | 'after' | 'once';
  scale?: number;
}

const [CX, CY, R] = [20, 25, 17];
const LEFT = CX - R;
const RIGHT = CX + R;
export const ARC_WIDTH = 62;
export const ARC_HEIGHT = 32;

/** How far past the right foot the dot of a late one lies: to three days, to a week, longer. */
function overrun(days: number): number {
  return days <= 3 ? 7 : days <= 7 ? 13 : 19;
}

/**
 * The return arc, the mark of the product: a thing leaves at the left foot and comes back to the
 * right one. It is decoration beside words that say the same, so screen readers pass it by.
 */
export function ReturnArc({ state, kind, scale = 1 }: ReturnArcProps) {
  const look = useLook();
  if (state.at === 'posts') return <Posts {...state} scale={scale} />;
  const late = state.at === 'late';
  const share = state.at === 'way' ? Math.min(1, Math.max(0, state.share)) : late ? 1 : 0;
  const tint = late
    ? look.late
    : state.at === 'done'
      ? look.moss
      : share >= 1
        ? look.ink
        : look.slate;
  const dash = kind === 'after' ? { strokeDasharray: '5 4' } : {};
  const angle = Math.PI * (1 - share);
  const onArc = { x: CX + R * Math.cos(angle), y: CY - R * Math.sin(angle) };
  const ground = late ? RIGHT + overrun(state.days) : RIGHT;
  const dot =
    kind === 'once'
      ? { x: state.at === 'done' ? LEFT + 4.5 : ground, y: CY }
      : late
        ? { x: ground, y: CY }
        : onArc;
  return (
    <Svg
      width={ARC_WIDTH * scale}
      height={ARC_HEIGHT * scale}
      viewBox={`0 0 ${ARC_WIDTH} ${ARC_HEIGHT}`}
      aria-hidden
    >
      {kind === 'once' ? (
        <Path
          d={`M${LEFT} ${CY}H${RIGHT}`}
          stroke={look.track}
          strokeWidth={2}
          strokeLinecap="round"
        />
      ) : (
        <>
          <Path
            d={`M${LEFT} ${CY}A${R} ${R} 0 0 1 ${RIGHT} ${CY}`}
            fill="none"
            stroke={look.track}
            strokeWidth={1.6}
            {...dash}
          />
          <Path
            d={`M${LEFT} ${CY - 3}v6M${RIGHT} ${CY - 3}v6`}
            stroke={look.track}
            strokeWidth={2}
            strokeLinecap="round"
          />
          {share > 0 ? (
            <Path
              d={`M${LEFT} ${CY}A${R} ${R} 0 0 1 ${onArc.x.toFixed(1)} ${onArc.y.toFixed(1)}`}
              fill="none"
              stroke={tint}
              strokeWidth={3}
              {...dash}
            />
          ) : null}
        </>
      )}
      {late ? <Path d={`M${RIGHT} ${CY}H${ground}`} stroke={tint} strokeWidth={3} /> : null}
      <Circle cx={Math.max(dot.x, 4.5)} cy={dot.y} r={4.5} fill={tint} />
    </Svg>
  );
}

/** Up to so many posts stand for themselves; of more, some stand for all. */
const MOST_POSTS = 7;

/** Posts on the ground, one for each time of the period, filled as far as they are done. */
function Posts({ done, of, scale }: { done: number; of: number; scale: number }) {
  const look = useLook();
  const count = Math.min(of, MOST_POSTS);
  const filled = done >= of ? count : Math.floor((done / of) * count);
  const gap = count > 1 ? (ARC_WIDTH - 12) / (MOST_POSTS - 1) : 0;
  const left = (ARC_WIDTH - gap * (count - 1)) / 2;
  return (
    <Svg
      width={ARC_WIDTH * scale}
      height={ARC_HEIGHT * scale}
      viewBox={`0 0 ${ARC_WIDTH} ${ARC_HEIGHT}`}
      aria-hidden
    >
      <Path d={`M2 ${CY + 3}H${ARC_WIDTH - 2}`} stroke={look.track} strokeWidth={1.6} />
      {Array.from({ length: count }, (_, i) => (
        <Path
          key={i}
          d={`M${left + i * gap} ${CY + 2}v${i < filled ? -19 : -9}`}
          stroke={i < filled ? look.moss : look.slate}
          strokeWidth={i < filled ? 5 : 2}
          strokeLinecap="round"
        />
      ))}
    </Svg>
  );
}

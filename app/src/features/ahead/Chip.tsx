import { Pressable, View } from 'react-native';
import Svg, { Line, Rect } from 'react-native-svg';
import { Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import type { Standing } from '../../parts/time/moving.ts';
import { entryText, longDay } from '../../parts/time/words.ts';

/** How high one entry is, so that a thumb finds it. */
export const CHIP = 44;

interface ChipProps {
  entry: Standing;
  title: string;
  /** Its hours, where it ended more than once on this day. */
  hours?: string;
  /** What names it where it is dragged. */
  name: string;
  /** It is being carried elsewhere. */
  away?: boolean;
  /** What is proposed, not yet taken over. */
  hollow?: boolean;
  /** Whether it can be carried at all. */
  movable: boolean;
  onOpen: () => void;
}

/** One time on its day: its mark, by which it is carried, and its words, which open it. */
export function Chip({ entry, title, hours, name, away, hollow, movable, onOpen }: ChipProps) {
  const { kind } = entry;
  const ended = kind === 'done' || kind === 'skipped' || kind === 'missed';
  const more = entryText(hours ? { ...entry, at: hours, takes: null } : entry);
  return (
    <View
      style={
        {
          flexDirection: 'row',
          alignItems: 'stretch',
          minHeight: CHIP,
          maxWidth: '100%',
          opacity: away ? 0.35 : 1,
          userSelect: 'none',
        } as object
      }
      {...({ dataSet: { entry: name } } as object)}
    >
      {movable ? (
        <Pressable
          role="button"
          aria-label={`Move ${title}, ${entry.day === null ? 'without a day' : longDay(entry.day)}`}
          onPress={onOpen}
          style={
            { width: 30, justifyContent: 'center', cursor: 'grab', touchAction: 'none' } as object
          }
          {...({ dataSet: { grip: name } } as object)}
        >
          <Mark entry={entry} {...(hollow ? { hollow } : {})} />
        </Pressable>
      ) : (
        <View style={{ width: 30, justifyContent: 'center' }}>
          <Mark entry={entry} />
        </View>
      )}
      <Pressable
        role="button"
        aria-label={`${title}${more ? `, ${more}` : ''}. ${hollow ? 'Proposed' : 'Open'}`}
        onPress={onOpen}
        style={{ flexShrink: 1, justifyContent: 'center', paddingRight: 12 }}
      >
        <Words
          size={15}
          weight={ended ? 500 : 600}
          tint={ended ? 'soft' : 'ink'}
          style={{ lineHeight: 20 }}
        >
          {title}
          {more ? (
            <Words size={14} tint="soft" style={{ lineHeight: 20 }}>
              {` ${more}`}
            </Words>
          ) : null}
        </Words>
      </Pressable>
    </View>
  );
}

/**
 * Firm ones are a whole line, expected ones a broken one, what comes once alone two thin ones, what has
 * ended a thin one with its end, what is proposed an outline.
 */
function Mark({ entry: { kind, once }, hollow }: { entry: Standing; hollow?: boolean }) {
  const look = useLook();
  const ended = kind === 'done' || kind === 'skipped' || kind === 'missed';
  const tint = ended ? look.moss : kind === 'open' ? look.ink : look.slate;
  const of = { stroke: tint, y1: 2, y2: 26 };
  return (
    <Svg width={22} height={28} aria-hidden>
      {hollow ? (
        <Rect
          x={4}
          y={3}
          width={10}
          height={22}
          rx={3}
          fill="none"
          stroke={tint}
          strokeWidth={1.8}
        />
      ) : once && !ended ? (
        <>
          <Line {...of} x1={7} x2={7} strokeWidth={1.6} />
          <Line {...of} x1={11} x2={11} strokeWidth={1.6} />
        </>
      ) : (
        <Line
          {...of}
          x1={9}
          x2={9}
          strokeWidth={ended ? 2 : 4}
          {...(kind === 'expected' ? { strokeDasharray: '6 4' } : {})}
        />
      )}
      {kind === 'done' ? (
        <Line x1={4} x2={14} y1={26} y2={26} stroke={tint} strokeWidth={2} />
      ) : null}
    </Svg>
  );
}

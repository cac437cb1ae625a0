import { formatDay, parseDay, weekdayIndex, type LocalDate } from '@back-again/core';
import { useMemo, useRef, useState } from 'react';
import { PanResponder, Pressable, View } from 'react-native';
import { Words } from '../../ui/Words.tsx';
import { WEEKDAYS as NAMES, momentText } from '../../ui/dates.ts';
import { THUMB, useLook } from '../../ui/look.ts';

interface DayStripProps {
  /** What is moved, for its names. */
  name: string;
  today: LocalDate;
  /** The day that it is planned for. */
  plan: LocalDate;
  onMove: (plan: LocalDate) => void;
}

const DAYS = 7;

/** What the web needs and the types of React Native lack. */
type Keyed = { onKeyDown: (event: { key: string; preventDefault(): void }) => void };

/**
 * The coming days, with a stone on the one that it is planned for: the stone is dragged to another
 * day, or moved with the arrow keys and Enter; a touch on a day does the same.
 */
export function DayStrip({ name, today, plan, onMove }: DayStripProps) {
  const look = useLook();
  const first = parseDay(today);
  const at = Math.min(DAYS - 1, Math.max(0, parseDay(plan) - first));
  const [target, setTarget] = useState(at);
  const width = useRef(0);
  const latest = useRef({ at, target, onMove });
  latest.current = { at, target, onMove };
  const dayOf = (index: number) => formatDay(first + index);

  const drag = useMemo(() => {
    const over = (dx: number) => {
      const step = width.current / DAYS || 1;
      return Math.min(DAYS - 1, Math.max(0, latest.current.at + Math.round(dx / step)));
    };
    return PanResponder.create({
      onStartShouldSetPanResponder: () => true,
      onMoveShouldSetPanResponder: () => true,
      onPanResponderTerminationRequest: () => false,
      onPanResponderMove: (_event, { dx }) => setTarget(over(dx)),
      onPanResponderRelease: (_event, { dx }) => {
        const index = over(dx);
        if (index !== latest.current.at) latest.current.onMove(formatDay(first + index));
        else setTarget(index);
      },
      onPanResponderTerminate: () => setTarget(latest.current.at),
    });
  }, [first]);

  const keys: Keyed = {
    onKeyDown(event) {
      const by = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
      if (by) setTarget(Math.min(DAYS - 1, Math.max(0, target + by)));
      else if (event.key === 'Escape') setTarget(at);
      else if (event.key === 'Enter' || event.key === ' ') {
        if (target !== at) onMove(dayOf(target));
      } else return;
      event.preventDefault();
    },
  };
  const spoken = momentText(dayOf(target), today, true);
  return (
    <View
      role="group"
      aria-label={`The day to do it: ${name}`}
      onLayout={(event) => (width.current = event.nativeEvent.layout.width)}
      style={{ height: THUMB + 34, maxWidth: 480 }}
    >
      <View style={{ flexDirection: 'row' }}>
        {Array.from({ length: DAYS }, (_, i) => (
          <Pressable
            key={i}
            role="button"
            aria-label={`This time only, to ${momentText(dayOf(i), today)}: ${name}`}
            onPress={() => (i === at ? undefined : onMove(dayOf(i)))}
            style={{
              flex: 1,
              height: THUMB,
              alignItems: 'center',
              justifyContent: 'center',
              borderBottomWidth: i === target ? 4 : 1.5,
              borderBottomColor: i === target ? look.ink : look.track,
            }}
          >
            <Words size={13.5} tint="soft" style={{ lineHeight: 16 }}>
              {NAMES[weekdayIndex(first + i)]!.slice(0, 3)}
            </Words>
            <Words size={15} weight={i === target ? 700 : 400} style={{ lineHeight: 19 }}>
              {String(Number(dayOf(i).slice(8)))}
            </Words>
          </Pressable>
        ))}
      </View>
      <View
        {...drag.panHandlers}
        {...keys}
        tabIndex={0}
        role="slider"
        aria-label={`Drag to another day: ${name}`}
        aria-valuemin={0}
        aria-valuemax={DAYS - 1}
        aria-valuenow={target}
        aria-valuetext={spoken}
        style={
          {
            position: 'absolute',
            top: THUMB - 6,
            left: `${(target * 100) / DAYS}%`,
            width: `${100 / DAYS}%`,
            height: 40,
            alignItems: 'center',
            justifyContent: 'center',
            cursor: 'grab',
            touchAction: 'none',
          } as object
        }
      >
        <View
          style={{
            width: 26,
            height: 26,
            borderRadius: 13,
            backgroundColor: target === at ? look.slate : look.ink,
          }}
        />
      </View>
    </View>
  );
}

import { shortDate, type LocalDate } from '@back-again/core';
import type { Entry } from '@back-again/core/planning';
import { entryKey } from '@back-again/core/planning';
import { startTransition, useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { Heading, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { Chip } from './Chip.tsx';
import { later } from '../../ui/span.ts';
import { useAnswer, type Forecast } from './useForecast.ts';
import { loadText, longDay } from '../../parts/time/words.ts';

/** So many days are laid down at once. */
const PIECE = 28;
/** Some ten years on nothing is planned any more. */
const MOST_PIECES = 130;

interface OnViewProps {
  from: LocalDate;
  forecast: Forecast;
  titleOf: (entry: Entry) => string;
  isMovable: (entry: Entry) => boolean;
  isShown: (entry: Entry) => boolean;
  away: string | null;
  over: LocalDate | null;
  onOpen: (entry: Entry) => void;
}

/** From a day on, day by day, as far as one scrolls. */
export function OnView(props: OnViewProps) {
  const [pieces, setPieces] = useState(1);
  return (
    <View style={{ paddingBottom: 20 }}>
      {Array.from({ length: pieces }, (_, i) => (
        <Piece key={i} {...props} from={later(props.from, i * PIECE)} />
      ))}
      <More
        key={pieces}
        onSeen={() => startTransition(() => setPieces((n) => Math.min(MOST_PIECES, n + 1)))}
      />
    </View>
  );
}

function Piece({ from, forecast, titleOf, isMovable, isShown, away, over, onOpen }: OnViewProps) {
  const look = useLook();
  const days = useAnswer(forecast, 'days', from, later(from, PIECE - 1));
  if (!days) return <View style={{ height: 640 }} />;
  return (
    <View>
      {days.map((day) => {
        const entries = day.entries.filter(isShown);
        if (!entries.length) return null;
        return (
          <View
            key={day.date}
            role="group"
            aria-label={longDay(day.date)}
            style={{
              paddingHorizontal: 20,
              paddingVertical: 8,
              borderTopWidth: 1,
              borderTopColor: look.line,
              backgroundColor: over === day.date ? look.slateFill : 'transparent',
            }}
            {...({ dataSet: { day: day.date } } as object)}
          >
            <View style={{ flexDirection: 'row', justifyContent: 'space-between', gap: 12 }}>
              <Heading level={2} size={16.5}>
                {shortDate(day.date, from)}
              </Heading>
              <Words size={14} tint="soft">
                {loadText(day)}
              </Words>
            </View>
            {entries.map((entry) => (
              <Chip
                key={entryKey(entry)}
                entry={entry}
                name={entryKey(entry)}
                title={titleOf(entry)}
                movable={isMovable(entry)}
                away={away === entryKey(entry)}
                onOpen={() => onOpen(entry)}
              />
            ))}
          </View>
        );
      })}
    </View>
  );
}

/** The end of what is laid down: seen, there is more. */
export function More({ onSeen }: { onSeen: () => void }) {
  const end = useRef<View>(null);
  const seen = useRef(onSeen);
  useEffect(() => {
    seen.current = onSeen;
  });
  useEffect(() => {
    const watch = new IntersectionObserver(
      ([entry]) => {
        if (entry?.isIntersecting) seen.current();
      },
      { rootMargin: '800px' },
    );
    watch.observe(end.current as unknown as Element);
    return () => watch.disconnect();
  }, []);
  return <View ref={end} style={{ height: 1 }} />;
}

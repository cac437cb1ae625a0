import { momentText, type Definition, type LocalDate, type LocalDateTime } from '@back-again/core';
import type { Reading } from '@back-again/core/reading';
import { View } from 'react-native';
import { WordLink, Words } from '../../ui/Words.tsx';
import type { Preview } from './preview.ts';
import { later } from '../../ui/span.ts';

interface FirstTimeProps {
  series: Definition;
  reading: Reading;
  today: LocalDate;
  onSay: () => void;
}

/** An after-I-finish one of which nothing says when it was last done is first due today. */
export function FirstTime({ series, reading, today, onSay }: FirstTimeProps) {
  const isSaid = reading.sources.some(({ part }) => part === 'start');
  if (series.repeat?.by !== 'completion' || series.start !== today || isSaid) return null;
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 12 }}>
      <Words size={15} tint="soft">
        Its first time is due today.
      </Words>
      <WordLink label="I did it before" size={15} onPress={onSay} />
    </View>
  );
}

interface GoneByProps {
  series: Definition;
  preview: Preview;
  /** The moment now, by the person’s clock. */
  now: LocalDateTime;
  /** Begins it on a day. */
  onBegin: (day: LocalDate) => void;
}

/** The first time is today at an hour that has gone by: it is late at once, unless it begins later. */
export function GoneBy({ series, preview, now, onBegin }: GoneByProps) {
  const first = goneBy(preview, now);
  if (first === null) return null;
  const next = series.repeat
    ? preview.dates.find(({ due, kind }) => kind === 'firm' && due.slice(0, 10) > preview.today)
    : undefined;
  const day = next?.due.slice(0, 10) ?? later(preview.today, 1);
  const when = momentText(day, preview.today, true);
  return (
    <View
      role="group"
      aria-label="Its first hour has gone by"
      style={{
        flexDirection: 'row',
        flexWrap: 'wrap',
        alignItems: 'center',
        columnGap: 12,
        paddingTop: 6,
      }}
    >
      <Words size={15} tint="soft">
        {`${first} today has gone by: the first one is late at once.`}
      </Words>
      <WordLink label={`Begin ${when}`} size={15} onPress={() => onBegin(day)} />
    </View>
  );
}

/** The hour of its first time, where that is today and has gone by. */
function goneBy({ dates, today }: Preview, now: LocalDateTime): string | null {
  const due = dates[0]?.due;
  return due?.startsWith(`${today}T`) && due < now ? due.slice(11) : null;
}

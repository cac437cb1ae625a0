import type { LocalDate, LocalTime } from '@back-again/core';
import type { DayAhead, Entry } from '@back-again/core/planning';
import { entryKey, isToDo } from '@back-again/core/planning';
import { memo } from 'react';
import { View } from 'react-native';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook, useWide } from '../../ui/look.ts';
import type { Standing } from '../../parts/time/moving.ts';
import { Chip } from './Chip.tsx';
import { HourRuler } from './HourRuler.tsx';
import { dayName, loadText, longDay, overBy } from '../../parts/time/words.ts';
import { rem } from '../../ui/rem.ts';

/** Hours that are proposed for what has none on a day. */
export interface Hollow {
  key: string;
  at: LocalTime;
  takes: number;
}

interface DayRowProps {
  day: DayAhead;
  today: LocalDate;
  /** The hour now. */
  now: LocalTime;
  /** What is told of the day beside its load: a holiday, who is paused. */
  told: string;
  closed: boolean;
  laid: readonly Hollow[];
  /** What is proposed of a bundle for this day. */
  laying: readonly Standing[];
  layingTitle: (name: string) => string;
  /** What is carried, by its name, and where over this day it would lie. */
  away: string | null;
  over: { at?: LocalTime } | null;
  numbered: boolean;
  titleOf: (entry: Entry) => string;
  isMovable: (entry: Entry) => boolean;
  onOpen: (entry: Entry) => void;
  onLay: (day: LocalDate) => void;
}

/** One day: what it holds, what stands on it in words, and its hours. */
export const DayRow = memo(function DayRow({
  day,
  today,
  now,
  told,
  closed,
  laid,
  laying,
  layingTitle,
  away,
  over,
  numbered,
  titleOf,
  isMovable,
  onOpen,
  onLay,
}: DayRowProps) {
  const look = useLook();
  const wide = useWide();
  const { date, entries } = day;
  const isToday = date === today;
  const isOver = overBy(day) > 0;
  const load = loadText(day);
  return (
    <View
      role="group"
      aria-label={longDay(date)}
      style={{
        borderTopWidth: 1,
        borderTopColor: look.line,
        backgroundColor: over ? look.slateFill : isToday ? look.card : 'transparent',
        paddingHorizontal: 20,
        paddingTop: 8,
        paddingBottom: 4,
        ...(wide ? { flexDirection: 'row', gap: 12 } : {}),
      }}
      {...({ dataSet: { day: date } } as object)}
    >
      <View style={wide ? { width: rem(168) } : DAY_HEAD}>
        <Heading
          level={2}
          size={17}
          tint={closed || date < today ? 'soft' : 'ink'}
          style={{ flexShrink: 0 }}
        >
          {dayName(date)}
        </Heading>
        <View style={wide ? { gap: 2, paddingTop: 2 } : { flexShrink: 1, alignItems: 'flex-end' }}>
          {load ? (
            <Words size={14} weight={isOver ? 700 : 400} tint={isOver ? 'ink' : 'soft'}>
              {load}
            </Words>
          ) : null}
          {told ? (
            <Words size={14} tint="soft">
              {told}
            </Words>
          ) : null}
        </View>
      </View>
      <View style={{ flex: wide ? 1 : undefined, minWidth: 0 } as object}>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 6 }}>
          {withoutCopies(entries).map(({ entry, hours }) => {
            const name = entryKey(entry);
            return (
              <Chip
                key={name}
                entry={entry}
                {...(hours ? { hours } : {})}
                name={name}
                title={titleOf(entry)}
                movable={isMovable(entry)}
                away={away === name}
                onOpen={() => onOpen(entry)}
              />
            );
          })}
          {laying.map((entry) => (
            <Chip
              key={entry.todo}
              entry={entry}
              name={entry.todo}
              title={layingTitle(entry.todo)}
              movable
              hollow
              away={away === entry.todo}
              onOpen={NOTHING}
            />
          ))}
        </View>
        <HourRuler
          day={date}
          entries={entries}
          laid={laid}
          now={isToday ? now : null}
          over={over?.at ?? null}
          numbered={numbered}
        />
        {laid.length ? (
          <View
            style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 14 }}
          >
            <Words size={14} tint="soft">
              {laid
                .map(({ key, at }) => {
                  const entry = entries.find((it) => entryKey(it) === key);
                  return `${at} ${entry ? titleOf(entry) : ''}`;
                })
                .join(', ')}
            </Words>
            <WordLink
              label="Take these hours"
              name={`Take these hours: ${longDay(date)}`}
              onPress={() => onLay(date)}
            />
          </View>
        ) : null}
      </View>
    </View>
  );
});

const NOTHING = () => undefined;

/** What ended several times on a day stands there once, with its hours. */
function withoutCopies(entries: readonly Entry[]): { entry: Entry; hours: string | null }[] {
  const found = new Map<string, { entry: Entry; hours: string | null }>();
  for (const entry of entries) {
    const key = isToDo(entry) ? entryKey(entry) : `${entry.kind} ${entry.todo}`;
    const known = found.get(key);
    if (!known) found.set(key, { entry, hours: null });
    else if (entry.at) known.hours = `${known.hours ?? known.entry.at ?? ''}, ${entry.at}`;
  }
  return [...found.values()];
}

const DAY_HEAD = {
  flexDirection: 'row',
  justifyContent: 'space-between',
  alignItems: 'baseline',
  gap: 12,
} as const;

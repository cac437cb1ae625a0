import { momentText, shortDate, type LocalDate, type Pause, type Weekday } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Action } from '../../ui/Action.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { useInSight } from '../../ui/inSight.ts';
import { AnyDay } from './AnyDay.tsx';
import { later } from '../../ui/span.ts';

interface PauseSpanProps {
  /** What is paused: “everything”, a title. */
  of: string;
  today: LocalDate;
  weekStart: Weekday;
  onPause: (pause: Pause, words: string) => void;
}

const LENGTHS: { label: string; days: number | null }[] = [
  { label: 'for a week', days: 7 },
  { label: 'for two weeks', days: 14 },
  { label: 'for a month', days: 30 },
  { label: 'until I resume it', days: null },
];

/** From which day through which: now, or a holiday in advance. */
export function PauseSpan({ of, today, weekStart, onPause }: PauseSpanProps) {
  const [from, setFrom] = useState(today);
  const [to, setTo] = useState<LocalDate | null>(null);
  const opened = useInSight();
  const first = momentText(from, today, true);
  const pause = (last: LocalDate | null) =>
    onPause({ from, to: last }, pauseText({ from, to: last }, today));
  return (
    <View ref={opened} role="group" aria-label={`Pause ${of}`} style={{ gap: 4 }}>
      <Words size={15.5}>
        {to === null
          ? `From ${first}, ${from === today ? 'or another first day' : 'that day included'}.`
          : `From ${first} through ${momentText(to, today)}: back on ${momentText(later(to, 1), today)}.`}
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
        <AnyDay
          label="its first day"
          name={`The first day of the pause of ${of}`}
          value={from}
          today={today}
          from={today}
          weekStart={weekStart}
          onPick={(day) => {
            setFrom(day);
            if (to !== null && to < day) setTo(null);
          }}
        />
        <AnyDay
          label="its last day"
          name={`The last day of the pause of ${of}`}
          value={to}
          today={today}
          from={from}
          weekStart={weekStart}
          onPick={setTo}
        />
      </View>
      {to === null ? (
        <View
          style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 16, alignItems: 'center' }}
        >
          <Words size={15} tint="soft">
            {`From ${first}`}
          </Words>
          {LENGTHS.map(({ label, days }) => (
            <WordLink
              key={label}
              label={label}
              name={`Pause ${of} ${label}`}
              onPress={() => pause(days === null ? null : later(from, days - 1))}
            />
          ))}
        </View>
      ) : (
        <View style={{ alignItems: 'flex-start' }}>
          <Action label="Pause it so" name={`Pause ${of} so`} filled onPress={() => pause(to)} />
        </View>
      )}
    </View>
  );
}

/** “Paused from Mon 7 through Sun 20 Dec, back on Mon 21 Dec.” */
export function pauseText({ from, to }: Pause, today: LocalDate): string {
  const begins = from > today ? ` from ${shortDate(from, today)}` : '';
  return to === null
    ? `Paused${begins} until you resume it.`
    : `Paused${begins} through ${shortDate(to, today)}, back on ${shortDate(later(to, 1), today)}.`;
}

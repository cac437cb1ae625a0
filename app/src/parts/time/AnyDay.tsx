import { momentText, type LocalDate, type Weekday } from '@back-again/core';
import { useEffect, useRef, useState } from 'react';
import { View } from 'react-native';
import { DayPicker } from '../../ui/DayPicker.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { inSight } from '../../ui/inSight.ts';

interface AnyDayProps {
  /** The word that opens it: “another day”. */
  label: string;
  /** What the day is for: “Move Weigh the hives”. */
  name: string;
  /** The day that it is now; null where there is none. */
  value: LocalDate | null;
  today: LocalDate;
  weekStart: Weekday;
  from?: LocalDate;
  until?: LocalDate;
  /** Whether the month is there at once. */
  isOpen?: boolean;
  onPick: (day: LocalDate) => void;
}

/** Any day at all, from a small month that opens in place. */
export function AnyDay({
  label,
  name,
  value,
  today,
  weekStart,
  from,
  until,
  isOpen: isOpenAtFirst = false,
  onPick,
}: AnyDayProps) {
  const [isOpen, setOpen] = useState(isOpenAtFirst);
  const month = useRef<View>(null);
  useEffect(() => {
    if (isOpen) inSight(month.current);
  }, [isOpen]);
  return (
    <View>
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink
          label={label}
          name={`${label}: ${name}`}
          expanded={isOpen}
          onPress={() => setOpen(!isOpen)}
        />
      </View>
      {isOpen ? (
        <View ref={month} role="group" aria-label={name} style={{ maxWidth: 380 }}>
          {value === null ? null : (
            <Words size={14.5} tint="soft">
              {`Now: ${momentText(value, today, true)}`}
            </Words>
          )}
          <DayPicker
            name={name}
            value={value}
            today={today}
            weekStart={weekStart}
            {...(from === undefined ? {} : { from })}
            {...(until === undefined ? {} : { until })}
            onChange={onPick}
          />
        </View>
      ) : null}
    </View>
  );
}

import { momentText, type LocalDate, type Weekday } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { DayPicker } from '../../ui/DayPicker.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { useInSight } from '../../ui/inSight.ts';

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
export function AnyDay({ label, isOpen: isOpenAtFirst = false, ...month }: AnyDayProps) {
  const [isOpen, setOpen] = useState(isOpenAtFirst);
  return (
    <View>
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink
          label={label}
          name={`${label}: ${month.name}`}
          expanded={isOpen}
          onPress={() => setOpen(!isOpen)}
        />
      </View>
      {isOpen ? <Month {...month} /> : null}
    </View>
  );
}

function Month({ onPick, ...rest }: Omit<AnyDayProps, 'label' | 'isOpen'>) {
  const { name, value, today } = rest;
  const opened = useInSight();
  return (
    <View ref={opened} role="group" aria-label={name} style={{ maxWidth: 380 }}>
      {value === null ? null : (
        <Words size={14.5} tint="soft">
          {`Now: ${momentText(value, today, true)}`}
        </Words>
      )}
      <DayPicker {...rest} onChange={onPick} />
    </View>
  );
}

import { WEEKDAYS, type Weekday } from '@back-again/core';
import { Toggles } from './Toggles.tsx';
import { WEEKDAYS as NAMES } from './dates.ts';

interface WeekdayTogglesProps {
  label: string;
  value: readonly Weekday[];
  weekStart: Weekday;
  onChange: (days: Weekday[]) => void;
}

/** The days of the week, each of which can be chosen; they are given in order from Monday. */
export function WeekdayToggles({ label, value, weekStart, onChange }: WeekdayTogglesProps) {
  const first = WEEKDAYS.indexOf(weekStart);
  const items = WEEKDAYS.map((_, i) => {
    const index = (i + first) % 7;
    const name = NAMES[index]!;
    return { value: WEEKDAYS[index]!, name, short: name.slice(0, 3) };
  });
  return (
    <Toggles
      label={label}
      items={items}
      value={value}
      columns={7}
      onToggle={(day, on) =>
        onChange(WEEKDAYS.filter((other) => (other === day ? on : value.includes(other))))
      }
    />
  );
}

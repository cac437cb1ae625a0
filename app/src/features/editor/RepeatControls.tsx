import { dateOf, parseDay, weekdayIndex, type LocalDate } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Choice } from '../../ui/Choice.tsx';
import { Toggles } from '../../ui/Toggles.tsx';
import { WeekdayToggles } from '../../ui/WeekdayToggles.tsx';
import { Words } from '../../ui/Words.tsx';
import { MONTHS, WEEKDAYS as NAMES } from '../../ui/dates.ts';
import { DayPicker } from '../../ui/DayPicker.tsx';
import { Stepper } from './Panel.tsx';
import {
  MOST_STEP,
  countsWorkdays,
  kindOf,
  lackingOf,
  monthWayOf,
  monthWaysOf,
  monthsOf,
  stepOf,
  weekdaysOf,
  withDates,
  withKind,
  withLacking,
  withMonthWay,
  withMonths,
  withQuota,
  withStep,
  withWeekdays,
  withWorkdays,
  type ControlsProps,
  type Kind,
  type MonthWay,
  type StepUnit,
} from './edit.ts';

const KINDS: { value: Kind; label: string }[] = [
  { value: 'fixed', label: 'by the calendar' },
  { value: 'after', label: 'after I finish' },
  { value: 'picked', label: 'on dates I pick' },
  { value: 'quota', label: 'so often a week or month' },
  { value: 'once', label: 'once' },
];
const MEANING: Record<Kind, string> = {
  fixed: 'On its days, whatever day you do it.',
  after: 'Counted from the day on which you finish it.',
  picked: 'On these dates, in no pattern.',
  quota: 'On days that you choose: so often in each day, week or month.',
  once: 'It does not come back.',
};
const UNITS: StepUnit[] = ['day', 'week', 'month', 'year'];

/** How it comes back: its kind, its step, its days, its months. */
export function RepeatControls({ series, person, onChange }: ControlsProps) {
  const kind = kindOf(series);
  const { n, unit } = stepOf(series);
  const units: StepUnit[] = kind === 'after' ? ['hour', ...UNITS] : UNITS;
  const setStep = (step: { n: number; unit: StepUnit }) => onChange(withStep(series, step, person));
  return (
    <View>
      <Choice
        label="Kind"
        options={KINDS}
        value={kind}
        onChange={(next) => onChange(withKind(series, next, person))}
      />
      <Words size={15} tint="soft">
        {MEANING[kind]}
      </Words>
      {kind === 'picked' ? (
        <DatesControls series={series} person={person} onChange={onChange} />
      ) : null}
      {kind === 'quota' ? <QuotaControls series={series} onChange={onChange} /> : null}
      {kind === 'once' || kind === 'picked' || kind === 'quota' ? null : (
        <>
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10, paddingTop: 8 }}>
            <Words size={16}>{kind === 'fixed' ? 'Every' : 'After'}</Words>
            <Stepper
              label={kind === 'fixed' ? 'Every how many' : 'After how many'}
              value={n}
              most={MOST_STEP}
              onChange={(next) => setStep({ n: next, unit })}
            />
          </View>
          <Choice
            label="Unit"
            options={units.map((value) => ({ value, label: n === 1 ? value : `${value}s` }))}
            value={unit}
            onChange={(next) => setStep({ n, unit: next })}
          />
        </>
      )}
      {kind === 'fixed' && unit === 'week' && weekdaysOf(series).length ? (
        <WeekdayToggles
          label="Days of the week"
          value={weekdaysOf(series)}
          weekStart={person.weekStart}
          onChange={(days) => onChange(withWeekdays(series, days, person))}
        />
      ) : null}
      {kind === 'fixed' && unit === 'month' ? (
        <Choice
          label="Which day of the month"
          options={monthWaysOf(series.start!).map((value) => ({
            value,
            label: monthWayText(value, series.start!),
          }))}
          value={monthWayOf(series)}
          onChange={(way) => onChange(withMonthWay(series, way))}
        />
      ) : null}
      {kind === 'fixed' ? (
        <MonthControls series={series} person={person} onChange={onChange} />
      ) : null}
      {kind === 'fixed' && unit === 'day' ? (
        <Choice
          label="Which days"
          options={DAY_KINDS}
          value={countsWorkdays(series) ? 'work' : 'all'}
          onChange={(which) => onChange(withWorkdays(series, which === 'work', person))}
        />
      ) : null}
      {lackingOf(series) ? (
        <>
          <Words size={15} tint="soft">
            In a month that has no such day
          </Words>
          <Choice
            label="In a month that has no such day"
            options={LACKING}
            value={lackingOf(series)}
            onChange={(lacking) => onChange(withLacking(series, lacking))}
          />
        </>
      ) : null}
    </View>
  );
}

const DAY_KINDS = [
  { value: 'all', label: 'all days' },
  { value: 'work', label: 'my working days' },
] as const;

const LACKING = [
  { value: 'last', label: 'its last day' },
  { value: 'omit', label: 'left out' },
] as const;

/** How many times in each day, week or month. */
function QuotaControls({ series, onChange }: Pick<ControlsProps, 'series' | 'onChange'>) {
  const { repeat } = series;
  if (repeat?.by !== 'quota') return null;
  const { times, per } = repeat;
  return (
    <View>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10, paddingTop: 8 }}>
        <Stepper
          label="How many times"
          value={times}
          most={MOST_STEP}
          onChange={(n) => onChange(withQuota(series, n, per))}
        />
        <Words size={16}>{times === 1 ? 'time in each' : 'times in each'}</Words>
      </View>
      <Choice
        label="In each"
        options={PERS}
        value={per}
        onChange={(next) => onChange(withQuota(series, times, next))}
      />
    </View>
  );
}

const PERS = [
  { value: 'day', label: 'day' },
  { value: 'week', label: 'week' },
  { value: 'month', label: 'month' },
] as const;

/** The months of the year in which it comes: all, or those that are chosen. */
function MonthControls({ series, person, onChange }: ControlsProps) {
  const months = monthsOf(series);
  const [choosing, setChoosing] = useState(false);
  if (!months) return null;
  const some = choosing || months.length < 12;
  const set = (next: readonly number[]) => onChange(withMonths(series, next, person));
  const choose = (which: 'all' | 'some') => {
    setChoosing(which === 'some');
    // One month to begin with, to which others are added.
    set(which === 'all' ? ALL : [dateOf(parseDay(series.start!)).month]);
  };
  return (
    <>
      <Choice
        label="In which months"
        options={MONTH_KINDS}
        value={some ? 'some' : 'all'}
        onChange={choose}
      />
      {some ? (
        <Toggles
          label="Months"
          columns={6}
          items={MONTHS.map((name, i) => ({ value: i + 1, name, short: name.slice(0, 3) }))}
          value={months}
          onToggle={(month, on) => set(on ? [...months, month] : months.filter((n) => n !== month))}
        />
      ) : null}
    </>
  );
}

const ALL = MONTHS.map((_, i) => i + 1);
const MONTH_KINDS = [
  { value: 'all', label: 'in all months' },
  { value: 'some', label: 'in some months' },
] as const;

/** Dates in no pattern: touched once they are in, touched again they are out. */
function DatesControls({ series, person, onChange }: ControlsProps) {
  const dates = series.repeat?.by === 'dates' ? series.repeat.dates : [];
  const toggle = (date: LocalDate) => {
    const next = dates.includes(date) ? dates.filter((it) => it !== date) : [...dates, date];
    if (next.length > 1) onChange(withDates(series, next));
  };
  return (
    <DayPicker value={dates} today={person.today} weekStart={person.weekStart} onChange={toggle} />
  );
}

const NTH = ['first', 'second', 'third', 'fourth'];

function monthWayText(way: MonthWay, start: LocalDate): string {
  const day = parseDay(start);
  const { day: n } = dateOf(day);
  const weekday = NAMES[weekdayIndex(day)]!;
  switch (way) {
    case 'day':
      return `day ${n}`;
    case 'weekday':
      return `the ${NTH[Math.ceil(n / 7) - 1]} ${weekday}`;
    case 'lastWeekday':
      return `the last ${weekday}`;
    case 'lastDay':
      return 'its last day';
    case 'firstWorkday':
      return 'its first working day';
    case 'lastWorkday':
      return 'its last working day';
  }
}

import {
  addMonths,
  dateOf,
  formatDay,
  parseDay,
  parseTime,
  weekdayIndex,
  type LocalDate,
  type Series,
} from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Field } from '../../ui/Field.tsx';
import { WeekdayToggles } from '../../ui/WeekdayToggles.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { WEEKDAYS as NAMES } from '../../ui/dates.ts';
import { DayPicker } from './DayPicker.tsx';
import { Choice, Panel, Stepper } from './Panel.tsx';
import { PANEL_NAMES, type PanelName } from './Sentence.tsx';
import {
  MOST_STEP,
  countsWorkdays,
  kindOf,
  lackingOf,
  monthWayOf,
  monthWaysOf,
  stepOf,
  weekdaysOf,
  withClosed,
  withDates,
  withEnds,
  withKind,
  withLacking,
  withMonthWay,
  withStart,
  withStep,
  withTime,
  withWeekdays,
  withWorkdays,
  type Kind,
  type MonthWay,
  type Person,
  type StepUnit,
} from './edit.ts';

interface ControlsProps {
  series: Series;
  person: Person;
  onChange: (series: Series) => void;
}

/** The controls that belong to one part of the sentence. */
export function Controls({
  panel,
  onClose,
  ...rest
}: ControlsProps & { panel: PanelName; onClose: () => void }) {
  return (
    <Panel title={PANEL_NAMES[panel]} onClose={onClose}>
      {panel === 'repeat' ? <RepeatControls {...rest} /> : null}
      {panel === 'start' ? <StartControls {...rest} /> : null}
      {panel === 'at' ? <TimeControls {...rest} /> : null}
      {panel === 'ends' ? <EndsControls {...rest} /> : null}
      {panel === 'closed' ? <ClosedControls {...rest} /> : null}
    </Panel>
  );
}

const KINDS: { value: Kind; label: string }[] = [
  { value: 'fixed', label: 'fixed' },
  { value: 'after', label: 'after I finish' },
  { value: 'picked', label: 'on dates I pick' },
  { value: 'once', label: 'once' },
];
const MEANING: Record<Kind, string> = {
  fixed: 'By the calendar, whatever day you do it.',
  after: 'Counted from the day on which you finish it.',
  picked: 'On these dates, in no pattern.',
  once: 'It does not come back.',
};
const UNITS: StepUnit[] = ['day', 'week', 'month', 'year'];

function RepeatControls({ series, person, onChange }: ControlsProps) {
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
      {kind === 'once' || kind === 'picked' ? null : (
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

const CLOSED = [
  { value: 'keep', label: 'that day all the same' },
  { value: 'before', label: 'the working day before' },
  { value: 'after', label: 'the working day after' },
  { value: 'nearest', label: 'the nearest working day' },
  { value: 'drop', label: 'not at all' },
] as const;

function ClosedControls({ series, onChange }: ControlsProps) {
  const kind = kindOf(series);
  const options = CLOSED.filter(
    ({ value }) => value !== 'drop' || kind === 'fixed' || kind === 'picked',
  );
  return (
    <View>
      <Words size={15} tint="soft">
        Closed are the days on which you do not work, and public holidays. Settings say which.
      </Words>
      <Choice
        label="When that day is closed"
        options={options}
        value={series.closedDays ?? 'keep'}
        onChange={(how) => onChange(withClosed(series, how))}
      />
    </View>
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

function StartControls({ series, person, onChange }: ControlsProps) {
  return (
    <View>
      <DayPicker
        value={series.start}
        today={person.today}
        weekStart={person.weekStart}
        onChange={(date) => onChange(withStart(series, date, person))}
      />
      {series.repeat ? null : (
        <WordLink
          label="no date yet"
          selected={series.start === null}
          onPress={() => onChange(withStart(series, null, person))}
        />
      )}
    </View>
  );
}

const TIMES = ['08:00', '13:00', '18:00'];

function TimeControls({ series, person, onChange }: ControlsProps) {
  const at = series.at?.[0] ?? null;
  const [text, setText] = useState(at ?? '');
  const set = (time: string | null) => {
    setText(time ?? '');
    onChange(withTime(series, time, person));
  };
  const typed = (value: string) => {
    setText(value);
    try {
      parseTime(value);
    } catch {
      return;
    }
    onChange(withTime(series, value, person));
  };
  return (
    <View style={{ gap: 6 }}>
      <Choice
        label="Time of day"
        options={[
          { value: '', label: 'any time' },
          ...TIMES.map((value) => ({ value, label: value })),
        ]}
        value={at ?? ''}
        onChange={(value) => set(value || null)}
      />
      <View style={{ maxWidth: 200 }}>
        <Field
          label="Another time"
          placeholder="07:30"
          value={text}
          onChangeText={typed}
          inputMode="text"
          hint="Hours and minutes, as 07:30."
        />
      </View>
    </View>
  );
}

function EndsControls({ series, person, onChange }: ControlsProps) {
  const { ends } = series;
  const kind = !ends ? 'never' : 'on' in ends ? 'on' : 'after' in ends ? 'after' : 'within';
  const start = series.start ?? person.today;
  const choose = (next: 'never' | 'on' | 'after') => {
    if (next === 'never') onChange(withEnds(series, null));
    if (next === 'on') onChange(withEnds(series, { on: formatDay(addMonths(parseDay(start), 3)) }));
    if (next === 'after') onChange(withEnds(series, { after: 10 }));
  };
  return (
    <View>
      <Choice
        label="Ends"
        options={[
          { value: 'never', label: 'no end' },
          { value: 'on', label: 'until a date' },
          { value: 'after', label: 'so many times' },
        ]}
        value={kind === 'within' ? null : kind}
        onChange={choose}
      />
      {ends && 'on' in ends ? (
        <DayPicker
          value={ends.on}
          today={person.today}
          from={start}
          weekStart={person.weekStart}
          onChange={(on) => onChange(withEnds(series, { on }))}
        />
      ) : null}
      {ends && 'after' in ends ? (
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10 }}>
          <Stepper
            label="How many times"
            value={ends.after}
            most={9999}
            onChange={(after) => onChange(withEnds(series, { after }))}
          />
          <Words size={16}>
            {`${ends.after === 1 ? 'time' : 'times'}${series.repeat?.by === 'completion' ? ' done' : ''}`}
          </Words>
        </View>
      ) : null}
    </View>
  );
}

import {
  WEEKDAYS,
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
import { Pressable, View } from 'react-native';
import { Field } from '../../ui/Field.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { WEEKDAYS as NAMES } from '../../ui/dates.ts';
import { THUMB, useLook } from '../../ui/look.ts';
import { DayPicker } from './DayPicker.tsx';
import { Choice, Panel, Stepper } from './Panel.tsx';
import { PANEL_NAMES, type PanelName } from './Sentence.tsx';
import {
  MOST_STEP,
  kindOf,
  monthWayOf,
  monthWaysOf,
  stepOf,
  weekdaysOf,
  withEnds,
  withKind,
  withMonthWay,
  withStart,
  withStep,
  withTime,
  withWeekdays,
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
    </Panel>
  );
}

const KINDS: { value: Kind; label: string }[] = [
  { value: 'fixed', label: 'fixed' },
  { value: 'after', label: 'after I finish' },
  { value: 'once', label: 'once' },
];
const MEANING: Record<Kind, string> = {
  fixed: 'By the calendar, whatever day you do it.',
  after: 'Counted from the day on which you finish it.',
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
      {kind === 'once' ? null : (
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
      {kind === 'fixed' && unit === 'week' ? (
        <WeekdayControls series={series} person={person} onChange={onChange} />
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
  }
}

function WeekdayControls({ series, person, onChange }: ControlsProps) {
  const look = useLook();
  const chosen = weekdaysOf(series);
  const first = WEEKDAYS.indexOf(person.weekStart);
  return (
    <View role="group" aria-label="Days of the week" style={{ flexDirection: 'row', gap: 4 }}>
      {WEEKDAYS.map((_, i) => {
        const index = (i + first) % 7;
        const day = WEEKDAYS[index]!;
        const on = chosen.includes(day);
        const next = on ? chosen.filter((other) => other !== day) : [...chosen, day];
        return (
          <Pressable
            key={day}
            role="button"
            aria-label={NAMES[index]!}
            aria-pressed={on}
            onPress={() => onChange(withWeekdays(series, next, person))}
            style={{
              flex: 1,
              maxWidth: 56,
              height: THUMB,
              borderRadius: 10,
              alignItems: 'center',
              justifyContent: 'center',
              borderWidth: 1.5,
              borderColor: on ? look.ink : look.track,
              backgroundColor: on ? look.ink : 'transparent',
            }}
          >
            <Words size={14.5} weight={650} style={{ color: on ? look.paper : look.ink }}>
              {NAMES[index]!.slice(0, 3)}
            </Words>
          </Pressable>
        );
      })}
    </View>
  );
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

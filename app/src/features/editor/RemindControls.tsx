import {
  AT_DUE,
  WEEKDAYS,
  type Channel,
  type LocalTime,
  type Reminder,
  type ReminderOf,
} from '@back-again/core';
import { useRef, useState } from 'react';
import { View } from 'react-native';
import { Choice } from '../../ui/Choice.tsx';
import { newId } from '../../data/ids.ts';
import { HourField } from '../../ui/HourField.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { WEEKDAYS as NAMES } from '../../ui/dates.ts';
import { SpanControl } from './DetailControls.tsx';
import { Stepper } from './Panel.tsx';
import { withReminders, type ControlsProps, type StepUnit } from './edit.ts';

const FRESH: { label: string; reminder: Reminder }[] = [
  { label: 'on the day', reminder: {} },
  { label: 'when it is due', reminder: { before: AT_DUE } },
  { label: 'the day before', reminder: { before: 'P1D' } },
  { label: 'a week before', reminder: { before: 'P1W' } },
  { label: 'on the Friday before', reminder: { on: 'FR' } },
  { label: '2 hours before', reminder: { before: 'PT2H' } },
];

export function RemindControls({ series, person, onChange }: ControlsProps) {
  const reminders = series.reminders ?? [];
  const set = (next: readonly Reminder[]) => onChange(withReminders(series, next, person));
  // Each keeps what is its own (what is typed, what is unfolded) when another one goes.
  const keys = useRef<string[]>([]);
  while (keys.current.length < reminders.length) keys.current.push(newId());
  keys.current.length = reminders.length;
  const takeAway = (i: number) => {
    keys.current.splice(i, 1);
    set(reminders.filter((_, k) => k !== i));
  };
  const sameAs = (it: Reminder) =>
    reminders.some((other) => JSON.stringify(other) === JSON.stringify(it));
  return (
    <View style={{ gap: 8 }}>
      {reminders.map((reminder, i) => (
        <OneReminder
          key={keys.current[i]}
          number={i + 1}
          reminder={reminder}
          onChange={(next) => set(reminders.map((it, k) => (k === i ? next : it)))}
          onTakeAway={() => takeAway(i)}
        />
      ))}
      <Words size={16} weight={600}>
        {reminders.length ? 'Another one' : 'Remind me'}
      </Words>
      <View
        role="group"
        aria-label="Add a reminder"
        style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}
      >
        {FRESH.filter(({ reminder }) => !sameAs(reminder)).map(({ label, reminder }) => (
          <WordLink
            key={label}
            label={label}
            size={16}
            name={`Remind me ${label}`}
            onPress={() => set([...reminders, reminder])}
          />
        ))}
      </View>
    </View>
  );
}

interface OneReminderProps {
  number: number;
  reminder: Reminder;
  onChange: (reminder: Reminder) => void;
  onTakeAway: () => void;
}

const OF: readonly { value: ReminderOf; label: string }[] = [
  { value: 'due', label: 'it is due' },
  { value: 'plan', label: 'I plan to do it' },
  { value: 'opens', label: 'it opens' },
];
const AGAIN = [
  { value: '', label: 'no' },
  { value: 'PT1H', label: 'every hour' },
  { value: 'PT3H', label: 'every 3 hours' },
  { value: 'P1D', label: 'every day' },
] as const;
const HOW: readonly { value: Channel | ''; label: string }[] = [
  { value: '', label: 'as in Settings' },
  { value: 'app', label: 'in the app alone' },
  { value: 'browser', label: 'in the browser' },
  { value: 'email', label: 'by e-mail' },
  { value: 'text', label: 'by text message' },
];
const OFTEN = 3;
const MOST_AGAIN = 99;

/** From what it is counted, how often it is said again, and in which way. */
function MoreOfIt({ number, reminder, onChange }: Omit<OneReminderProps, 'onTakeAway'>) {
  const { of, again, channel } = reminder;
  const change = <K extends 'of' | 'again' | 'channel'>(part: K, value: Reminder[K] | null) => {
    const { [part]: _before, ...rest } = reminder;
    onChange(value ? { ...rest, [part]: value } : rest);
  };
  return (
    <View>
      <Words size={15} weight={600}>
        Counted from the day on which
      </Words>
      <Choice
        label={`Reminder ${number}: counted from`}
        options={OF}
        value={of ?? 'due'}
        onChange={(next) => change('of', next === 'due' ? null : next)}
      />
      <Words size={15} weight={600}>
        Said again until it is done
      </Words>
      <Choice
        label={`Reminder ${number}: said again`}
        options={AGAIN}
        value={AGAIN.find(({ value }) => value === (again?.every ?? ''))?.value ?? null}
        onChange={(every) =>
          change('again', every ? { every, atMost: again?.atMost ?? OFTEN } : null)
        }
      />
      {again ? (
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10, flexWrap: 'wrap' }}>
          <Words size={15}>at most</Words>
          <Stepper
            label={`Reminder ${number}: how often at most`}
            value={again.atMost}
            most={MOST_AGAIN}
            onChange={(atMost) => change('again', { ...again, atMost })}
          />
          <Words size={15}>more times</Words>
        </View>
      ) : null}
      <Words size={15} weight={600}>
        How
      </Words>
      <Choice
        label={`Reminder ${number}: how`}
        options={HOW}
        value={channel ?? ''}
        onChange={(next) => change('channel', next || null)}
      />
    </View>
  );
}

const BEFORE_ON = WEEKDAYS.map((value, i) => ({ value, label: `${NAMES[i]!} before` }));
const UNITS: readonly StepUnit[] = ['hour', 'day', 'week', 'month'];

/** How long before, and at what time of day. */
function OneReminder({ number, reminder, onChange, onTakeAway }: OneReminderProps) {
  const { before, at } = reminder;
  const [more, setMore] = useState(
    reminder.of !== undefined || reminder.again !== undefined || reminder.channel !== undefined,
  );
  const isHours = before?.includes('T') ?? false;
  const setBefore = (span: string) => {
    const { at: _at, ...rest } = reminder;
    onChange({ ...(span.includes('T') ? rest : reminder), before: span });
  };
  const setHour = (time: LocalTime | null) => {
    const { at: _at, ...rest } = reminder;
    onChange(time === null ? rest : { ...rest, at: time });
  };
  return (
    <View role="group" aria-label={`Reminder ${number}`} style={{ gap: 4 }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 14 }}>
        <Words size={16} weight={600}>
          {`Reminder ${number}`}
        </Words>
        <WordLink
          label="Take away"
          name={`Take away reminder ${number}`}
          size={15}
          onPress={onTakeAway}
        />
      </View>
      {reminder.on !== undefined ? (
        <Choice
          label={`Reminder ${number}: the last such day before`}
          options={BEFORE_ON}
          value={reminder.on}
          onChange={(on) => onChange({ ...reminder, on })}
        />
      ) : before === undefined || before === AT_DUE ? (
        <Words size={16}>{before === AT_DUE ? 'When it is due' : 'On the day'}</Words>
      ) : (
        <SpanControl label="How long before" value={before} units={UNITS} onChange={setBefore} />
      )}
      {isHours ? null : (
        <View style={{ maxWidth: 200 }}>
          <HourField
            label="At"
            placeholder="18:00"
            value={at}
            onChange={setHour}
            hint="Empty: at your usual hour."
          />
        </View>
      )}
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink
          label={more ? 'Less' : 'Repeat it, or send it another way'}
          name={`${more ? 'Less' : 'Repeat it, or send it another way'}: reminder ${number}`}
          expanded={more}
          size={15}
          onPress={() => setMore(!more)}
        />
      </View>
      {more ? <MoreOfIt number={number} reminder={reminder} onChange={onChange} /> : null}
    </View>
  );
}

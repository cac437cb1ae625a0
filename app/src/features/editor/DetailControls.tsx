import { MOST_PLACE, MOST_TAKES } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Choice } from '../../ui/Choice.tsx';
import { Field } from '../../ui/Field.tsx';
import { Words } from '../../ui/Words.tsx';
import { Stepper } from './Panel.tsx';
import {
  MOST_STEP,
  spanOfStep,
  stepOfSpan,
  withPart,
  type ControlsProps,
  type StepUnit,
} from './edit.ts';

/** The controls of what each time is filled in with. */

interface SpanControlProps {
  label: string;
  value: string;
  units: readonly StepUnit[];
  onChange: (span: string) => void;
}

/** A number of days, weeks, months: how long before. */
export function SpanControl({ label, value, units, onChange }: SpanControlProps) {
  const { n, unit } = stepOfSpan(value);
  return (
    <View>
      <Stepper
        label={label}
        value={n}
        most={MOST_STEP}
        onChange={(next) => onChange(spanOfStep({ n: next, unit }))}
      />
      <Choice
        label={`${label}: unit`}
        options={units.map((it) => ({ value: it, label: n === 1 ? it : `${it}s` }))}
        value={unit}
        onChange={(next) => onChange(spanOfStep({ n, unit: next }))}
      />
    </View>
  );
}

const OPENS = [
  { value: 'due', label: 'on its due day' },
  { value: 'before', label: 'some time before' },
] as const;

export function OpensControls({ series, onChange }: ControlsProps) {
  const { opensBefore } = series;
  return (
    <View>
      <Words size={15} tint="soft">
        From the day on which it opens it can be done, and is shown.
      </Words>
      <Choice
        label="When it opens"
        options={OPENS}
        value={opensBefore === undefined ? 'due' : 'before'}
        onChange={(next) =>
          onChange(withPart(series, 'opensBefore', next === 'due' ? null : 'P3D'))
        }
      />
      {opensBefore === undefined ? null : (
        <SpanControl
          label="How long before it opens"
          value={opensBefore}
          units={['day', 'week', 'month']}
          onChange={(span) => onChange(withPart(series, 'opensBefore', span))}
        />
      )}
    </View>
  );
}

const TAKES = [
  { value: '', label: 'not said' },
  { value: '15', label: '15 minutes' },
  { value: '30', label: '30 minutes' },
  { value: '60', label: '1 hour' },
  { value: '120', label: '2 hours' },
] as const;

export function TakesControls({ series, onChange }: ControlsProps) {
  const [text, setText] = useState(String(series.takes ?? ''));
  const set = (value: string) => {
    setText(value);
    onChange(withPart(series, 'takes', value ? Number(value) : null));
  };
  const typed = (value: string) => {
    const figures = value.replace(/\D/gu, '').slice(0, 4);
    setText(figures);
    const n = Number(figures);
    if (n >= 1 && n <= MOST_TAKES) onChange(withPart(series, 'takes', n));
  };
  return (
    <View style={{ gap: 6 }}>
      <Choice
        label="How long it takes"
        options={TAKES}
        value={TAKES.find(({ value }) => value === String(series.takes ?? ''))?.value ?? null}
        onChange={set}
      />
      <View style={{ maxWidth: 200 }}>
        <Field label="Minutes" value={text} onChangeText={typed} inputMode="numeric" />
      </View>
    </View>
  );
}

export function PlaceControls({ series, person, onChange }: ControlsProps) {
  const [text, setText] = useState('');
  const known = person.places ?? [];
  const { place = '' } = series;
  const isNew = place !== '' && !known.some(({ id }) => id === place);
  const typed = (value: string) => {
    setText(value);
    if (value.trim()) onChange(withPart(series, 'place', value.trim()));
  };
  return (
    <View style={{ gap: 6 }}>
      <Choice
        label="Where it belongs"
        options={[
          { value: '', label: 'nowhere yet' },
          ...known.map(({ id, name }) => ({ value: id, label: name })),
          ...(isNew ? [{ value: place, label: place }] : []),
        ]}
        value={place}
        onChange={(value) => {
          setText('');
          onChange(withPart(series, 'place', value || null));
        }}
      />
      <View style={{ maxWidth: 260 }}>
        <Field
          label="A new place"
          value={text}
          onChangeText={typed}
          maxLength={MOST_PLACE}
          hint="Such as a part of your life: home, work, the garden."
        />
      </View>
    </View>
  );
}

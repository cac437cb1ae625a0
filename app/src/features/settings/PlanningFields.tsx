import type { SettingsBody } from '@back-again/contract';
import { DEFAULT_UP, WEEKDAYS, type Weekday } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Field } from '../../ui/Field.tsx';
import type { FormParts } from '../../ui/LazyForm.tsx';
import { Heading, Words } from '../../ui/Words.tsx';
import { WEEKDAYS as NAMES } from '../../ui/dates.ts';

/** How much each day holds, and when the person is up. */
export function PlanningFields({ parts }: { parts: FormParts<SettingsBody> }) {
  const up = parts.choose('up');
  const { bind } = parts;
  const hours = up.value ?? DEFAULT_UP;
  const setUp = (part: 'from' | 'to', text: string) => up.onChange({ ...hours, [part]: text });
  const first = WEEKDAYS.indexOf((bind('weekStart').value || 'MO') as Weekday);
  return (
    <View style={{ gap: 16, paddingTop: 10 }}>
      <Heading level={2}>Planning ahead</Heading>
      <View style={{ gap: 6 }}>
        <Words size={15} weight={600}>
          How many minutes a day holds
        </Words>
        <Words size={14.5} tint="soft">
          What is planned for it is held against this. Empty: it has no measure.
        </Words>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
          {WEEKDAYS.map((_, i) => (first + i) % 7).map((index) => (
            <Measure key={index} index={index} parts={parts} />
          ))}
        </View>
        {parts.choose('holds').error ? (
          <Words size={15} weight={600}>
            A day holds 0 to 1,440 minutes.
          </Words>
        ) : null}
      </View>
      <View style={{ flexDirection: 'row', gap: 12 }}>
        <View style={{ width: 130 }}>
          <Field
            label="Up from"
            value={hours.from}
            error={parts.bind('up.from').error ?? up.error}
            onChangeText={(text) => setUp('from', text)}
          />
        </View>
        <View style={{ width: 130 }}>
          <Field label="Up until" value={hours.to} onChangeText={(text) => setUp('to', text)} />
        </View>
      </View>
    </View>
  );
}

function Measure({ index, parts }: { index: number; parts: FormParts<SettingsBody> }) {
  const holds = parts.choose('holds');
  const day = WEEKDAYS[index]!;
  const [text, setText] = useState(String(holds.value?.[day] ?? ''));
  const set = (typed: string) => {
    setText(typed);
    const { [day]: _before, ...rest } = holds.value ?? {};
    const minutes = typed.trim() === '' ? null : Number(typed);
    const next = minutes === null ? rest : { ...rest, [day]: minutes };
    holds.onChange(Object.keys(next).length ? next : undefined);
  };
  const isWrong = text.trim() !== '' && !/^\d{1,4}$/u.test(text.trim());
  return (
    <View style={{ width: 92 }}>
      <Field
        label={NAMES[index]!.slice(0, 3)}
        inputMode="numeric"
        value={text}
        error={isWrong ? 'Minutes' : undefined}
        onChangeText={set}
      />
    </View>
  );
}

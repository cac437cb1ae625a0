import type { SettingsBody } from '@back-again/contract';
import { DEFAULT_UP, WEEKDAYS, type Weekday } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Field } from '../../ui/Field.tsx';
import { NeededHour } from '../../ui/HourField.tsx';
import type { FormParts } from '../../ui/LazyForm.tsx';
import { Heading, Words } from '../../ui/Words.tsx';
import { WEEKDAYS as NAMES } from '../../ui/dates.ts';
import { rem } from '../../ui/rem.ts';
import { useWrong } from '../../ui/wrong.ts';

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
            {WRONG}
          </Words>
        ) : null}
      </View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 12 }}>
        <View style={{ width: rem(130) }}>
          <NeededHour
            label="Up from"
            value={hours.from}
            error={parts.bind('up.from').error ?? up.error}
            onChange={(time) => setUp('from', time)}
          />
        </View>
        <View style={{ width: rem(130) }}>
          <NeededHour
            label="Up until"
            value={hours.to === '24:00' ? '00:00' : hours.to}
            onChange={(time) => setUp('to', time === '00:00' ? '24:00' : time)}
          />
        </View>
      </View>
    </View>
  );
}

const WRONG = 'A day holds 0 to 1,440 minutes.';

const MOST = 1440;

/** Minutes of a day as they are typed; null for none, undefined for what is no such number. */
function minutesIn(typed: string): number | null | undefined {
  const text = typed.trim();
  if (text === '') return null;
  return /^\d{1,4}$/u.test(text) && Number(text) <= MOST ? Number(text) : undefined;
}

function Measure({ index, parts }: { index: number; parts: FormParts<SettingsBody> }) {
  const holds = parts.choose('holds');
  const day = WEEKDAYS[index]!;
  const [text, setText] = useState(String(holds.value?.[day] ?? ''));
  const set = (typed: string) => {
    setText(typed);
    const { [day]: _before, ...rest } = holds.value ?? {};
    const minutes = minutesIn(typed);
    if (minutes === undefined) return;
    const next = minutes === null ? rest : { ...rest, [day]: minutes };
    holds.onChange(Object.keys(next).length ? next : undefined);
  };
  const isWrong = minutesIn(text) === undefined;
  useWrong(`How many minutes ${NAMES[index]!} holds`, isWrong ? WRONG : null, () => undefined);
  return (
    <View style={{ width: rem(92) }}>
      <Field
        label={NAMES[index]!.slice(0, 3)}
        inputMode="numeric"
        value={text}
        error={isWrong ? 'Up to 1,440' : undefined}
        onChangeText={set}
      />
    </View>
  );
}

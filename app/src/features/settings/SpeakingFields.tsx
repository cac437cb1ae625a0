import type { SettingsBody } from '@back-again/contract';
import { DEFAULT_REMIND_AT, type Reminder } from '@back-again/core';
import { router } from 'expo-router';
import { Suspense, lazy, useState } from 'react';
import { View } from 'react-native';
import { ask, permission, type Permission } from '../../data/browserSays.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice, SomeOf } from '../../ui/Choice.tsx';
import { Field } from '../../ui/Field.tsx';
import { HourField, NeededHour } from '../../ui/HourField.tsx';
import type { FormParts } from '../../ui/LazyForm.tsx';
import { OnOff } from '../../ui/OnOff.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { rem } from '../../ui/rem.ts';

/** Where the browser may say them alone: it is not loaded before. */
const Devices = lazy(async () => ({ default: (await import('./Devices.tsx')).Devices }));

type Way = NonNullable<SettingsBody['channels']>[number];

const WAYS: readonly { value: Way; label: string }[] = [
  { value: 'browser', label: 'in the browser' },
  { value: 'email', label: 'by e-mail' },
  { value: 'text', label: 'by text message' },
];

const USUAL: readonly { value: string; label: string; reminders: Reminder[] }[] = [
  { value: 'none', label: 'none', reminders: [] },
  { value: 'day', label: 'on the day', reminders: [{}] },
  { value: 'before', label: 'the day before', reminders: [{ before: 'P1D' }] },
  { value: 'both', label: 'both', reminders: [{ before: 'P1D' }, {}] },
];
const QUIET = { from: '22:00', to: '07:00' };
const MORNING = '07:30';

interface SpeakingFieldsProps {
  parts: FormParts<SettingsBody>;
  /** Where e-mail goes. */
  address: string;
}

/** When, how and how often the person is spoken to. */
export function SpeakingFields({ parts, address }: SpeakingFieldsProps) {
  const { bind, choose } = parts;
  const remindAt = bind('remindAt');
  const channels = choose('channels');
  const chosen = channels.value ?? [];
  const isStopped = choose('noMail').value === true && !chosen.includes('email');
  const toggle = (way: Way) =>
    channels.onChange(
      WAYS.map(({ value }) => value).filter((it) => (it === way) !== chosen.includes(it)),
    );
  return (
    <View style={{ gap: 16, paddingTop: 10 }}>
      <Heading level={2}>Reminders</Heading>
      <View style={{ maxWidth: rem(260) }}>
        <HourField
          label="Your usual hour"
          hint="For reminders that name no time of their own."
          placeholder={DEFAULT_REMIND_AT}
          value={remindAt.value}
          error={remindAt.error}
          onChange={(time) => choose('remindAt').onChange((time ?? undefined) as string)}
        />
      </View>
      <Quiet parts={parts} />
      <View style={{ gap: 6 }}>
        <Words size={15} weight={600}>
          How you are reminded
        </Words>
        <Words size={14.5} tint="soft">
          {`Always in the list under Reminders. ${isStopped ? 'You stopped e-mail by a link in one: choose it here to get it again.' : `E-mail goes to ${address}.`}`}
        </Words>
        <SomeOf label="How you are reminded" options={WAYS} value={chosen} onToggle={toggle} />
        {chosen.includes('browser') ? <Browser /> : null}
      </View>
      {chosen.includes('text') ? (
        <Field
          label="Number for text messages"
          placeholder="+441632960000"
          hint="With its country in front."
          inputMode="tel"
          {...bind('phone')}
          value={bind('phone').value ?? ''}
        />
      ) : null}
      <Overview parts={parts} />
      <Usual parts={parts} />
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink label="Look into the outbox" onPress={() => router.push('/outbox')} />
      </View>
    </View>
  );
}

type Parts = Pick<SpeakingFieldsProps, 'parts'>;

/** The hours in which nothing is said. */
function Quiet({ parts: { choose } }: Parts) {
  const quiet = choose('quiet');
  const on = quiet.value !== undefined;
  return (
    <View style={{ gap: 6 }}>
      <Words size={15} weight={600}>
        Quiet hours
      </Words>
      <OnOff
        label="Quiet hours"
        words="every night"
        on={on}
        onChange={(next) => quiet.onChange(next ? QUIET : undefined)}
      />
      {on ? (
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 12 }}>
          <View style={{ width: rem(130) }}>
            <NeededHour label="From" {...choose('quiet.from')} />
          </View>
          <View style={{ width: rem(130) }}>
            <NeededHour label="Until" {...choose('quiet.to')} />
          </View>
        </View>
      ) : null}
      <Words size={14.5} tint="soft">
        What falls into them is said when they end.
      </Words>
    </View>
  );
}

function Overview({ parts: { choose } }: Parts) {
  const overview = choose('overview');
  const on = overview.value !== undefined;
  return (
    <View style={{ gap: 6 }}>
      <Words size={15} weight={600}>
        Morning overview
      </Words>
      <Words size={14.5} tint="soft">
        What is late, what is for today, what comes back soon.
      </Words>
      <OnOff
        label="Morning overview"
        words="every day"
        on={on}
        onChange={(next) => overview.onChange(next ? MORNING : undefined)}
      />
      {on ? (
        <View style={{ width: rem(130) }}>
          <NeededHour label="At" {...choose('overview')} />
        </View>
      ) : null}
    </View>
  );
}

function Usual({ parts: { choose } }: Parts) {
  const usual = choose('newReminders');
  const now = JSON.stringify(usual.value ?? []);
  const known = USUAL.find(({ reminders }) => JSON.stringify(reminders) === now);
  return (
    <View style={{ gap: 2 }}>
      <Words size={15} weight={600}>
        For each new to-do
      </Words>
      <Choice
        label="For each new to-do"
        options={USUAL}
        value={known?.value ?? null}
        onChange={(value) => {
          const { reminders } = USUAL.find((it) => it.value === value)!;
          usual.onChange(reminders.length ? reminders : undefined);
        }}
      />
      <Words size={14.5} tint="soft">
        Unless its sentence says something else. At your usual hour.
      </Words>
    </View>
  );
}

const BROWSER: Record<Permission, string> = {
  granted: 'This browser says them while a window of Back Again is open.',
  default: 'This browser asks you once whether it may.',
  denied:
    'This browser blocks them: allow notifications for this page in the browser’s own settings. Until then they are in the list.',
  none: 'This browser cannot say them. They are in the list.',
};

/** Whether this browser may say them. */
function Browser() {
  const [state, setState] = useState(permission);
  return (
    <View style={{ gap: 6, alignItems: 'flex-start' }}>
      <Words size={14.5} weight={state === 'denied' ? 650 : 400} live>
        {BROWSER[state]}
      </Words>
      {state === 'default' ? (
        <Action label="Allow it" onPress={() => void ask().then(setState)} />
      ) : null}
      {state === 'granted' ? (
        <Suspense fallback={null}>
          <Devices />
        </Suspense>
      ) : null}
    </View>
  );
}

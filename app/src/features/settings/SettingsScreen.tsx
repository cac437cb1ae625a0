import type { SettingsBody } from '@back-again/contract';
import { DEFAULT_WORKDAYS, type Weekday } from '@back-again/core';
import { router, type Href } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useDispatch } from 'react-redux';
import { api, errorOf, useSettingsMutation, useSignOutMutation } from '../../data/api.ts';
import { setLeaving } from '../../data/leaving.ts';
import { useRoom } from '../../data/room.tsx';
import { useLocal, useShown } from '../../data/todos.ts';
import { clearDraft } from '../../data/draft.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Failure } from '../../ui/Failure.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { LazyForm, type Refusal } from '../../ui/LazyForm.tsx';
import { Note } from '../../ui/Note.tsx';
import { PlanningFields } from './PlanningFields.tsx';
import { SpeakingFields } from './SpeakingFields.tsx';
import { WeekdayToggles } from '../../ui/WeekdayToggles.tsx';
import { Heading, Words } from '../../ui/Words.tsx';

const WEEK_STARTS = [
  { value: 'MO', label: 'Monday' },
  { value: 'SU', label: 'Sunday' },
  { value: 'SA', label: 'Saturday' },
];

/** How the person's days run, and the account. */
export function SettingsScreen() {
  const { person } = useShown();
  const { sync } = useRoom();
  const { pending, name } = useLocal();
  const [asking, setAsking] = useState(false);
  const [signOut] = useSignOutMutation();
  const dispatch = useDispatch();
  useEffect(() => {
    document.title = 'Settings · Back Again';
  }, []);
  const waiting = pending.filter(({ by }) => by === name).length;
  const leave = () => {
    if (waiting && !asking) {
      setAsking(true);
      return;
    }
    // From here on nothing of the person is shown, whether or not the server can be reached.
    setLeaving(true);
    void signOut();
    void sync.leave();
    clearDraft();
    dispatch(api.util.resetApiState());
  };
  return (
    <Screen>
      <View style={{ padding: 20, gap: 22, maxWidth: 520 }}>
        <Heading level={1}>Settings</Heading>
        <DaysForm settings={person.settings} address={person.name} />
        <View style={{ gap: 8, alignItems: 'flex-start' }}>
          <Heading level={2}>In and out</Heading>
          <Words tint="soft" size={15}>
            Take everything along, bring what you have elsewhere, your calendar, keys for scripts.
          </Words>
          <Action label="In and out" onPress={() => router.push('/doors' as Href)} />
        </View>
        <View style={{ gap: 8, alignItems: 'flex-start' }}>
          <Heading level={2}>Account</Heading>
          <Words>{`Signed in as ${person.name}`}</Words>
          <Action label="Password and address" onPress={() => router.push('/account' as Href)} />
          {asking ? (
            <Note
              words={
                waiting === 1
                  ? '1 change was not sent yet. Signed out, it is lost.'
                  : `${waiting} changes were not sent yet. Signed out, they are lost.`
              }
              action={{ label: 'Stay', onPress: () => setAsking(false) }}
            />
          ) : null}
          <Action label={asking ? 'Sign out all the same' : 'Sign out'} onPress={leave} />
        </View>
      </View>
    </Screen>
  );
}

function DaysForm({ settings, address }: { settings: SettingsBody; address: string }) {
  const [save] = useSettingsMutation();
  const { sync } = useRoom();
  const [kept, setKept] = useState<string | null>(null);
  const now = JSON.stringify(settings);
  const values: SettingsBody = { holidays: '', ...settings };
  const send = async (values: SettingsBody): Promise<Refusal | null> => {
    const { data, error } = await save(values);
    if (data) {
      await sync.refresh();
      setKept(JSON.stringify(data.settings));
    }
    return error ? errorOf(error) : null;
  };
  return (
    // Kept, it begins anew with what was kept.
    <LazyForm key={now} schema="settings" values={values} onSubmit={send}>
      {(parts) => {
        const { bind, choose, submit, busy, failure, changed } = parts;
        const weekStart = bind('weekStart');
        const workdays = choose('workdays');
        return (
          <View style={{ gap: 16 }}>
            <Heading level={2}>Your days</Heading>
            <Field
              label="Time zone"
              hint="By its name, such as Europe/London."
              autoCapitalize="none"
              {...bind('zone')}
            />
            <Field
              label="Your day starts at"
              hint="With 04:00, two at night still belongs to the day before."
              {...bind('dayStart')}
            />
            <View>
              <Words size={15} weight={600}>
                Your week starts on
              </Words>
              <Choice
                label="Your week starts on"
                options={WEEK_STARTS}
                value={weekStart.value}
                onChange={weekStart.onChangeText}
              />
            </View>
            <View style={{ gap: 6 }}>
              <Words size={15} weight={600}>
                Your working days
              </Words>
              <WeekdayToggles
                label="Your working days"
                value={workdays.value ?? DEFAULT_WORKDAYS}
                weekStart={weekStart.value as Weekday}
                onChange={workdays.onChange}
              />
            </View>
            <Field
              label="Public holidays of"
              hint="A country or a part of one, as GB-ENG. Empty: none are closed days."
              autoCapitalize="characters"
              {...bind('holidays')}
            />
            <PlanningFields parts={parts} />
            <SpeakingFields parts={parts} address={address} />
            <Failure words={failure} />
            <View style={{ alignItems: 'flex-start' }}>
              <Action label="Keep" name="Keep these settings" filled busy={busy} onPress={submit} />
              {kept === now && !changed ? (
                <Words tint="moss" weight={600} live>
                  Kept
                </Words>
              ) : null}
            </View>
          </View>
        );
      }}
    </LazyForm>
  );
}

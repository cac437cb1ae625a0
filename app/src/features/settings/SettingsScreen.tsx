import type { SettingsBody } from '@back-again/contract';
import { DEFAULT_WORKDAYS, type Weekday } from '@back-again/core';
import { router, type Href } from 'expo-router';
import { useEffect, useMemo, useRef, useState } from 'react';
import { View } from 'react-native';
import { useDispatch } from 'react-redux';
import {
  api,
  errorOf,
  useRegionsQuery,
  useSettingsMutation,
  useSignOutMutation,
} from '../../data/api.ts';
import { serverNow } from '../../data/local/time.ts';
import { setLeaving } from '../../data/leaving.ts';
import { useRoom } from '../../data/room.tsx';
import { useLocal, useShown } from '../../data/todos.ts';
import { clearDraft } from '../../data/draft.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { NeededHour } from '../../ui/HourField.tsx';
import { LazyForm, type FormParts, type Refusal } from '../../ui/LazyForm.tsx';
import { Note } from '../../ui/Note.tsx';
import { PickFrom, type Item } from '../../ui/PickFrom.tsx';
import { PlanningFields } from './PlanningFields.tsx';
import { SpeakingFields } from './SpeakingFields.tsx';
import { WeekdayToggles } from '../../ui/WeekdayToggles.tsx';
import { Heading, Words } from '../../ui/Words.tsx';
import { askBeforeLeaving } from '../../ui/leaving.ts';
import { rem } from '../../ui/rem.ts';
import { WrongFields, firstWrong, useWrongs } from '../../ui/wrong.ts';
import { itemOf, zoneItems } from './zones.ts';

/** How what was chosen stands: it is kept, on its way, or something is wrong with a field. */
type KeepState = 'untouched' | 'kept' | 'keeping' | 'failed' | { wrong: string };

interface DaysFormProps {
  settings: SettingsBody;
  address: string;
  onState: (state: KeepState) => void;
}

const WEEK_STARTS = [
  { value: 'MO', label: 'Monday' },
  { value: 'SU', label: 'Sunday' },
  { value: 'SA', label: 'Saturday' },
];

export function SettingsScreen() {
  const { person } = useShown();
  const { sync } = useRoom();
  const { pending, name } = useLocal();
  const [asking, setAsking] = useState(false);
  const [state, setState] = useState<KeepState>('untouched');
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
    <Screen foot={<KeptFoot state={state} />}>
      <View style={{ padding: 20, gap: 22, maxWidth: 520 }}>
        <Heading level={1}>Settings</Heading>
        <DaysForm settings={person.settings} address={person.name} onState={setState} />
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

/** Whether what was chosen is kept: always in sight. */
function KeptFoot({ state }: { state: KeepState }) {
  const words =
    state === 'untouched'
      ? 'What you choose is kept at once.'
      : state === 'kept'
        ? 'Kept.'
        : state === 'keeping'
          ? 'It is being kept.'
          : state === 'failed'
            ? 'It is not kept yet: see above.'
            : `${state.wrong} is not kept: it is wrong above. Once more, and you leave without it.`;
  return (
    <Words size={14.5} weight={typeof state === 'object' || state === 'failed' ? 650 : 400} live>
      {words}
    </Words>
  );
}

/** How the days run: each thing is kept as it is chosen. */
function DaysForm({ settings, address, onState }: DaysFormProps) {
  const [save] = useSettingsMutation();
  const { sync } = useRoom();
  const wrongs = useWrongs();
  const values = useMemo<SettingsBody>(() => ({ holidays: '', ...settings }), [settings]);
  const send = async (chosen: SettingsBody): Promise<Refusal | null> => {
    if (JSON.stringify(chosen) === JSON.stringify(values)) return null;
    onState('keeping');
    const { data, error } = await save(chosen);
    if (data) await sync.refresh();
    onState(error ? 'failed' : 'kept');
    return error ? errorOf(error) : null;
  };
  // What cannot be kept is asked about before the screen is left, once.
  const asked = useRef('');
  useEffect(
    () =>
      askBeforeLeaving(() => {
        const wrong = firstWrong(wrongs);
        const what = wrong ? wrong.label + wrong.words : '';
        const isAsked = what === asked.current;
        asked.current = what;
        if (wrong && !isAsked) onState({ wrong: wrong.label });
        return !wrong || isAsked;
      }),
    [wrongs, onState],
  );
  return (
    <WrongFields value={wrongs}>
      <LazyForm schema="settings" values={values} onSubmit={send} keeps>
        {(parts) => <Days parts={parts} address={address} />}
      </LazyForm>
    </WrongFields>
  );
}

const NO_REGION: Item = { value: '', name: 'None: no days are closed for a holiday' };

function Days({ parts, address }: { parts: FormParts<SettingsBody>; address: string }) {
  const { bind, choose, failure, submit } = parts;
  const weekStart = bind('weekStart');
  const workdays = choose('workdays');
  const zone = bind('zone');
  const holidays = bind('holidays');
  const [now] = useState(serverNow);
  const { data: regions = [] } = useRegionsQuery();
  const regionItems = () => [
    NO_REGION,
    ...regions.map(({ code, name }) => ({ value: code, name, also: code })),
  ];
  const region = regions.find(({ code }) => code === holidays.value);
  return (
    <View style={{ gap: 16 }}>
      <Heading level={2}>Your days</Heading>
      <PickFrom
        label="Time zone"
        items={() => zoneItems(now)}
        chosen={itemOf(zone.value, now)}
        error={zone.error}
        onChange={zone.onChangeText}
      />
      <View style={{ maxWidth: rem(260) }}>
        <NeededHour
          label="Your day starts at"
          hint="At 4:00, two at night still belongs to the day before."
          {...choose('dayStart')}
        />
      </View>
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
      <PickFrom
        label="Public holidays of"
        items={regionItems}
        chosen={
          holidays.value
            ? { value: holidays.value, name: region?.name ?? holidays.value }
            : NO_REGION
        }
        error={holidays.error}
        hint="A country, or a part of one. To-dos that avoid closed days avoid these."
        onChange={holidays.onChangeText}
      />
      <PlanningFields parts={parts} />
      <SpeakingFields parts={parts} address={address} />
      {failure ? <Note words={failure} action={{ label: 'Try again', onPress: submit }} /> : null}
    </View>
  );
}

import { yupResolver } from '@hookform/resolvers/yup';
import { settingsSchema, type SettingsBody } from '@back-again/contract';
import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import { Controller, useForm, type Resolver } from 'react-hook-form';
import { View } from 'react-native';
import { useDispatch } from 'react-redux';
import {
  api,
  errorOf,
  useSessionQuery,
  useSettingsMutation,
  useSignOutMutation,
} from '../../data/api.ts';
import { clearDraft } from '../../data/draft.ts';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';

const WEEK_STARTS = [
  ['MO', 'Monday'],
  ['SU', 'Sunday'],
  ['SA', 'Saturday'],
] as const;

/** How the person's days run, and the account. */
export function SettingsScreen() {
  const { data } = useSessionQuery();
  const [signOut] = useSignOutMutation();
  const dispatch = useDispatch();
  useEffect(() => {
    document.title = 'Settings · Back Again';
  }, []);
  if (!data) return null;
  const leave = async () => {
    await signOut();
    clearDraft();
    dispatch(api.util.resetApiState());
    router.replace('/sign-in');
  };
  return (
    <Screen>
      <View style={{ padding: 20, gap: 22, maxWidth: 520 }}>
        <Heading level={1}>Settings</Heading>
        <DaysForm settings={data.settings} />
        <View style={{ gap: 8, alignItems: 'flex-start' }}>
          <Heading level={2}>Account</Heading>
          <Words>{`Signed in as ${data.name}`}</Words>
          <Action label="Sign out" onPress={() => void leave()} />
        </View>
      </View>
    </Screen>
  );
}

function DaysForm({ settings }: { settings: SettingsBody }) {
  const [save] = useSettingsMutation();
  const [saved, setSaved] = useState(false);
  const { control, handleSubmit, setError, formState } = useForm<SettingsBody>({
    resolver: yupResolver(settingsSchema) as unknown as Resolver<SettingsBody>,
    defaultValues: settings,
  });
  const { errors } = formState;
  const submit = handleSubmit(async (values) => {
    try {
      await save(values).unwrap();
      setSaved(true);
    } catch (error) {
      const { where, message } = errorOf(error);
      setError(where === 'zone' || where === 'dayStart' ? where : 'root', { message });
    }
  });
  const changed = () => setSaved(false);
  return (
    <View style={{ gap: 16 }}>
      <Heading level={2}>Your days</Heading>
      <Controller
        control={control}
        name="zone"
        render={({ field }) => (
          <Field
            label="Time zone"
            hint="By its name, such as Europe/London."
            value={field.value}
            autoCapitalize="none"
            error={errors.zone?.message}
            onChangeText={(text) => {
              changed();
              field.onChange(text);
            }}
          />
        )}
      />
      <Controller
        control={control}
        name="dayStart"
        render={({ field }) => (
          <Field
            label="Your day starts at"
            hint="With 04:00, two at night still belongs to the day before."
            value={field.value}
            error={errors.dayStart?.message}
            onChangeText={(text) => {
              changed();
              field.onChange(text);
            }}
          />
        )}
      />
      <Controller
        control={control}
        name="weekStart"
        render={({ field }) => (
          <View>
            <Words size={15} weight={600}>
              Your week starts on
            </Words>
            <View style={{ flexDirection: 'row', gap: 20 }}>
              {WEEK_STARTS.map(([value, label]) => (
                <WordLink
                  key={value}
                  label={label}
                  selected={field.value === value}
                  onPress={() => {
                    changed();
                    field.onChange(value);
                  }}
                />
              ))}
            </View>
          </View>
        )}
      />
      {errors.root?.message ? (
        <Words weight={650} live>
          {errors.root.message}
        </Words>
      ) : null}
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 14 }}>
        <Action label="Keep" name="Keep these settings" filled onPress={() => void submit()} />
        {saved ? (
          <Words tint="moss" weight={600} live>
            Kept
          </Words>
        ) : null}
      </View>
    </View>
  );
}

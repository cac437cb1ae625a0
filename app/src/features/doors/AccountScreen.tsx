import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { useRoom } from '../../data/room.tsx';
import { useLocal, useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Failure } from '../../ui/Failure.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { LazyForm, type Refusal } from '../../ui/LazyForm.tsx';
import { Rule } from '../../ui/Rule.tsx';
import { Heading, Words } from '../../ui/Words.tsx';
import { instantText } from '../../ui/dates.ts';
import {
  useAddressMutation,
  useEndSessionMutation,
  usePasswordMutation,
  useRemoveAccountMutation,
  useSessionsQuery,
} from './doorsApi.ts';
import { saveFrom } from './files.ts';

/** The account: its password and address, where it is signed in, and its end. */
export function AccountScreen() {
  const { person } = useShown();
  useEffect(() => {
    document.title = 'Account · Back Again';
  }, []);
  return (
    <Screen>
      <View style={{ padding: 20, gap: 28, maxWidth: 520 }}>
        <View style={{ gap: 6 }}>
          <Heading level={1}>Account</Heading>
          <Words>{`Signed in as ${person.name}`}</Words>
        </View>
        <PasswordForm />
        <AddressForm />
        <Sessions />
        <Removal />
      </View>
    </Screen>
  );
}

interface OldProps {
  bind(name: 'old'): object;
  label?: string;
}

const Old = ({ bind, label = 'Your password of now' }: OldProps) => (
  <Field
    label={label}
    {...(bind('old') as { value: string })}
    secureTextEntry
    autoComplete="current-password"
  />
);

function PasswordForm() {
  const [change] = usePasswordMutation();
  const [n, setN] = useState(0);
  const send = async (values: { old: string; password: string }): Promise<Refusal | null> => {
    const { error } = await change(values);
    if (error) return errorOf(error);
    setN((before) => before + 1);
    return null;
  };
  return (
    <View style={{ gap: 12 }}>
      <Heading level={2}>Another password</Heading>
      <LazyForm key={n} schema="password" values={{ old: '', password: '' }} onSubmit={send}>
        {({ bind, submit, busy, failure }) => (
          <View style={{ gap: 12 }} role="form">
            <Old bind={bind} />
            <Field
              label="The new one"
              hint="10 characters or more."
              {...bind('password')}
              secureTextEntry
              autoComplete="new-password"
              onSubmitEditing={submit}
            />
            <Failure words={failure} />
            <View style={{ alignItems: 'flex-start' }}>
              <Action label="Change the password" busy={busy} onPress={submit} />
            </View>
          </View>
        )}
      </LazyForm>
      {n ? (
        <Words tint="moss" weight={600} live>
          It is changed. Everywhere else you are signed out.
        </Words>
      ) : null}
    </View>
  );
}

function AddressForm() {
  const [change] = useAddressMutation();
  const { sync } = useRoom();
  const { pending } = useLocal();
  const send = async (values: { old: string; name: string }): Promise<Refusal | null> => {
    const { error } = await change(values);
    if (error) return errorOf(error);
    // What this device keeps stands under the old address: it is fetched anew under the new one.
    await sync.leave();
    window.location.assign('/account');
    return null;
  };
  return (
    <View style={{ gap: 12 }}>
      <Heading level={2}>Another address</Heading>
      {pending.length ? (
        <Words>First what waits on this device has to be sent.</Words>
      ) : (
        <LazyForm schema="address" values={{ old: '', name: '' }} onSubmit={send}>
          {({ bind, submit, busy, failure }) => (
            <View style={{ gap: 12 }} role="form">
              <Old bind={bind} label="Your password" />
              <Field
                label="The new e-mail address"
                {...bind('name')}
                inputMode="email"
                autoCapitalize="none"
                autoComplete="email"
                onSubmitEditing={submit}
              />
              <Failure words={failure} />
              <View style={{ alignItems: 'flex-start' }}>
                <Action label="Change the address" busy={busy} onPress={submit} />
              </View>
            </View>
          )}
        </LazyForm>
      )}
    </View>
  );
}

function Sessions() {
  const { data } = useSessionsQuery();
  const { person, today } = useShown();
  const [end] = useEndSessionMutation();
  return (
    <View style={{ gap: 8 }}>
      <Heading level={2}>Where you are signed in</Heading>
      <View role="list">
        {(data?.sessions ?? []).map(({ id, device, isThis, since, seen }, i) => (
          <View key={id} role="listitem">
            {i ? <Rule /> : null}
            <View
              style={{
                flexDirection: 'row',
                alignItems: 'center',
                gap: 12,
                paddingVertical: 8,
                minHeight: 64,
              }}
            >
              <View style={{ flex: 1 }}>
                <Words weight={600}>{isThis ? `${device}: this one` : device}</Words>
                <Words size={14} tint="soft">
                  {`since ${instantText(since, today, person.settings)}, last seen ${instantText(seen, today, person.settings)}`}
                </Words>
              </View>
              {isThis ? null : (
                <Action
                  label="Sign out there"
                  name={`Sign out there: ${device}, ${i + 1}`}
                  onPress={() => void end(id)}
                />
              )}
            </View>
          </View>
        ))}
      </View>
    </View>
  );
}

function Removal() {
  const [asking, setAsking] = useState(false);
  const [remove] = useRemoveAccountMutation();
  const { sync } = useRoom();
  const send = async (values: { old: string }): Promise<Refusal | null> => {
    const { error } = await remove(values);
    if (error) return errorOf(error);
    await sync.leave();
    window.location.assign('/sign-in');
    return null;
  };
  return (
    <View style={{ gap: 12, alignItems: 'flex-start' }}>
      <Heading level={2}>Remove the account</Heading>
      <Words>
        With all that is in it: to-dos, record, places, files. Nothing of it is left, and nothing
        brings it back.
      </Words>
      {asking ? (
        <View style={{ alignSelf: 'stretch', gap: 12 }}>
          <View style={{ alignItems: 'flex-start' }}>
            <Action
              label="First take everything along"
              onPress={() => void saveFrom('/api/everything', 'back-again.zip')}
            />
          </View>
          <LazyForm schema="removal" values={{ old: '' }} onSubmit={send}>
            {({ bind, submit, busy, failure }) => (
              <View style={{ gap: 12 }} role="form">
                <Old bind={bind} label="Your password, to remove everything" />
                <Failure words={failure} />
                <View style={{ flexDirection: 'row', gap: 10 }}>
                  <Action label="Remove everything for good" busy={busy} onPress={submit} />
                  <Action
                    label="Keep it"
                    name="Keep the account"
                    onPress={() => setAsking(false)}
                  />
                </View>
              </View>
            )}
          </LazyForm>
        </View>
      ) : (
        <Action label="Remove the account …" onPress={() => setAsking(true)} />
      )}
    </View>
  );
}

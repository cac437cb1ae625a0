import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { Action } from '../../ui/Action.tsx';
import { Alone } from '../../ui/Alone.tsx';
import { Failure } from '../../ui/Failure.tsx';
import { Field } from '../../ui/Field.tsx';
import { LazyForm, type Refusal } from '../../ui/LazyForm.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useForgottenMutation, useNewPasswordMutation } from './doorsApi.ts';

function Page({ title, children }: { title: string; children: ReactNode }) {
  useEffect(() => {
    document.title = `${title} · Back Again`;
  }, [title]);
  return (
    <Alone>
      <Heading level={1}>{title}</Heading>
      {children}
      <WordLink label="Sign in" size={16} onPress={() => router.push('/sign-in' as Href)} />
    </Alone>
  );
}

/** Asks for a link to choose a new password. */
export function ForgottenScreen() {
  const [ask] = useForgottenMutation();
  const [sent, setSent] = useState(false);
  const send = async (values: { name: string }): Promise<Refusal | null> => {
    const { error } = await ask(values);
    if (error) return errorOf(error);
    setSent(true);
    return null;
  };
  return (
    <Page title="A new password">
      {sent ? (
        <Words live>
          If there is an account with that address, a link is on its way to it. It works once,
          within an hour.
        </Words>
      ) : (
        <LazyForm schema="forgotten" values={{ name: '' }} onSubmit={send}>
          {({ bind, submit, busy, failure }) => (
            <View style={{ gap: 14 }} role="form">
              <Words>
                Say the address of your account: a link to choose a new password goes there.
              </Words>
              <Field
                label="E-mail address"
                {...bind('name')}
                inputMode="email"
                autoCapitalize="none"
                autoComplete="username"
                onSubmitEditing={submit}
              />
              <Failure words={failure} />
              <View style={{ alignItems: 'flex-start' }}>
                <Action label="Send the link" filled busy={busy} onPress={submit} />
              </View>
            </View>
          )}
        </LazyForm>
      )}
    </Page>
  );
}

/** Chooses a new password by the link. */
export function NewPasswordScreen() {
  const { token } = useLocalSearchParams<{ token: string }>();
  const [choose] = useNewPasswordMutation();
  const [isDone, setDone] = useState(false);
  const send = async ({ password }: { password: string }): Promise<Refusal | null> => {
    const { error } = await choose({ token, password });
    if (error)
      return { ...errorOf(error), where: errorOf(error).where === 'password' ? 'password' : '' };
    setDone(true);
    return null;
  };
  return (
    <Page title="A new password">
      {isDone ? (
        <Words live>It is changed. Everywhere you were signed in you are signed out.</Words>
      ) : (
        <LazyForm schema="reset" values={{ token, password: '' }} onSubmit={send}>
          {({ bind, submit, busy, failure }) => (
            <View style={{ gap: 14 }} role="form">
              <Field
                label="The new password"
                hint="10 characters or more."
                {...bind('password')}
                secureTextEntry
                autoComplete="new-password"
                onSubmitEditing={submit}
              />
              <Failure words={failure} />
              <View style={{ alignItems: 'flex-start' }}>
                <Action label="Keep the password" filled busy={busy} onPress={submit} />
              </View>
            </View>
          )}
        </LazyForm>
      )}
    </Page>
  );
}

import type { SignIn } from '@back-again/contract';
import { Redirect, router, useLocalSearchParams, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import {
  errorOf,
  useRegisterMutation,
  useSessionQuery,
  useSignInMutation,
} from '../../data/api.ts';
import { useLocal } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Alone } from '../../ui/Alone.tsx';
import { Failure } from '../../ui/Failure.tsx';
import { Field } from '../../ui/Field.tsx';
import { LazyForm, type Refusal } from '../../ui/LazyForm.tsx';
import { Note } from '../../ui/Note.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';

/** The zone of the browser: what a new account starts with. */
const browserZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';

type Account = SignIn & { zone?: string };

/** Signing in, and making an account. */
export function SignInScreen() {
  const session = useSessionQuery();
  const [isNew, setNew] = useState(false);
  const waits = useLocal().pending.length > 0;
  const { then } = useLocalSearchParams<{ then?: string }>();
  // Only a path of this app: never an address that someone put into a link.
  const next = then && /^\/(?!\/)[\w\-/]*$/u.test(then) ? then : '/';
  if (session.data) return <Redirect href={next as Href} />;
  return (
    <Alone gap={22}>
      <View style={{ gap: 10 }}>
        <ReturnArc kind="fixed" state={{ at: 'way', share: 0.72 }} scale={1.7} />
        <Heading level={1} size={40}>
          {'Back\nAgain'}
        </Heading>
        <Words size={17} tint="soft">
          Say once what comes back, and how. From then on you know what is next.
        </Words>
      </View>
      {waits ? (
        <Note words="What was not sent yet is kept on this device. It is sent once you sign in again." />
      ) : then ? (
        <Note words="Sign in to go on where you were. What you typed is kept." />
      ) : null}
      <AccountForm key={String(isNew)} isNew={isNew} />
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8, flexWrap: 'wrap' }}>
        <Words tint="soft">{isNew ? 'You have an account?' : 'Here for the first time?'}</Words>
        <WordLink
          label={isNew ? 'Sign in' : 'Make an account'}
          size={16}
          onPress={() => setNew(!isNew)}
        />
      </View>
    </Alone>
  );
}

/** The form; what was typed stays when something is wrong with it. */
function AccountForm({ isNew }: { isNew: boolean }) {
  const [register] = useRegisterMutation();
  const [signIn] = useSignInMutation();
  const zone = browserZone();
  const send = async ({ name, password }: Account): Promise<Refusal | null> => {
    const sent = isNew ? register({ name, password, zone }) : signIn({ name, password });
    const { error } = await sent;
    return error ? errorOf(error) : null;
  };
  const values: Account = { name: '', password: '', ...(isNew ? { zone } : {}) };
  return (
    <LazyForm schema={isNew ? 'register' : 'signIn'} values={values} onSubmit={send}>
      {({ bind, submit, busy, failure }) => (
        <View style={{ gap: 16 }} role="form">
          <Field
            label="E-mail address"
            {...bind('name')}
            autoComplete="username"
            inputMode="email"
            autoCapitalize="none"
            onSubmitEditing={submit}
          />
          <Field
            label="Password"
            {...bind('password')}
            hint={isNew ? '10 characters or more.' : undefined}
            secureTextEntry
            autoComplete={isNew ? 'new-password' : 'current-password'}
            onSubmitEditing={submit}
          />
          <Failure words={failure} />
          <View style={{ alignItems: 'flex-start' }}>
            <Action
              label={isNew ? 'Make it' : 'Sign in'}
              name={isNew ? 'Make an account' : 'Sign in'}
              filled
              busy={busy}
              onPress={submit}
            />
          </View>
          {isNew ? null : (
            <WordLink
              label="I forgot my password"
              size={15}
              onPress={() => router.push('/forgotten' as Href)}
            />
          )}
          {isNew ? (
            <Words size={14.5} tint="soft">
              {`Your days run by ${zone.replaceAll('_', ' ')} time. You can change that in Settings.`}
            </Words>
          ) : null}
        </View>
      )}
    </LazyForm>
  );
}

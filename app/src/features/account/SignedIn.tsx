import { Redirect, usePathname } from 'expo-router';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf, useSessionQuery } from '../../data/api.ts';
import { Action } from '../../ui/Action.tsx';
import { Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';

/** Shows what is inside to someone who is signed in, and sends others to sign in. */
export function SignedIn({ children }: { children: ReactNode }) {
  const look = useLook();
  const { data, error, isLoading, refetch } = useSessionQuery();
  const then = usePathname();
  if (error && errorOf(error).code === 'session.none')
    return <Redirect href={{ pathname: '/sign-in', params: then === '/' ? {} : { then } }} />;
  if (data) return children;
  return (
    <View
      style={{
        flex: 1,
        backgroundColor: look.paper,
        padding: 28,
        gap: 16,
        alignItems: 'flex-start',
      }}
    >
      {isLoading || !error ? null : (
        <>
          <Words live>
            {errorOf(error).code === 'offline'
              ? 'No connection. Nothing can be shown yet.'
              : errorOf(error).message}
          </Words>
          <Action label="Try again" onPress={() => void refetch()} />
        </>
      )}
    </View>
  );
}

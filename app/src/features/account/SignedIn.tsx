import { Redirect, usePathname, type Href } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf, useSessionQuery } from '../../data/api.ts';
import { isLeaving } from '../../data/leaving.ts';
import { useLocal } from '../../data/todos.ts';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { useLook } from '../../ui/look.ts';
import { SignedOut, useLeaving } from './SignedOut.tsx';

/**
 * Shows what is inside to someone who is signed in, and sends others to sign in. Until the server has
 * said who that is, and without a connection, it is who was here last.
 */
export function SignedIn({ children }: { children: (name: string) => ReactNode }) {
  const look = useLook();
  const { data, error, refetch } = useSessionQuery(undefined, {
    pollingInterval: ASK_AGAIN,
    skipPollingIfUnfocused: true,
  });
  const here = useLocal();
  const path = usePathname();
  // Once nothing is shown inside, the router no longer knows where that was.
  const [last, setLast] = useState(path);
  const name = data ? data.name : data === undefined && here.isRead ? here.name : null;
  if (name !== null && path !== last) setLast(path);
  if (isLeaving()) return <Leaving />;
  if (data === null) {
    const then = last === '/' ? '' : `?then=${encodeURIComponent(last)}`;
    return <Redirect href={`/sign-in${then}` as Href} />;
  }
  if (name !== null) return children(name);
  return (
    <View style={{ flex: 1, backgroundColor: look.paper }}>
      {!here.isRead || !error ? null : (
        <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
      )}
    </View>
  );
}

const ASK_AGAIN = 5 * 60_000;

/** Nothing of the person is shown until the server has heard of it; then someone can sign in again. */
function Leaving() {
  return useLeaving() ? <SignedOut /> : <Redirect href="/sign-in" />;
}

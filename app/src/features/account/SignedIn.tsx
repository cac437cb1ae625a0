import { Redirect, usePathname, type Href } from 'expo-router';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf, useSessionQuery } from '../../data/api.ts';
import { isLeaving } from '../../data/leaving.ts';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { useLook } from '../../ui/look.ts';
import { SignedOut, useLeaving } from './SignedOut.tsx';

/** Shows what is inside to someone who is signed in, and sends others to sign in. */
export function SignedIn({ children }: { children: ReactNode }) {
  const look = useLook();
  const { data, error, isLoading, refetch } = useSessionQuery();
  const path = usePathname();
  // Once nothing is shown inside, the router no longer knows where that was.
  const [last, setLast] = useState(path);
  if (data && path !== last) setLast(path);
  if (data === null) {
    if (isLeaving()) return <Leaving />;
    const then = last === '/' ? '' : `?then=${encodeURIComponent(last)}`;
    return <Redirect href={`/sign-in${then}` as Href} />;
  }
  if (data) return children;
  return (
    <View style={{ flex: 1, backgroundColor: look.paper }}>
      {isLoading || !error ? null : (
        <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
      )}
    </View>
  );
}

/** Nothing of the person is shown until the server has heard of it; then someone can sign in again. */
function Leaving() {
  return useLeaving() ? <SignedOut /> : <Redirect href="/sign-in" />;
}

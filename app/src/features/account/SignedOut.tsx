import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { api } from '../../data/api.ts';
import { isLeaving } from '../../data/leaving.ts';
import { Note } from '../../ui/Note.tsx';
import { Heading } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';

const AGAIN = 3000;

/** Whether the server has yet to hear that someone signed out here; it is told as soon as it can be. */
export function useLeaving(): boolean {
  const [leaving, setLeft] = useState(isLeaving);
  const [ask] = api.useLazyNowQuery();
  useEffect(() => {
    if (!leaving) return;
    const tell = () => void ask().then(() => setLeft(isLeaving()));
    const timer = setInterval(tell, AGAIN);
    globalThis.addEventListener('online', tell);
    return () => {
      clearInterval(timer);
      globalThis.removeEventListener('online', tell);
    };
  }, [leaving, ask]);
  return leaving;
}

/** What is shown in place of everything where someone signed out without a connection. */
export function SignedOut() {
  const look = useLook();
  return (
    <View role="main" style={{ flex: 1, padding: 24, paddingTop: 56, backgroundColor: look.paper }}>
      <View style={{ gap: 16, maxWidth: 440 }}>
        <Heading level={1}>Signed out</Heading>
        <Note words="You are signed out on this device. The server hears of it as soon as there is a connection." />
      </View>
    </View>
  );
}

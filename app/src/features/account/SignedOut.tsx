import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { ask } from '../../data/ask.ts';
import { isLeaving } from '../../data/leaving.ts';
import { Note } from '../../ui/Note.tsx';
import { Heading } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';

const AGAIN = 3000;

/** Whether the server has yet to hear that someone signed out here; it is told as soon as it can be. */
export function useLeaving(): boolean {
  const [leaving, setLeft] = useState(isLeaving);
  useEffect(() => {
    if (!leaving) return;
    // Asking for anything signs out first.
    const tell = () => void ask({ url: '/now' }).then(() => setLeft(isLeaving()));
    const timer = setInterval(tell, AGAIN);
    globalThis.addEventListener('online', tell);
    return () => {
      clearInterval(timer);
      globalThis.removeEventListener('online', tell);
    };
  }, [leaving]);
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

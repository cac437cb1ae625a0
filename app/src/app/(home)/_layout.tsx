import { Slot } from 'expo-router';
import { useSaidQuery } from '../../data/api.ts';
import { Connection } from '../../features/account/Connection.tsx';
import { SignedIn } from '../../features/account/SignedIn.tsx';
import { Spoken } from '../../features/said/Spoken.tsx';
import { Frame } from '../../ui/Frame.tsx';

export default function Home() {
  return (
    <SignedIn>
      <Inside />
    </SignedIn>
  );
}

function Inside() {
  const { data } = useSaidQuery();
  return (
    <Frame fresh={data?.fresh ?? 0}>
      <Connection />
      <Spoken />
      <Slot />
    </Frame>
  );
}

import { Slot } from 'expo-router';
import { Connection } from '../../features/account/Connection.tsx';
import { SignedIn } from '../../features/account/SignedIn.tsx';
import { Frame } from '../../ui/Frame.tsx';

export default function Home() {
  return (
    <SignedIn>
      <Frame>
        <Connection />
        <Slot />
      </Frame>
    </SignedIn>
  );
}

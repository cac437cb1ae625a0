import { Slot } from 'expo-router';
import { SignedIn } from '../../features/account/SignedIn.tsx';
import { Frame } from '../../ui/Frame.tsx';

export default function Home() {
  return (
    <SignedIn>
      <Frame>
        <Slot />
      </Frame>
    </SignedIn>
  );
}

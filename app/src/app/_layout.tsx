import { Slot } from 'expo-router';
import { InRoom } from '../data/room.tsx';
import { Themed } from '../ui/theme.tsx';

export default function Root() {
  return (
    <InRoom>
      <Themed>
        <Slot />
      </Themed>
    </InRoom>
  );
}

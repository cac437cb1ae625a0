import { Slot } from 'expo-router';
import { useSaidQuery } from '../../data/api.ts';
import { useUnsorted } from '../../data/todos.ts';
import { Connection } from '../../features/account/Connection.tsx';
import { Gate } from '../../features/account/Gate.tsx';
import { SignedIn } from '../../features/account/SignedIn.tsx';
import { Spoken } from '../../features/said/Spoken.tsx';
import { Frame } from '../../ui/Frame.tsx';

export default function Home() {
  return <SignedIn>{(name) => <Inside name={name} />}</SignedIn>;
}

function Inside({ name }: { name: string }) {
  const { data } = useSaidQuery();
  const unsorted = useUnsorted();
  return (
    <Frame fresh={data?.fresh ?? 0} unsorted={unsorted}>
      <Connection name={name} />
      <Gate>
        <Spoken />
        <Slot />
      </Gate>
    </Frame>
  );
}

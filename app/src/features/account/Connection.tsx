import { View } from 'react-native';
import { useDispatch, useSelector } from 'react-redux';
import { useSessionQuery } from '../../data/api.ts';
import type { AppState } from '../../data/store.ts';
import { useLive } from '../../data/useLive.ts';
import { waiting } from '../../data/waiting.ts';
import { Note } from '../../ui/Note.tsx';

/** Keeps up with other windows, and says what waits for a connection. */
export function Connection() {
  const { data } = useSessionQuery();
  return data ? <Connected name={data.name} /> : null;
}

function Connected({ name }: { name: string }) {
  useLive(name);
  const dispatch = useDispatch();
  const { kept, refused } = useSelector((state: AppState) => state.waiting);
  const n = kept.filter(({ by }) => by === name).length;
  if (!n && !refused.length) return null;
  const changes = n === 1 ? '1 change is kept' : `${n} changes are kept`;
  return (
    <View style={{ paddingHorizontal: 20, paddingTop: 10, gap: 8 }}>
      {n ? (
        <Note words={`${changes} on this device, and sent once there is a connection.`} />
      ) : null}
      {refused.length ? (
        <Note
          words={
            refused.length === 1
              ? `One change could not be made any more: ${refused[0]}`
              : `${refused.length} changes could not be made any more: ${refused.join(' ')}`
          }
          action={{ label: 'Hide', onPress: () => dispatch(waiting.actions.read()) }}
        />
      ) : null}
    </View>
  );
}

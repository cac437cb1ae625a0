import { today } from '@back-again/core';
import { usePathname } from 'expo-router';
import { useEffect } from 'react';
import { View } from 'react-native';
import { useDispatch } from 'react-redux';
import { local, type Keeping, type Local, type Refusal } from '../../data/local/slice.ts';
import { useLocal, usePerson } from '../../data/todos.ts';
import { useLive } from '../../data/useLive.ts';
import { isSettledInPlace } from '../../parts/RefusedHere.tsx';
import { Note } from '../../ui/Note.tsx';
import { useAnnounce } from '../../ui/Frame.tsx';
import { instantText } from '../../ui/dates.ts';
import { useUpdate } from '../../data/shell.ts';
import { Update } from './Update.tsx';

/** Keeps in step with the server and other windows, and says what a person should know of that. */
export function Connection({ name }: { name: string }) {
  useLive(name);
  const dispatch = useDispatch();
  const here = useLocal();
  const announce = useAnnounce();
  const words = wordsOf(here, usePerson());
  const path = usePathname();
  // Beside its row, where that is in sight.
  const isBeside = path === '/' || path.startsWith('/todo/');
  const refused = here.refused
    .filter((it) => !(isBeside && isSettledInPlace(it)))
    .map(refusalText)
    .join(' ');
  useEffect(() => {
    if (refused) announce(refused);
  }, [refused, announce]);
  const { aside, keeping } = here;
  const newer = useUpdate();
  const isQuiet = !words && keeping === 'kept' && !refused && !aside.length && !newer;
  return (
    <View style={{ paddingHorizontal: 20, paddingTop: isQuiet ? 0 : 12, gap: 8 }}>
      {newer ? <Update onTake={newer} /> : null}
      {words ? <Note words={words} /> : null}
      {keeping === 'kept' ? null : <Note words={KEEPING[keeping]} />}
      {refused || aside.length ? (
        <Note
          words={[refused, asideText(aside)].filter(Boolean).join(' ')}
          action={{ label: 'Hide', onPress: () => dispatch(local.actions.readRefusals()) }}
        />
      ) : null}
    </View>
  );
}

const KEEPING: Record<Exclude<Keeping, 'kept'>, string> = {
  nothing:
    'This browser keeps nothing: it all works while there is a connection, and what has not been sent is lost when the window is closed.',
  full: 'There is no room left on this device: it all works while there is a connection, and what has not been sent is lost when the window is closed.',
};

/** Without a connection: as of when it is, and what waits. */
function wordsOf(
  { isConnected, heardAt, pending, name }: Local,
  person: ReturnType<typeof usePerson>,
): string | null {
  if (isConnected) return null;
  const n = pending.filter(({ by }) => by === name).length;
  const kept =
    n === 0
      ? ''
      : n === 1
        ? ' 1 change is kept on this device, to be sent later.'
        : ` ${n} changes are kept on this device, to be sent later.`;
  const asOf =
    heardAt && person
      ? `as of ${instantText(heardAt, today(person.settings, Date.parse(heardAt)), person.settings)}.`
      : 'what is kept here.';
  return `No connection: this is ${asOf}${kept}`;
}

function refusalText({ title, words }: Refusal): string {
  return `${title ? `${title}: a` : 'A'} change could not be made any more. ${words}`;
}

function asideText(aside: readonly string[]): string {
  if (!aside.length) return '';
  return `What waited on this device could not be read any more, and was not sent: ${aside.join(' ')}`;
}

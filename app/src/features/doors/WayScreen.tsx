import type { MadeDoor } from '@back-again/contract/doors';
import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { DoorList } from './DoorList.tsx';
import { Qr } from './Qr.tsx';
import { Secret } from './Secret.tsx';
import { useDoorsQuery, useMakeDoorMutation } from './doorsApi.ts';
import { plainName, saveFrom } from './files.ts';

/** The way of its own of a to-do: an address that finishes it, to be printed and stuck where the thing is. */
export function WayScreen() {
  const { id } = useLocalSearchParams<{ id: string }>();
  const { stateOf } = useShown();
  const title = stateOf(id)?.details.title ?? '';
  const { data } = useDoorsQuery(undefined, { refetchOnMountOrArgChange: true });
  const [make, { isLoading }] = useMakeDoorMutation();
  const [made, setMade] = useState<MadeDoor | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  useEffect(() => {
    document.title = `A way of its own: ${title} · Back Again`;
  }, [title]);
  const start = async () => {
    const answer = await make({ kind: 'way', todo: id } as never);
    setMade(answer.data ?? null);
    setWrong(answer.error ? errorOf(answer.error).message : null);
  };
  const address = made ? `${window.location.origin}/do/${made.secret}` : '';
  const ways = (data?.doors ?? []).filter((door) => door.kind === 'way' && door.todo === id);
  return (
    <Screen>
      <View style={{ padding: 20, gap: 18, maxWidth: 620, alignItems: 'stretch' }}>
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label="Back"
            name={`Back to ${title}`}
            onPress={() => router.push(`/todo/${id}` as Href)}
          />
        </View>
        <Heading level={1}>A way of its own</Heading>
        <Words>
          {`An address that finishes “${title}”, without signing in. Print its code and stick it where the thing is: whoever scans it sees what it would do, and one touch does it. Each use stands in the record.`}
        </Words>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
          <Action
            label={made ? 'Make another' : 'Make its code'}
            filled={!made}
            busy={isLoading}
            onPress={() => void start()}
          />
          {made ? <Action label="Print" onPress={() => printed(title)} /> : null}
          <Action
            label="As a calendar"
            name={`Take ${title} along as a calendar`}
            onPress={() =>
              void saveFrom(`/api/calendar.ics?todo=${id}`, `${plainName(title)}.ics`).then(
                setWrong,
              )
            }
          />
        </View>
        {wrong ? (
          <Words weight={650} tint="late" live>
            {wrong}
          </Words>
        ) : null}
        {made ? (
          <>
            <View nativeID="printed" style={{ alignItems: 'center', gap: 8, paddingVertical: 12 }}>
              <Qr text={address} size={220} name={`Code of ${title}`} />
            </View>
            <Secret name="The address" text={address} onHide={() => setMade(null)} />
            <Words size={15} tint="soft">
              {`For machines: POST to ${window.location.origin}/api/ways/… with the same last part.`}
            </Words>
          </>
        ) : null}
        <View style={{ gap: 8 }}>
          <Heading level={2}>Addresses of this to-do</Heading>
          <DoorList
            doors={ways}
            nameOf={(door) => `Address ${ways.length - ways.indexOf(door)}`}
            aboutOf={({ uses }) => (uses === 1 ? '1 use' : `${uses} uses`)}
            none="None yet."
          />
        </View>
      </View>
    </Screen>
  );
}

/** Prints the code with its name, and nothing else of the page. */
function printed(title: string): void {
  const code = document.getElementById('printed')?.querySelector('svg')?.outerHTML;
  const frame = document.createElement('iframe');
  frame.style.display = 'none';
  document.body.append(frame);
  const page = frame.contentDocument!;
  const heading = page.createElement('h1');
  heading.textContent = title;
  heading.style.fontFamily = 'sans-serif';
  page.body.style.textAlign = 'center';
  page.body.innerHTML = code ?? '';
  page.body.append(heading);
  frame.contentWindow!.print();
  // The page is needed until it is printed.
  setTimeout(() => frame.remove(), 60_000);
}

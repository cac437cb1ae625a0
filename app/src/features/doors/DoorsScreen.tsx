import type { DoorView, MadeDoor, PutBackView, Reach } from '@back-again/contract/doors';
import { router, type Href } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { useRoom } from '../../data/room.tsx';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { DoorList } from './DoorList.tsx';
import { Secret } from './Secret.tsx';
import { useDoorsQuery, useMakeDoorMutation } from './doorsApi.ts';
import { chooseFile, saveFrom } from './files.ts';

/** In and out: what can be taken along, brought, subscribed to, and opened by keys. */
export function DoorsScreen() {
  useEffect(() => {
    document.title = 'In and out · Back Again';
  }, []);
  const { data } = useDoorsQuery(undefined, { refetchOnMountOrArgChange: true });
  const doors = data?.doors ?? [];
  const of = (kind: DoorView['kind']) => doors.filter((door) => door.kind === kind);
  return (
    <Screen>
      <View style={{ padding: 20, gap: 28, maxWidth: 620 }}>
        <View style={{ gap: 6 }}>
          <Heading level={1}>In and out</Heading>
          <Words tint="soft">
            What you wrote down is yours: take it along whenever you like, and bring what you have
            elsewhere.
          </Words>
        </View>
        <TakeAlong />
        <Bring />
        <Feeds doors={of('feed')} />
        <Keys doors={of('key')} />
        <Ways doors={of('way')} />
      </View>
    </Screen>
  );
}

interface PartProps {
  title: string;
  about: string;
  children: ReactNode;
}

function Part({ title, about, children }: PartProps) {
  return (
    <View style={{ gap: 10, alignItems: 'stretch' }}>
      <Heading level={2}>{title}</Heading>
      <Words size={15} tint="soft">
        {about}
      </Words>
      {children}
    </View>
  );
}

const row = { flexDirection: 'row', flexWrap: 'wrap', gap: 10 } as const;

function TakeAlong() {
  const [busy, setBusy] = useState<string | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const take = async (path: string, name: string) => {
    setBusy(path);
    setWrong(await saveFrom(path, name));
    setBusy(null);
  };
  return (
    <Part
      title="Take it along"
      about="Everything as one zip: to-dos, record, places, files, settings, and the same as tables and as a calendar. It can be put back."
    >
      <View style={row}>
        <Action
          label="Everything"
          name="Take everything along"
          filled
          busy={busy === '/api/everything'}
          onPress={() => void take('/api/everything', 'back-again.zip')}
        />
        <Action
          label="As a calendar"
          name="Take all to-dos along as a calendar"
          busy={busy === '/api/calendar.ics'}
          onPress={() => void take('/api/calendar.ics', 'back-again.ics')}
        />
      </View>
      <Wrong words={wrong} />
    </Part>
  );
}

const Wrong = ({ words }: { words: string | null }) =>
  words ? (
    <Words size={15} weight={650} tint="late" live>
      {words}
    </Words>
  ) : null;

function Bring() {
  const { sync } = useRoom();
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<{ wrong: boolean; words: string } | null>(null);
  const putBack = async (file: File) => {
    setBusy(true);
    const response = await fetch('/api/everything', {
      method: 'POST',
      headers: { 'Content-Type': 'application/zip' },
      body: file,
    }).catch(() => null);
    const body = (await response?.json().catch(() => null)) as
      (PutBackView & { error?: { message: string } }) | null;
    setBusy(false);
    if (!response?.ok || !body) {
      setSaid({
        wrong: true,
        words: body?.error?.message ?? 'No connection: this needs the server.',
      });
      return;
    }
    await sync.refresh();
    setSaid({ wrong: false, words: putBackText(body) });
  };
  return (
    <Part
      title="Bring it in"
      about="A calendar (.ics) or a table (.csv) of another program is shown first, with its next dates. A zip from here is put back beside what there is."
    >
      <View style={row}>
        <Action
          label="A calendar or a table"
          filled
          onPress={() => router.push('/doors/in' as Href)}
        />
        <Action
          label="Put a zip back"
          busy={busy}
          onPress={() => chooseFile('.zip,application/zip', (file) => void putBack(file))}
        />
      </View>
      {said?.wrong ? <Wrong words={said.words} /> : null}
      {said && !said.wrong ? (
        <Words size={15} weight={600} tint="moss" live>
          {said.words}
        </Words>
      ) : null}
    </Part>
  );
}

const many = (n: number, one: string, more = `${one}s`) =>
  `${n.toLocaleString('en')} ${n === 1 ? one : more}`;

function putBackText({ todos, times, places, files, there }: PutBackView): string {
  const came = [
    many(todos, 'to-do'),
    many(times, 'time'),
    many(places, 'place'),
    ...(files ? [many(files, 'file')] : []),
  ].join(', ');
  const rest = there
    ? ` ${many(there, 'thing was', 'things were')} there already, and stay as they are.`
    : '';
  return `Put back: ${came}.${rest}`;
}

/** Makes one, and shows its secret once. */
function useMaking(kind: DoorView['kind']) {
  const [make, { isLoading }] = useMakeDoorMutation();
  const [made, setMade] = useState<MadeDoor | null>(null);
  const [wrong, setWrong] = useState<string | null>(null);
  const start = async (body: { name?: string; reach?: Reach; place?: string | null }) => {
    const { data, error } = await make({ kind, ...body } as never);
    setMade(data ?? null);
    setWrong(error ? errorOf(error).message : null);
  };
  return { start, made, wrong, isLoading, hide: () => setMade(null) };
}

function Feeds({ doors }: { doors: DoorView[] }) {
  const { places } = useShown();
  const spheres = places().filter(({ kind }) => kind === 'sphere');
  const [sphere, setSphere] = useState('');
  const { start, made, wrong, isLoading, hide } = useMaking('feed');
  const options = [
    { value: '', label: 'everything' },
    ...spheres.map(({ id, name }) => ({ value: id, label: name })),
  ];
  const ofWhat = (id: string | null) =>
    options.find(({ value }) => value === (id ?? ''))?.label ?? 'a place';
  return (
    <Part
      title="In your calendar"
      about="A secret address that any calendar can subscribe to: what is due and comes in 400 days, and what was done in 60."
    >
      <Choice label="What is in it" options={options} value={sphere} onChange={setSphere} />
      <View style={row}>
        <Action
          label="Make an address"
          busy={isLoading}
          onPress={() => void start({ name: ofWhat(sphere || null), place: sphere || null })}
        />
      </View>
      <Wrong words={wrong} />
      {made ? (
        <Secret
          name="The address"
          text={`${window.location.origin}/api/feeds/${made.secret}.ics`}
          onHide={hide}
        />
      ) : null}
      <DoorList
        doors={doors}
        nameOf={(door) => `Calendar of ${ofWhat(door.place)}`}
        aboutOf={() => ''}
        none="No address yet."
      />
    </Part>
  );
}

const REACHES: { value: Reach; label: string }[] = [
  { value: 'read', label: 'read' },
  { value: 'finish', label: 'read and finish' },
  { value: 'all', label: 'everything' },
];

function Keys({ doors }: { doors: DoorView[] }) {
  const [name, setName] = useState('');
  const [reach, setReach] = useState<Reach>('read');
  const { start, made, wrong, isLoading, hide } = useMaking('key');
  return (
    <Part
      title="Keys for your own scripts"
      about="A key lets a script of yours in without your password, as far as you say. It never opens the account."
    >
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink
          label="What scripts can ask for"
          size={15}
          onPress={() => window.open('/api/', '_blank', 'noopener')}
        />
      </View>
      <Field label="What the key is for" value={name} onChangeText={setName} maxLength={100} />
      <Choice label="What it may do" options={REACHES} value={reach} onChange={setReach} />
      <View style={row}>
        <Action label="Make a key" busy={isLoading} onPress={() => void start({ name, reach })} />
      </View>
      <Wrong words={wrong} />
      {made ? <Secret name="The key" text={made.secret} onHide={hide} /> : null}
      <DoorList
        doors={doors}
        nameOf={(door) => door.name || 'A key without a name'}
        aboutOf={(door) => `may ${REACHES.find(({ value }) => value === door.reach)?.label ?? ''}`}
        none="No key yet."
      />
    </Part>
  );
}

function Ways({ doors }: { doors: DoorView[] }) {
  const { stateOf } = useShown();
  if (!doors.length) return null;
  return (
    <Part
      title="Addresses of to-dos"
      about="Each finishes one to-do, for whoever has it. More are made on the page of a to-do."
    >
      <DoorList
        doors={doors}
        nameOf={(door) =>
          (door.todo && stateOf(door.todo)?.details.title) || 'A to-do that is gone'
        }
        aboutOf={(door) => many(door.uses, 'use')}
        none=""
      />
    </Part>
  );
}

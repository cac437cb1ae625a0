import type { PlaceState } from '@back-again/contract';
import { MOST_PLACE, inTree, type PlaceKind } from '@back-again/core';
import { router, type Href } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useAct } from '../../data/act.ts';
import { newId } from '../../data/ids.ts';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Fold } from '../../ui/ListRow.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { KINDS, holdersFor, stateText } from './placeWords.ts';

/** All places, each behind the one that holds it, and a new one. */
export function PlacesScreen() {
  const shown = useShown();
  const places = shown.places();
  useEffect(() => {
    document.title = 'Places · Back Again';
  }, []);
  const counts = new Map<string, number>();
  for (const { over, details } of shown.all())
    if (!over && details.place !== null)
      counts.set(details.place, (counts.get(details.place) ?? 0) + 1);
  const finished = places.filter(({ state }) => state === 'finished');
  const [isUnfolded, setUnfolded] = useState(false);
  return (
    <Screen width={620}>
      <View style={{ padding: 20, gap: 12 }}>
        <Heading level={1}>Places</Heading>
        <Words size={15.5} tint="soft">
          A sphere is a part of your life. It holds strands, which go on, and projects, which end.
        </Words>
        <List places={places.filter(({ state }) => state !== 'finished')} counts={counts} />
        {finished.length ? (
          <Fold
            title={`Finished, ${finished.length}`}
            open={isUnfolded}
            onToggle={() => setUnfolded(!isUnfolded)}
          >
            <List places={finished} counts={counts} />
          </Fold>
        ) : null}
        <NewPlace places={places} />
      </View>
    </Screen>
  );
}

/** Places, each behind the one that holds it, with how many belong to it. */
function List({
  places,
  counts,
}: {
  places: readonly PlaceState[];
  counts: ReadonlyMap<string, number>;
}) {
  return (
    <View role="list">
      {inTree(places).map(({ place, depth }) => (
        <View
          key={place.id}
          role="listitem"
          style={{
            flexDirection: 'row',
            alignItems: 'center',
            justifyContent: 'space-between',
            gap: 12,
            paddingLeft: depth * 22,
          }}
        >
          <WordLink
            label={place.name}
            size={depth ? 16 : 18}
            onPress={() => router.push(`/place/${place.id}` as Href)}
          />
          <Words size={14.5} tint="soft">
            {[stateText(place), counts.get(place.id) ?? 0].filter((it) => it !== '').join(' · ')}
          </Words>
        </View>
      ))}
    </View>
  );
}

function NewPlace({ places }: { places: readonly PlaceState[] }) {
  const { does, failure } = useAct(useAnnounce());
  const [name, setName] = useState('');
  const [kind, setKind] = useState<PlaceKind>(places.length ? 'strand' : 'sphere');
  const holders = holdersFor(kind, places);
  const [holder, setHolder] = useState<string | null>(null);
  const chosen = holders.find(({ id }) => id === holder)?.id ?? holders[0]?.id ?? null;
  const make = () => {
    if (!name.trim()) return;
    const parts = {
      kind,
      name: name.trim(),
      in: kind === 'sphere' ? null : chosen,
      order: places.length,
    };
    if (does({ do: 'place', place: newId(), parts }, () => `${name.trim()} is there`)) setName('');
  };
  return (
    <View role="group" aria-label="A new place" style={{ gap: 8, paddingTop: 12 }}>
      <Field
        label="A new place"
        value={name}
        onChangeText={setName}
        onSubmitEditing={make}
        maxLength={MOST_PLACE}
        error={failure ?? undefined}
      />
      <Choice label="What kind of place" options={KINDS} value={kind} onChange={setKind} />
      {kind === 'sphere' || !holders.length ? null : (
        <View
          style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 14, alignItems: 'center' }}
        >
          <Words size={15} tint="soft">
            in
          </Words>
          <Choice
            label="In which place"
            options={holders.map((place) => ({ value: place.id, label: place.name }))}
            value={chosen}
            onChange={setHolder}
          />
        </View>
      )}
      {kind !== 'sphere' && !holders.length ? (
        <Words size={15} tint="soft">
          Make a sphere first: it holds the others.
        </Words>
      ) : null}
      <View style={{ alignItems: 'flex-start' }}>
        <Action
          label="Make it"
          disabled={!name.trim() || (kind !== 'sphere' && !holders.length)}
          onPress={make}
        />
      </View>
    </View>
  );
}

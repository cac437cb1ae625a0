import type { PlaceState } from '@back-again/contract';
import { router, type Href } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import { Choice } from '../../ui/Choice.tsx';
import { remindersLabel } from '../../ui/Frame.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';

interface FocusProps {
  /** How many reminders are new, and how many are unsorted; null where the ways to them stand elsewhere. */
  fresh: number | null;
  unsorted: number | null;
  spheres: readonly PlaceState[];
  focus: string | null;
  onFocus: (sphere: string | null) => void;
  /** How many late ones are out of sight. */
  elsewhere: number;
  /** Whether these are shown all the same. */
  shows: boolean;
  onShow: () => void;
}

/** Which sphere is in sight, changed by one touch; what is late out of sight is told. */
export function Focus({
  fresh,
  unsorted,
  spheres,
  focus,
  onFocus,
  elsewhere,
  shows,
  onShow,
}: FocusProps) {
  const [isOpen, setOpen] = useState(false);
  const name = spheres.find(({ id }) => id === focus)?.name;
  const late = `${elsewhere} late elsewhere`;
  return (
    <View style={{ paddingHorizontal: 20 }}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18, alignItems: 'center' }}>
        {spheres.length ? (
          <WordLink
            label={name === undefined ? 'All spheres' : `Only ${name}`}
            name={`In sight: ${name ?? 'all spheres'}. Choose another`}
            expanded={isOpen}
            onPress={() => setOpen(!isOpen)}
          />
        ) : null}
        {fresh === null ? null : (
          <WordLink label={remindersLabel(fresh)} onPress={() => router.push('/said')} />
        )}
        {unsorted ? (
          <WordLink
            label={`Unsorted, ${unsorted}`}
            onPress={() => router.push('/unsorted' as Href)}
          />
        ) : null}
        {elsewhere ? (
          <WordLink
            label={shows ? `Hide the ${late}` : late}
            name={`${shows ? 'Hide' : 'Show'} ${late}`}
            onPress={onShow}
          />
        ) : null}
      </View>
      {isOpen ? (
        <View
          style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 14, alignItems: 'center' }}
        >
          <Words size={15} tint="soft">
            In sight
          </Words>
          <Choice
            label="In sight"
            options={[
              { value: '', label: 'all spheres' },
              ...spheres.map((place) => ({ value: place.id, label: place.name })),
            ]}
            value={focus ?? ''}
            onChange={(sphere) => {
              setOpen(false);
              onFocus(sphere || null);
            }}
          />
        </View>
      ) : null}
    </View>
  );
}

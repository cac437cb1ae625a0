import { entryKey } from '@back-again/core/planning';
import { useState } from 'react';
import { View } from 'react-native';
import { Heading, WordLink } from '../../ui/Words.tsx';
import { useLook, useWide } from '../../ui/look.ts';
import { Chip } from './Chip.tsx';
import type { Standing } from '../../parts/time/moving.ts';

interface MarginProps {
  entries: readonly Standing[];
  titleOf: (entry: Standing) => string;
  away: string | null;
  onOpen: (entry: Standing) => void;
}

/** So many stand there at first. */
const FEW = 5;

/** What has no day yet: from here it is put on one. */
export function Margin({ entries, titleOf, away, onOpen }: MarginProps) {
  const look = useLook();
  const wide = useWide();
  const [isAll, setAll] = useState(false);
  const some = isAll || wide ? entries : entries.slice(0, FEW);
  return (
    <View
      role="region"
      aria-label="Without a day"
      style={{ paddingHorizontal: 20, paddingVertical: 14, backgroundColor: look.card }}
    >
      <Heading level={2} size={17}>
        Without a day
      </Heading>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 6 }}>
        {some.map((entry) => (
          <Chip
            key={entryKey(entry)}
            entry={entry}
            name={entryKey(entry)}
            title={titleOf(entry)}
            movable
            away={away === entryKey(entry)}
            onOpen={() => onOpen(entry)}
          />
        ))}
      </View>
      {some.length < entries.length ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink label={`${entries.length - some.length} more`} onPress={() => setAll(true)} />
        </View>
      ) : null}
    </View>
  );
}

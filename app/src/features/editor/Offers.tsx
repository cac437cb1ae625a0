import { offersOf, type Definition } from '@back-again/core';
import { useState } from 'react';
import { Words } from '../../ui/Words.tsx';
import { LINE, PartLink, type PanelName } from './Sentence.tsx';

interface OffersProps {
  series: Definition;
  panel: PanelName | null;
  onOpen: (panel: PanelName | null) => void;
}

/** So many are shown at first: those that are wanted most. */
const FIRST = 4;

/** What is not set yet, in words. */
export function Offers({ series, panel, onOpen }: OffersProps) {
  const [more, setMore] = useState(false);
  const offers = offersOf(series);
  const shown = more ? offers : offers.slice(0, FIRST);
  if (!offers.length) return null;
  return (
    <Words size={16} tint="soft" style={{ lineHeight: LINE }}>
      {'Add '}
      {shown.map(({ kind: name, label }, i) => (
        <Words key={name} size={16} tint="soft" style={{ lineHeight: LINE }}>
          {i ? ' ' : ''}
          <PartLink
            text={label}
            tail={i < shown.length - 1 ? ',' : ''}
            name={`Add ${label}`}
            expanded={panel === name}
            onPress={() => onOpen(panel === name ? null : name)}
          />
        </Words>
      ))}
      {offers.length > FIRST ? (
        <Words size={16} tint="soft" style={{ lineHeight: LINE }}>
          {more ? ', ' : ' or '}
          <PartLink
            text={more ? 'fewer' : 'something else'}
            name={more ? 'Show fewer' : 'Add something else'}
            expanded={more}
            onPress={() => setMore(!more)}
          />
        </Words>
      ) : null}
    </Words>
  );
}

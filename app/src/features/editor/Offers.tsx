import type { Series } from '@back-again/core';
import { useState } from 'react';
import { Words } from '../../ui/Words.tsx';
import { PartLink, type PanelName } from './Sentence.tsx';
import { isOfWorkdays } from './edit.ts';

interface OffersProps {
  series: Series;
  panel: PanelName | null;
  onOpen: (panel: PanelName | null) => void;
}

/** So many are shown at first: those that are wanted most. */
const FIRST = 4;

/** What is not set yet, in words. */
export function Offers({ series, panel, onOpen }: OffersProps) {
  const [more, setMore] = useState(false);
  const quota = series.repeat?.by === 'quota';
  const hourly = series.repeat?.by === 'completion' && series.repeat.every.includes('T');
  const dated = series.start !== null;
  const repeats = series.repeat !== null;
  const all: [panel: PanelName, label: string, isFree: boolean][] = [
    ['repeat', 'how it comes back', !dated],
    ['at', 'a time of day', !series.at && !hourly && !quota],
    ['ends', 'an end', repeats && !series.ends],
    ['remind', 'a reminder', dated && !series.reminders],
    ['takes', 'how long it takes', !series.takes],
    ['place', 'where it belongs', !series.place],
    ['opens', 'when it opens', dated && !hourly && !quota && !series.opensBefore],
    [
      'closed',
      'what to do on closed days',
      repeats && !series.closedDays && !hourly && !quota && !isOfWorkdays(series),
    ],
    ['late', 'what becomes of a late one', repeats && !quota && !series.late && !series.owe],
  ];
  const offers = all.filter(([, , isFree]) => isFree);
  const shown = more ? offers : offers.slice(0, FIRST);
  if (!offers.length) return null;
  return (
    <Words size={16} tint="soft" style={{ lineHeight: 48 }}>
      {'Add '}
      {shown.map(([name, label], i) => (
        <Words key={name} size={16} tint="soft" style={{ lineHeight: 48 }}>
          {i ? ', ' : ''}
          <PartLink
            text={label}
            name={`Add ${label}`}
            expanded={panel === name}
            onPress={() => onOpen(panel === name ? null : name)}
          />
        </Words>
      ))}
      {offers.length > FIRST ? (
        <Words size={16} tint="soft" style={{ lineHeight: 48 }}>
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

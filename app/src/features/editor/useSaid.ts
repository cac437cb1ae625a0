import { momentText } from '@back-again/core';
import { say, type Doubt, type Reading } from '@back-again/core/reading';
import { useEffect } from 'react';
import { useAnnounce } from '../../ui/Frame.tsx';
import type { Person } from './edit.ts';
import type { Preview } from './preview.ts';

/** So long nothing was typed when the reading is said, in ms: not at each key. */
const REST = 900;

interface Said {
  reading: Omit<Reading, 'doubts'> & { doubts: readonly Doubt[] };
  preview: Preview | null;
  person: Person;
}

/** Says to screen readers how the sentence was read, once nothing is typed for a moment; null: nothing to say. */
export function useSaid(said: Said | null): void {
  const announce = useAnnounce();
  const words = said && wordsOf(said);
  useEffect(() => {
    if (!words) return;
    const timer = setTimeout(() => announce(words), REST);
    return () => clearTimeout(timer);
  }, [announce, words]);
}

/** What is wrong, else the sentence as it was understood, its first time, what is asked and what was not understood. */
function wordsOf({ reading, preview, person }: Said): string {
  const { problems, series, doubts, notUnderstood } = reading;
  if (problems[0]) return problems[0].message;
  if (!series.title) return '';
  const first = preview?.dates[0]?.due;
  return [
    say(series, person.today, person),
    first === undefined ? '' : `First ${momentText(first, preview!.today)}.`,
    ...doubts.slice(0, 1).map(({ where, asks }) => `“${where}”: ${asks}`),
    notUnderstood.length ? `Not understood: ${notUnderstood.join(', ')}.` : '',
  ]
    .filter(Boolean)
    .join(' ');
}

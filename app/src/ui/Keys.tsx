import { router, type Href } from 'expo-router';
import { Suspense, lazy, useEffect, useState } from 'react';
import { Words } from './Words.tsx';
import { mayLeave } from './leaving.ts';

const Sheet = lazy(async () => ({ default: (await import('./Sheet.tsx')).Sheet }));

/** Keys that do something from any screen, where nothing is typed into. */
const KEYS: readonly { key: string; words: string; to: Href }[] = [
  { key: 'w', words: 'write one', to: '/write' },
  { key: 't', words: 'Today', to: '/' },
  { key: 'h', words: 'Ahead', to: '/ahead' as Href },
  { key: 'a', words: 'All', to: '/all' },
  { key: 'u', words: 'what is unsorted', to: '/unsorted' as Href },
  { key: 'p', words: 'places', to: '/places' as Href },
  { key: 'b', words: 'Past', to: '/past' as Href },
  { key: 'r', words: 'reminders', to: '/said' },
  { key: 's', words: 'Settings', to: '/settings' },
];

const isTypedInto = (target: EventTarget | null) =>
  target instanceof HTMLElement &&
  (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName));

/** Hears the keys, and lists them under “?”. */
export function Keys() {
  const [isListed, setListed] = useState(false);
  useEffect(() => {
    const hear = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || isTypedInto(event.target)) return;
      if (event.key === '?') setListed((before) => !before);
      else if (event.key === 'Escape') setListed(false);
      else {
        const it = KEYS.find(({ key }) => key === event.key);
        if (!it) return;
        setListed(false);
        if (mayLeave()) router.push(it.to);
      }
      event.preventDefault();
    };
    globalThis.addEventListener('keydown', hear);
    return () => globalThis.removeEventListener('keydown', hear);
  }, []);
  if (!isListed) return null;
  return (
    <Suspense fallback={null}>
      <Sheet title="Keys" close="Hide" onClose={() => setListed(false)}>
        {KEYS.map(({ key, words }) => (
          <Words key={key} size={15.5}>{`${key}: ${words}`}</Words>
        ))}
        <Words size={15.5}>Enter, while writing: on to what is asked, or to “Keep it”</Words>
        <Words size={15.5}>Ctrl and Enter: keep what is written</Words>
        <Words size={15.5}>Arrows: from one choice or day to the next</Words>
        <Words size={15.5}>?: these keys</Words>
      </Sheet>
    </Suspense>
  );
}

import { createContext, useContext, useEffect, useMemo, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Words } from './Words.tsx';

const Announce = createContext<(words: string) => void>(() => undefined);

/** Says something to screen readers, without moving the focus. */
export const useAnnounce = () => useContext(Announce);

/** So long what was said last can be found, in ms: it was read out as it came. */
const STAYS = 10_000;

interface SpeakerProps {
  /** What was said on one screen is not left standing on the next. */
  place: string;
  children: ReactNode;
}

/**
 * A region that is read out, with two places of which one is filled at a time: so the same words, said twice,
 * are heard twice (WAI-ARIA 1.2, aria-live: what is told is the change).
 */
export function Speaker({ place, children }: SpeakerProps) {
  const [said, setSaid] = useState<{ words: string; n: number; on: string } | null>(null);
  const announce = useMemo(
    () => (words: string) =>
      setSaid((before) => ({ words, n: (before?.n ?? 0) + 1, on: location.pathname })),
    [],
  );
  useEffect(() => {
    if (!said?.words) return;
    const timer = setTimeout(() => setSaid({ ...said, words: '' }), STAYS);
    return () => clearTimeout(timer);
  }, [said]);
  // What leads to another screen is said there; what was said before that is over.
  const isHere = said !== null && said.on === place;
  return (
    <Announce.Provider value={announce}>
      {children}
      <View
        aria-live="polite"
        role="status"
        style={{ position: 'absolute', width: 1, height: 1, overflow: 'hidden' }}
      >
        {[0, 1].map((i) => (
          <Words key={i}>{isHere && said.n % 2 === i ? said.words : ''}</Words>
        ))}
      </View>
    </Announce.Provider>
  );
}

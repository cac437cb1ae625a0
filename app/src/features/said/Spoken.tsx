import { notificationWords } from '@back-again/contract/notification';
import { useEffect, useRef } from 'react';
import { useSaidQuery } from '../../data/api.ts';
import { notify } from '../../data/browserSays.ts';
import { keepDevice } from '../../data/closed.ts';
import { useAnnounce } from '../../ui/Frame.tsx';

/** Says what is new, wherever the person is: to screen readers, and by the browser where they allowed it. */
export function Spoken() {
  const { data: view } = useSaidQuery();
  const announce = useAnnounce();
  const before = useRef<number | null>(null);
  const fresh = view?.fresh;

  useEffect(() => {
    if (fresh === undefined) return;
    const more = fresh > (before.current ?? 0);
    before.current = fresh;
    if (more) announce(freshText(fresh));
  }, [fresh, announce]);

  useEffect(() => {
    // Without a connection it is brought together another time.
    keepDevice().catch(() => undefined);
  }, []);

  useEffect(() => {
    if (!view) return;
    const { today } = view;
    notify(
      view.rows
        .filter(({ browser, seq }) => browser && seq > view.seenThrough)
        .map(({ id, seq, todo, due, overview }) => ({
          id,
          seq,
          ...notificationWords(todo?.series.title ?? null, due, overview, today),
        })),
      Math.max(0, ...view.rows.map(({ seq }) => seq)),
    );
  }, [view]);
  return null;
}

/** “2 new reminders”. */
function freshText(n: number): string {
  return `${n} new reminder${n === 1 ? '' : 's'}`;
}

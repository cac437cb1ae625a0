import { momentText } from '@back-again/core';
import { useEffect, useRef } from 'react';
import { useSaidQuery } from '../../data/api.ts';
import { notify } from '../../data/browserSays.ts';
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
    if (!view) return;
    const { today } = view;
    notify(
      view.rows
        .filter(({ browser, seq }) => browser && seq > view.seenThrough)
        .map(({ id, seq, todo, due, overview }) => ({
          id,
          seq,
          title: todo?.series.title ?? 'This morning',
          words: overview
            ? `${overview.late.length} late, ${overview.today.length} for today`
            : due
              ? `due ${momentText(due, today, true)}`
              : '',
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

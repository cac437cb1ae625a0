import { momentText } from '@back-again/core';
import { useLocalSearchParams } from 'expo-router';
import { useState } from 'react';
import { newId } from '../../data/ids.ts';
import { Words } from '../../ui/Words.tsx';
import { OneTouch } from '../finish/OneTouch.tsx';
import { useUseWayMutation, useWayQuery } from './doorsApi.ts';

/** Finishes a to-do by its own address, without signing in: says first what it would do. */
export function UseWayScreen() {
  const { secret } = useLocalSearchParams<{ secret: string }>();
  const { data, error } = useWayQuery(secret, { refetchOnMountOrArgChange: true });
  const [use, { data: used, error: failed, isLoading }] = useUseWayMutation();
  // A touch that is repeated, or sent again, is the same.
  const [id] = useState(newId);
  const view = used ?? data;
  const next = view?.next
    ? `${view.next.kind === 'expected' ? 'expected' : 'back again'} ${momentText(view.next.due, view.today, true)}`
    : null;
  return (
    <OneTouch
      view={view}
      noDate="It has no date."
      isBusy={isLoading}
      onDone={() => void use({ secret, id })}
      wrong={failed ?? (view ? undefined : error)}
    >
      {view?.state === 'done' ? (
        <Words size={17} weight={600} tint="moss">
          {`Done.${next ? ` It is ${next}.` : ''}`}
        </Words>
      ) : null}
      {view?.state === 'waits' ? (
        <Words size={17}>{`There is nothing to do now${next ? `: it is ${next}` : ''}.`}</Words>
      ) : null}
      {view?.state === 'ended' ? <Words size={17}>It has ended: nothing comes back.</Words> : null}
    </OneTouch>
  );
}

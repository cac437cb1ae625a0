import { momentText } from '@back-again/core';
import { useLocalSearchParams } from 'expo-router';
import { useFinishNowMutation, useFinishQuery } from '../../data/api.ts';
import { Words } from '../../ui/Words.tsx';
import { OneTouch } from './OneTouch.tsx';

/** Finishes one time from a link in a message, without signing in. */
export function FinishScreen() {
  const { token } = useLocalSearchParams<{ token: string }>();
  const { data, error } = useFinishQuery(token, { refetchOnMountOrArgChange: true });
  const [finish, { data: finished, error: failed, isLoading }] = useFinishNowMutation();
  const view = finished ?? data;
  return (
    <OneTouch
      view={view}
      untitled="This link is over"
      noDate="It has no date yet."
      isBusy={isLoading}
      onDone={() => void finish(token)}
      hint="This works once, without signing in. It can be taken back on Today."
      wrong={failed ?? (view ? undefined : error)}
    >
      {view?.state === 'done' ? (
        <Words size={17} weight={600} tint="moss">
          {`Done.${view.next ? ` Back again ${momentText(view.next.due, view.today, true)}.` : ''}`}
        </Words>
      ) : null}
      {view?.state === 'ended' ? (
        <Words size={17}>It was done, skipped or moved meanwhile: nothing was changed.</Words>
      ) : null}
      {view?.state === 'over' ? (
        <Words size={17}>It was used already, or it is older than a week.</Words>
      ) : null}
    </OneTouch>
  );
}

import { momentText } from '@back-again/core';
import { router, useLocalSearchParams } from 'expo-router';
import { useEffect } from 'react';
import { ScrollView, View } from 'react-native';
import { errorOf, useFinishNowMutation, useFinishQuery } from '../../data/api.ts';
import { Action } from '../../ui/Action.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';

/** Finishes one time from a link in a message, without signing in. */
export function FinishScreen() {
  const look = useLook();
  const { token } = useLocalSearchParams<{ token: string }>();
  const { data, error } = useFinishQuery(token, { refetchOnMountOrArgChange: true });
  const [finish, { data: finished, error: failed, isLoading }] = useFinishNowMutation();
  useEffect(() => {
    document.title = 'Back Again';
  }, []);
  const view = finished ?? data;
  const wrong = failed ?? (view ? undefined : error);
  return (
    <ScrollView
      style={{ flex: 1, backgroundColor: look.paper }}
      contentContainerStyle={{ alignItems: 'center', padding: 24, paddingTop: 56 }}
      role="main"
    >
      <View style={{ width: '100%', maxWidth: 440, gap: 16, alignItems: 'flex-start' }}>
        <ReturnArc
          kind="fixed"
          state={view?.state === 'done' ? { at: 'done' } : { at: 'way', share: 1 }}
          scale={1.5}
        />
        {view ? <Heading level={1}>{view.title || 'This link is over'}</Heading> : null}
        {view?.state === 'open' ? (
          <>
            <Words size={17}>
              {view.due ? `Due ${momentText(view.due, view.today, true)}.` : 'It has no date yet.'}
            </Words>
            <Action
              label="Done"
              name={`Done: ${view.title}`}
              filled
              busy={isLoading}
              onPress={() => void finish(token)}
            />
            <Words size={15} tint="soft">
              This works once, without signing in. It can be taken back on Today.
            </Words>
          </>
        ) : null}
        <View aria-live="polite" style={{ gap: 6 }}>
          {view?.state === 'done' ? (
            <Words size={17} weight={600} tint="moss">
              {`Done.${
                view.next ? ` Back again ${momentText(view.next.due, view.today, true)}.` : ''
              }`}
            </Words>
          ) : null}
          {view?.state === 'ended' ? (
            <Words size={17}>It was done, skipped or moved meanwhile: nothing was changed.</Words>
          ) : null}
          {view?.state === 'over' ? (
            <Words size={17}>It was used already, or it is older than a week.</Words>
          ) : null}
          {wrong ? <Words size={17}>{errorOf(wrong).message}</Words> : null}
        </View>
        <WordLink label="Open Today" size={16} onPress={() => router.push('/')} />
      </View>
    </ScrollView>
  );
}

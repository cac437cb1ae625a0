import { momentText } from '@back-again/core';
import { router, useLocalSearchParams } from 'expo-router';
import { useEffect, useState } from 'react';
import { ScrollView, View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { newId } from '../../data/ids.ts';
import { Action } from '../../ui/Action.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { useUseWayMutation, useWayQuery } from './doorsApi.ts';

/** Finishes a to-do by its own address, without signing in: says first what it would do. */
export function UseWayScreen() {
  const look = useLook();
  const { secret } = useLocalSearchParams<{ secret: string }>();
  const { data, error } = useWayQuery(secret, { refetchOnMountOrArgChange: true });
  const [use, { data: used, error: failed, isLoading }] = useUseWayMutation();
  // A touch that is repeated, or sent again, is the same.
  const [id] = useState(newId);
  useEffect(() => {
    document.title = 'Back Again';
  }, []);
  const view = used ?? data;
  const wrong = failed ?? (view ? undefined : error);
  const next = view?.next
    ? `${view.next.kind === 'expected' ? 'expected' : 'back again'} ${momentText(view.next.due, view.today, true)}`
    : null;
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
        {view ? <Heading level={1}>{view.title}</Heading> : null}
        {view?.state === 'open' ? (
          <>
            <Words size={17}>
              {view.due ? `Due ${momentText(view.due, view.today, true)}.` : 'It has no date.'}
            </Words>
            <Action
              label="Done"
              name={`Done: ${view.title}`}
              filled
              busy={isLoading}
              onPress={() => void use({ secret, id })}
            />
          </>
        ) : null}
        <View aria-live="polite" style={{ gap: 6 }}>
          {view?.state === 'done' ? (
            <Words size={17} weight={600} tint="moss">
              {`Done.${next ? ` It is ${next}.` : ''}`}
            </Words>
          ) : null}
          {view?.state === 'waits' ? (
            <Words size={17}>{`There is nothing to do now${next ? `: it is ${next}` : ''}.`}</Words>
          ) : null}
          {view?.state === 'ended' ? (
            <Words size={17}>It has ended: nothing comes back.</Words>
          ) : null}
          {wrong ? <Words size={17}>{errorOf(wrong).message}</Words> : null}
        </View>
        <WordLink label="Open Today" size={16} onPress={() => router.push('/')} />
      </View>
    </ScrollView>
  );
}

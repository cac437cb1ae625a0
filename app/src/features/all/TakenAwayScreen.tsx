import { router } from 'expo-router';
import { useEffect } from 'react';
import { View } from 'react-native';
import { useAct } from '../../data/act.ts';
import { errorOf, useRemovedQuery } from '../../data/api.ts';
import { useShown } from '../../data/todos.ts';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { Rule } from '../../ui/Rule.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { instantText } from '../../ui/dates.ts';
import { APART } from '../../ui/look.ts';

/** What was taken away in the last 30 days, each brought back with its record by one touch. */
export function TakenAwayScreen() {
  const { data, error, refetch } = useRemovedQuery(undefined, { refetchOnMountOrArgChange: true });
  const { person, today, stateOf } = useShown();
  const { does, failure } = useAct(useAnnounce());
  const { settings } = person;
  useEffect(() => {
    document.title = 'Taken away · Back Again';
  }, []);
  // What was brought back here is no longer among them, whatever the server last said.
  const rows = data?.removed.filter(({ todo }) => stateOf(todo) === null);
  return (
    <Screen>
      <View style={{ padding: 20, gap: 10, maxWidth: 620 }}>
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label="Back"
            onPress={() => (router.canGoBack() ? router.back() : router.replace('/all'))}
          />
        </View>
        <Heading level={1}>Taken away</Heading>
        <Words size={15} tint="soft">
          For 30 days, with its record. What you bring back goes on as if it had never been gone.
        </Words>
        {failure ? <Note words={failure} /> : null}
        {rows ? null : error ? (
          <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
        ) : (
          <Waiting lines={4} label="What was taken away is on its way" />
        )}
        {rows && !rows.length ? <Words>Nothing was taken away.</Words> : null}
        {rows?.map(({ todo, title, at, action, others }, i) => (
          <View key={todo}>
            {i ? <Rule /> : null}
            <View
              style={{
                ...APART,
                minHeight: 56,
              }}
            >
              <View style={{ flexShrink: 1 }}>
                <Words size={16.5} weight={600}>
                  {title}
                </Words>
                <Words size={14.5} tint="soft">
                  {`Taken away ${instantText(at, today, settings)}`}
                </Words>
              </View>
              <WordLink
                label={others ? `Bring back, with ${others} more` : 'Bring back'}
                name={`Bring back: ${title}${others ? `, with ${others} more` : ''}`}
                onPress={() => void does({ do: 'undo', of: action }, () => `${title} is back`)}
              />
            </View>
          </View>
        ))}
      </View>
    </Screen>
  );
}

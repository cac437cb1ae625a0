import type { FoundView } from '@back-again/contract';
import type { LocalDate, Settings } from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useLazyFindQuery } from '../../data/api.ts';
import { ListRow } from '../../ui/ListRow.tsx';
import { Marked } from '../../ui/Marked.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { instantText } from '../../ui/dates.ts';

interface InRecordProps {
  /** What is looked for, as it was typed. */
  search: string;
  words: readonly string[];
  today: LocalDate;
  settings: Settings;
}

/** What was written down with times that have ended, looked for on the server, a page at a time. */
export function InRecord({ search, words, today, settings }: InRecordProps) {
  const [ask, { isFetching, isError }] = useLazyFindQuery();
  const [found, setFound] = useState<FoundView['found'] | null>(null);
  const [next, setNext] = useState<string | null>(null);
  useEffect(() => {
    setFound(null);
    setNext(null);
  }, [search]);
  const seek = (after: string | null) =>
    void ask({ words: search.trim(), ...(after === null ? {} : { after }) })
      .unwrap()
      .then((page) => {
        setFound((before) => [...(after === null ? [] : (before ?? [])), ...page.found]);
        setNext(page.next);
      })
      // What failed is said below.
      .catch(() => undefined);
  return (
    <View
      role="region"
      aria-label="In what was written down"
      style={{ paddingHorizontal: 20, paddingTop: 8 }}
    >
      {found === null ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label="Look in what was written down"
            name={`Look for ${search.trim()} in what was written down`}
            onPress={() => seek(null)}
          />
        </View>
      ) : (
        <Words size={15.5} weight={600} live>
          {found.length ? 'Written down' : 'Nothing that was written down has it.'}
        </Words>
      )}
      {isError ? (
        <Words size={15} tint="soft" live>
          That needs a connection. Try again in a moment.
        </Words>
      ) : null}
      {(found ?? []).map(({ todo, title, slot, closedAt, text }, i) => (
        <ListRow
          key={`${todo} ${slot} ${closedAt}`}
          first={i === 0}
          onPress={() => router.push(`/todo/${todo}`)}
          name={`${title}, ${instantText(closedAt, today, settings)}: ${text}. Open`}
        >
          <View style={{ flex: 1, minWidth: 0 }}>
            <Words size={15.5} weight={600} style={{ lineHeight: 20 }}>
              {`${title}, ${instantText(closedAt, today, settings)}`}
            </Words>
            <Marked
              text={text}
              wanted={words}
              found={{ tint: 'ink' }}
              size={14.5}
              tint="soft"
              style={{ lineHeight: 20 }}
            />
          </View>
        </ListRow>
      ))}
      {isFetching ? <Waiting lines={3} label="Looking" /> : null}
      {next && !isFetching ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink label="Look further back" onPress={() => seek(next)} />
        </View>
      ) : null}
    </View>
  );
}

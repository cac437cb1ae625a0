import { clockOf, parseInstant } from '@back-again/core';
import { router, useLocalSearchParams } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf, useSaidQuery, useSessionQuery, useTodayQuery } from '../../data/api.ts';
import { Examples } from '../../ui/Examples.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { useWide } from '../../ui/look.ts';
import { DayRuler } from './DayRuler.tsx';
import { Kept } from './Kept.tsx';
import {
  BringLate,
  DayHead,
  NextReminder,
  NothingLeft,
  SectionHead,
  SoonSection,
} from './TodayParts.tsx';
import { TodayRow } from './TodayRow.tsx';
import { sectionsOf, type Row } from './rows.ts';
import { useDeeds } from './useDeeds.ts';

const MINUTE = 60_000;

/** What is late, what is for today, and what is back soon. `story` shows one to-do beside the list. */
export function TodayScreen({ story }: { story: (id: string | null) => ReactNode }) {
  const {
    data: view,
    error,
    refetch,
  } = useTodayQuery(undefined, {
    pollingInterval: MINUTE,
    skipPollingIfUnfocused: true,
    refetchOnMountOrArgChange: true,
  });
  const { data: session } = useSessionQuery();
  const fresh = useSaidQuery().data?.fresh ?? 0;
  const { kept } = useLocalSearchParams<{ kept?: string }>();
  const [unfolded, setUnfolded] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const deeds = useDeeds(view?.today ?? '', useAnnounce());
  const wide = useWide();

  useEffect(() => {
    document.title = 'Today · Back Again';
  }, []);

  if (!view || !session)
    return error ? (
      <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
    ) : null;
  const { settings } = session;
  const { today } = view;
  const sections = sectionsOf(view, deeds.held, settings);
  const isEmpty = !sections.length && !view.soon.length;
  const rows = sections.flatMap((section) => section.rows);
  const toDo = sections
    .filter(({ id }) => id !== 'early' && id !== 'period')
    .flatMap((section) => section.rows)
    .filter(({ time }) => time.status === 'open').length;
  const marks = rows
    .filter(({ time }) => time.due?.includes('T') && time.due.startsWith(today))
    .map(({ key, time }) => ({ key, at: time.due!.slice(11), done: time.status !== 'open' }));
  const clock = clockOf(settings);
  const now = clock.momentAt(parseInstant(view.now)).slice(11);
  const bells = view.reminders
    .map(({ at }) => clock.momentAt(parseInstant(at)))
    .filter((at) => at.startsWith(today))
    .map((at) => at.slice(11));

  const show = (id: string) => (wide ? setChosen(id) : router.push(`/todo/${id}`));
  const unfold = (row: Row) => {
    setUnfolded(unfolded === row.key ? null : row.key);
    if (wide) setChosen(row.todo.id);
  };

  return (
    <Screen width={620} detail={story(chosen)}>
      <DayHead today={today} toDo={toDo} empty={isEmpty} fresh={wide ? null : fresh} />
      <DayRuler marks={marks} bells={bells} now={now} />
      <NextReminder reminders={view.reminders} today={today} settings={settings} />
      <View style={{ paddingHorizontal: 20, paddingTop: 6, gap: 8 }}>
        {deeds.failure ? (
          <Note
            words={deeds.failure.words}
            action={{ label: 'Try again', onPress: deeds.failure.retry }}
          />
        ) : null}
        {kept ? <Kept id={kept} today={today} onOpen={() => show(kept)} /> : null}
        {deeds.noted ? (
          <Note
            words={deeds.noted.words}
            action={{
              label: 'Undo',
              name: `Undo: ${deeds.noted.name}`,
              onPress: () => void deeds.unnote(),
            }}
          />
        ) : null}
        {isEmpty && !kept ? (
          <Examples
            words="Nothing comes back yet. Write one as you would say it, or try one of these:"
            onPick={(text) => router.push({ pathname: '/write', params: { text } })}
          />
        ) : null}
      </View>
      {sections.map((section) => (
        <View key={section.id} role="region" aria-label={section.title}>
          <SectionHead section={section} />
          {section.rows.map((row, i) => (
            <TodayRow
              key={row.key}
              row={row}
              first={i === 0}
              today={today}
              settings={settings}
              unfolded={unfolded === row.key}
              busy={deeds.busy}
              onUnfold={() => unfold(row)}
              onDeed={(it) =>
                void deeds.deed(row, section.id, it).then((sent) => {
                  if (sent) setUnfolded((key) => (key === row.key ? null : key));
                })
              }
              onOpen={() => show(row.todo.id)}
            />
          ))}
          {section.id === 'late' ? (
            <BringLate
              rows={section.rows.filter(({ time }) => time.status === 'open')}
              onBring={(late) => void deeds.bring(late)}
            />
          ) : null}
        </View>
      ))}
      {!isEmpty && toDo === 0 ? <NothingLeft /> : null}
      <SoonSection todos={view.soon} today={today} onOpen={show} />
    </Screen>
  );
}

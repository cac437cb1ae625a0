import { parseInstant } from '@back-again/core';
import { router, useLocalSearchParams } from 'expo-router';
import { startTransition, useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useSaidQuery } from '../../data/api.ts';
import { useShown } from '../../data/todos.ts';
import { Examples } from '../../ui/Examples.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
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
import { sectionsOf, type Row, type Section } from './rows.ts';
import { useDeeds } from './useDeeds.ts';

const NONE: Section[] = [];

/** What is late, what is for today, and what is back soon. `story` shows one to-do beside the list. */
export function TodayScreen({ story }: { story: (id: string | null) => ReactNode }) {
  const shown = useShown();
  const fresh = useSaidQuery().data?.fresh ?? 0;
  const { kept } = useLocalSearchParams<{ kept?: string }>();
  const [unfolded, setUnfolded] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const deeds = useDeeds(shown.today, useAnnounce());
  const wide = useWide();
  // What was just written is told first, and the rows come a moment after it.
  const [isWhole, setWhole] = useState(!kept);
  useEffect(() => startTransition(() => setWhole(true)), []);

  useEffect(() => {
    document.title = 'Today · Back Again';
  }, []);

  const { today, planner } = shown;
  const { settings } = shown.person;
  const all = sectionsOf(shown, deeds.held);
  const sections = isWhole ? all : NONE;
  const rows = sections.flatMap((section) => section.rows);
  const ended = new Set(rows.map(({ todo }) => todo.id));
  const soon = shown.agenda().soon.filter(({ todo }) => !ended.has(todo));
  const isEmpty = !all.length && !soon.length;
  const toDo = sections
    .filter(({ id }) => id !== 'early' && id !== 'period')
    .flatMap((section) => section.rows)
    .filter(({ time }) => time.status === 'open').length;
  const marks = rows
    .filter(({ time }) => time.due?.includes('T') && time.due.startsWith(today))
    .map(({ key, time }) => ({ key, at: time.due!.slice(11), done: time.status !== 'open' }));
  const now = planner.clock.momentAt(shown.now).slice(11);
  const reminders = shown.reminders();
  const bells = reminders
    .map(({ at }) => planner.clock.momentAt(parseInstant(at)))
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
      <NextReminder reminders={reminders} today={today} settings={settings} />
      <View style={{ paddingHorizontal: 20, paddingTop: 6, gap: 8 }}>
        {deeds.failure ? <Note words={deeds.failure} /> : null}
        {kept ? <Kept todo={shown.viewOf(kept)} today={today} onOpen={() => show(kept)} /> : null}
        {deeds.noted ? (
          <Note
            words={deeds.noted.words}
            action={{
              label: 'Undo',
              name: `Undo: ${deeds.noted.name}`,
              onPress: deeds.unnote,
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
              unknown={shown.isUnknown(row.todo.id)}
              onUnfold={() => unfold(row)}
              onDeed={(it) => {
                if (deeds.deed(row, section.id, it))
                  setUnfolded((key) => (key === row.key ? null : key));
              }}
              onOpen={() => show(row.todo.id)}
            />
          ))}
          {section.id === 'late' ? (
            <BringLate
              rows={section.rows.filter(({ time }) => time.status === 'open')}
              onBring={deeds.bring}
            />
          ) : null}
        </View>
      ))}
      {!isEmpty && toDo === 0 ? <NothingLeft /> : null}
      <SoonSection
        todos={isWhole ? soon.map(({ todo }) => shown.viewOf(todo)!) : []}
        today={today}
        onOpen={show}
      />
    </Screen>
  );
}

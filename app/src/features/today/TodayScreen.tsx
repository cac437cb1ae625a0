import { parseInstant, type SectionId } from '@back-again/core';
import { router, useLocalSearchParams } from 'expo-router';
import { startTransition, useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useSaidQuery } from '../../data/api.ts';
import { useLastDeeds } from '../../data/lastDeed.ts';
import { useShown } from '../../data/todos.ts';
import { nextText } from '../../parts/time/moving.ts';
import { useTimeSheet } from '../../parts/time/useTimeSheet.tsx';
import { Examples } from '../../ui/Examples.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { VirtualRows } from '../../ui/VirtualRows.tsx';
import { Heading, WordLink } from '../../ui/Words.tsx';
import { useSteady } from '../../ui/steady.ts';
import { useWide } from '../../ui/look.ts';
import { DayRuler } from './DayRuler.tsx';
import { Focus } from './Focus.tsx';
import { Kept } from './Kept.tsx';
import { Paused } from './Paused.tsx';
import {
  BringLate,
  DayHead,
  NextReminder,
  NothingLeft,
  SectionRows,
  SoonSection,
} from './TodayParts.tsx';
import { TodayRow } from './TodayRow.tsx';
import { asksOf, elsewhereOf, leftAbove, sectionsOf, type Row, type Section } from './rows.ts';
import { useDeeds, type RowDeed } from './useDeeds.ts';

const NONE: Section[] = [];

/** Of a section with more rows, those in sight alone are drawn. */
const FEW = 60;

/** What leaves a row unfolded. */
const STAYS: ReadonlySet<RowDeed['do']> = new Set(['tick', 'addStep', 'answer', 'above']);

/** What is late, what is for today, and what is back soon. `story` shows one to-do beside the list. */
export function TodayScreen({ story }: { story: (id: string | null) => ReactNode }) {
  const shown = useShown();
  const fresh = useSaidQuery().data?.fresh ?? 0;
  const { kept } = useLocalSearchParams<{ kept?: string }>();
  const [unfolded, setUnfolded] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const announce = useAnnounce();
  const deeds = useDeeds(shown.today, announce, (todo, slot, plan) => {
    const state = shown.stateOf(todo);
    return state ? nextText(state, { slot, plan }, shown) : '';
  });
  const last = useLastDeeds();
  const soonTime = useTimeSheet(shown, deeds.does, (id) => show(id));
  const wide = useWide();
  // What was just written is told first, and the rows come a moment after it.
  const [isWhole, setWhole] = useState(!kept);
  useEffect(() => startTransition(() => setWhole(true)), []);

  useEffect(() => {
    document.title = 'Today · Back Again';
  }, []);

  const { today, planner } = shown;
  const [alone, setAlone] = useState(false);
  const [showsElsewhere, setShowsElsewhere] = useState(false);
  const spheres = shown.places().filter(({ kind }) => kind === 'sphere');
  const { focus } = shown.own();
  const left = leftAbove(shown);
  const elsewhere = showsElsewhere && focus !== null ? elsewhereOf(shown) : [];
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

  const show = useSteady((id: string) => (wide ? setChosen(id) : router.push(`/todo/${id}`)));
  const unfold = useSteady((row: Row) => {
    setUnfolded(unfolded === row.key ? null : row.key);
    if (wide) setChosen(row.todo.id);
  });
  const does = useSteady(deeds.does);
  const onDeed = useSteady((row: Row, section: SectionId, i: number, it: RowDeed) => {
    if (!deeds.deed(row, section, i, it) || STAYS.has(it.do)) return;
    // What is asked of it shows in place, and is in nobody’s way.
    const asks = it.do === 'done' && asksOf(row);
    setUnfolded((key) => (asks ? row.key : key === row.key ? null : key));
  });

  const rowOf = (row: Row, section: SectionId, i: number) => (
    <TodayRow
      key={row.key}
      row={row}
      section={section}
      index={i}
      today={today}
      settings={settings}
      unfolded={unfolded === row.key}
      beside={wide && chosen === row.todo.id}
      above={section === 'above'}
      unknown={shown.isUnknown(row.todo.id)}
      last={row.time.status === 'open' && !row.later ? (last.get(row.todo.id) ?? null) : null}
      onUnfold={unfold}
      does={does}
      onDeed={onDeed}
      onOpen={show}
    />
  );
  const { at: notedAt } = deeds.noted ?? {};
  const isNotedHere = sections.some(({ id }) => id === notedAt?.section);
  const noted = deeds.noted ? (
    <Note
      words={deeds.noted.words}
      action={{ label: 'Undo', name: `Undo: ${deeds.noted.name}`, onPress: deeds.unnote }}
    />
  ) : null;
  /** What was put off is said where it stood. */
  const notedIn = ({ id, rows: { length } }: Section, i: number) =>
    notedAt?.section === id && i === Math.min(notedAt.index, length) ? (
      <View key="noted" style={{ paddingHorizontal: 20, paddingVertical: 6 }}>
        {noted}
      </View>
    ) : null;
  return (
    <Screen width={620} detail={story(chosen)}>
      <DayHead today={today} toDo={toDo} empty={isEmpty} />
      <DayRuler marks={marks} bells={bells} now={now} />
      <Focus
        fresh={wide ? null : fresh}
        unsorted={wide ? null : shown.unsorted().length}
        spheres={spheres}
        focus={focus}
        onFocus={(id) => deeds.focus(id, spheres.find((it) => it.id === id)?.name ?? '')}
        elsewhere={shown.agenda().elsewhere}
        shows={showsElsewhere}
        onShow={() => setShowsElsewhere(!showsElsewhere)}
      />
      <NextReminder reminders={reminders} today={today} settings={settings} />
      <Paused todos={shown.inSight()} today={today} />
      <View style={{ paddingHorizontal: 20, paddingTop: 6, gap: 8 }}>
        {deeds.failure ? <Note words={deeds.failure} /> : null}
        {kept ? <Kept todo={shown.viewOf(kept)} today={today} onOpen={() => show(kept)} /> : null}
        {isNotedHere ? null : noted}
        {isEmpty && !kept ? (
          <Examples
            words="Nothing comes back yet. Write one as you would say it, or try one of these:"
            onPick={(text) => router.push({ pathname: '/write', params: { text } })}
          />
        ) : null}
      </View>
      {left.map(({ todo, slot, title }) => (
        <View key={`${todo} ${slot}`} style={{ paddingHorizontal: 20, paddingTop: 8 }}>
          <Note
            words={`${title} was above all yesterday.`}
            action={{
              label: 'Again',
              name: `Above all again: ${title}`,
              onPress: () => deeds.aboveAgain(todo, slot, title),
            }}
          />
        </View>
      ))}
      {sections
        .filter(({ id }) => !alone || id === 'above')
        .map((section) => (
          <SectionRows key={section.id} section={section}>
            {section.rows.length > FEW ? (
              <>
                {notedIn(section, notedAt?.index ?? 0)}
                <VirtualRows rows={section.rows} keyOf={({ key }) => key} height={67}>
                  {(row, i) => rowOf(row, section.id, i)}
                </VirtualRows>
              </>
            ) : (
              [
                ...section.rows.flatMap((row, i) => [
                  notedIn(section, i),
                  rowOf(row, section.id, i),
                ]),
                notedIn(section, section.rows.length),
              ]
            )}
            {section.id === 'late' ? (
              <BringLate
                rows={section.rows.filter(({ time }) => time.status === 'open')}
                today={today}
                settings={settings}
                onBring={deeds.bring}
                onPutOff={deeds.putOff}
              />
            ) : null}
            {section.id === 'above' ? (
              <View style={{ paddingHorizontal: 20, alignItems: 'flex-start' }}>
                <WordLink
                  label={alone ? 'Show the rest' : 'These alone'}
                  onPress={() => setAlone(!alone)}
                />
              </View>
            ) : null}
          </SectionRows>
        ))}
      {elsewhere.length ? (
        <View role="region" aria-label="Late elsewhere">
          <View style={{ paddingHorizontal: 20, paddingTop: 16, paddingBottom: 4 }}>
            <Heading level={2} size={16} tint="late">
              Late elsewhere
            </Heading>
          </View>
          {elsewhere.map((row, i) => rowOf(row, 'late', i))}
        </View>
      ) : null}
      {!isEmpty && toDo === 0 ? <NothingLeft /> : null}
      <SoonSection
        todos={isWhole ? soon.map(({ todo }) => shown.viewOf(todo)!) : []}
        today={today}
        note={soonTime.note}
        onOpen={(todo) => todo.next && soonTime.open(todo, todo.next)}
      />
      {soonTime.sheet}
    </Screen>
  );
}

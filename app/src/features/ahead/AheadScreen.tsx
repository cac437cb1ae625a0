import type { TodoState } from '@back-again/contract';
import { parseDay, pauseOn, shortDate, type LocalDate } from '@back-again/core';
import { entryKey, isToDo, type DayAhead, type Entry } from '@back-again/core/planning';
import { router, useLocalSearchParams } from 'expo-router';
import { useEffect, useMemo, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useShown, type Shown } from '../../data/todos.ts';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Action } from '../../ui/Action.tsx';
import { Note } from '../../ui/Note.tsx';
import { Tabs } from '../../ui/Tabs.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook, useWide } from '../../ui/look.ts';
import { Bundles } from './Bundles.tsx';
import { DayRow, type Hollow } from './DayRow.tsx';
import { LazyTimeSheet } from '../../parts/time/LazyTimeSheet.tsx';
import { Evening } from './Evening.tsx';
import { Margin } from './Margin.tsx';
import { MonthsView } from './MonthView.tsx';
import { OnView } from './OnView.tsx';
import { useCarrying } from './carrying.ts';
import type { Move, Saying, Standing } from '../../parts/time/moving.ts';
import { later, weekOf } from '../../ui/span.ts';
import { useArranging } from './useArranging.ts';
import { onceAmong, useLaying } from './useLaying.ts';
import { useAnswer, useForecast } from './useForecast.ts';
import { useWithEnded } from './useWithEnded.ts';
import { spanName } from '../../parts/time/words.ts';

type View_ = 'week' | 'month' | 'on';
const VIEWS: readonly { value: View_; label: string }[] = [
  { value: 'week', label: 'Week' },
  { value: 'month', label: 'Month' },
  { value: 'on', label: 'From here on' },
];
const HEAD = {
  flexDirection: 'row',
  flexWrap: 'wrap',
  alignItems: 'center',
  columnGap: 18,
} as const;
const NO_HOURS: readonly Hollow[] = [];

/** The days ahead, as a week, by months, or day by day. `story` shows one to-do beside them. */
export function AheadScreen({ story }: { story: (id: string | null) => ReactNode }) {
  const shown = useShown();
  const { bundle: ofThese } = useLocalSearchParams<{ bundle?: string }>();
  const chosenToDos = ofThese ? ofThese.split(',') : null;
  const look = useLook();
  const wide = useWide();
  const announce = useAnnounce();
  const { today, planner, person } = shown;
  const { settings } = person;
  const [view, setView] = useState<View_>('week');
  const [anchor, setAnchor] = useState(today);
  const [isWhole, setWhole] = useState(false);
  const [isEvening, setEvening] = useState(false);
  const [chosen, setChosen] = useState<LocalDate | null>(null);
  const [page, setPage] = useState<string | null>(null);
  const [opened, setOpened] = useState<string | null>(null);

  useEffect(() => {
    document.title = 'Ahead · Back Again';
  }, []);

  const forecast = useForecast(shown, isWhole);
  const from = weekOf(anchor, settings.weekStart);
  const to = later(from, 6);
  const listFrom = view === 'week' ? from : (chosen ?? today);
  const listTo = view === 'week' ? to : (chosen ?? today);
  const coming = useAnswer(forecast, 'days', listFrom, listTo);
  const days = useWithEnded(shown, coming);
  const hours = useAnswer(forecast, 'lay', listFrom, listTo);
  const [evenTo, setEvenTo] = useState(7);
  const [met] = useState(() => new Map<string, Standing>());
  const it = useArranging(shown, announce);
  const inSight = shown.inSight();
  const laying = useLaying(shown, it.did, it.say);
  const [isBundling, setBundling] = useState(chosenToDos !== null);
  const undated = useMemo(() => undatedOf(inSight), [inSight]);
  for (const entry of [...(days ?? []).flatMap((day) => day.entries), ...undated])
    met.set(entryKey(entry), entry);

  const inside = useRef<HTMLElement | null>(null);
  const wanted = useRef<{ name: string; day: LocalDate } | null>(null);
  const entriesNear = (days ?? []).flatMap((day) => day.entries);
  const carried = useCarrying({
    inside,
    today,
    later,
    dayOf: (name) => (laying.isOne(name) ? laying.dayOf(name) : (met.get(name)?.day ?? null)),
    onDrop(name, over) {
      if (laying.isOne(name)) {
        laying.put(name, over.day);
        wanted.current = { name, day: over.day };
        return;
      }
      const entry = met.get(name);
      if (!entry) return;
      it.move(entry, over, entriesNear);
      wanted.current = { name, day: over.day };
    },
    onEdge: (by) => view === 'week' && setAnchor((day) => later(day, by * 7)),
    onShow: (day) => view === 'week' && setAnchor(day),
  });
  // The keys go on with what was carried, once it stands where it was put.
  useEffect(() => {
    if (!wanted.current) return;
    const { name, day } = wanted.current;
    const grip = document.querySelector<HTMLElement>(`[data-grip="${CSS.escape(name)}"]`);
    if (grip?.closest<HTMLElement>('[data-day]')?.dataset.day !== day) return;
    wanted.current = null;
    grip.focus();
  });
  const carriedEntry = carried && met.get(carried.name);
  const wouldBe: Move =
    carriedEntry && carried.over.day
      ? it.moveOf(
          carriedEntry,
          { day: carried.over.day, ...(carried.over.at ? { at: carried.over.at } : {}) },
          entriesNear,
        )
      : null;
  const carriedWords =
    carried && laying.isOne(carried.name)
      ? carryingWords(
          carried.over.day,
          laying.dayOf(carried.name),
          carried.over.day ? laying.moveOf(carried.name, carried.over.day) : null,
          today,
        )
      : carriedEntry
        ? carryingWords(carried.over.day, carriedEntry.day, wouldBe, today)
        : null;
  useEffect(() => {
    if (carriedWords) announce(carriedWords);
  }, [announce, carriedWords]);

  const isInSight = useMemo(() => new Set(inSight.map(({ id }) => id)), [inSight]);
  const paused = useMemo(
    () => inSight.filter(({ over, progress }) => !over && progress.series.pauses?.length),
    [inSight],
  );
  const isShown = (entry: Entry) => isInSight.has(entry.todo);
  const isMovable = (entry: Entry) => isToDo(entry);
  const openIt = (entry: Standing) => {
    met.set(entryKey(entry), entry);
    setOpened(entryKey(entry));
  };
  const openPage = (id: string) => (wide ? setPage(id) : router.push(`/todo/${id}`));
  const now = planner.clock.momentAt(shown.now).slice(11);
  const closed = closedDays(shown);
  const openEntry = opened === null ? null : met.get(opened);

  const dayRow = (day: DayAhead, numbered: boolean) => (
    <DayRow
      key={day.date}
      day={isWhole ? { ...day, entries: day.entries.filter(isShown) } : day}
      today={today}
      now={now}
      told={toldOf(person.holidays, paused, day.date, days?.[0]?.date === day.date)}
      closed={closed(day.date)}
      laid={hollowOf(day, hours?.[day.date]?.laid ?? [])}
      laying={laying.standing.filter((entry) => entry.day === day.date)}
      layingTitle={laying.titleOf}
      away={carried?.name ?? null}
      over={carried?.over.day === day.date ? carried.over : null}
      numbered={numbered}
      titleOf={it.titleOf}
      isMovable={isMovable}
      onOpen={openIt}
      onLay={(date) => {
        const of = days?.find((other) => other.date === date);
        if (of) it.takeHours(of, hollowOf(of, hours?.[date]?.laid ?? []));
      }}
    />
  );

  return (
    <View ref={inside as never} style={{ flex: 1 }}>
      <Screen {...(page ? { width: 760, detail: story(page) } : {})}>
        <View style={{ paddingHorizontal: 20, paddingTop: 18, gap: 2 }}>
          <View style={HEAD}>
            <Heading level={1} size={wide ? 32 : 25}>
              {view === 'week'
                ? spanName(from, to)
                : view === 'month'
                  ? 'By months'
                  : 'From here on'}
            </Heading>
            {view === 'week' ? (
              <>
                <WordLink
                  label="Before"
                  name="The week before"
                  onPress={() => setAnchor(later(from, -7))}
                />
                <WordLink
                  label="After"
                  name="The week after"
                  onPress={() => setAnchor(later(from, 7))}
                />
                {today < from || today > to ? (
                  <WordLink label="This week" onPress={() => setAnchor(today)} />
                ) : null}
              </>
            ) : null}
          </View>
          <View style={HEAD}>
            <Tabs label="How far ahead" options={VIEWS} value={view} onChange={setView} />
          </View>
          <View style={HEAD}>
            {view === 'week' ? (
              <>
                <WordLink
                  label="Even out"
                  expanded={isEvening}
                  onPress={() => setEvening(!isEvening)}
                />
                <WordLink
                  label="Bundles"
                  expanded={isBundling}
                  onPress={() => setBundling(!isBundling)}
                />
              </>
            ) : null}
            {shown.own().focus !== null ? (
              <WordLink
                label={isWhole ? 'Count this sphere alone' : 'Count the other spheres too'}
                onPress={() => setWhole(!isWhole)}
              />
            ) : null}
          </View>
        </View>
        {view === 'week' && isEvening ? (
          <Evening
            forecast={forecast}
            from={from}
            days={evenTo}
            today={today}
            titleOf={(key) => it.titleOf({ todo: key.split(' ')[0]! })}
            onDays={setEvenTo}
            onTake={(moves, evened) => {
              it.takeOver(moves, evened);
              setEvening(false);
            }}
            onClose={() => setEvening(false)}
          />
        ) : null}
        {view === 'week' && isBundling ? (
          <Bundles
            bundles={shown.own().bundles ?? []}
            oneOffs={onceAmong(inSight, entriesNear)}
            begunWith={inSight.filter(({ id }) => chosenToDos?.includes(id))}
            onLay={(bundle) => {
              laying.lay(bundle, from);
              setBundling(false);
            }}
            onKeep={(bundle, has) =>
              it.did(
                { do: 'bundle', bundle, has },
                has ? `${has.name} is kept as a bundle.` : 'The bundle is taken away.',
              )
            }
            onClose={() => setBundling(false)}
          />
        ) : null}
        {view === 'week' ? (
          <View style={{ marginTop: 8, borderBottomWidth: 1, borderBottomColor: look.line }}>
            {(days ?? []).map((day, i) => dayRow(day, i === (days?.length ?? 0) - 1))}
            {days ? null : <View style={{ height: 600 }} />}
          </View>
        ) : null}
        {view === 'month' ? (
          <MonthsView
            forecast={forecast}
            weekStart={settings.weekStart}
            today={today}
            chosen={chosen}
            over={carried?.over.day ?? null}
            onChoose={setChosen}
          >
            {chosen ? (days ?? []).map((day) => dayRow(day, true)) : null}
          </MonthsView>
        ) : null}
        {view === 'on' ? (
          <OnView
            from={today}
            forecast={forecast}
            titleOf={it.titleOf}
            isMovable={isMovable}
            isShown={isShown}
            away={carried?.name ?? null}
            over={carried?.over.day ?? null}
            onOpen={openIt}
          />
        ) : null}
        {view === 'week' && undated.length ? (
          <Margin
            entries={undated}
            titleOf={it.titleOf}
            away={carried?.name ?? null}
            onOpen={openIt}
          />
        ) : null}
      </Screen>
      {laying.proposed ? (
        <View
          role="region"
          aria-label="Laying in"
          style={{
            flexDirection: 'row',
            flexWrap: 'wrap',
            alignItems: 'center',
            gap: 10,
            paddingHorizontal: 20,
            paddingVertical: 8,
            borderTopWidth: 1,
            borderTopColor: look.line,
            backgroundColor: look.card,
          }}
        >
          <Words size={15} weight={600} style={{ flexShrink: 1 }}>
            {layingText(laying.proposed)}
          </Words>
          <Action filled label="Keep them" onPress={laying.keep} />
          <Action label="Leave it" name="Leave the bundle out" onPress={laying.leave} />
        </View>
      ) : null}
      {(it.failure ?? it.refused ?? it.last) ? (
        <View style={{ paddingHorizontal: 16, paddingVertical: 6, backgroundColor: look.paper }}>
          {it.failure ? <Note words={it.failure} /> : null}
          {it.refused ? <Note words={it.refused} /> : null}
          {it.last ? <UndoNote words={it.last.words} onUndo={it.undo} /> : null}
        </View>
      ) : null}
      {carried && carriedWords ? (
        <Carrying words={carriedWords} x={carried.x} y={carried.y} by={carried.by} />
      ) : null}
      {openEntry ? (
        <LazyTimeSheet
          entry={openEntry}
          title={it.titleOf(openEntry)}
          shown={shown}
          onMove={(day) => {
            it.move(openEntry, { day }, entriesNear);
            setOpened(null);
          }}
          onDeed={(deed) => {
            it.deed(openEntry, deed);
            setOpened(null);
          }}
          onPage={() => {
            setOpened(null);
            openPage(openEntry.todo);
          }}
          onClose={() => setOpened(null)}
        />
      ) : null}
    </View>
  );
}

/** “The honey fair: 5 to lay in”, and what of it lies there already. */
function layingText({ name, all, there }: { name: string; all: unknown[]; there: number }): string {
  const words = `${name}: ${all.length} to lay in.`;
  if (!there) return `${words} Move them as you like.`;
  return `${words} ${there === 1 ? 'One lies' : `${there} lie`} there already.`;
}

/** What is carried, and what would come of letting it go here. */
function Carrying({
  words,
  x,
  y,
  by,
}: {
  words: string;
  x: number;
  y: number;
  by: 'pointer' | 'keys';
}) {
  const look = useLook();
  const place =
    by === 'keys'
      ? { left: '50%', bottom: 90, transform: 'translateX(-50%)' }
      : { left: Math.min(x + 14, globalThis.innerWidth - 250), top: Math.max(8, y - 62) };
  return (
    <View
      aria-hidden
      style={
        {
          position: 'fixed',
          ...place,
          maxWidth: 240,
          paddingVertical: 8,
          paddingHorizontal: 12,
          borderRadius: 10,
          backgroundColor: look.ink,
          pointerEvents: 'none',
          zIndex: 20,
        } as object
      }
    >
      <Words size={14.5} weight={600} style={{ color: look.paper }}>
        {words}
      </Words>
    </View>
  );
}

/** What is said while something is carried. */
function carryingWords(
  over: LocalDate | null,
  from: LocalDate | null,
  move: Saying,
  today: LocalDate,
): string {
  if (over === null) return 'Let go here, and it stays where it is';
  if (!move)
    return from === null || over !== from
      ? `It stands on ${shortDate(over, today)}`
      : `It stays on ${shortDate(over, today)}`;
  return 'refused' in move ? move.refused : `${move.words[0]!.toUpperCase()}${move.words.slice(1)}`;
}

/** Proposed hours with how long they are. */
function hollowOf(day: DayAhead, laid: readonly { key: string; at: string }[]): readonly Hollow[] {
  if (!laid.length) return NO_HOURS;
  return laid.map(({ key, at }) => ({
    key,
    at,
    takes: day.entries.find((entry) => entryKey(entry) === key)?.takes ?? 0,
  }));
}

/** What is told of a day: a public holiday, and what is paused from here. */
function toldOf(
  holidays: readonly LocalDate[],
  all: readonly TodoState[],
  date: LocalDate,
  isFirst: boolean,
): string {
  const begins = ({ progress }: TodoState) => {
    const pause = pauseOn(progress.series, date);
    return pause !== undefined && (isFirst || pause.from === date);
  };
  const paused = all.filter(begins).map(({ details }) => details.title);
  return [
    ...(holidays.includes(date) ? ['public holiday'] : []),
    ...(paused.length > 2 ? [`${paused.length} paused`] : paused.map((title) => `${title} paused`)),
  ].join(', ');
}

function closedDays({ planner, all }: Shown): (date: LocalDate) => boolean {
  const any = all()[0]?.progress.series;
  if (!any) return () => false;
  const plan = planner(any);
  return (date) => !plan.isOpenDay(parseDay(date));
}

/** Open ones without a day, as entries that lie on none. */
function undatedOf(inSight: readonly TodoState[]): Standing[] {
  return inSight
    .filter(({ over, details }) => !over && !details.someday)
    .flatMap(({ id, progress, details }) =>
      progress.open
        .filter(({ plan }) => plan === null)
        .map(({ slot, number }) => ({
          todo: id,
          slot,
          number,
          nth: null,
          kind: 'open' as const,
          day: null,
          at: null,
          due: null,
          once: true,
          byHand: false,
          takes: details.takes,
        })),
    );
}

import type { PastDayView, PastRow } from '@back-again/contract/past';
import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useState } from 'react';
import { View } from 'react-native';
import { useAct, useLast } from '../../data/act.ts';
import { useShown } from '../../data/todos.ts';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { UndoNote } from '../../ui/UndoNote.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useWide } from '../../ui/look.ts';
import { Asked } from './Asked.tsx';
import { Calendar } from './Calendar.tsx';
import { linesOf, unanswered } from './PastLine.tsx';
import { usePastDayQuery } from './pastApi.ts';
import { dayAfter, dayIn, dayText, summaryText } from './words.ts';

const goTo = (on: string) => router.push(`/past?on=${on}` as Href);

/** A day that has gone by, and today as far as it has: what was done, skipped and missed. */
export function DayScreen() {
  const { on } = useLocalSearchParams<{ on?: string }>();
  const shown = useShown();
  const wide = useWide();
  const { today, person } = shown;
  const { settings } = person;
  const day = dayIn(on) ?? today;
  const it = usePastDayQuery(day);
  const { does, failure } = useAct(useAnnounce());
  const { last, undo, did } = useLast(does);
  const [month, setMonth] = useState<string | null>(null);
  const isPicking = month !== null || wide;
  useEffect(() => {
    document.title = 'Past · Back Again';
  }, []);
  const calendar = (
    <Calendar
      month={month ?? day}
      chosen={day}
      today={today}
      weekStart={settings.weekStart}
      onMonth={setMonth}
      onChoose={(date) => {
        setMonth(null);
        goTo(date);
      }}
    />
  );
  const before = dayAfter(day, -1);
  const after = dayAfter(day, 1);
  return (
    <Screen>
      <View style={{ paddingHorizontal: 20, paddingTop: 18 }}>
        <Words size={14.5} tint="soft">
          Past
        </Words>
        <View
          style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 18 }}
        >
          <Heading level={1} size={30}>
            {day === today ? `Today, ${dayText(day, today).slice(4)}` : dayText(day, today)}
          </Heading>
          <WordLink
            label={dayText(before, today).slice(0, 3)}
            name={`The day before: ${dayText(before, today)}`}
            onPress={() => goTo(before)}
          />
          {after <= today ? (
            <WordLink
              label={after === today ? 'Today' : dayText(after, today).slice(0, 3)}
              name={`The day after: ${dayText(after, today)}`}
              onPress={() => goTo(after)}
            />
          ) : null}
        </View>
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
          {wide ? null : (
            <WordLink
              label="Another day"
              expanded={isPicking}
              onPress={() => setMonth(month === null ? day : null)}
            />
          )}
          <WordLink label="Totals" onPress={() => router.push('/past/totals' as Href)} />
          <WordLink
            label="The year"
            onPress={() => router.push(`/past/year?year=${day.slice(0, 4)}` as Href)}
          />
          <LookBacks />
        </View>
        {!wide && isPicking ? calendar : null}
        {on !== undefined && dayIn(on) === null ? (
          <Note words={`There is no day “${on}” in the calendar: this is today.`} />
        ) : null}
        {failure ? <Note words={failure} /> : null}
        {last ? <UndoNote words={last.words} onUndo={undo} /> : null}
      </View>
      <View style={wide ? { flexDirection: 'row', alignItems: 'flex-start' } : {}}>
        <View style={{ flex: 1, minWidth: 0 }}>
          <Asked it={it}>
            {(data) => <Day data={data} line={linesOf(shown, { does, did })} />}
          </Asked>
        </View>
        {wide ? <View style={{ width: 400, padding: 20 }}>{calendar}</View> : null}
      </View>
    </Screen>
  );
}

/** The ways to the look-backs of the person. */
function LookBacks() {
  const { all } = useShown();
  const those = all().filter(({ details, over }) => details.looksBack && !over);
  return those.map(({ id, details }) => (
    <WordLink
      key={id}
      label={details.title}
      name={`Look back: ${details.title}`}
      onPress={() => router.push(`/past/look/${id}` as Href)}
    />
  ));
}

function Day({ data, line }: { data: PastDayView; line: (row: PastRow) => React.ReactNode }) {
  const { done, skipped, missed, counts, minutes, estimated } = data;
  const left = done.filter((row) => unanswered(row).length);
  const rest = done.filter((row) => !unanswered(row).length);
  return (
    <View style={{ paddingBottom: 24 }}>
      <Words size={16.5} style={{ paddingHorizontal: 20, paddingTop: 4 }} live>
        {summaryText({ ...counts, minutes, estimated })}
      </Words>
      <Group title="Done" rows={rest} line={line} />
      <Group title="Not filled in" rows={left} line={line} />
      <Group title="Skipped" rows={skipped} line={line} />
      <Group title="Missed" rows={missed} line={line} />
      {counts.done > done.length || counts.missed > missed.length ? (
        <Words size={15} tint="soft" style={{ padding: 20 }}>
          There were more than are shown here.
        </Words>
      ) : null}
    </View>
  );
}

function Group({
  title,
  rows,
  line,
}: {
  title: string;
  rows: readonly PastRow[];
  line: (row: PastRow) => React.ReactNode;
}) {
  if (!rows.length) return null;
  return (
    <View role="region" aria-label={title} style={{ paddingTop: 14 }}>
      <Heading level={2} size={16} style={{ paddingHorizontal: 20, paddingBottom: 4 }}>
        {title}
      </Heading>
      {rows.map(line)}
    </View>
  );
}

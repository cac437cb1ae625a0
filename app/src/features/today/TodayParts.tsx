import {
  parseDay,
  weekdayIndex,
  type DayReminder,
  type LocalDate,
  type Settings,
  type TodoView,
} from '@back-again/core';
import { router } from 'expo-router';
import { Suspense, lazy, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { MONTHS, WEEKDAYS, instantText } from '../../ui/dates.ts';
import { Waiting } from '../../ui/Waiting.tsx';
import { APART, useLook, useWide } from '../../ui/look.ts';
import { SoonRow } from './TodayRow.tsx';
import type { Row, Section } from './rows.ts';

/** Loaded when several are first put off. */
const PutOffSeveral = lazy(async () => ({
  default: (await import('./DayPanels.tsx')).PutOffSeveral,
}));

const AT_FOOT = { ...APART, alignItems: 'flex-end' } as const;

interface DayHeadProps {
  today: string;
  toDo: number;
  empty: boolean;
}

export function DayHead({ today, toDo, empty }: DayHeadProps) {
  const day = parseDay(today);
  const [year, month, n] = today.split('-').map(Number) as [number, number, number];
  const weekday = WEEKDAYS[weekdayIndex(day)]!;
  const wide = useWide();
  return (
    <View style={{ paddingHorizontal: 20, paddingTop: wide ? 20 : 6, paddingBottom: 6 }}>
      <View style={AT_FOOT}>
        <Words size={15} weight={600} tint="soft">
          {weekday}
        </Words>
        {wide ? null : <WordLink label="Settings" onPress={() => router.push('/settings')} />}
      </View>
      <View style={AT_FOOT}>
        <Heading level={1} size={36}>{`${n} ${MONTHS[month - 1]}`}</Heading>
        {empty ? null : (
          <Words size={14.5} tint="soft" style={{ paddingBottom: 4 }}>
            {toDo === 0 ? `${year}` : `${toDo} for today`}
          </Words>
        )}
      </View>
    </View>
  );
}

interface NextReminderProps {
  reminders: readonly DayReminder[];
  today: string;
  settings: Settings;
}

/** The next thing that is said today, in words: the ruler shows all of them. */
export function NextReminder({ reminders, today, settings }: NextReminderProps) {
  const [first, ...more] = reminders;
  if (!first) return null;
  const others = more.length ? `, and ${more.length} more today` : '';
  return (
    <Words size={14.5} tint="soft" style={{ paddingHorizontal: 20, paddingTop: 4 }}>
      {`Next reminder ${instantText(first.at, today, settings).replace('today, ', '')}: ${first.title}${others}`}
    </Words>
  );
}

/** One section with its rows; what is above all is set off from the rest of the day. */
export function SectionRows({ section, children }: { section: Section; children: ReactNode }) {
  const look = useLook();
  const isAbove = section.id === 'above';
  return (
    <View
      role="region"
      aria-label={section.title}
      style={
        isAbove
          ? {
              marginTop: 12,
              borderTopWidth: 2.5,
              borderBottomWidth: 2.5,
              borderColor: look.ink,
              backgroundColor: look.card,
            }
          : undefined
      }
    >
      <SectionHead section={section} />
      {children}
    </View>
  );
}

function SectionHead({ section }: { section: Section }) {
  const late = section.id === 'late';
  const done = section.rows.filter(({ time }) => time.status !== 'open').length;
  const open = section.rows.filter(({ time }) => time.status === 'open').length;
  return (
    <View
      style={{
        paddingHorizontal: 20,
        paddingTop: 16,
        paddingBottom: 4,
        flexDirection: 'row',
        justifyContent: 'space-between',
      }}
    >
      <Heading level={2} size={16} tint={late ? 'late' : 'ink'}>
        {late && open ? `${section.title}, ${open}` : section.title}
      </Heading>
      {section.id === 'above' ? (
        <Words size={14.5} tint="soft" weight={600}>
          {`${done} of ${section.rows.length} done`}
        </Words>
      ) : null}
    </View>
  );
}

interface BringLateProps extends Pick<DayHeadProps, 'today'> {
  rows: readonly Row[];
  settings: Settings;
  onBring: (rows: readonly Row[]) => void;
  onPutOff: (rows: readonly Row[], to: LocalDate) => void;
}

/** What is late: brought to today at one go, or put off, as many as are chosen. */
export function BringLate({ rows, today, settings, onBring, onPutOff }: BringLateProps) {
  const [isChoosing, setChoosing] = useState(false);
  if (!rows.length) return null;
  const label =
    rows.length === 1
      ? 'Bring it to today'
      : rows.length === 2
        ? 'Bring both to today'
        : `Bring all ${rows.length} to today`;
  return (
    <View style={{ paddingHorizontal: 20 }}>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 20 }}>
        <WordLink label={label} onPress={() => onBring(rows)} />
        {rows.length > 1 ? (
          <WordLink
            label="Put several off"
            expanded={isChoosing}
            onPress={() => setChoosing(!isChoosing)}
          />
        ) : null}
      </View>
      {isChoosing ? (
        <Suspense fallback={<Waiting lines={3} label="What is late" />}>
          <PutOffSeveral
            rows={rows}
            today={today}
            settings={settings}
            onPutOff={(some, to) => {
              setChoosing(false);
              onPutOff(some, to);
            }}
            onClose={() => setChoosing(false)}
          />
        </Suspense>
      ) : null}
    </View>
  );
}

export function NothingLeft() {
  return (
    <View style={{ paddingHorizontal: 20, paddingTop: 18 }}>
      <Words tint="soft">Nothing is left for today.</Words>
    </View>
  );
}

interface SoonSectionProps {
  todos: readonly TodoView[];
  today: string;
  /** What was done with one of them just now. */
  note: ReactNode;
  onOpen: (todo: TodoView) => void;
}

export function SoonSection({ todos, today, note, onOpen }: SoonSectionProps) {
  if (!todos.length && !note) return null;
  return (
    <View role="region" aria-label="Coming back soon">
      <View style={{ paddingHorizontal: 20, paddingTop: 18, paddingBottom: 4 }}>
        <Heading level={2} size={16} tint="soft">
          Coming back soon
        </Heading>
      </View>
      {todos.map((todo, i) => (
        <SoonRow
          key={todo.id}
          first={i === 0}
          todo={todo}
          today={today}
          onOpen={() => onOpen(todo)}
        />
      ))}
      {note ? <View style={{ paddingHorizontal: 20, paddingTop: 6 }}>{note}</View> : null}
    </View>
  );
}

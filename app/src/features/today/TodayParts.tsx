import {
  parseDay,
  weekdayIndex,
  type DayReminder,
  type Settings,
  type TodoView,
} from '@back-again/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { MONTHS, WEEKDAYS, instantText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';
import { SoonRow } from './TodayRow.tsx';
import type { Row, Section } from './rows.ts';

interface DayHeadProps {
  today: string;
  toDo: number;
  empty: boolean;
}

export function DayHead({ today, toDo, empty }: DayHeadProps) {
  const day = parseDay(today);
  const [year, month, n] = today.split('-').map(Number) as [number, number, number];
  const weekday = WEEKDAYS[weekdayIndex(day)]!;
  return (
    <View
      style={{
        paddingHorizontal: 20,
        paddingTop: 20,
        paddingBottom: 6,
        flexDirection: 'row',
        justifyContent: 'space-between',
        alignItems: 'flex-end',
        gap: 12,
      }}
    >
      <View style={{ flexShrink: 1 }}>
        <Words size={15} weight={600} tint="soft">
          {weekday}
        </Words>
        <Heading level={1} size={36}>{`${n} ${MONTHS[month - 1]}`}</Heading>
      </View>
      <View style={{ alignItems: 'flex-end' }}>
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

export function BringLate({
  rows,
  onBring,
}: {
  rows: readonly Row[];
  onBring: (rows: readonly Row[]) => void;
}) {
  if (!rows.length) return null;
  const label =
    rows.length === 1
      ? 'Bring it to today'
      : rows.length === 2
        ? 'Bring both to today'
        : `Bring all ${rows.length} to today`;
  return (
    <View style={{ paddingLeft: 94, alignItems: 'flex-start' }}>
      <WordLink label={label} onPress={() => onBring(rows)} />
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
  onOpen: (id: string) => void;
}

export function SoonSection({ todos, today, onOpen }: SoonSectionProps) {
  if (!todos.length) return null;
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
          onOpen={() => onOpen(todo.id)}
        />
      ))}
    </View>
  );
}

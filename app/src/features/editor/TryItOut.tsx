import {
  formatDay,
  parseDay,
  weekdayIndex,
  type LocalDate,
  type Definition,
  type Settings,
} from '@back-again/core';
import { useMemo, useState } from 'react';
import { Pressable, View } from 'react-native';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { WEEKDAYS as NAMES, shortDate } from '../../ui/dates.ts';
import { THUMB, useLook } from '../../ui/look.ts';
import type { Person } from './edit.ts';
import { TRY_DAYS, canTry, tryFrom, tryOut, type Plan, type Tried, type Would } from './tryOut.ts';

interface TryItOutProps {
  series: Definition;
  person: Person;
  settings: Settings;
  holidays: readonly LocalDate[];
  /** Open from the beginning. */
  isOpen?: boolean;
}

const KIND = { fixed: 'By the calendar', after: 'After I finish' } as const;
const NEXT: Record<string, Would | null> = { none: 'done', done: 'skip', skip: null };

/** What would follow if it were finished on these days: by the calendar, and after I finish, side by side. */
export function TryItOut({ series, person, settings, holidays, isOpen }: TryItOutProps) {
  const [open, setOpen] = useState(isOpen ?? false);
  const [plan, setPlan] = useState<Plan>({});
  const tried = useMemo(
    () => (open && canTry(series) ? tryOut(series, plan, person, settings, holidays) : []),
    [open, series, plan, person, settings, holidays],
  );
  if (!canTry(series)) return null;
  if (!open)
    return (
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink label="Try it out" expanded={false} onPress={() => setOpen(true)} />
      </View>
    );
  const from = parseDay(tryFrom(series, person.today));
  const touch = (date: LocalDate) => {
    const { [date]: before, ...rest } = plan;
    const next = NEXT[before ?? 'none'];
    setPlan(next ? { ...rest, [date]: next } : rest);
  };
  return (
    <View role="region" aria-label="Try it out" style={{ gap: 8 }}>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
        <Heading level={2} size={16}>
          Try it out
        </Heading>
        <WordLink label="Hide" name="Hide: try it out" onPress={() => setOpen(false)} />
      </View>
      <Words size={15} tint="soft">
        Touch the days on which you would finish it; once more, and it is skipped that day.
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', maxWidth: 7 * 60 }}>
        {Array.from({ length: TRY_DAYS }, (_, i) => {
          const date = formatDay(from + i);
          return <DayCell key={date} date={date} would={plan[date]} onTouch={() => touch(date)} />;
        })}
      </View>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 16 }}>
        {tried.map((it) => (
          <Column key={it.kind} tried={it} today={person.today} />
        ))}
      </View>
    </View>
  );
}

const SPOKEN = { none: 'nothing', done: 'finished', skip: 'skipped' } as const;

function DayCell({
  date,
  would,
  onTouch,
}: {
  date: LocalDate;
  would: Would | undefined;
  onTouch: () => void;
}) {
  const look = useLook();
  const day = parseDay(date);
  const n = Number(date.slice(8));
  return (
    <View style={{ width: `${100 / 7}%`, padding: 2 }}>
      <Pressable
        role="button"
        aria-label={`${NAMES[weekdayIndex(day)]} ${shortDate(date, date).slice(4)}: ${SPOKEN[would ?? 'none']}`}
        onPress={onTouch}
        style={{
          height: THUMB,
          borderRadius: 10,
          alignItems: 'center',
          justifyContent: 'center',
          borderWidth: 1.5,
          borderColor: would ? look.ink : look.line,
          backgroundColor: would === 'done' ? look.moss : 'transparent',
        }}
      >
        <Words
          size={14}
          weight={would ? 700 : 400}
          style={{ lineHeight: 16, color: would === 'done' ? look.paper : look.ink }}
        >
          {n === 1 ? shortDate(date, date).slice(4) : String(n)}
        </Words>
        <Words
          size={13.5}
          style={{ lineHeight: 15, color: would === 'done' ? look.paper : look.soft }}
        >
          {would === 'skip'
            ? 'skip'
            : would === 'done'
              ? 'done'
              : NAMES[weekdayIndex(day)]!.slice(0, 2)}
        </Words>
      </Pressable>
    </View>
  );
}

const MOST_SHOWN = 8;

function Column({ tried, today }: { tried: Tried; today: LocalDate }) {
  const look = useLook();
  const { kind, chosen, times, next } = tried;
  const shown = times.slice(-MOST_SHOWN);
  return (
    <View
      role="group"
      aria-label={`${KIND[kind]}${chosen ? ', as it is now' : ''}`}
      style={{
        flexGrow: 1,
        flexBasis: 150,
        borderTopWidth: chosen ? 3 : 1,
        borderTopColor: chosen ? look.ink : look.track,
        paddingTop: 6,
      }}
    >
      <Words size={15.5} weight={700}>
        {KIND[kind]}
      </Words>
      <Words size={14} tint="soft">
        {chosen ? 'as it is now' : 'the other way'}
      </Words>
      {shown.map((time, i) => (
        <Words key={`${time.due} ${i}`} size={14.5}>
          {`${shortDate(time.due, today)}: `}
          <Words size={14.5} weight={600} tint={time.status === 'done' ? 'moss' : 'ink'}>
            {time.words}
          </Words>
        </Words>
      ))}
      <Words size={14.5} tint="soft">
        {next ? `then ${shortDate(next, today)}` : 'then when that is done'}
      </Words>
    </View>
  );
}

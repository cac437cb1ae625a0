import { formatDay, parseDay, putOffFrom } from '@back-again/core';
import type { LocalDate, Settings } from '@back-again/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { AnyDay } from '../../parts/time/AnyDay.tsx';
import { noonOf } from '../../parts/time/noonOf.ts';
import { Action } from '../../ui/Action.tsx';
import { SomeOf } from '../../ui/Choice.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { useInSight } from '../../ui/inSight.ts';
import { DayStrip } from './DayStrip.tsx';
import { nameOf, type Row } from './rows.ts';

/** The days that something is put off to, or was done on: loaded when the first is asked for. */

interface PanelProps {
  row: Row;
  today: LocalDate;
  settings: Settings;
}

/** Where a time can be put off to: the coming days on a line, a few by name, and any other. */
export function MovePanel({
  row,
  today,
  settings,
  onMove,
}: PanelProps & { onMove: (plan: LocalDate) => void }) {
  const name = nameOf(row);
  const { plan } = row.time;
  const isOnce = row.todo.series.repeat === null;
  return (
    <Opened>
      <DayStrip name={name} today={today} plan={plan ?? today} onMove={onMove} />
      <Choices
        words={isOnce ? 'Put it off to' : 'This time only, to'}
        choices={putOffChoices(settings, today).map(({ label, plan: day }) => ({
          label,
          onPress: () => onMove(day),
        }))}
      />
      <AnyDay
        label="another day"
        name={`Move ${name}`}
        value={plan}
        today={today}
        from={today}
        weekStart={settings.weekStart}
        onPick={onMove}
      />
    </Opened>
  );
}

/** The day on which something was done that was forgotten here. */
export function EarlierPanel({
  row,
  today,
  settings,
  onDone,
}: PanelProps & { onDone: (when: string) => void }) {
  const day = parseDay(today);
  return (
    <Opened>
      <Choices
        words="It was done"
        choices={[1, 2, 3, 4].map((n) => ({
          label: n === 1 ? 'yesterday' : momentText(formatDay(day - n), today),
          onPress: () => onDone(noonOf(formatDay(day - n), settings)),
        }))}
      />
      <AnyDay
        label="on another day"
        name={`The day on which it was done: ${nameOf(row)}`}
        value={null}
        today={today}
        until={today}
        weekStart={settings.weekStart}
        onPick={(date) => onDone(noonOf(date, settings))}
      />
    </Opened>
  );
}

/** Where something can be put off to, each day once. */
function putOffChoices(settings: Settings, today: LocalDate) {
  const { tomorrow, weekend, nextWeek, inThreeDays, inAWeek } = putOffFrom(
    parseDay(today),
    settings,
  );
  const choices = [
    { label: 'tomorrow', plan: tomorrow },
    { label: 'the weekend', plan: weekend },
    { label: 'next week', plan: nextWeek },
    { label: momentText(inThreeDays, today), plan: inThreeDays },
    { label: 'in a week', plan: inAWeek },
  ];
  return choices.filter(
    (it, i): it is { label: string; plan: LocalDate } =>
      it.plan !== null && choices.findIndex(({ plan }) => plan === it.plan) === i,
  );
}

interface SeveralProps {
  rows: readonly Row[];
  today: LocalDate;
  settings: Settings;
  onPutOff: (rows: readonly Row[], to: LocalDate) => void;
  onClose: () => void;
}

/** Several late ones are put off at once: which, and to when. */
export function PutOffSeveral({ rows, today, settings, onPutOff, onClose }: SeveralProps) {
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const chosen = rows.filter(({ key }) => !left.has(key));
  const toggle = (key: string) =>
    setLeft((before) => {
      const next = new Set(before);
      if (!next.delete(key)) next.add(key);
      return next;
    });
  const n = chosen.length;
  return (
    <Opened label="Put several off">
      <SomeOf
        label="Which are put off"
        options={rows.map((row) => ({ value: row.key, label: nameOf(row) }))}
        value={chosen.map(({ key }) => key)}
        onToggle={toggle}
      />
      {n ? (
        <>
          <Choices
            words={n === 1 ? 'Put it off to' : `Put these ${n} off to`}
            choices={putOffChoices(settings, today).map(({ label, plan }) => ({
              label,
              onPress: () => onPutOff(chosen, plan),
            }))}
          />
          <AnyDay
            label="another day"
            name="The day to which they are put off"
            value={null}
            today={today}
            from={today}
            weekStart={settings.weekStart}
            onPick={(day) => onPutOff(chosen, day)}
          />
        </>
      ) : (
        <Words size={15} tint="soft">
          None is chosen.
        </Words>
      )}
      <View style={{ alignItems: 'flex-start' }}>
        <Action label="Leave them" onPress={onClose} />
      </View>
    </Opened>
  );
}

/** What opened in place comes into sight. */
function Opened({ label, children }: { label?: string; children: ReactNode }) {
  const at = useInSight();
  return (
    <View ref={at} {...(label === undefined ? {} : { role: 'group', 'aria-label': label })}>
      {children}
    </View>
  );
}

function Choices({
  words,
  choices,
}: {
  words: string;
  choices: { label: string; onPress: () => void }[];
}) {
  return (
    <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 16 }}>
      <Words size={15} tint="soft">
        {words}
      </Words>
      {choices.map(({ label, onPress }) => (
        <WordLink key={label} label={label} name={`${words} ${label}`} onPress={onPress} />
      ))}
    </View>
  );
}

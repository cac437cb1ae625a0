import { addMonths, formatDay, momentText, parseDay, type LocalDate } from '@back-again/core';
import type { Source } from '@back-again/core/reading';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useAnnounce } from '../../ui/Frame.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { HoursField } from '../../ui/HourField.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { DayPicker } from '../../ui/DayPicker.tsx';
import { OpensControls, PlaceControls, TakesControls } from './DetailControls.tsx';
import { RemindControls } from './RemindControls.tsx';
import { Panel, Stepper } from './Panel.tsx';
import { TableControls } from './TableControls.tsx';
import { panelTitle, type PanelName } from './Sentence.tsx';
import {
  kindOf,
  takesTimes,
  withClosed,
  withEnds,
  withGrace,
  withLate,
  withOwe,
  withLastDone,
  withStart,
  withTimes,
  type ControlsProps,
} from './edit.ts';
import { RepeatControls } from './RepeatControls.tsx';
import {
  ImportanceControls,
  NoteControls,
  QuestionControls,
  SlackControls,
  SomedayControls,
  StepControls,
  TagControls,
  TakingUpControls,
  ThenControls,
  WindowControls,
} from './WhatControls.tsx';

/** The controls that belong to one part of the sentence. */
export function Controls({
  panel,
  onClose,
  sources,
  onLeave,
  ...rest
}: ControlsProps & {
  panel: PanelName;
  onClose: () => void;
  /** The typed words that this part was read from. */
  sources: readonly Source[];
  /** Leaves such words in the title. */
  onLeave: (source: Source) => void;
}) {
  const Own = CONTROLS[panel];
  return (
    <Panel title={panelTitle(panel)} onClose={onClose}>
      {Own ? <Own {...rest} /> : <TableControls panel={panel} {...rest} />}
      <Leave sources={sources} onLeave={onLeave} />
    </Panel>
  );
}

/** Controls of their own; those of other parts are as the table of parts says. */
const CONTROLS: Record<PanelName, ((props: ControlsProps) => ReactNode) | undefined> = {
  repeat: (props) => <RepeatControls {...props} />,
  start: (props) => <StartControls {...props} />,
  at: (props) => <TimeControls {...props} />,
  ends: (props) => <EndsControls {...props} />,
  closed: (props) => <ClosedControls {...props} />,
  late: (props) => <LateControls {...props} />,
  opens: (props) => <OpensControls {...props} />,
  remind: (props) => <RemindControls {...props} />,
  takes: (props) => <TakesControls {...props} />,
  place: (props) => <PlaceControls {...props} />,
  importance: (props) => <ImportanceControls {...props} />,
  tags: (props) => <TagControls {...props} />,
  window: (props) => <WindowControls {...props} />,
  slack: (props) => <SlackControls {...props} />,
  someday: (props) => <SomedayControls {...props} />,
  takingUp: (props) => <TakingUpControls {...props} />,
  then: (props) => <ThenControls {...props} />,
  questions: (props) => <QuestionControls {...props} />,
  steps: (props) => <StepControls {...props} />,
  note: (props) => <NoteControls {...props} />,
};

/** Words that were read and are meant as part of the title after all. */
function Leave({
  sources,
  onLeave,
}: {
  sources: readonly Source[];
  onLeave: (source: Source) => void;
}) {
  if (!sources.length) return null;
  return (
    <View
      role="group"
      aria-label="Part of the title"
      style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 12 }}
    >
      <Words size={15} tint="soft">
        Not meant that way?
      </Words>
      {sources.map((source) => (
        <WordLink
          key={source.from}
          label={`Leave “${source.text}” in the title`}
          onPress={() => onLeave(source)}
        />
      ))}
    </View>
  );
}

const CLOSED = [
  { value: 'keep', label: 'that day all the same' },
  { value: 'before', label: 'the working day before' },
  { value: 'after', label: 'the working day after' },
  { value: 'nearest', label: 'the nearest working day' },
  { value: 'drop', label: 'not at all' },
] as const;

function ClosedControls({ series, onChange }: ControlsProps) {
  const kind = kindOf(series);
  const options = CLOSED.filter(
    ({ value }) => value !== 'drop' || kind === 'fixed' || kind === 'picked',
  );
  return (
    <View>
      <Words size={15} tint="soft">
        Closed are the days on which you do not work, and public holidays. Settings say which.
      </Words>
      <Choice
        label="When that day is closed"
        options={options}
        value={series.closedDays ?? 'keep'}
        onChange={(how) => onChange(withClosed(series, how))}
      />
    </View>
  );
}

function StartControls({ series, person, onChange }: ControlsProps) {
  return (
    <View>
      <DayPicker
        value={series.start}
        today={person.today}
        weekStart={person.weekStart}
        onChange={(date) => onChange(withStart(series, date, person))}
      />
      {series.repeat?.by === 'completion' ? (
        <LastDone series={series} person={person} onChange={onChange} />
      ) : null}
      {series.repeat ? null : (
        <WordLink
          label="no date yet"
          selected={series.start === null}
          onPress={() => onChange(withStart(series, null, person))}
        />
      )}
    </View>
  );
}

/** When it was done the last time: its first time is counted from there. */
function LastDone({ series, person, onChange }: ControlsProps) {
  const announce = useAnnounce();
  const [isOpen, setOpen] = useState(false);
  const [last, setLast] = useState<LocalDate | null>(null);
  const choose = (day: LocalDate) => {
    setLast(day);
    const next = withLastDone(series, day, person);
    onChange(next);
    announce(`First due ${momentText(next.start!, person.today)}.`);
  };
  return (
    <View style={{ alignItems: 'flex-start' }}>
      <WordLink
        label="Count it from when I last did it"
        expanded={isOpen}
        onPress={() => setOpen(!isOpen)}
      />
      {isOpen ? (
        <View
          role="group"
          aria-label="The day on which you last did it"
          style={{ alignSelf: 'stretch' }}
        >
          <Words size={15} tint="soft">
            {last === null
              ? 'Choose the day on which you last did it.'
              : `Last done ${momentText(last, person.today)}, so it is first due ${momentText(series.start!, person.today)}.`}
          </Words>
          <DayPicker
            value={last}
            today={person.today}
            until={person.today}
            weekStart={person.weekStart}
            onChange={choose}
          />
        </View>
      ) : null}
    </View>
  );
}

const LATES = [
  { value: 'roll', label: 'it goes along, day by day' },
  { value: 'wait', label: 'it stays on its day' },
  { value: 'lapse', label: 'it is missed' },
] as const;
const GRACES = [
  { value: '', label: 'at once' },
  { value: 'P1D', label: 'after 1 day' },
  { value: 'P3D', label: 'after 3 days' },
  { value: 'P1W', label: 'after a week' },
] as const;
const OWES = [
  { value: 'latest', label: 'the newer one takes its place' },
  { value: 'every', label: 'each one is owed' },
] as const;

/** What becomes of a time that is left unfinished, and of an older one when a newer opens. */
function LateControls({ series, onChange }: ControlsProps) {
  const late = series.late ?? 'roll';
  const fixed = kindOf(series) === 'fixed' || kindOf(series) === 'picked';
  return (
    <View>
      <Choice
        label="When its day is over"
        options={LATES}
        value={late}
        onChange={(next) => onChange(withLate(series, next))}
      />
      {late === 'lapse' ? (
        <Choice
          label="When it is missed"
          options={GRACES}
          value={GRACES.find(({ value }) => value === (series.grace ?? ''))?.value ?? null}
          onChange={(grace) => onChange(withGrace(series, grace || null))}
        />
      ) : null}
      {fixed ? (
        <>
          <Words size={15} tint="soft">
            When the next one comes before it is done
          </Words>
          <Choice
            label="When the next one comes before it is done"
            options={OWES}
            value={series.owe ?? 'latest'}
            onChange={(owe) => onChange(withOwe(series, owe))}
          />
        </>
      ) : null}
    </View>
  );
}

const TIMES = ['08:00', '13:00', '18:00'];

function TimeControls({ series, person, onChange }: ControlsProps) {
  const at = series.at ?? [];
  const several = takesTimes(series);
  const set = (times: readonly string[]) => onChange(withTimes(series, times, person));
  return (
    <View style={{ gap: 6 }}>
      <View
        role="group"
        aria-label="Time of day"
        style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}
      >
        <WordLink label="any time" size={16} selected={!at.length} onPress={() => set([])} />
        {TIMES.map((time) => {
          const on = at.includes(time);
          const added = several ? [...at, time] : [time];
          return (
            <WordLink
              key={time}
              label={time}
              size={16}
              selected={on}
              onPress={() => set(on ? at.filter((other) => other !== time) : added)}
            />
          );
        })}
      </View>
      <View style={{ maxWidth: 260 }}>
        <HoursField
          label={several ? 'Times of day' : 'Another time'}
          placeholder={several ? '8, 20:00' : '7:30'}
          value={at}
          onChange={set}
          {...(several ? {} : { most: 1 })}
          hint={
            several
              ? 'Several times a day: with commas between them, as 8, 13:00, 6pm.'
              : 'As you write it: 18, 18:30 or 6pm.'
          }
        />
      </View>
    </View>
  );
}

function EndsControls({ series, person, onChange }: ControlsProps) {
  const { ends } = series;
  const kind = !ends ? 'never' : 'on' in ends ? 'on' : 'after' in ends ? 'after' : 'within';
  const start = series.start ?? person.today;
  const choose = (next: 'never' | 'on' | 'after') => {
    if (next === 'never') onChange(withEnds(series, null));
    if (next === 'on') onChange(withEnds(series, { on: formatDay(addMonths(parseDay(start), 3)) }));
    if (next === 'after') onChange(withEnds(series, { after: 10 }));
  };
  return (
    <View>
      <Choice
        label="Ends"
        options={[
          { value: 'never', label: 'no end' },
          { value: 'on', label: 'until a date' },
          { value: 'after', label: 'after a number of times' },
        ]}
        value={kind === 'within' ? null : kind}
        onChange={choose}
      />
      {ends && 'on' in ends ? (
        <DayPicker
          value={ends.on}
          today={person.today}
          from={start}
          weekStart={person.weekStart}
          onChange={(on) => onChange(withEnds(series, { on }))}
        />
      ) : null}
      {ends && 'after' in ends ? (
        <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10 }}>
          <Stepper
            label="How many times"
            value={ends.after}
            most={9999}
            onChange={(after) => onChange(withEnds(series, { after }))}
          />
          <Words size={16}>
            {`${ends.after === 1 ? 'time' : 'times'}${series.repeat?.by === 'completion' ? ' done' : ''}`}
          </Words>
        </View>
      ) : null}
    </View>
  );
}

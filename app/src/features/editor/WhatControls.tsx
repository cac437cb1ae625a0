import {
  MOST_ASKS,
  MOST_DETAIL_NOTE,
  MOST_QUESTIONS,
  MOST_SLACK,
  MOST_STEP as MOST_STEP_TEXT,
  MOST_STEPS,
  MOST_TAGS,
  MOST_UNIT,
  type Definition,
  type Importance,
  type LocalTime,
  type Question,
} from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { newId } from '../../data/ids.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Field } from '../../ui/Field.tsx';
import { HourField } from '../../ui/HourField.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { SpanControl } from './DetailControls.tsx';
import { Stepper } from './Panel.tsx';
import { withEnds, withPart, type ControlsProps } from './edit.ts';
import { rem } from '../../ui/rem.ts';
import { useWrong } from '../../ui/wrong.ts';
import { Below } from '../../ui/Below.tsx';

/** The controls of what a to-do is. */

const IMPORTANCE = [
  { value: 'high', label: 'important' },
  { value: 'normal', label: 'as any other' },
  { value: 'low', label: 'less important' },
] as const;

export function ImportanceControls({ series, onChange }: ControlsProps) {
  const set = (value: Importance) =>
    onChange(withPart(series, 'importance', value === 'normal' ? null : value));
  return (
    <Choice
      label="How important it is"
      options={IMPORTANCE}
      value={series.importance ?? 'normal'}
      onChange={set}
    />
  );
}

export function TagControls({ series, onChange }: ControlsProps) {
  const [text, setText] = useState((series.tags ?? []).join(', '));
  const typed = (value: string) => {
    setText(value);
    const tags = value
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean)
      .slice(0, MOST_TAGS);
    onChange(withPart(series, 'tags', tags.length ? tags : null));
  };
  return (
    <Field
      label="Tags"
      value={text}
      onChangeText={typed}
      hint={`With commas between them, ${MOST_TAGS} at most.`}
    />
  );
}

const WINDOWS = [
  { value: '', label: 'any time' },
  { value: '06:00 12:00', label: 'before noon' },
  { value: '12:00 17:00', label: 'in the afternoon' },
  { value: '17:00 22:00', label: 'in the evening' },
] as const;

export function WindowControls({ series, onChange }: ControlsProps) {
  const now = series.window;
  // One end alone is no part of the day yet: it is held until the other is there.
  const [half, setHalf] = useState<{ from?: LocalTime; to?: LocalTime }>({});
  const ends = { ...now, ...half };
  const set = (next: { from?: LocalTime; to?: LocalTime }) => {
    const { from, to } = next;
    const isWhole = from !== undefined && to !== undefined && from !== to;
    setHalf(isWhole || (!from && !to) ? {} : next);
    if (isWhole) onChange(withPart(series, 'window', { from, to }));
    else if (now) onChange(withPart(series, 'window', null));
  };
  const without = (end: 'from' | 'to', time: LocalTime | null) => {
    const { [end]: _before, ...rest } = ends;
    set(time === null ? rest : { ...rest, [end]: time });
  };
  const isOne = (ends.from === undefined) !== (ends.to === undefined);
  const isNone = ends.from !== undefined && ends.from === ends.to;
  const wrong = isOne
    ? 'Both ends are needed, or neither.'
    : isNone
      ? 'It ends when it begins.'
      : null;
  useWrong('The part of the day', wrong, () => undefined);
  return (
    <View style={{ gap: 6 }}>
      <Choice
        label="In which part of the day"
        options={WINDOWS}
        value={
          WINDOWS.find(({ value }) => value === (now ? `${now.from} ${now.to}` : ''))?.value ?? null
        }
        onChange={(value) => {
          const [from, to] = value.split(' ');
          set(from && to ? { from, to } : {});
        }}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 12 }}>
        <View style={{ width: rem(120) }}>
          <HourField
            label="From"
            value={ends.from}
            onChange={(time) => without('from', time)}
            placeholder="6:30"
          />
        </View>
        <View style={{ width: rem(120) }}>
          <HourField
            label="To"
            value={ends.to}
            onChange={(time) => without('to', time)}
            placeholder="12:00"
          />
        </View>
      </View>
      <Below error={wrong} />
    </View>
  );
}

export function SlackControls({ series, onChange }: ControlsProps) {
  const { before = 0, after = 0 } = series.slack ?? {};
  const set = (slack: { before: number; after: number }) =>
    onChange(withPart(series, 'slack', slack.before || slack.after ? slack : null));
  return (
    <View style={{ gap: 6 }}>
      <Words size={15} tint="soft">
        When you plan, it may be put on another day by so much.
      </Words>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10 }}>
        <Stepper
          label="Days earlier"
          value={before}
          least={0}
          most={MOST_SLACK}
          onChange={(n) => set({ before: n, after })}
        />
        <Words size={16}>{before === 1 ? 'day earlier' : 'days earlier'}</Words>
      </View>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 10 }}>
        <Stepper
          label="Days later"
          value={after}
          least={0}
          most={MOST_SLACK}
          onChange={(n) => set({ before, after: n })}
        />
        <Words size={16}>{after === 1 ? 'day later' : 'days later'}</Words>
      </View>
    </View>
  );
}

const YES = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
] as const;

export function SomedayControls({ series, onChange }: ControlsProps) {
  return (
    <View>
      <Words size={15} tint="soft">
        For someday: without a date on purpose, so that it is not asked for.
      </Words>
      <Choice
        label="Someday"
        options={YES}
        value={series.someday ? 'yes' : 'no'}
        onChange={(it) => onChange(withPart(series, 'someday', it === 'yes' ? true : null))}
      />
    </View>
  );
}

/** So many days a habit is taken up for, unless something else is said (common practice). */
const TAKING_UP = 'P66D';

export function TakingUpControls({ series, onChange }: ControlsProps) {
  const set = (on: boolean) => {
    const next = withPart(series, 'takingUp', on ? true : null);
    onChange(on && !next.ends ? withEnds(next, { within: TAKING_UP }) : next);
  };
  return (
    <View>
      <Words size={15} tint="soft">
        A habit is taken up for 66 days, unless you say otherwise, one at a time.
      </Words>
      <Choice
        label="A habit that I take up"
        options={YES}
        value={series.takingUp ? 'yes' : 'no'}
        onChange={(it) => set(it === 'yes')}
      />
    </View>
  );
}

export function ThenControls({ series, onChange }: ControlsProps) {
  const [title, setTitle] = useState(series.then?.title ?? '');
  const after = series.then?.after ?? 'P3D';
  const set = (text: string, span: string) => {
    setTitle(text);
    onChange(withPart(series, 'then', text.trim() ? { title: text.trim(), after: span } : null));
  };
  return (
    <View style={{ gap: 6 }}>
      <Words size={15} tint="soft">
        Each time it is done, this is written down, once.
      </Words>
      <Field label="What comes then" value={title} onChangeText={(text) => set(text, after)} />
      <SpanControl
        label="How long after"
        value={after}
        units={['hour', 'day', 'week', 'month']}
        onChange={(span) => set(title, span)}
      />
    </View>
  );
}

export function NoteControls({ series, onChange }: ControlsProps) {
  return (
    <Field
      label="Notes"
      value={series.note ?? ''}
      onChangeText={(text) => onChange(withPart(series, 'note', text.trim() ? text : null))}
      multiline
      maxLength={MOST_DETAIL_NOTE}
      hint="Shown on each time. **Bold**, lists and links are written in Markdown."
    />
  );
}

/** One of a list, with its place in it: moved up, or taken away. */
function Listed({
  words,
  isFirst,
  onUp,
  onAway,
}: {
  words: string;
  isFirst: boolean;
  onUp: () => void;
  onAway: () => void;
}) {
  const look = useLook();
  return (
    <View
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 14,
        borderTopWidth: isFirst ? 0 : 1,
        borderTopColor: look.line,
      }}
    >
      <Words size={16} style={{ flex: 1 }}>
        {words}
      </Words>
      {isFirst ? null : <WordLink label="Up" name={`Up: ${words}`} onPress={onUp} />}
      <WordLink label="Take away" name={`Take away: ${words}`} onPress={onAway} />
    </View>
  );
}

function List<T extends { id: string }>({
  all,
  wordsOf,
  onChange,
}: {
  all: readonly T[];
  wordsOf: (it: T) => string;
  onChange: (all: T[]) => void;
}) {
  const up = (i: number) => onChange(all.with(i - 1, all[i]!).with(i, all[i - 1]!));
  return all.map((it, i) => (
    <Listed
      key={it.id}
      words={wordsOf(it)}
      isFirst={i === 0}
      onUp={() => up(i)}
      onAway={() => onChange(all.filter((other) => other !== it))}
    />
  ));
}

export function StepControls({ series, onChange }: ControlsProps) {
  const steps = series.steps ?? [];
  const [text, setText] = useState('');
  const set = (next: Definition['steps']) =>
    onChange(withPart(series, 'steps', next?.length ? next : null));
  const add = () => {
    const lines = text
      .split('\n')
      .map((line) => line.trim())
      .filter(Boolean);
    if (!lines.length || lines.some(({ length }) => length > MOST_STEP_TEXT)) return;
    const more = lines.map((line) => ({ id: newId(), text: line }));
    set([...steps, ...more].slice(0, MOST_STEPS));
    setText('');
  };
  return (
    <View style={{ gap: 6 }}>
      <List all={steps} wordsOf={(step) => step.text} onChange={set} />
      <Field
        label="Another step"
        value={text}
        onChangeText={setText}
        onSubmitEditing={add}
        submitBehavior="submit"
        maxLength={MOST_STEP_TEXT}
        hint="They come back unticked each time."
      />
      <View style={{ alignItems: 'flex-start' }}>
        <Action
          label="Add the step"
          onPress={add}
          disabled={!text.trim() || steps.length >= MOST_STEPS}
        />
      </View>
    </View>
  );
}

const KINDS = [
  { value: 'number', label: 'a number' },
  { value: 'scale', label: 'a scale' },
  { value: 'yesno', label: 'yes or no' },
  { value: 'choice', label: 'one of several' },
  { value: 'text', label: 'words' },
  { value: 'minutes', label: 'minutes' },
] as const;
type Kind = (typeof KINDS)[number]['value'];

const SCALES = (['3', '5', '7', '10'] as const).map((value) => ({ value, label: `1 to ${value}` }));

/** A question as it is shown in a list. */
export function askedText(question: Question): string {
  const { asks } = question;
  switch (question.kind) {
    case 'number':
      return question.unit && question.unit !== asks ? `${asks}, in ${question.unit}` : asks;
    case 'scale':
      return `${asks}, 1 to ${question.to}`;
    case 'choice':
      return `${asks}: ${question.of.join(', ')}`;
    case 'yesno':
      return `${asks}: yes or no`;
    case 'minutes':
      return `${asks}, in minutes`;
    case 'text':
      return asks;
  }
}

export function QuestionControls({ series, onChange }: ControlsProps) {
  const questions = series.questions ?? [];
  const [asks, setAsks] = useState('');
  const [kind, setKind] = useState<Kind>('number');
  const [unit, setUnit] = useState('');
  const [of, setOf] = useState('');
  const [scale, setScale] = useState<'3' | '5' | '7' | '10'>('5');
  const set = (next: Definition['questions']) =>
    onChange(withPart(series, 'questions', next?.length ? next : null));
  const choices = [
    ...new Set(
      of
        .split(',')
        .map((it) => it.trim())
        .filter(Boolean),
    ),
  ];
  const canAdd =
    asks.trim() !== '' &&
    asks.length <= MOST_ASKS &&
    unit.length <= MOST_UNIT &&
    questions.length < MOST_QUESTIONS &&
    (kind !== 'choice' || choices.length > 1);
  const add = () => {
    if (!canAdd) return;
    const about = { id: newId(), asks: asks.trim() };
    const more: Record<Kind, object> = {
      number: { unit: unit.trim() },
      scale: { to: Number(scale) },
      choice: { of: choices },
      yesno: {},
      text: {},
      minutes: {},
    };
    set([...questions, { ...about, kind, ...more[kind] } as Question]);
    setAsks('');
    setUnit('');
    setOf('');
  };
  return (
    <View style={{ gap: 6 }}>
      <List all={questions} wordsOf={askedText} onChange={set} />
      <Field
        label="Another question"
        value={asks}
        onChangeText={setAsks}
        maxLength={MOST_ASKS}
        hint="Asked once it is done, and never in the way."
      />
      <Choice label="What the answer is" options={KINDS} value={kind} onChange={setKind} />
      {kind === 'number' ? (
        <View style={{ maxWidth: 180 }}>
          <Field
            label="In which unit"
            value={unit}
            onChangeText={setUnit}
            maxLength={MOST_UNIT}
            placeholder="kg"
          />
        </View>
      ) : null}
      {kind === 'scale' ? (
        <Choice label="How far the scale goes" options={SCALES} value={scale} onChange={setScale} />
      ) : null}
      {kind === 'choice' ? (
        <Field
          label="The choices"
          value={of}
          onChangeText={setOf}
          hint="With commas between them."
        />
      ) : null}
      <View style={{ alignItems: 'flex-start' }}>
        <Action label="Add the question" onPress={add} disabled={!canAdd} />
      </View>
    </View>
  );
}

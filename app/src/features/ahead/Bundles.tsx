import type { KeptBundle, TodoState } from '@back-again/contract';
import type { Bundle, BundleItem } from '@back-again/core/bundles';
import { WEEKDAY_NAMES, type Details } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { newId } from '../../data/ids.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Failure } from '../../ui/Failure.tsx';
import { Field } from '../../ui/Field.tsx';
import { Rule } from '../../ui/Rule.tsx';
import { Toggles } from '../../ui/Toggles.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { Framed } from './Framed.tsx';
import { bundleOf } from './useLaying.ts';
import { rem } from '../../ui/rem.ts';

type Has = Omit<Bundle, 'id'>;

interface BundlesProps {
  bundles: readonly KeptBundle[];
  /** The to-dos of this week that come once alone: a bundle can be made of them. */
  oneOffs: readonly TodoState[];
  /** The to-dos of which one is to be written at once; none: none is. */
  begunWith: readonly TodoState[];
  onLay: (bundle: KeptBundle) => void;
  onKeep: (id: string, has: Has | null) => void;
  onClose: () => void;
}

/** The bundles of a person: laid into a week or a month, written, taken away. */
export function Bundles({ bundles, oneOffs, begunWith, onLay, onKeep, onClose }: BundlesProps) {
  const [writing, setWriting] = useState<{ id: string; has: Has } | null>(() =>
    begunWith.length ? { id: newId(), has: bundleOf(begunWith) } : null,
  );
  const write = (has: Has, id = newId()) => setWriting({ id, has });
  return (
    <Framed label="Bundles">
      {writing ? (
        <Writing
          key={writing.id}
          has={writing.has}
          onKeep={(has) => {
            onKeep(writing.id, has);
            setWriting(null);
          }}
          onLeave={() => setWriting(null)}
        />
      ) : (
        <>
          <Words size={16} weight={650}>
            {bundles.length
              ? 'To-dos that go together, laid in at once.'
              : 'To-dos that go together, such as all for a fair: write them once, and lay them into any week.'}
          </Words>
          {bundles.map(({ at: _at, id, ...has }, i) => (
            <View key={id}>
              {i ? <Rule /> : null}
              <Words size={16} weight={600} style={{ paddingTop: 6 }}>
                {has.name}
                <Words size={14} tint="soft">
                  {` ${has.items.length} to-dos, of a ${has.per}`}
                </Words>
              </Words>
              <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
                <WordLink
                  label={`Lay into this ${has.per}`}
                  name={`Lay into this ${has.per}: ${has.name}`}
                  onPress={() => onLay(bundles[i]!)}
                />
                <WordLink
                  label="Change"
                  name={`Change: ${has.name}`}
                  onPress={() => write(has, id)}
                />
                <WordLink
                  label="Take away"
                  name={`Take away: ${has.name}`}
                  onPress={() => onKeep(id, null)}
                />
              </View>
            </View>
          ))}
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
            <WordLink label="Write a bundle" onPress={() => write(EMPTY)} />
            {oneOffs.length ? (
              <WordLink
                label="From the one-offs of this week"
                onPress={() => write(bundleOf(oneOffs))}
              />
            ) : null}
            <WordLink label="Close" name="Close: bundles" onPress={onClose} />
          </View>
        </>
      )}
    </Framed>
  );
}

/** Lines without words are no steps. */
const withoutEmpty = (item: BundleItem): BundleItem => ({
  ...item,
  title: item.title.trim(),
  steps: item.steps.filter(({ text }) => text.trim()),
});

const freshItem = (): BundleItem => ({
  key: newId(),
  title: '',
  days: [0],
  takes: null,
  note: '',
  steps: [],
  questions: [],
});
const EMPTY: Has = { name: '', per: 'week', items: [] };
const PERS = [
  { value: 'week', label: 'of a week' },
  { value: 'month', label: 'of a month' },
] as const;

interface WritingProps {
  has: Has;
  onKeep: (has: Has) => void;
  onLeave: () => void;
}

/** A bundle as it is written. */
function Writing({ has, onKeep, onLeave }: WritingProps) {
  const [name, setName] = useState(has.name);
  const [per, setPer] = useState(has.per);
  const [items, setItems] = useState(() => (has.items.length ? has.items : [freshItem()]));
  const [isTried, setTried] = useState(false);
  const named = items.filter(({ title }) => title.trim());
  const wrong = !name.trim()
    ? 'Say what the bundle is called.'
    : !named.length
      ? 'Say what is in it.'
      : null;
  const set = (i: number, item: BundleItem) =>
    setItems((all) => all.map((it, k) => (k === i ? item : it)));
  const change = (next: 'week' | 'month') => {
    setPer(next);
    const days = next === 'week' ? [0] : [1];
    setItems((all) => all.map((it) => ({ ...it, days })));
  };
  return (
    <View style={{ gap: 12 }}>
      <Field
        label="Name of the bundle"
        placeholder="The honey fair"
        value={name}
        onChangeText={setName}
      />
      <Choice label="Of how long it is" options={PERS} value={per} onChange={change} />
      {items.map((item, i) => (
        <Item
          key={item.key}
          n={i + 1}
          item={item}
          per={per}
          onChange={(next) => set(i, next)}
          onTakeAway={() => setItems((all) => all.filter((_, k) => k !== i))}
        />
      ))}
      <View style={{ alignItems: 'flex-start' }}>
        <WordLink label="Another to-do" onPress={() => setItems((all) => [...all, freshItem()])} />
      </View>
      <Failure words={isTried ? wrong : null} />
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Action
          filled
          label="Keep the bundle"
          onPress={() => {
            setTried(true);
            if (!wrong) onKeep({ name: name.trim(), per, items: named.map(withoutEmpty) });
          }}
        />
        <Action label="Leave it" name="Leave the bundle" onPress={onLeave} />
      </View>
    </View>
  );
}

interface ItemProps {
  n: number;
  item: BundleItem;
  per: 'week' | 'month';
  onChange: (item: BundleItem) => void;
  onTakeAway: () => void;
}

const DAYS = WEEKDAY_NAMES.map((name, value) => ({ value, name, short: name.slice(0, 3) }));
const MOST_MINUTES = 6000;

/** One to-do of a bundle, with the days on which it lies. */
function Item({ n, item, per, onChange, onTakeAway }: ItemProps) {
  const [days, setDays] = useState(item.days.join(', '));
  const [takes, setTakes] = useState(item.takes === null ? '' : String(item.takes));
  const toggle = (day: number, on: boolean) => {
    const next = DAYS.map(({ value }) => value).filter((it) =>
      it === day ? on : item.days.includes(it),
    );
    if (next.length) onChange({ ...item, days: next });
  };
  return (
    <View role="group" aria-label={`To-do ${n}`} style={{ gap: 8, paddingTop: 4 }}>
      <View style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}>
        <Heading level={3}>{`To-do ${n}`}</Heading>
        <WordLink label="Take it out" name={`Take out to-do ${n}`} onPress={onTakeAway} />
      </View>
      <Field
        label={`What to do, ${n}`}
        value={item.title}
        maxLength={200}
        onChangeText={(title) => onChange({ ...item, title })}
      />
      {per === 'week' ? (
        <Toggles
          label={`Days of to-do ${n}`}
          items={DAYS}
          value={item.days}
          columns={7}
          onToggle={toggle}
        />
      ) : (
        <Field
          label={`Days of the month, ${n}`}
          hint="Such as 1, 15. A day that a month lacks is its last."
          value={days}
          onChangeText={(text) => {
            setDays(text);
            const found = text
              .split(/[\s,]+/u)
              .map(Number)
              .filter((day) => Number.isInteger(day) && day >= 1 && day <= 31);
            if (found.length) onChange({ ...item, days: found });
          }}
        />
      )}
      <View style={{ flexDirection: 'row', gap: 12, flexWrap: 'wrap' }}>
        <View style={{ width: rem(110) }}>
          <Field
            label={`Minutes, ${n}`}
            inputMode="numeric"
            value={takes}
            onChangeText={(text) => {
              setTakes(text);
              const minutes = /^\d{1,4}$/u.test(text.trim()) ? Number(text) : null;
              const isGood = minutes !== null && minutes > 0 && minutes <= MOST_MINUTES;
              onChange({ ...item, takes: isGood ? minutes : null });
            }}
          />
        </View>
        <View style={{ flex: 1, minWidth: 180 }}>
          <Field
            label={`Steps, one a line, ${n}`}
            multiline
            value={item.steps.map(({ text }) => text).join('\n')}
            onChangeText={(text) => onChange({ ...item, steps: stepsIn(text, item.steps) })}
          />
        </View>
      </View>
    </View>
  );
}

/** The steps of some lines; those whose place stays keep their ids. */
const stepsIn = (text: string, before: Details['steps']): Details['steps'] =>
  text === ''
    ? []
    : text.split('\n').map((line, i) => ({ id: before[i]?.id ?? newId().slice(0, 8), text: line }));

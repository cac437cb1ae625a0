import type { TotalsRow, TotalsView } from '@back-again/contract/past';
import { inTree } from '@back-again/core';
import { router, useLocalSearchParams, type Href } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Choice } from '../../ui/Choice.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen } from '../../ui/Frame.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook, useWide } from '../../ui/look.ts';
import { Asked } from './Asked.tsx';
import { Bar, SmallBars } from './Bar.tsx';
import {
  BY,
  EACH,
  addressOf,
  isPeriod,
  numbersIn,
  numbersOf,
  ofText,
  spanText,
  spansFrom,
  whatOptions,
  whatText,
  wrongSpan,
  type TotalsAddress,
} from './asked.ts';
import { saveCsv } from './csv.ts';
import {
  inOrder,
  measureOf,
  periodText,
  rowName,
  shownRows,
  tableOf,
  totalsText,
  type Measure,
} from './measures.ts';
import { search, useTotalsQuery } from './pastApi.ts';
import { capital } from './words.ts';
import { rem } from '../../ui/rem.ts';

type Word = 'what' | 'by' | 'in' | 'each' | 'of';

/** Totals, as a sentence whose words are the controls; each combination has its address. */
export function TotalsScreen() {
  const params = useLocalSearchParams<Record<string, string>>();
  const shown = useShown();
  const wide = useWide();
  const { today } = shown;
  const address = addressOf(params, today);
  const numbers = numbersOf(shown.all());
  const measure = measureOf(address.what, numbers);
  const { what, each, ...asked } = address;
  const it = useTotalsQuery({
    ...asked,
    each: isPeriod(address.by) ? 'none' : each,
    ...(numbersIn(what) ?? {}),
  });
  const [open, setOpen] = useState<Word | null>(null);
  useEffect(() => {
    document.title = 'Totals · Back Again';
  }, []);
  const change = (more: Partial<TotalsAddress>) => {
    setOpen(null);
    router.push(`/past/totals?${search({ ...address, ...more })}` as Href);
  };
  const view = it.data ? shownRows(it.data, address.by, measure) : null;
  const word = (name: Word, label: string) => (
    <WordLink
      key={name}
      label={label}
      name={`${NAMES[name]}: ${label}`}
      size={17}
      expanded={open === name}
      onPress={() => setOpen(open === name ? null : name)}
    />
  );
  const titleOf = (id: string) => shown.stateOf(id)?.details.title ?? null;
  return (
    <Screen>
      <View style={{ paddingHorizontal: 20, paddingTop: 18, gap: 2 }}>
        <View
          style={{ flexDirection: 'row', justifyContent: 'space-between', alignItems: 'center' }}
        >
          <View>
            <Words size={14.5} tint="soft">
              Past
            </Words>
            <Heading level={1} size={wide ? 32 : 28}>
              Totals
            </Heading>
          </View>
          {view?.rows.length ? (
            <WordLink
              label="As CSV"
              name="These totals as CSV"
              onPress={() =>
                saveCsv(
                  `Totals ${address.from} to ${address.to}.csv`,
                  tableOf(view, address, measure),
                )
              }
            />
          ) : null}
        </View>
        <View
          role="group"
          aria-label="What is totalled"
          style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 6 }}
        >
          {word('what', whatText(what))}
          <Said words="by" />
          {word('by', BY.find(({ value }) => value === address.by)!.label)}
          <Said words="in" />
          <WithComma>{word('in', spanText(address.from, address.to, today))}</WithComma>
          {isPeriod(address.by) ? null : (
            <WithComma>{word('each', EACH.find(({ value }) => value === each)!.label)}</WithComma>
          )}
          <Said words="of" />
          {word('of', ofText(address, shown.places(), titleOf))}
        </View>
        {open ? (
          <View style={{ paddingBottom: 8 }}>
            <WordPanel
              word={open}
              address={address}
              options={
                open === 'what'
                  ? whatOptions(numbers)
                  : open === 'by'
                    ? BY
                    : open === 'each'
                      ? EACH
                      : inTree(shown.places()).map(({ place }) => ({
                          value: place.id,
                          label: place.name,
                        }))
              }
              today={today}
              onChange={change}
            />
          </View>
        ) : null}
      </View>
      <Asked it={it}>
        {() => (view ? <Rows view={view} address={address} measure={measure} /> : null)}
      </Asked>
    </Screen>
  );
}

const NAMES: Record<Word, string> = {
  what: 'What is totalled',
  by: 'By what',
  in: 'In which span',
  each: 'How it is divided',
  of: 'Of what',
};

/** Words between the controls. */
const Said = ({ words }: { words: string }): ReactNode => <Words size={17}>{words}</Words>;

/** A control with the comma behind it, which goes with it to the next line. */
const WithComma = ({ children }: { children: ReactNode }) => (
  <View style={{ flexDirection: 'row', alignItems: 'center' }}>
    {children}
    <Said words="," />
  </View>
);

interface WordPanelProps {
  word: Word;
  address: TotalsAddress;
  options: readonly { value: string; label: string }[];
  today: string;
  onChange: (more: Partial<TotalsAddress>) => void;
}

/** What else a word of the sentence could say. */
function WordPanel({ word, address, options, today, onChange }: WordPanelProps) {
  const { place, todo } = address;
  if (word === 'in') return <SpanPanel address={address} today={today} onChange={onChange} />;
  if (word === 'of')
    return (
      <Choice
        label={NAMES.of}
        options={[{ value: 'all', label: 'all spheres' }, ...options]}
        value={todo ? null : (place ?? 'all')}
        onChange={(it) => onChange({ todo: undefined, place: it === 'all' ? undefined : it })}
      />
    );
  return (
    <Choice
      label={NAMES[word]}
      options={options}
      value={address[word]}
      onChange={(it) => onChange({ [word]: it })}
    />
  );
}

/** Spans that are offered, and any two days. */
function SpanPanel({ address, today, onChange }: Omit<WordPanelProps, 'word' | 'options'>) {
  const spans = spansFrom(today);
  const known = spans.find(({ from, to }) => from === address.from && to === address.to);
  const [from, setFrom] = useState<string>(address.from);
  const [to, setTo] = useState<string>(address.to);
  const [wrong, setWrong] = useState<string | null>(null);
  return (
    <View style={{ gap: 8 }}>
      <Choice
        label={NAMES.in}
        options={spans}
        value={known?.value ?? null}
        onChange={(value) => {
          const span = spans.find((it) => it.value === value)!;
          onChange({ from: span.from, to: span.to });
        }}
      />
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'flex-end', gap: 10 }}>
        <View style={{ width: rem(150) }}>
          <Field label="From" value={from} onChangeText={setFrom} placeholder="2026-01-01" />
        </View>
        <View style={{ width: rem(150) }}>
          <Field label="To" value={to} onChangeText={setTo} placeholder="2026-12-31" />
        </View>
        <Action
          label="Show"
          name="Show these days"
          onPress={() => {
            const problem = wrongSpan(from.trim(), to.trim());
            setWrong(problem);
            if (!problem) onChange({ from: from.trim(), to: to.trim() });
          }}
        />
      </View>
      {wrong ? (
        <Words size={15} tint="late" live>
          {wrong}
        </Words>
      ) : null}
    </View>
  );
}

interface RowsProps {
  view: TotalsView;
  address: TotalsAddress;
  measure: Measure;
}

/** The rows of the table, each with its bar, and with small bars where it is divided. */
function Rows({ view, address, measure }: RowsProps) {
  const look = useLook();
  const { by, each } = address;
  const groups = inOrder(view, by, measure);
  const most = Math.max(1, ...view.rows.map((row) => measure.of(row) ?? 0));
  const hasHatch = view.rows.some((row) => measure.estimated(row) > 0);
  const { periods, today } = view;
  return (
    <View style={{ paddingHorizontal: 20, paddingBottom: 28 }}>
      <Words size={16} style={{ paddingVertical: 6 }} live>
        {totalsText(view, address, measure)}
      </Words>
      {view.rows.length ? (
        <View role="table" aria-label="Totals">
          {groups.map(({ under, rows }) => (
            <View
              key={under ?? ''}
              role="rowgroup"
              {...(under ? { 'aria-label': under } : {})}
              style={{ borderTopWidth: 1, borderTopColor: look.line, paddingVertical: 6 }}
            >
              {under ? (
                <Heading level={2} size={16.5} style={{ paddingVertical: 4 }}>
                  {under}
                </Heading>
              ) : null}
              {rows.map((row) => (
                <Row
                  key={row.key}
                  row={row}
                  view={view}
                  address={address}
                  measure={measure}
                  most={most}
                />
              ))}
            </View>
          ))}
        </View>
      ) : (
        <Words size={15} tint="soft">
          Nothing of it ended in this span.
        </Words>
      )}
      <Words size={14.5} tint="soft" style={{ paddingTop: 6 }}>
        {[hasHatch ? 'Hatched: estimated.' : '', smallBarsText(periods, each, today)]
          .filter(Boolean)
          .join(' ')}
      </Words>
    </View>
  );
}

/** What the small bars are, from the first period to the last. */
function smallBarsText(periods: readonly string[], each: string, today: string): string {
  const [first, last] = [periods[0], periods.at(-1)];
  if (first === undefined || last === undefined) return '';
  const name = (period: string) => periodText(period, each, today);
  return first === last
    ? `Small bar: ${name(first)}.`
    : `Small bars: ${name(first)} to ${name(last)}.`;
}

function Row({ row, view, address, measure, most }: RowsProps & { row: TotalsRow; most: number }) {
  const wide = useWide();
  const { by } = address;
  const name = rowName(row, by, view.today);
  const size = measure.of(row) ?? 0;
  const bar = (
    <Bar share={size / most} estimated={measure.estimated(row) / most} width={wide ? 400 : 170} />
  );
  const small = view.periods.length ? (
    <SmallBars
      values={view.periods.map((period) => {
        const part = row.parts[period];
        return part ? measure.of(part) : null;
      })}
      width={wide ? 190 : 130}
    />
  ) : null;
  const amount = (
    <View role="cell" style={wide ? { width: rem(190) } : { alignItems: 'flex-end' }}>
      <Words size={16}>{measure.text(row)}</Words>
      {measure.beside(row) ? (
        <Words size={14} tint="soft">
          {measure.beside(row)}
        </Words>
      ) : null}
    </View>
  );
  const title = (
    <View role="rowheader" style={wide ? { width: rem(210) } : { flex: 1 }}>
      <RowTitle row={row} by={by} name={name} />
    </View>
  );
  return (
    <View
      role="row"
      style={
        wide
          ? { flexDirection: 'row', alignItems: 'center', gap: 16, minHeight: 44 }
          : { paddingVertical: 6, gap: 4 }
      }
    >
      {wide ? (
        <>
          {title}
          <View aria-hidden>{bar}</View>
          {amount}
          <View aria-hidden>{small}</View>
        </>
      ) : (
        <>
          <View style={{ flexDirection: 'row', gap: 12, alignItems: 'baseline' }}>
            {title}
            {amount}
          </View>
          <View aria-hidden style={{ flexDirection: 'row', alignItems: 'flex-end', gap: 14 }}>
            {bar}
            {small}
          </View>
        </>
      )}
    </View>
  );
}

/** A to-do has its record behind its name. */
function RowTitle({ row, by, name }: { row: TotalsRow; by: string; name: string }) {
  if (by !== 'todo')
    return (
      <Words size={16} weight={600}>
        {capital(name)}
      </Words>
    );
  return (
    <View style={{ alignItems: 'flex-start' }}>
      <WordLink
        label={name}
        name={`The record of ${name}`}
        size={16}
        onPress={() => router.push(`/past/todo/${row.key}` as Href)}
      />
    </View>
  );
}

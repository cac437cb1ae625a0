import { daysLate, stepsOf, type LocalDate, type SectionId, type Settings } from '@back-again/core';
import { Suspense, lazy, memo, useState } from 'react';
import { Pressable, View, useWindowDimensions } from 'react-native';
import type { Does } from '../../data/act.ts';
import type { LastDeed } from '../../data/lastDeed.ts';
import { newId } from '../../data/ids.ts';
import { RefusedHere } from '../../parts/RefusedHere.tsx';
import { Action } from '../../ui/Action.tsx';
import { LazyMarkdown } from '../../ui/LazyMarkdown.tsx';
import { ReturnArc, type ArcState } from '../../ui/ReturnArc.tsx';
import { Waiting } from '../../ui/Waiting.tsx';
import { Words } from '../../ui/Words.tsx';
import { arcKind, arcOf } from '../../ui/arcs.ts';
import { days, momentText } from '../../ui/dates.ts';
import { useInSight } from '../../ui/inSight.ts';
import { useLook } from '../../ui/look.ts';
import { LeftSteps } from '../../ui/time/LeftSteps.tsx';
import { detailsOf, leftOf } from '../../ui/time/left.ts';
import { answerOf, isSameRow, lineOf, nameOf, type Row } from './rows.ts';
import type { RowDeed } from './useDeeds.ts';

/** Loaded when a row with steps, or one that asks something, is first unfolded. */
const Steps = lazy(async () => ({ default: (await import('../../ui/time/Steps.tsx')).Steps }));
const Questions = lazy(async () => ({
  default: (await import('../../ui/time/Questions.tsx')).Questions,
}));
/** Loaded when a row is first unfolded. */
const Files = lazy(async () => ({ default: (await import('../../parts/Files.tsx')).Files }));
/** Loaded when it is first said how much is done. */
const Amount = lazy(async () => ({ default: (await import('../../ui/Amount.tsx')).Amount }));
/** Loaded when a day is first asked for. */
const panels = () => import('./DayPanels.tsx');
const MovePanel = lazy(async () => ({ default: (await panels()).MovePanel }));
const EarlierPanel = lazy(async () => ({ default: (await panels()).EarlierPanel }));

interface TodayRowProps {
  row: Row;
  today: LocalDate;
  settings: Settings;
  /** Where it stands: the first of a section has no line above. */
  section: SectionId;
  index: number;
  unfolded: boolean;
  /** Its story is shown beside the list: what that has is not said twice. */
  beside: boolean;
  /** It is put above all today. */
  above: boolean;
  /** The server alone knows what follows: it is being done. */
  unknown: boolean;
  /** What was done to it last and can be taken back, in words; null where that is not known here. */
  last: LastDeed | null;
  onUnfold: (row: Row) => void;
  onDeed: (row: Row, section: SectionId, index: number, deed: RowDeed) => void;
  does: Does;
  onOpen: (todo: string) => void;
}

/**
 * One row: its arc, its words, and at its end what can be done. Touching it unfolds it in place. It is drawn
 * again only where something of it is another.
 */
export const TodayRow = memo(function TodayRow({
  row,
  section,
  index,
  today,
  settings,
  unfolded,
  beside,
  above,
  unknown,
  last,
  onUnfold: onUnfoldOf,
  onDeed: onDeedOf,
  does,
  onOpen: onOpenOf,
}: TodayRowProps) {
  const first = index === 0;
  const onUnfold = () => onUnfoldOf(row);
  const onDeed = (deed: RowDeed) => onDeedOf(row, section, index, deed);
  const onOpen = () => onOpenOf(row.todo.id);
  const look = useLook();
  const narrow = useWindowDimensions().width < 330;
  const { todo, time } = row;
  const ended = time.status !== 'open';
  const late = ended || todo.quota !== null ? 0 : daysLate(time, today, settings);
  const arc: ArcState =
    ended && todo.quota === null ? { at: 'done' } : arcOf({ ...todo, open: [time] }, late);
  const { title } = todo.series;
  const name = nameOf(row);
  const { left, label, spoken: steps } = leftOf(row);
  const [asks, setAsks] = useState(false);
  const finish = () => {
    if (!left) return onDeed({ do: 'done' });
    // What becomes of the steps that are left is asked in place.
    setAsks(true);
    if (!unfolded) onUnfold();
  };
  return (
    <View
      testID={`row ${name}`}
      style={[
        { borderTopWidth: first && !unfolded ? 0 : 1, borderTopColor: look.line },
        unfolded
          ? { backgroundColor: look.card, borderBottomWidth: 1, borderBottomColor: look.line }
          : null,
      ]}
    >
      <View
        style={{
          flexDirection: narrow ? 'column' : 'row',
          alignItems: narrow ? 'stretch' : 'center',
          gap: 8,
          paddingHorizontal: 20,
          paddingVertical: 8,
          minHeight: 66,
        }}
      >
        <Pressable
          onPress={onUnfold}
          role="button"
          aria-expanded={unfolded}
          aria-label={`${name}, ${ended ? answerOf(row, today) : spoken(row, today, settings)}`}
          style={{ flex: 1, flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 48 }}
        >
          <ReturnArc kind={arcKind(todo.series)} state={arc} />
          <View style={{ flex: 1, minWidth: 0 }}>
            <Words
              size={16.5}
              weight={row.later ? 500 : 600}
              tint={row.later ? 'soft' : 'ink'}
              style={{ lineHeight: 21 }}
            >
              {title}
            </Words>
            {ended ? (
              <Words size={14} weight={600} tint={time.status === 'done' ? 'moss' : 'soft'}>
                {answerOf(row, today)}
              </Words>
            ) : (
              <Line row={row} today={today} settings={settings} />
            )}
          </View>
        </Pressable>
        {unknown ? (
          <Words size={14.5} tint="soft">
            being done
          </Words>
        ) : ended && row.action === null ? null : (
          <Action
            label={ended ? 'Undo' : label}
            name={ended ? `Undo: ${name}` : `Done: ${name}${steps}`}
            onPress={() => (ended ? onDeed({ do: 'undo' }) : finish())}
          />
        )}
      </View>
      <RefusedHere todo={todo.id} slot={time.slot} does={does} />
      {unfolded ? (
        <Unfolded
          row={row}
          today={today}
          settings={settings}
          beside={beside}
          above={above}
          asks={asks && !ended ? left : 0}
          onAsked={() => setAsks(false)}
          last={last}
          onDeed={onDeed}
          does={does}
          onOpen={onOpen}
        />
      ) : null}
    </View>
  );
}, isSame);

/** Whether it would be drawn as it was. */
function isSame(was: TodayRowProps, is: TodayRowProps): boolean {
  const keys = Object.keys(is) as (keyof TodayRowProps)[];
  return keys.every((key) =>
    key === 'row'
      ? isSameRow(was.row, is.row)
      : key === 'last'
        ? was.last?.action === is.last?.action && was.last?.label === is.last?.label
        : was[key] === is[key],
  );
}

function Line({ row, today, settings }: Pick<TodayRowProps, 'row' | 'today' | 'settings'>) {
  const { lead, rest, late } = lineOf(row, today, settings);
  return (
    <Words size={14} tint="soft" style={{ lineHeight: 19 }}>
      {lead ? (
        <Words size={14} weight={600} tint={late ? 'late' : 'soft'} style={{ lineHeight: 19 }}>
          {lead}
        </Words>
      ) : null}
      {lead ? ` · ${rest}` : rest}
    </Words>
  );
}

function spoken(row: Row, today: LocalDate, settings: Settings): string {
  const { lead, rest } = lineOf(row, today, settings);
  return lead ? `${lead}, ${rest}` : rest;
}

type Panel = 'move' | 'earlier' | 'part' | null;

function Unfolded({
  row,
  today,
  settings,
  beside,
  above,
  asks,
  onAsked,
  last,
  onDeed,
  does,
  onOpen,
}: Pick<TodayRowProps, 'row' | 'today' | 'settings' | 'beside' | 'above' | 'last' | 'does'> & {
  onDeed: (deed: RowDeed) => void;
  onOpen: () => void;
  /** How many steps are left of which it is asked what becomes of them. */
  asks: number;
  onAsked: () => void;
}) {
  const [panel, setPanel] = useState<Panel>(null);
  const { time } = row;
  const open = time.status === 'open';
  const name = nameOf(row);
  const toggle = (which: Panel) => setPanel(panel === which ? null : which);
  // Low on a phone it opens below what is in sight.
  const opened = useInSight();
  return (
    <View ref={opened} style={{ paddingHorizontal: 20, paddingBottom: 14, gap: 6 }}>
      {asks ? (
        <LeftSteps
          name={name}
          left={asks}
          onDone={(left) => onDeed({ do: 'done', left })}
          onNotYet={onAsked}
        />
      ) : null}
      {open ? <Facts row={row} today={today} /> : null}
      {open && !row.later && !beside ? <OfThisTime row={row} onDeed={onDeed} /> : null}
      {row.later || (open && beside) ? null : (
        <Suspense fallback={<Waiting lines={1} label="It is on its way" />}>
          <Files
            name={name}
            todo={row.todo.id}
            slot={time.slot}
            files={time.filled?.files ?? []}
            does={does}
          />
        </Suspense>
      )}
      {!open && time.status === 'done' ? (
        <Suspense fallback={<Waiting lines={1} label="It is on its way" />}>
          <Questions
            name={name}
            todo={row.todo}
            time={time}
            onAnswer={(written) => onDeed({ do: 'answer', ...written })}
          />
        </Suspense>
      ) : null}
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 8 }}>
        {open ? (
          <>
            {row.later ? null : (
              <>
                <Action
                  filled={panel === 'earlier'}
                  label="Done earlier"
                  name={`Done earlier: ${name}`}
                  onPress={() => toggle('earlier')}
                />
                <Action label="Move" name={`Move: ${name}`} onPress={() => toggle('move')} />
                {row.todo.quota === null ? (
                  <Action
                    filled={panel === 'part'}
                    label="Part done"
                    name={`Part done: ${name}`}
                    onPress={() => toggle('part')}
                  />
                ) : null}
              </>
            )}
            {row.later ? null : (
              <Action
                filled={above}
                label={above ? 'Not above all' : 'Above all'}
                name={`${above ? 'Not above all' : 'Above all'}: ${name}`}
                onPress={() => onDeed({ do: 'above', on: !above })}
              />
            )}
            <Action label="Skip" name={`Skip: ${name}`} onPress={() => onDeed({ do: 'skip' })} />
          </>
        ) : null}
        {beside ? null : <Action label="Open" name={`Open: ${name}`} onPress={onOpen} />}
        {last ? (
          <Action
            label={last.label}
            name={`${last.label}: ${name}`}
            onPress={() => onDeed({ do: 'takeBack', of: last.action })}
          />
        ) : null}
      </View>
      {panel === 'earlier' ? (
        <Suspense fallback={<Waiting lines={2} label="The days before" />}>
          <EarlierPanel
            row={row}
            today={today}
            settings={settings}
            onDone={(when) => onDeed({ do: 'done', when })}
          />
        </Suspense>
      ) : null}
      {panel === 'move' ? (
        <Suspense fallback={<Waiting lines={3} label="The coming days" />}>
          <MovePanel
            row={row}
            today={today}
            settings={settings}
            onMove={(plan) => onDeed({ do: 'move', plan })}
          />
        </Suspense>
      ) : null}
      {panel === 'part' ? (
        <Suspense fallback={<Waiting lines={1} label="It is on its way" />}>
          <Amount
            label={`How much of this time is done: ${name}`}
            value={time.part ?? 0}
            most={95}
            step={5}
            words={(part) => (part ? `${part} %` : 'nothing yet')}
            onKeep={(part) => onDeed({ do: 'part', part })}
          />
        </Suspense>
      ) : null}
    </View>
  );
}

interface OfRow {
  row: Row;
  onDeed: (deed: RowDeed) => void;
}

/** The steps of this time, and what is kept with the to-do. */
function OfThisTime({ row, onDeed }: OfRow) {
  const { note } = row.todo.series;
  return (
    <>
      {note ? <LazyMarkdown text={note} /> : null}
      {stepsOf(detailsOf(row), row.time).length ? (
        <Suspense fallback={<Waiting lines={1} label="It is on its way" />}>
          <Steps
            name={nameOf(row)}
            details={detailsOf(row)}
            filled={row.time.filled}
            onTick={(step, on) => onDeed({ do: 'tick', step, on })}
            onAdd={(text) => onDeed({ do: 'addStep', step: { id: newId(), text } })}
          />
        </Suspense>
      ) : null}
    </>
  );
}

function Facts({ row: { todo, time, later }, today }: { row: Row; today: LocalDate }) {
  const facts = [
    time.due === null ? null : `${later ? 'Opens' : 'Due'} ${momentText(time.due, today, true)}`,
    time.rolled ? `gone along for ${days(time.rolled)}` : null,
    todo.lastDone
      ? `last done ${momentText(todo.lastDone, today, true)}`
      : todo.series.repeat
        ? 'not done before'
        : null,
  ];
  return (
    <Words size={14} tint="soft">
      {facts.filter(Boolean).join(', ')}
    </Words>
  );
}

/** A to-do that is on its way and not open yet: faint, with nothing to do at its end. */
interface SoonRowProps {
  todo: Row['todo'];
  today: LocalDate;
  first: boolean;
  onOpen: () => void;
}

export function SoonRow({ todo, today, first, onOpen }: SoonRowProps) {
  const look = useLook();
  const { next, nextWay, series } = todo;
  if (!next) return null;
  const words = `${momentText(next.due, today, true)}${next.kind === 'expected' ? ' · expected' : ''}`;
  const day = nextWay ? ` · ${nextWay.gone} of ${days(nextWay.of)} gone` : '';
  return (
    <Pressable
      onPress={onOpen}
      role="button"
      aria-label={`${series.title}, back ${words}${day}. Do it ahead, skip or move it`}
      style={{
        flexDirection: 'row',
        alignItems: 'center',
        gap: 12,
        paddingHorizontal: 20,
        paddingVertical: 8,
        minHeight: 62,
        borderTopWidth: first ? 0 : 1,
        borderTopColor: look.line,
      }}
    >
      <ReturnArc kind={arcKind(series)} state={arcOf(todo, 0)} />
      <View style={{ flex: 1, minWidth: 0 }}>
        <Words size={16.5} weight={500} tint="soft" style={{ lineHeight: 21 }}>
          {series.title}
        </Words>
        <Words size={14} tint="soft" style={{ lineHeight: 19 }}>
          {words + day}
        </Words>
      </View>
    </Pressable>
  );
}

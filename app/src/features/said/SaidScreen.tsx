import type { OverviewItem, SaidRow, TodoView } from '@back-again/contract';
import {
  formatInstant,
  momentText,
  parseInstant,
  type LocalDate,
  type Settings,
} from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { useAct } from '../../data/act.ts';
import { errorOf, useSaidQuery, useSeenMutation } from '../../data/api.ts';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Note } from '../../ui/Note.tsx';
import { ReturnArc } from '../../ui/ReturnArc.tsx';
import { Unreachable } from '../../ui/Unreachable.tsx';
import { Card } from '../../ui/Card.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { arcKind, arcOf } from '../../ui/arcs.ts';
import { instantText } from '../../ui/dates.ts';
import { useLook, useWide } from '../../ui/look.ts';
import { asItStands } from './asItStands.ts';
import { laterAt, laterChoices, saidAgain } from './later.ts';
import { becameOf, lineOf } from './lines.ts';
import { rem } from '../../ui/rem.ts';

/**
 * What was said in the last fortnight, and what can be done about it in place. `story` shows one to-do
 * beside the list.
 */
export function SaidScreen({ story }: { story: (id: string | null) => ReactNode }) {
  const {
    data: view,
    error,
    refetch,
  } = useSaidQuery(undefined, {
    refetchOnMountOrArgChange: true,
  });
  const shown = useShown();
  const [seen] = useSeenMutation();
  const [chosen, setChosen] = useState<string | null>(null);
  const wide = useWide();
  /** What was new when the screen was opened stays marked as new. */
  const seenBefore = useRef<number | null>(null);
  const last = view?.rows[0] ? Math.max(...view.rows.map(({ seq }) => seq)) : 0;
  const isNew = view !== undefined && last > view.seenThrough;
  if (view && seenBefore.current === null) seenBefore.current = view.seenThrough;

  useEffect(() => {
    document.title = 'Reminders · Back Again';
  }, []);
  useEffect(() => {
    if (isNew) void seen(last);
  }, [isNew, last, seen]);

  if (!view)
    return error ? (
      <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
    ) : null;
  const { today } = shown;
  const { settings } = shown.person;
  // What was removed is no longer spoken of.
  const rows = view.rows.filter(({ todo }) => !todo || shown.stateOf(todo.id));
  return (
    <Screen width={620} detail={story(chosen)}>
      <View>
        <View style={{ padding: 20, paddingBottom: 6, gap: 2 }}>
          <View
            style={{
              flexDirection: 'row',
              justifyContent: 'space-between',
              alignItems: 'center',
              columnGap: 18,
              flexWrap: 'wrap',
            }}
          >
            <Heading level={1}>Reminders</Heading>
            <View style={{ flexDirection: 'row', gap: 18 }}>
              <WordLink label="Outbox" onPress={() => router.push('/outbox')} />
              <WordLink label="Settings" onPress={() => router.push('/settings')} />
            </View>
          </View>
          <Words size={15} tint="soft">
            {rows.length
              ? 'The reminders of the last two weeks, the latest first.'
              : 'There was no reminder in the last two weeks. Say “remind me the day before at 18:00” where you write one, or set usual ones in Settings.'}
          </Words>
        </View>
        <View role="list">
          {rows.map((row, i) =>
            row.overview ? (
              <OverviewCard
                key={row.id}
                row={row}
                fresh={row.seq > (seenBefore.current ?? 0)}
                settings={settings}
                today={today}
              />
            ) : (
              <Said
                key={row.id}
                row={asItStands(shown, row)}
                first={i === 0}
                fresh={row.seq > (seenBefore.current ?? 0)}
                now={formatInstant(shown.now)}
                today={today}
                settings={settings}
                onOpen={(id) => (wide ? setChosen(id) : router.push(`/todo/${id}`))}
              />
            ),
          )}
        </View>
      </View>
    </Screen>
  );
}

interface SaidProps {
  row: SaidRow;
  first: boolean;
  fresh: boolean;
  now: string;
  today: LocalDate;
  settings: Settings;
  onOpen: (todo: string) => void;
}

/** One time of which something was said. */
function Said({ row, first, fresh, now, today, settings, onOpen }: SaidProps) {
  const look = useLook();
  const [puttingOff, setPuttingOff] = useState(false);
  const [done, setDone] = useState<string | null>(null);
  const [putOffBy, setPutOffBy] = useState<string | null>(null);
  const { does, failure } = useAct(useAnnounce());
  const { todo, slot, time } = row;
  const { title } = todo!.series;
  const ended = becameOf(row, today, settings);
  const undoes = done ?? row.action;
  const { lead, late, rest } = lineOf(row, today, settings);

  const act = (it: 'done' | 'skip') => {
    const did = does({ do: it, todo: todo!.id, slot: slot! }, ({ todos: [now] }) => {
      if (it === 'done' && now && now.quota !== null) return tallyText(now);
      const next = now?.open[0]?.due ?? now?.next?.due;
      const how = it === 'done' ? 'Done' : 'Skipped';
      return next ? `${how}. Back again ${momentText(next, today, true)}` : how;
    });
    if (did) setDone(did.id);
  };
  const putOff = (to: string) => {
    const words = `Said again ${instantText(saidAgain(to, settings), today, settings)}`;
    const did = does({ do: 'later', todo: todo!.id, slot: slot!, to }, () => words);
    if (!did) return;
    setPuttingOff(false);
    setPutOffBy(did.id);
  };
  const takeBack = () => {
    if (does({ do: 'undo', of: putOffBy! }, () => 'As it was before')) setPutOffBy(null);
  };
  const undo = () => {
    if (does({ do: 'undo', of: undoes! }, () => `${title} is open again`)) setDone(null);
  };
  const name = (word: string) => `${word}: ${title}`;
  return (
    <View
      role="listitem"
      testID={`said ${title}`}
      style={{
        paddingHorizontal: 20,
        paddingTop: 12,
        paddingBottom: 6,
        borderTopWidth: first ? 0 : 1,
        borderTopColor: look.line,
        flexDirection: 'row',
        gap: 12,
      }}
    >
      <View style={{ paddingTop: 4 }}>
        <ReturnArc
          kind={arcKind(todo!.series)}
          state={ended ? { at: 'done' } : arcOf(todo!, late)}
        />
      </View>
      <View style={{ flex: 1, minWidth: 0, gap: 2 }}>
        <View style={{ flexDirection: 'row', alignItems: 'baseline', gap: 10 }}>
          <Words size={16.5} weight={600} style={{ flex: 1, lineHeight: 22 }}>
            {title}
          </Words>
          {fresh ? (
            <Words size={14} weight={650} tint="slate">
              new
            </Words>
          ) : null}
        </View>
        <Words size={14.5} tint="soft" style={{ lineHeight: 20 }}>
          <Words size={14.5} weight={600} tint={late ? 'late' : 'soft'} style={{ lineHeight: 20 }}>
            {lead}
          </Words>
          {rest}
        </Words>
        {row.later && !ended ? (
          <View style={{ flexDirection: 'row', alignItems: 'center', columnGap: 16 }}>
            <Words size={14.5} tint="slate" weight={600}>
              {`Said again ${instantText(saidAgain(row.later, settings), today, settings)}`}
            </Words>
            {putOffBy ? (
              <WordLink label="Undo" name={`Undo: put off ${title}`} onPress={takeBack} />
            ) : null}
          </View>
        ) : null}
        {failure ? <Note words={failure} /> : null}
        {ended ? (
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 16, minHeight: 48 }}>
            <Words size={15} weight={600} tint={time?.status === 'done' ? 'moss' : 'soft'}>
              {ended}
            </Words>
            {undoes ? <WordLink label="Undo" name={name('Undo')} onPress={undo} /> : null}
          </View>
        ) : row.canAct ? (
          <View style={{ flexDirection: 'row', columnGap: 22, flexWrap: 'wrap' }}>
            <WordLink label="Done" name={name('Done')} onPress={() => act('done')} />
            <WordLink
              label="Later"
              name={name('Later')}
              expanded={puttingOff}
              onPress={() => setPuttingOff(!puttingOff)}
            />
            <WordLink label="Skip" name={name('Skip')} onPress={() => act('skip')} />
            <WordLink label="Open" name={name('Open')} onPress={() => onOpen(todo!.id)} />
          </View>
        ) : (
          <Words size={14.5} tint="soft" style={{ minHeight: 34 }}>
            It was moved, or comes no more.
          </Words>
        )}
        {done && !ended && todo!.quota !== null ? (
          <View style={{ flexDirection: 'row', alignItems: 'center', columnGap: 16 }}>
            <Words size={15} weight={600} tint="moss">
              {tallyText(todo!)}
            </Words>
            <WordLink label="Undo" name={name('Undo')} onPress={undo} />
          </View>
        ) : null}
        {puttingOff && !ended ? (
          <PutOff title={title} now={now} settings={settings} onPick={putOff} />
        ) : null}
      </View>
    </View>
  );
}

/** “2 of 3 done”. */
const tallyText = ({ open, quota }: TodoView) => `${open[0]?.tally ?? quota} of ${quota} done`;

interface PutOffProps {
  title: string;
  now: string;
  settings: Settings;
  onPick: (to: string) => void;
}

/** For how long, or until when, nothing is said. */
function PutOff({ title, now, settings, onPick }: PutOffProps) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  const at = parseInstant(now);
  const typed = () => {
    const to = laterAt(text, at, settings);
    setWrong(to === null);
    if (to !== null) onPick(to);
  };
  return (
    <Card label={`Say it again: ${title}`} style={{ paddingVertical: 8, marginBottom: 8, gap: 4 }}>
      <Words size={15} weight={600}>
        Say it again
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
        {laterChoices(at, settings).map(({ label, to }) => (
          <WordLink key={label} label={label} size={16} onPress={() => onPick(to)} />
        ))}
      </View>
      <View style={{ flexDirection: 'row', alignItems: 'flex-start', gap: 10 }}>
        <View style={{ width: rem(150) }}>
          <Field
            label="Or at"
            placeholder="18:30"
            value={text}
            onChangeText={setText}
            onSubmitEditing={typed}
            error={wrong ? 'Write it as 18:30.' : undefined}
          />
        </View>
        <View style={{ paddingTop: 26 }}>
          <Action label="Put off" name="Put off until then" onPress={typed} />
        </View>
      </View>
    </Card>
  );
}

interface OverviewCardProps {
  row: SaidRow;
  fresh: boolean;
  today: LocalDate;
  settings: Settings;
}

/** A morning overview, as it stood that morning. */
function OverviewCard({ row, fresh, today, settings }: OverviewCardProps) {
  const look = useLook();
  const { day, late, today: forToday, soon, more } = row.overview!;
  const [open, setOpen] = useState(fresh && day === today);
  const title = day === today ? 'This morning' : `The morning of ${momentText(day, today)}`;
  const sums = [
    late.length ? `${late.length + (more?.late ?? 0)} late` : '',
    `${forToday.length + (more?.today ?? 0)} for the day`,
    soon.length ? `${soon.length + (more?.soon ?? 0)} coming back soon` : '',
  ].filter(Boolean);
  return (
    <View
      role="listitem"
      testID={`overview ${day}`}
      style={{
        marginHorizontal: 20,
        marginVertical: 8,
        paddingHorizontal: 14,
        paddingVertical: 8,
        backgroundColor: look.slateFill,
        borderRadius: 12,
      }}
    >
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 12 }}>
        <View style={{ flex: 1 }}>
          <Heading level={2} size={16}>
            {title}
          </Heading>
          <Words size={14.5}>
            {`${instantText(row.saidAt, today, settings)} · ${sums.join(', ')}`}
          </Words>
        </View>
        <WordLink
          label={open ? 'Hide' : 'Show'}
          name={`${open ? 'Hide' : 'Show'}: ${title}`}
          expanded={open}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <View style={{ gap: 8, paddingVertical: 6 }}>
          <Items title="Late" items={late} more={more?.late} day={day} />
          <Items title="For today" items={forToday} more={more?.today} day={day} />
          <Items title="Coming back soon" items={soon} more={more?.soon} day={day} />
        </View>
      ) : null}
    </View>
  );
}

/** A title with when it is due; of today the time alone. */
function dueText(title: string, due: string, day: LocalDate): string {
  if (!due.startsWith(day)) return `${title} · ${momentText(due, day, true)}`;
  return due.includes('T') ? `${title} · ${due.slice(11)}` : title;
}

interface ItemsProps {
  title: string;
  items: OverviewItem[];
  /** How many are not named. */
  more: number | undefined;
  day: LocalDate;
}

function Items({ title, items, more, day }: ItemsProps) {
  if (!items.length) return null;
  return (
    <View>
      <Words size={14.5} weight={650}>
        {title}
      </Words>
      {items.map(({ todo, title: name, due }) => (
        <Words key={`${todo} ${due}`} size={15}>
          {due ? dueText(name, due, day) : name}
        </Words>
      ))}
      {more ? (
        <Words size={15} tint="soft">
          {`and ${more} more`}
        </Words>
      ) : null}
    </View>
  );
}

import type { OverviewItem, SaidRow, TodoView } from '@back-again/contract';
import { momentText, parseInstant, type LocalDate, type Settings } from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf, useSaidQuery, useSeenMutation, useSessionQuery } from '../../data/api.ts';
import { newId } from '../../data/ids.ts';
import { useSend } from '../../data/useSend.ts';
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
import { laterAt, laterChoices, saidAgain } from './later.ts';
import { becameOf, lineOf } from './lines.ts';

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
  const { data: session } = useSessionQuery();
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

  if (!view || !session)
    return error ? (
      <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
    ) : null;
  const { today, now, rows } = view;
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
              ? 'What was said in the last two weeks, the latest first.'
              : 'Nothing was said in the last two weeks. Say “remind me the day before at 18:00” where you write one, or set usual ones in Settings.'}
          </Words>
        </View>
        <View role="list">
          {rows.map((row, i) =>
            row.overview ? (
              <OverviewCard
                key={row.id}
                row={row}
                fresh={row.seq > (seenBefore.current ?? 0)}
                settings={session.settings}
                today={today}
              />
            ) : (
              <Said
                key={row.id}
                row={row}
                first={i === 0}
                fresh={row.seq > (seenBefore.current ?? 0)}
                now={now}
                today={today}
                settings={session.settings}
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
  const { send, busy, failure } = useSend(useAnnounce());
  const { todo, slot, time } = row;
  const { title } = todo!.series;
  const ended = becameOf(row, today, settings);
  const undoes = done ?? row.action;
  const { lead, late, rest } = lineOf(row, today, settings);

  const act = async (it: 'done' | 'skip') => {
    const id = newId();
    const sent = await send({ do: it, id, todo: todo!.id, slot: slot! }, ({ todos: [now] }) => {
      if (it === 'done' && now && now.quota !== null) return tallyText(now);
      const next = now?.open[0]?.due ?? now?.next?.due;
      const how = it === 'done' ? 'Done' : 'Skipped';
      return next ? `${how}. Back again ${momentText(next, today, true)}` : how;
    });
    if (sent) setDone(id);
  };
  const putOff = async (to: string) => {
    const words = `Said again ${instantText(saidAgain(to, settings), today, settings)}`;
    const body = { do: 'later', id: newId(), todo: todo!.id, slot: slot!, to } as const;
    if (!(await send(body, () => words))) return;
    setPuttingOff(false);
    setPutOffBy(body.id);
  };
  const takeBack = async () => {
    const undone = { do: 'undo', id: newId(), of: putOffBy! } as const;
    if (await send(undone, () => 'As it was before')) setPutOffBy(null);
  };
  const undo = async () => {
    const words = () => `${title} is open again`;
    if (await send({ do: 'undo', id: newId(), of: undoes! }, words)) setDone(null);
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
              <WordLink
                label="Undo"
                name={`Undo: put off ${title}`}
                onPress={() => void takeBack()}
              />
            ) : null}
          </View>
        ) : null}
        {failure ? (
          <Note words={failure.words} action={{ label: 'Try again', onPress: failure.retry }} />
        ) : null}
        {ended ? (
          <View style={{ flexDirection: 'row', alignItems: 'center', gap: 16, minHeight: 48 }}>
            <Words size={15} weight={600} tint={time?.status === 'done' ? 'moss' : 'soft'}>
              {ended}
            </Words>
            {undoes ? (
              <WordLink label="Undo" name={name('Undo')} onPress={() => void undo()} />
            ) : null}
          </View>
        ) : row.canAct ? (
          <View style={{ flexDirection: 'row', columnGap: 22, flexWrap: 'wrap' }}>
            <WordLink label="Done" name={name('Done')} onPress={() => void act('done')} />
            <WordLink
              label="Later"
              name={name('Later')}
              expanded={puttingOff}
              onPress={() => setPuttingOff(!puttingOff)}
            />
            <WordLink label="Skip" name={name('Skip')} onPress={() => void act('skip')} />
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
            <WordLink label="Undo" name={name('Undo')} onPress={() => void undo()} />
          </View>
        ) : null}
        {puttingOff && !ended ? (
          <PutOff title={title} now={now} settings={settings} busy={busy} onPick={putOff} />
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
  busy: boolean;
  onPick: (to: string) => Promise<void>;
}

/** For how long, or until when, nothing is said. */
function PutOff({ title, now, settings, busy, onPick }: PutOffProps) {
  const [text, setText] = useState('');
  const [wrong, setWrong] = useState(false);
  const at = parseInstant(now);
  const typed = () => {
    const to = laterAt(text, at, settings);
    setWrong(to === null);
    if (to !== null) void onPick(to);
  };
  return (
    <Card label={`Say it again: ${title}`} style={{ paddingVertical: 8, marginBottom: 8, gap: 4 }}>
      <Words size={15} weight={600}>
        Say it again
      </Words>
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 18 }}>
        {laterChoices(at, settings).map(({ label, to }) => (
          <WordLink key={label} label={label} size={16} onPress={() => void onPick(to)} />
        ))}
      </View>
      <View style={{ flexDirection: 'row', alignItems: 'flex-start', gap: 10 }}>
        <View style={{ width: 150 }}>
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
          <Action label="Put off" name="Put off until then" busy={busy} onPress={typed} />
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

import type { Action as ActionBody } from '@back-again/contract';
import { clockOf, parseDay, parseInstant } from '@back-again/core';
import { router } from 'expo-router';
import { useEffect, useState, type ReactNode } from 'react';
import { View } from 'react-native';
import { errorOf, useActMutation, useSessionQuery, useTodayQuery } from '../../data/api.ts';
import { newId } from '../../data/ids.ts';
import { Action } from '../../ui/Action.tsx';
import { Screen, useAnnounce } from '../../ui/Frame.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { MONTHS, WEEKDAYS } from '../../ui/dates.ts';
import { useLook, useWide } from '../../ui/look.ts';
import { DayRuler } from './DayRuler.tsx';
import { FirstUse } from './FirstUse.tsx';
import { SoonRow, TodayRow, type RowDeed } from './TodayRow.tsx';
import { answerOf, sectionsOf, type Held, type Row, type Section } from './rows.ts';

const MINUTE = 60_000;

/** What is late, what is for today, and what is back soon. `story` shows one to-do beside the list. */
export function TodayScreen({ story }: { story: (id: string | null) => ReactNode }) {
  const {
    data: view,
    error,
    refetch,
  } = useTodayQuery(undefined, { pollingInterval: MINUTE, skipPollingIfUnfocused: true });
  const { data: session } = useSessionQuery();
  const [act, acting] = useActMutation();
  const [held, setHeld] = useState<Held>({});
  const [unfolded, setUnfolded] = useState<string | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [brought, setBrought] = useState<{ action: string; n: number } | null>(null);
  const [failed, setFailed] = useState<{ action: ActionBody; words: string } | null>(null);
  const announce = useAnnounce();
  const wide = useWide();

  useEffect(() => {
    document.title = 'Today · Back Again';
  }, []);

  if (!view || !session)
    return error ? (
      <Unreachable words={errorOf(error).message} onRetry={() => void refetch()} />
    ) : null;
  const { settings } = session;
  const { today } = view;
  const sections = sectionsOf(view, held, settings);
  const isEmpty = !sections.length && !view.soon.length;

  /** Sends an action; the same one again after a failure, so that it happens once. */
  async function send(action: ActionBody, say: (row: Row['todo'] | undefined) => string) {
    try {
      const answer = await act(action).unwrap();
      setFailed(null);
      announce(say(answer.todos[0]));
      return true;
    } catch (problem) {
      const { message } = errorOf(problem);
      setFailed({ action, words: message });
      announce(message);
      return false;
    }
  }

  async function deed(row: Row, section: Section, it: RowDeed) {
    const { todo, time } = row;
    const id = newId();
    if (it.do === 'undo') {
      await send({ do: 'undo', id, of: row.action! }, () => `${todo.series.title} is open again`);
      return;
    }
    const of = { id, todo: todo.id, slot: time.slot };
    if (it.do === 'move') {
      if (await send({ do: 'move', ...of, plan: it.plan }, () => 'Moved')) setUnfolded(null);
      return;
    }
    setHeld({ ...held, [row.key]: section.id });
    const status = it.do === 'done' ? 'done' : 'skipped';
    const body: ActionBody =
      it.do === 'done' && it.when ? { do: 'done', ...of, when: it.when } : { do: it.do, ...of };
    const done = await send(body, (now) =>
      now ? answerOf({ todo: now, time: { ...time, status } }, today) : 'Done',
    );
    if (done && unfolded === row.key) setUnfolded(null);
  }

  async function bring(rows: readonly Row[]) {
    const action = newId();
    const times = rows.map(({ todo, time }) => ({ todo: todo.id, slot: time.slot }));
    if (await send({ do: 'bring', id: action, times }, () => `${times.length} brought to today`))
      setBrought({ action, n: times.length });
  }

  const show = (id: string) => (wide ? setChosen(id) : router.push(`/todo/${id}`));
  const unfold = (row: Row) => {
    setUnfolded(unfolded === row.key ? null : row.key);
    if (wide) setChosen(row.todo.id);
  };
  const timed = sections
    .flatMap(({ rows }) => rows)
    .filter(({ time }) => time.due?.includes('T') && time.due.startsWith(today))
    .map(({ key, time }) => ({ key, at: time.due!.slice(11), done: time.status !== 'open' }));
  const now = clockOf(settings).momentAt(parseInstant(view.now)).slice(11);
  const toDo = sections
    .filter(({ id }) => id !== 'early')
    .flatMap(({ rows }) => rows)
    .filter(({ time }) => time.status === 'open').length;

  return (
    <Screen width={620} detail={story(chosen)}>
      <DayHead today={today} toDo={toDo} empty={isEmpty} />
      <DayRuler marks={timed} now={now} />
      {failed ? (
        <Failed words={failed.words} onRetry={() => void send(failed.action, () => 'Done')} />
      ) : null}
      {brought ? (
        <Brought
          n={brought.n}
          onUndo={() => {
            void send({ do: 'undo', id: newId(), of: brought.action }, () => 'As it was before');
            setBrought(null);
          }}
        />
      ) : null}
      {isEmpty ? <FirstUse /> : null}
      {sections.map((section) => (
        <View key={section.id} role="region" aria-label={section.title}>
          <SectionHead section={section} />
          {section.rows.map((row) => (
            <TodayRow
              key={row.key}
              row={row}
              today={today}
              settings={settings}
              unfolded={unfolded === row.key}
              busy={acting.isLoading}
              onUnfold={() => unfold(row)}
              onDeed={(it) => void deed(row, section, it)}
              onOpen={() => show(row.todo.id)}
            />
          ))}
          {section.id === 'late' ? (
            <BringLate
              rows={section.rows.filter(({ time }) => time.status === 'open')}
              onBring={bring}
            />
          ) : null}
        </View>
      ))}
      {!isEmpty && toDo === 0 ? <NothingLeft /> : null}
      {view.soon.length ? (
        <View role="region" aria-label="Coming back soon">
          <View style={{ paddingHorizontal: 20, paddingTop: 18, paddingBottom: 4 }}>
            <Heading level={2} size={16} tint="soft">
              Coming back soon
            </Heading>
          </View>
          {view.soon.map((todo) => (
            <SoonRow key={todo.id} todo={todo} today={today} onOpen={() => show(todo.id)} />
          ))}
        </View>
      ) : null}
    </Screen>
  );
}

function DayHead({ today, toDo, empty }: { today: string; toDo: number; empty: boolean }) {
  const day = parseDay(today);
  const [year, month, n] = today.split('-').map(Number) as [number, number, number];
  const weekday = WEEKDAYS[(((day + 3) % 7) + 7) % 7]!;
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
      {empty ? null : (
        <Words size={14.5} tint="soft" style={{ paddingBottom: 4 }}>
          {toDo === 0 ? `${year}` : `${toDo} for today`}
        </Words>
      )}
    </View>
  );
}

function SectionHead({ section }: { section: Section }) {
  const late = section.id === 'late';
  const open = section.rows.filter(({ time }) => time.status === 'open').length;
  return (
    <View style={{ paddingHorizontal: 20, paddingTop: 16, paddingBottom: 4 }}>
      <Heading level={2} size={16} tint={late ? 'late' : 'ink'}>
        {late && open ? `${section.title}, ${open}` : section.title}
      </Heading>
    </View>
  );
}

function BringLate({
  rows,
  onBring,
}: {
  rows: readonly Row[];
  onBring: (rows: readonly Row[]) => Promise<void>;
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
      <WordLink label={label} onPress={() => void onBring(rows)} />
    </View>
  );
}

function Brought({ n, onUndo }: { n: number; onUndo: () => void }) {
  return (
    <Note>
      <Words
        size={15}
        style={{ flex: 1 }}
      >{`${n === 1 ? 'One is' : `${n} are`} brought to today. What is due stays due.`}</Words>
      <Action label="Undo" name="Undo: bring to today" onPress={onUndo} />
    </Note>
  );
}

function Failed({ words, onRetry }: { words: string; onRetry: () => void }) {
  return (
    <Note>
      <Words size={15} style={{ flex: 1 }}>
        {words}
      </Words>
      <Action label="Try again" onPress={onRetry} />
    </Note>
  );
}

function Note({ children }: { children: ReactNode }) {
  const look = useLook();
  return (
    <View
      style={{
        marginHorizontal: 20,
        marginTop: 12,
        backgroundColor: look.slateFill,
        borderRadius: 10,
        paddingVertical: 8,
        paddingHorizontal: 14,
        flexDirection: 'row',
        alignItems: 'center',
        gap: 12,
      }}
    >
      {children}
    </View>
  );
}

function NothingLeft() {
  return (
    <View style={{ paddingHorizontal: 20, paddingTop: 18 }}>
      <Words tint="soft">Nothing is left for today.</Words>
    </View>
  );
}

function Unreachable({ words, onRetry }: { words: string; onRetry: () => void }) {
  return (
    <View style={{ padding: 24, gap: 16, alignItems: 'flex-start' }}>
      <Words live>{words}</Words>
      <Action label="Try again" onPress={onRetry} />
    </View>
  );
}

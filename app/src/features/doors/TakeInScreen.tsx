import { momentText } from '@back-again/core';
import { useEffect, useMemo, useState } from 'react';
import { View } from 'react-native';
import { errorOf } from '../../data/api.ts';
import { newId } from '../../data/ids.ts';
import { useRoom } from '../../data/room.tsx';
import { useShown } from '../../data/todos.ts';
import { Action } from '../../ui/Action.tsx';
import { Check } from '../../ui/Check.tsx';
import { LongList } from '../../ui/LongList.tsx';
import { Note } from '../../ui/Note.tsx';
import { Rule } from '../../ui/Rule.tsx';
import { Heading, WordLink, Words } from '../../ui/Words.tsx';
import { useLook } from '../../ui/look.ts';
import { ColumnsOf } from './ColumnsOf.tsx';
import { byUid, standingOf, type Standing } from './against.ts';
import { useTakeBackMutation, useTakeInMutation } from './doorsApi.ts';
import { chooseFile } from './files.ts';
import type { Candidate, Found } from './looking.ts';
import { useLooking } from './useLooking.ts';

interface Row {
  candidate: Candidate;
  standing: Standing;
  key: string;
}

/** What would come in from a file, with its next dates and its doubts: nothing happens until it is taken. */
export function TakeInScreen() {
  const { looking, look, again, stop } = useLooking();
  const [taken, setTaken] = useState<{ words: string; action: string | null } | null>(null);
  useEffect(() => {
    document.title = 'Bring in · Back Again';
  }, []);
  const choose = () =>
    chooseFile('.ics,.ical,.csv,.tsv,.txt,text/calendar,text/csv', (file) => {
      setTaken(null);
      void look(file);
    });
  const head = (
    <View style={{ gap: 14 }}>
      <Heading level={1}>Bring in</Heading>
      {looking.at === 'nothing' ? (
        <>
          <Words>
            A calendar (.ics), or a table (.csv) with a to-do in each row. One column may hold a
            sentence, as “every 2 weeks on Tue”. First you see what would come in.
          </Words>
          <View style={{ alignItems: 'flex-start' }}>
            <Action label="Choose a file" filled onPress={choose} />
          </View>
        </>
      ) : null}
      {taken ? (
        <TakenNote {...taken} onTakenBack={(words) => setTaken({ words, action: null })} />
      ) : null}
      {looking.at === 'looking' ? (
        <View style={{ gap: 10 }}>
          <Words>Looking at it …</Words>
          <Far share={looking.share} />
          <View style={{ alignItems: 'flex-start' }}>
            <Action label="Stop" name="Stop looking at the file" onPress={stop} />
          </View>
        </View>
      ) : null}
      {looking.at === 'wrong' ? (
        <Note words={looking.words} action={{ label: 'Another file', onPress: choose }} />
      ) : null}
    </View>
  );
  if (looking.at !== 'found') return <Framed>{head}</Framed>;
  return (
    <Preview
      key={looking.name}
      head={head}
      name={looking.name}
      found={looking.found}
      onColumns={again}
      onStop={stop}
      onTaken={(words, action) => {
        stop();
        setTaken({ words, action });
      }}
      onAnother={choose}
    />
  );
}

/** How far it is, as a line and in words. */
function Far({ share }: { share: number }) {
  const look = useLook();
  const n = Math.round(100 * Math.min(1, share));
  const spoken = {
    role: 'progressbar',
    'aria-label': 'How far it is',
    'aria-valuemin': 0,
    'aria-valuemax': 100,
    'aria-valuenow': n,
  } as object;
  return (
    <View style={{ gap: 4 }}>
      <View style={{ height: 6, borderRadius: 3, backgroundColor: look.track }} {...spoken}>
        <View style={{ height: 6, borderRadius: 3, width: `${n}%`, backgroundColor: look.ink }} />
      </View>
      <Words size={15} tint="soft">{`${n} in 100`}</Words>
    </View>
  );
}

function Framed({ children }: { children: React.ReactNode }) {
  return <View style={{ flex: 1, padding: 20, maxWidth: 700, width: '100%' }}>{children}</View>;
}

function TakenNote({
  words,
  action,
  onTakenBack,
}: {
  words: string;
  action: string | null;
  onTakenBack: (words: string) => void;
}) {
  const { sync } = useRoom();
  const [takeBack, { isLoading }] = useTakeBackMutation();
  const undo = async () => {
    const { error } = await takeBack({ id: newId(), of: action! });
    await sync.refresh();
    onTakenBack(error ? errorOf(error).message : 'As it was before: nothing of it is here.');
  };
  return (
    <View aria-live="polite">
      <Note
        words={isLoading ? 'It is being taken back …' : words}
        {...(action && !isLoading
          ? { action: { label: 'Undo', name: 'Undo: what came in', onPress: () => void undo() } }
          : {})}
      />
    </View>
  );
}

interface PreviewProps {
  head: React.ReactElement;
  name: string;
  found: Found;
  onColumns: ReturnType<typeof useLooking>['again'];
  onStop: () => void;
  onTaken: (words: string, action: string) => void;
  onAnother: () => void;
}

function Preview({ head, name, found, onColumns, onStop, onTaken, onAnother }: PreviewProps) {
  const { all } = useShown();
  const { sync } = useRoom();
  const [takeIn, { isLoading }] = useTakeInMutation();
  const [wrong, setWrong] = useState<string | null>(null);
  const [id] = useState(newId);
  const there = useMemo(() => byUid(all()), [all]);
  const rows = useMemo(
    () =>
      found.candidates.map((candidate, i): Row => ({
        candidate,
        standing: standingOf(candidate, there),
        key: `${i} ${candidate.uid ?? ''}`,
      })),
    [found, there],
  );
  const [out, setOut] = useState<ReadonlySet<string>>(new Set());
  const isIn = ({ key, standing }: Row) => standing.kind !== 'same' && !out.has(key);
  const chosen = rows.filter(isIn);
  const flip = (key: string) => {
    const next = new Set(out);
    if (!next.delete(key)) next.add(key);
    setOut(next);
  };
  const take = async () => {
    const todos = chosen.map(({ candidate, standing }) => {
      const { series, details, times } = candidate;
      const { came, ...what } = details;
      return {
        todo: standing.kind === 'changed' ? standing.todo : newId(),
        ...(standing.kind === 'changed' ? { isThere: true } : {}),
        series,
        details: standing.kind === 'changed' ? what : { ...what, ...(came ? { came } : {}) },
        ...(times.length ? { times } : {}),
      };
    });
    const { data, error } = await takeIn({ id, todos } as never);
    if (error || !data) {
      setWrong(error ? errorOf(error).message : 'It could not be taken in.');
      return;
    }
    await sync.refresh();
    onTaken(`${cameText(data.made, data.changed)} from ${name}.`, data.action);
  };
  const doubtful = rows.filter(({ candidate }) => candidate.doubts.length).length;
  const same = rows.filter(({ standing }) => standing.kind === 'same').length;
  const summary = [
    `${count(rows.length, 'to-do')} in ${name}`,
    ...(same ? [`${same.toLocaleString('en')} there already`] : []),
    ...(doubtful ? [`${doubtful.toLocaleString('en')} with a doubt`] : []),
    ...(found.left.length ? [`${found.left.length.toLocaleString('en')} left out`] : []),
  ].join(', ');
  return (
    <LongList
      label="What would come in"
      rows={rows}
      keyOf={({ key }) => key}
      height={110}
      width={700}
      head={
        <View style={{ gap: 14, paddingBottom: 14 }}>
          {head}
          <Words weight={600} live>
            {found.form === 'none' ? `${name} is neither a calendar nor a table.` : `${summary}.`}
          </Words>
          {found.table ? <ColumnsOf table={found.table} onChange={onColumns} /> : null}
          {found.left.length ? <LeftOut left={found.left} /> : null}
          {wrong ? (
            <Words weight={650} tint="late" live>
              {wrong}
            </Words>
          ) : null}
          <View style={{ flexDirection: 'row', flexWrap: 'wrap', gap: 10 }}>
            {chosen.length ? (
              <Action
                label={`Take ${count(chosen.length, 'to-do')} in`}
                filled
                busy={isLoading}
                disabled={isLoading}
                onPress={() => void take()}
              />
            ) : null}
            <Action label="Leave it" name="Leave it: nothing comes in" onPress={onStop} />
            <Action label="Another file" onPress={onAnother} />
          </View>
          {isLoading ? <Words live>They are coming in …</Words> : null}
        </View>
      }
    >
      {(row) => <One row={row} isIn={isIn(row)} onFlip={() => flip(row.key)} />}
    </LongList>
  );
}

const count = (n: number, one: string) => `${n.toLocaleString('en')} ${one}${n === 1 ? '' : 's'}`;

function cameText(made: number, changed: number): string {
  const parts = [
    ...(made ? [`${count(made, 'to-do')} came in`] : []),
    ...(changed ? [`${count(changed, 'to-do')} became as there`] : []),
  ];
  return parts.join(', ') || 'Nothing came in';
}

function LeftOut({ left }: { left: Found['left'] }) {
  const [open, setOpen] = useState(false);
  return (
    <View style={{ gap: 4, alignItems: 'flex-start' }}>
      <WordLink
        label={
          open
            ? 'Hide what is left out'
            : `See what is left out: ${left.length.toLocaleString('en')}`
        }
        size={15}
        expanded={open}
        onPress={() => setOpen(!open)}
      />
      {open
        ? left.slice(0, 200).map(({ where, message }, i) => (
            <Words key={i} size={15}>
              {`${where}: ${message}`}
            </Words>
          ))
        : null}
    </View>
  );
}

function One({ row, isIn, onFlip }: { row: Row; isIn: boolean; onFlip: () => void }) {
  const { today } = useShown();
  const { candidate, standing } = row;
  const { details, says, next, doubts, times } = candidate;
  const ended = times.filter(({ status }) => status !== 'open').length;
  const state =
    standing.kind === 'same'
      ? 'There already, and the same.'
      : standing.kind === 'changed'
        ? `There already; other here: ${standing.what.join(', ')}.`
        : null;
  return (
    <View>
      <Rule />
      <View style={{ paddingVertical: 10, gap: 2 }}>
        {standing.kind === 'same' ? (
          <Words weight={600}>{details.title}</Words>
        ) : (
          <Check role="checkbox" name={`Take in: ${details.title}`} on={isIn} onPress={onFlip}>
            <View style={{ flexDirection: 'row', flex: 1, gap: 10, alignItems: 'center' }}>
              <Words weight={600} style={{ flex: 1 }}>
                {details.title}
              </Words>
              <Words size={14} weight={600} tint={isIn ? 'moss' : 'soft'}>
                {isIn ? 'comes in' : 'stays out'}
              </Words>
            </View>
          </Check>
        )}
        <Words size={15} tint="soft">
          {says}
        </Words>
        {next.length ? (
          <Words
            size={15}
          >{`Next: ${next.map((due) => momentText(due, today, true)).join(', ')}`}</Words>
        ) : (
          <Words size={15}>Nothing comes of it any more.</Words>
        )}
        {ended ? (
          <Words size={14} tint="soft">{`with ${count(ended, 'time')} of its record`}</Words>
        ) : null}
        {state ? (
          <Words size={15} tint="slate" weight={600}>
            {state}
          </Words>
        ) : null}
        {doubts.map((doubt, i) => (
          <Words key={i} size={15} tint="late">
            {`? ${doubt}`}
          </Words>
        ))}
      </View>
    </View>
  );
}

import type { PlaceState, TodoView } from '@back-again/contract';
import type { Details, NamedPlace } from '@back-again/core';
import { router } from 'expo-router';
import { formatDay, parseDay } from '@back-again/core';
import { useState, type ReactNode } from 'react';
import { View } from 'react-native';
import type { Draft } from '../../data/act.ts';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { Sheet } from '../../ui/Sheet.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { momentText } from '../../ui/dates.ts';
import { useLook } from '../../ui/look.ts';

interface SeveralProps {
  chosen: readonly TodoView[];
  /** How many there are to choose from. */
  of: number;
  places: readonly PlaceState[];
  names: readonly NamedPlace[];
  today: string;
  /** Does one thing to all of them, as one action. */
  onAct: (draft: Draft, words: string) => void;
  onAll: () => void;
  onLeave: () => void;
}

type Panel = 'place' | 'importance' | 'tags' | 'day' | null;

/** What can be done with several at once: each is one action with one undo. */
export function Several(props: SeveralProps) {
  const { chosen, of, names, today, onAct, onAll, onLeave } = props;
  const look = useLook();
  const [panel, setPanel] = useState<Panel>(null);
  const [tag, setTag] = useState('');
  const todos = chosen.map(({ id }) => id);
  const n = todos.length;
  const toggle = (which: Panel) => setPanel(panel === which ? null : which);
  const act = (draft: Draft, words: string) => {
    onAct(draft, words);
    setPanel(null);
  };
  const describe = (details: Partial<Details>, words: string) =>
    act({ do: 'describe', todos, details }, words);
  const times = chosen.flatMap(({ id, open }) => open.map(({ slot }) => ({ todo: id, slot })));
  const day = parseDay(today);
  return (
    <View
      role="group"
      aria-label="Several at once"
      style={{
        backgroundColor: look.card,
        borderTopWidth: 1,
        borderBottomWidth: 1,
        borderColor: look.line,
        paddingHorizontal: 20,
        paddingVertical: 6,
      }}
    >
      <View style={{ flexDirection: 'row', flexWrap: 'wrap', alignItems: 'center', columnGap: 16 }}>
        <Words size={15.5} weight={600}>{`${n} of ${of} chosen`}</Words>
        <WordLink label={n === of ? 'Choose none' : 'Choose all'} onPress={onAll} />
        <WordLink label="Leave it" name="Stop choosing" onPress={onLeave} />
      </View>
      {n ? (
        <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 16 }}>
          <WordLink label="Move to" expanded={panel === 'place'} onPress={() => toggle('place')} />
          <WordLink
            label="Importance"
            expanded={panel === 'importance'}
            onPress={() => toggle('importance')}
          />
          <WordLink label="Tag" expanded={panel === 'tags'} onPress={() => toggle('tags')} />
          {times.length ? (
            <WordLink label="Bring to" expanded={panel === 'day'} onPress={() => toggle('day')} />
          ) : null}
          <WordLink
            label="Take away"
            name={`Take away ${n}, with their records`}
            onPress={() => act({ do: 'removeAll', todos }, `${n} are removed, with their records`)}
          />
          <WordLink
            label="Pause"
            name="Pause these"
            onPress={() => act({ do: 'pause', todos, to: null }, `${n} are paused`)}
          />
          <WordLink
            label="Resume"
            name="Resume these"
            onPress={() => act({ do: 'resume', todos }, `${n} come back`)}
          />
          <WordLink
            label="Make a bundle"
            name="Make a bundle of these"
            onPress={() =>
              router.push({ pathname: '/ahead' as never, params: { bundle: todos.join(',') } })
            }
          />
        </View>
      ) : null}
      {panel === 'place' ? (
        <Sheet
          title={n === 1 ? 'Move it to' : `Move ${n} to`}
          close="Leave it"
          onClose={() => setPanel(null)}
        >
          <Wordy>
            {names.map(({ id, name }) => (
              <WordLink
                key={id}
                label={name}
                name={`Move these to ${name}`}
                onPress={() => describe({ place: id }, `${n} moved to ${name}`)}
              />
            ))}
            <WordLink
              label="nowhere"
              name="Move these nowhere"
              onPress={() => describe({ place: null }, `${n} belong nowhere`)}
            />
          </Wordy>
        </Sheet>
      ) : null}
      {panel === 'importance' ? (
        <Wordy>
          {LEVELS.map(({ value, label }) => (
            <WordLink
              key={value}
              label={label}
              onPress={() => describe({ importance: value }, `${n} are ${label}`)}
            />
          ))}
        </Wordy>
      ) : null}
      {panel === 'day' ? (
        <Wordy>
          {[0, 1, 2, 3, 4, 5, 6].map((i) => {
            const to = formatDay(day + i);
            const label = momentText(to, today);
            return (
              <WordLink
                key={to}
                label={label}
                name={`Bring these to ${label}`}
                onPress={() =>
                  act({ do: 'bring', times, to }, `${times.length} brought to ${label}`)
                }
              />
            );
          })}
        </Wordy>
      ) : null}
      {panel === 'tags' ? (
        <View style={{ gap: 8, paddingBottom: 8 }}>
          <Field label="Tag these as" value={tag} onChangeText={setTag} maxLength={40} />
          <View style={{ flexDirection: 'row', gap: 8 }}>
            <Action
              label="Tag them"
              disabled={!tag.trim()}
              onPress={() =>
                act(
                  { do: 'describe', todos, details: {}, tag: tag.trim() },
                  `${n} are tagged ${tag.trim()}`,
                )
              }
            />
          </View>
          <Words size={14.5} tint="soft">
            It is put to the tags that they have.
          </Words>
        </View>
      ) : null}
    </View>
  );
}

const LEVELS = [
  { value: 'high', label: 'important' },
  { value: 'normal', label: 'as any other' },
  { value: 'low', label: 'less important' },
] as const;

function Wordy({ children }: { children: ReactNode }) {
  return <View style={{ flexDirection: 'row', flexWrap: 'wrap', columnGap: 16 }}>{children}</View>;
}

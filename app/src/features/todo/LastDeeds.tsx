import type { LastDeedView, TodoPage } from '@back-again/contract';
import type { LastDeed } from '../../data/lastDeed.ts';
import { controlOf, momentText, type LocalDate, type Settings } from '@back-again/core';
import { View } from 'react-native';
import { Part } from '../../ui/Part.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';
import { instantText } from '../../ui/dates.ts';
import { APART, useLook } from '../../ui/look.ts';

interface LastDeedsProps {
  title: string;
  deeds: TodoPage['deeds'];
  /** What was done on this device last. */
  here: LastDeed | null;
  today: LocalDate;
  settings: Settings;
  onUndo: (action: string) => void;
}

/** What was done to it last, on whichever device, each with its undo. */
export function LastDeeds({ title, deeds, here, today, settings, onUndo }: LastDeedsProps) {
  const look = useLook();
  // The server’s list may be older than what was done here.
  const fresh = here && !deeds.some(({ action }) => action === here.action) ? here : null;
  if (!deeds.length && !fresh) return null;
  return (
    <Part title="What you did last">
      {fresh ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label={fresh.label}
            name={`${fresh.label}: ${title}`}
            onPress={() => onUndo(fresh.action)}
          />
        </View>
      ) : null}
      {deeds.map((it, i) => {
        const words = deedText(it, today);
        return (
          <View
            key={it.action}
            style={{
              ...APART,
              minHeight: 48,
              borderTopWidth: i ? 1 : 0,
              borderTopColor: look.line,
            }}
          >
            <View style={{ flexShrink: 1 }}>
              <Words size={15.5}>{words}</Words>
              <Words size={14.5} tint="soft">
                {instantText(it.at, today, settings)}
              </Words>
            </View>
            <WordLink
              label="Undo"
              name={`Undo: ${title}, ${words}`}
              onPress={() => onUndo(it.action)}
            />
          </View>
        );
      })}
    </Part>
  );
}

const BY: Record<string, string> = {
  bring: 'Put on another day, together with others',
  arrange: 'Moved, together with others',
  rest: 'Its strand rests or goes on',
  finishProject: 'Its project was finished',
};

/** “Moved to Sat 28 Nov”, “Its pattern changed”. */
export function deedText(
  { do: did, by, slot, to, part, parts = [] }: LastDeedView,
  today: LocalDate,
): string {
  const of = slot !== undefined && slot !== 'undated' ? ` (${momentText(slot, today)})` : '';
  const on = to === undefined ? '' : ` to ${momentText(to, today, true)}`;
  switch (did) {
    case 'done':
    case 'tally':
      return `Done${of}`;
    case 'skip':
      return `Skipped${of}`;
    case 'move':
      return `${BY[by] ?? 'Moved'}${on}${of}`;
    case 'part':
      return part ? `${part} % of it done${of}` : `Nothing of it done yet${of}`;
    case 'note':
      return `Its note changed${of}`;
    case 'tick':
    case 'addStep':
      return `Its steps${of}`;
    case 'answer':
      return `Something written down${of}`;
    case 'file':
    case 'unfile':
      return `Its files${of}`;
    case 'later':
      return `Its reminder put off${of}`;
    case 'pause':
      return BY[by] ?? (to === undefined ? 'Paused' : `Paused through ${momentText(to, today)}`);
    case 'resume':
      return BY[by] ?? 'Went on after a pause';
    case 'change':
      return BY[by] ?? 'Its pattern changed';
    case 'end':
      return BY[by] ?? 'Stopped';
    case 'reopen':
      return 'Brought back';
    case 'drop':
      return `One time taken away${of}`;
    case 'describe':
      return `Changed: ${parts.map(partText).join(', ') || 'what it is'}`;
  }
}

/** What a part is called that a person changes: by its controls, where it has any. */
const partText = (name: string) =>
  controlOf(name)?.title.toLowerCase() ?? OTHERS[name] ?? 'what it is';
const OTHERS: Record<string, string> = { title: 'its title', looksBack: 'whether it looks back' };

import type { TodoView } from '@back-again/contract';
import { repeatText } from '@back-again/core';
import type { ReactNode } from 'react';
import { View } from 'react-native';
import { Action } from './Action.tsx';
import { ListRow } from './ListRow.tsx';
import { ReturnArc } from './ReturnArc.tsx';
import { Rule } from './Rule.tsx';
import { Words } from './Words.tsx';
import { arcKind, arcOf } from './arcs.ts';

interface TodoLineProps {
  todo: TodoView;
  first: boolean;
  standing: { words: string; late: number };
  onOpen: () => void;
  onDone?: () => void;
  /** What stands under its words. */
  children?: ReactNode;
}

/** A to-do in a list: its arc, its title, where it stands, and at its end what can be done. */
export function TodoLine({ todo, first, standing, onOpen, onDone, children }: TodoLineProps) {
  const { title, repeat } = todo.series;
  const { words, late } = standing;
  const repeats = repeat && todo.wrong === null ? repeatText(todo.series) : null;
  return (
    <>
      {first ? null : <Rule />}
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8 }}>
        <View style={{ flex: 1, minWidth: 0 }}>
          <ListRow
            first
            onPress={onOpen}
            name={`${title}, ${words}${repeats ? `, ${repeats}` : ''}. Open`}
          >
            <ReturnArc kind={arcKind(todo.series)} state={arcOf(todo, late)} />
            <View style={{ flex: 1, minWidth: 0 }}>
              <Words size={16.5} weight={600} style={{ lineHeight: 21 }}>
                {title}
              </Words>
              <Words size={14} tint="soft" style={{ lineHeight: 19 }}>
                <Words
                  size={14}
                  weight={600}
                  tint={late ? 'late' : 'soft'}
                  style={{ lineHeight: 19 }}
                >
                  {words}
                </Words>
                {repeats ? ` · ${repeats}` : ''}
              </Words>
            </View>
          </ListRow>
        </View>
        {onDone ? <Action label="Done" name={`Done: ${title}`} onPress={onDone} /> : null}
      </View>
      {children}
    </>
  );
}

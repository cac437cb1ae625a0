import type { TodoView } from '@back-again/contract';
import { repeatText } from '@back-again/core';
import type { ReactNode } from 'react';
import { Pressable, View } from 'react-native';
import { Action } from './Action.tsx';
import { ReturnArc } from './ReturnArc.tsx';
import { Words } from './Words.tsx';
import { arcKind, arcOf } from './arcs.ts';
import { useLook } from './look.ts';

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
  const look = useLook();
  const { title, repeat } = todo.series;
  const { words, late } = standing;
  const repeats = repeat && todo.wrong === null ? repeatText(todo.series) : null;
  return (
    <View style={{ borderTopWidth: first ? 0 : 1, borderTopColor: look.line }}>
      <View style={{ flexDirection: 'row', alignItems: 'center', gap: 8, minHeight: 64 }}>
        <Pressable
          onPress={onOpen}
          role="button"
          aria-label={`${title}, ${words}${repeats ? `, ${repeats}` : ''}. Open`}
          style={{ flex: 1, flexDirection: 'row', alignItems: 'center', gap: 12, minHeight: 56 }}
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
        </Pressable>
        {onDone ? <Action label="Done" name={`Done: ${title}`} onPress={onDone} /> : null}
      </View>
      {children}
    </View>
  );
}

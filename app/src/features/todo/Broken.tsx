import type { TodoView } from '@back-again/contract';
import { router } from 'expo-router';
import { useState } from 'react';
import { View } from 'react-native';
import type { useAct } from '../../data/act.ts';
import { Action } from '../../ui/Action.tsx';
import { Note } from '../../ui/Note.tsx';
import { Heading, Words } from '../../ui/Words.tsx';

interface BrokenProps {
  todo: TodoView;
  does: ReturnType<typeof useAct>['does'];
  onRemove: () => void;
}

/** A to-do that cannot be worked out: what is wrong, and what can still be done with it. */
export function Broken({ todo, does, onRemove }: BrokenProps) {
  const [ended, setEnded] = useState(todo.ended);
  const { title } = todo.series;
  const end = () => {
    if (does({ do: 'end', todo: todo.id }, () => `${title} is ended`)) setEnded(true);
  };
  return (
    <View style={{ gap: 14 }}>
      <Heading level={1} size={26}>
        {title}
      </Heading>
      <Note words={todo.wrong} />
      <View style={{ flexDirection: 'row', gap: 8, flexWrap: 'wrap' }}>
        {ended ? (
          <Words size={15.5}>It is ended: nothing more will come.</Words>
        ) : (
          <Action label="End it" name={`End: ${title}`} onPress={end} />
        )}
        <Action label="Remove it" name={`Remove: ${title}`} onPress={onRemove} />
        <Action
          label="Write it anew"
          name={`Write anew: ${title}`}
          onPress={() => router.push({ pathname: '/write', params: { text: title } })}
        />
      </View>
    </View>
  );
}

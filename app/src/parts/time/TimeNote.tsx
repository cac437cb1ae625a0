import { MOST_NOTE } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Action } from '../../ui/Action.tsx';
import { Field } from '../../ui/Field.tsx';
import { WordLink, Words } from '../../ui/Words.tsx';

interface TimeNoteProps {
  note: string | null;
  /** Of which time it is, where there are several of them. */
  name?: string;
  /** Whether the note itself is shown; else it stands elsewhere. */
  isShown?: boolean;
  onKeep: (note: string) => void;
}

/** What is written down with a time. */
export function TimeNote({ note, name, isShown = true, onKeep }: TimeNoteProps) {
  const [text, setText] = useState<string | null>(null);
  if (text === null) {
    const label = note ? 'Change the note' : 'Write a note';
    return (
      <View style={{ alignItems: 'flex-start' }}>
        {note && isShown ? <Words size={15.5}>{note}</Words> : null}
        <WordLink
          label={label}
          {...(name ? { name: `${label}: ${name}` } : {})}
          onPress={() => setText(note ?? '')}
        />
      </View>
    );
  }
  return (
    <View style={{ gap: 8 }}>
      <Field
        label={name ? `Note: ${name}` : 'Note for this time'}
        value={text}
        onChangeText={setText}
        multiline
        autoFocus
        maxLength={MOST_NOTE}
      />
      <View style={{ flexDirection: 'row', gap: 8 }}>
        <Action
          label="Keep the note"
          onPress={() => {
            onKeep(text);
            setText(null);
          }}
        />
        <Action label="Leave it" onPress={() => setText(null)} />
      </View>
    </View>
  );
}

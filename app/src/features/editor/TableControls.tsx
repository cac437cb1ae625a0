import { controlOf, PARTS } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Choice } from '../../ui/Choice.tsx';
import { Field } from '../../ui/Field.tsx';
import { WordLink } from '../../ui/Words.tsx';
import { Stepper } from './Panel.tsx';
import { withPart, type ControlsProps } from './edit.ts';

/** The control of a part that the table of parts describes, with the way to take it away. */
export function TableControls({ panel, series, onChange }: ControlsProps & { panel: string }) {
  const control = controlOf(panel)?.as;
  const part = PARTS.find(({ kind }) => kind === panel);
  if (!control || !part) return null;
  const value = (series as unknown as Record<string, unknown>)[part.key];
  const set = (next: unknown) => onChange(withPart(series, part.key, next));
  return (
    <View style={{ gap: 6 }}>
      {control.kind === 'number' ? (
        <Stepper
          label={control.label}
          value={typeof value === 'number' ? value : control.from}
          most={control.to}
          onChange={set}
        />
      ) : control.kind === 'choice' ? (
        <Choice
          label={controlOf(panel)!.title}
          options={control.options}
          value={typeof value === 'string' ? value : null}
          onChange={set}
        />
      ) : (
        <TextControl label={control.label} most={control.most} value={value} onChange={set} />
      )}
      {value === undefined ? null : (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink label="Leave it out" onPress={() => set(null)} />
        </View>
      )}
    </View>
  );
}

interface TextControlProps {
  label: string;
  most: number;
  value: unknown;
  onChange: (value: string | null) => void;
}

function TextControl({ label, most, value, onChange }: TextControlProps) {
  const [text, setText] = useState(typeof value === 'string' ? value : '');
  return (
    <Field
      label={label}
      value={text}
      maxLength={most}
      onChangeText={(next) => {
        setText(next);
        onChange(next.trim() || null);
      }}
    />
  );
}

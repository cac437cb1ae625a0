import { MOST_STEP, stepsOf, type Details, type Filled } from '@back-again/core';
import { useState } from 'react';
import { View } from 'react-native';
import { Action } from '../Action.tsx';
import { Check } from '../Check.tsx';
import { Field } from '../Field.tsx';
import { WordLink, Words } from '../Words.tsx';
import { useLook } from '../look.ts';

interface StepsProps {
  /** What the time is called. */
  name: string;
  details: Pick<Details, 'steps'>;
  filled: Filled | undefined;
  onTick: (step: string, on: boolean) => void;
  /** Adds a step to this time alone; null where none can be. */
  onAdd: ((text: string) => void) | null;
}

/** The steps of a time, each ticked in place, and one more for this time alone. */
export function Steps({ name, details, filled, onTick, onAdd }: StepsProps) {
  const [text, setText] = useState<string | null>(null);
  const steps = stepsOf(details, { filled: filled ?? {} });
  const ticks = new Set(filled?.ticks);
  const add = () => {
    if (text && text.length > MOST_STEP) return;
    if (text?.trim()) onAdd?.(text.trim());
    setText('');
  };
  return (
    <View role="group" aria-label={`Steps: ${name}`}>
      {steps.map((step) => (
        <Step
          key={step.id}
          text={step.text}
          on={ticks.has(step.id)}
          onPress={() => onTick(step.id, !ticks.has(step.id))}
        />
      ))}
      {onAdd === null ? null : text === null ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label={steps.length ? 'Another step' : 'A step for this time'}
            name={`Another step, this time only: ${name}`}
            onPress={() => setText('')}
          />
        </View>
      ) : (
        <View style={{ flexDirection: 'row', gap: 8, alignItems: 'flex-end', paddingVertical: 6 }}>
          <View style={{ flex: 1 }}>
            <Field
              label="A step for this time alone"
              value={text}
              onChangeText={setText}
              onSubmitEditing={add}
              submitBehavior="submit"
              maxLength={MOST_STEP}
              autoFocus
            />
          </View>
          <Action label="Add" name={`Add the step: ${name}`} onPress={add} />
        </View>
      )}
    </View>
  );
}

/** One step: a dot on a line that lies at its left until it is done, and at its right then. */
function Step({ text, on, onPress }: { text: string; on: boolean; onPress: () => void }) {
  return (
    <Check role="checkbox" name={text} on={on} onPress={onPress} mark={<Dot on={on} />}>
      <>
        <Words size={16} tint={on ? 'soft' : 'ink'} style={{ flex: 1 }}>
          {text}
        </Words>
        <Words size={14} weight={600} tint={on ? 'moss' : 'soft'}>
          {on ? 'done' : ''}
        </Words>
      </>
    </Check>
  );
}

function Dot({ on }: { on: boolean }) {
  const look = useLook();
  return (
    <View
      aria-hidden
      style={{
        width: 34,
        height: 14,
        justifyContent: 'center',
        alignItems: on ? 'flex-end' : 'flex-start',
      }}
    >
      <View
        style={{
          position: 'absolute',
          left: 4,
          right: 4,
          height: 2,
          backgroundColor: on ? look.moss : look.track,
        }}
      />
      <View
        style={{
          width: 13,
          height: 13,
          borderRadius: 7,
          borderWidth: 2,
          borderColor: on ? look.moss : look.track,
          backgroundColor: on ? look.moss : look.paper,
        }}
      />
    </View>
  );
}

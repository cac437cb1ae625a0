import { forwardRef, startTransition, useRef, useState } from 'react';
import type { TextInput } from 'react-native';
import { Field } from '../../ui/Field.tsx';

/** What the field of the sentence is given of what is typed. */
interface Typed {
  text: string;
  /** Grows where something else than a key wrote the text. */
  turn: number;
  onType: (text: string) => void;
}

interface TypedFieldProps extends Omit<React.ComponentProps<typeof Field>, 'value' | 'hint'> {
  typed: Typed;
}

/**
 * The field of the sentence. What is typed stands in it at once, whatever is still read and drawn of what was
 * typed before: no key waits for that.
 */
export const TypedField = forwardRef<TextInput, TypedFieldProps>(function TypedField(
  { typed: { text, turn, onType }, ...rest },
  ref,
) {
  const [typing, setTyping] = useState(text);
  const [seen, setSeen] = useState(turn);
  if (seen !== turn) {
    setSeen(turn);
    setTyping(text);
  }
  return (
    <Field
      ref={ref}
      {...rest}
      value={typing}
      onChangeText={(next) => {
        setTyping(next);
        onType(next);
      }}
      hint={typing ? undefined : 'Say it in your own words.'}
    />
  );
});

/** A draft that is typed in a field of its own, and follows it when there is time. */
export function useTyping([text, set]: readonly [string, (text: string) => void]) {
  const [turn, setTurn] = useState(0);
  const last = useRef(text);
  return {
    text,
    /** Whether the text is all that was typed. */
    isRead: () => last.current === text,
    typed: {
      text,
      turn,
      onType(next: string) {
        last.current = next;
        startTransition(() => set(next));
      },
    },
    /** Writes it by something else than a key. */
    write(next: string) {
      last.current = next;
      set(next);
      setTurn((n) => n + 1);
    },
  };
}

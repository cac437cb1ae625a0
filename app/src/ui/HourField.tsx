import type { LocalTime } from '@back-again/core';
import { hoursIn } from '@back-again/core/hours';
import { useRef, useState } from 'react';
import type { TextInput } from 'react-native';
import { Field } from './Field.tsx';
import { useWrong } from './wrong.ts';

interface HoursFieldProps {
  label: string;
  value: readonly LocalTime[];
  onChange: (times: LocalTime[]) => void;
  hint?: string;
  placeholder?: string;
  /** What is wrong with it besides, in words. */
  error?: string | undefined;
  /** How many it takes; any number, unless said. */
  most?: number;
  /** Whether it may be left empty. */
  canBeEmpty?: boolean;
}

const EMPTY = 'An hour is needed here.';

/**
 * Hours of the day, typed as people write them (18, 6pm, 18.30, 1930). What is none is said at the field, and
 * stays there until it is mended; what was read stands in the field once it is left.
 */
export function HoursField({
  label,
  value,
  onChange,
  hint,
  placeholder,
  error,
  most = Infinity,
  canBeEmpty = true,
}: HoursFieldProps) {
  const said = value.join(', ');
  const [text, setText] = useState(said);
  const [isLeft, setLeft] = useState(true);
  /** What was last read here: another value comes from elsewhere, and is shown. */
  const own = useRef(said);
  if (own.current !== said) {
    own.current = said;
    setText(said);
  }
  const read = readAs(text, most, canBeEmpty);
  const field = useRef<TextInput>(null);
  useWrong(label, read.wrong ?? null, () => {
    setLeft(true);
    field.current?.focus();
  });
  const typed = (next: string) => {
    setText(next);
    const now = readAs(next, most, canBeEmpty);
    if (!now.times) return;
    const words = now.times.join(', ');
    if (words === said) return;
    own.current = words;
    onChange(now.times);
  };
  return (
    <Field
      ref={field}
      label={label}
      value={text}
      onChangeText={typed}
      placeholder={placeholder}
      hint={hint}
      autoComplete="off"
      error={(isLeft ? read.wrong : undefined) ?? error}
      onFocus={() => setLeft(false)}
      onBlur={() => {
        setLeft(true);
        if (read.times) setText(read.times.join(', '));
      }}
    />
  );
}

function readAs(
  text: string,
  most: number,
  canBeEmpty: boolean,
): { times?: LocalTime[]; wrong?: string } {
  const read = hoursIn(text, most);
  return 'times' in read && !read.times.length && !canBeEmpty ? { wrong: EMPTY } : read;
}

interface HourFieldProps extends Omit<HoursFieldProps, 'value' | 'onChange' | 'most'> {
  /** Null, or nothing, where none is chosen. */
  value: LocalTime | null | undefined;
  onChange: (time: LocalTime | null) => void;
}

/** One hour of the day, as {@link HoursField}. */
export function HourField({ value, onChange, ...rest }: HourFieldProps) {
  return (
    <HoursField
      {...rest}
      most={1}
      value={value ? [value] : []}
      onChange={([time]) => onChange(time ?? null)}
    />
  );
}

interface NeededHourProps extends Omit<HourFieldProps, 'onChange' | 'canBeEmpty'> {
  onChange: (time: LocalTime) => void;
}

/** An hour that is needed: it is told of once there is one. */
export const NeededHour = ({ onChange, ...rest }: NeededHourProps) => (
  <HourField {...rest} canBeEmpty={false} onChange={(time) => time !== null && onChange(time)} />
);

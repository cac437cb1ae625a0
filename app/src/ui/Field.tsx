import Input from '@rneui/themed/dist/Input';
import { forwardRef, useId, useState, type Ref } from 'react';
import { View, type TextInput, type TextInputProps } from 'react-native';
import { WordLink, Words } from './Words.tsx';
import { FONT, THUMB, useLook, type Look } from './look.ts';
import { rem } from './rem.ts';
import { Below } from './Below.tsx';

interface FieldProps extends Omit<TextInputProps, 'style'> {
  label: string;
  /** What is wrong with it, in words. */
  error?: string | undefined;
  hint?: string | undefined;
  /** What is longer is not cut, which would be silent, but said to be too long. */
  maxLength?: number;
  size?: number;
  labelHidden?: boolean;
}

/** On the web: as high as what is typed, up to a limit; the types of React Native lack it. */
const GROWS = { fieldSizing: 'content', maxHeight: rem(220) } as object;

/** How what is typed looks, in a field and in a search. */
export const typedStyle = (
  look: Look,
  it: {
    size: number;
    multiline?: boolean | undefined;
    error?: string | undefined;
    focused: boolean;
  },
) => ({
  ...(it.multiline ? GROWS : {}),
  fontFamily: FONT,
  fontSize: rem(it.size),
  lineHeight: rem(Math.round(it.size * 1.4)),
  color: look.ink,
  backgroundColor: look.card,
  borderWidth: it.error ? 2.5 : 1.5,
  borderColor: it.focused && !it.error ? look.slate : look.ink,
  borderRadius: 12,
  paddingVertical: 11,
  paddingHorizontal: 14,
  minHeight: it.multiline ? 76 : THUMB,
  minWidth: 0,
});

/** On the web an element of that name: a touch on its words goes to the field in it (HTML, 4.10.4). */
const LABEL = { role: 'label' } as object;

const tooLong = (length: number, most: number) =>
  `At most ${most.toLocaleString('en')} characters: these are ${length.toLocaleString('en')}.`;

/** A plain field to type in, with its label above and what is wrong below. */
export const Field = forwardRef<TextInput, FieldProps>(function Field(
  {
    label,
    error: wrong,
    hint,
    size = 17,
    labelHidden = false,
    multiline,
    secureTextEntry,
    maxLength,
    onFocus,
    onBlur,
    ...rest
  },
  ref,
) {
  const look = useLook();
  const id = useId();
  const [focused, setFocused] = useState(false);
  const [isSeen, setSeen] = useState(false);
  const length = rest.value?.length ?? 0;
  const error =
    wrong ??
    (maxLength !== undefined && length > maxLength ? tooLong(length, maxLength) : undefined);
  return (
    <View style={{ gap: 5 }}>
      <View {...(labelHidden ? {} : LABEL)} style={{ gap: 5 }}>
        {labelHidden ? null : (
          <Words size={15} weight={600}>
            {label}
          </Words>
        )}
        <Input
          ref={ref as Ref<never>}
          {...rest}
          secureTextEntry={(secureTextEntry ?? false) && !isSeen}
          multiline={multiline ?? false}
          aria-label={label}
          aria-invalid={error !== undefined}
          aria-describedby={error || hint ? id : undefined}
          placeholderTextColor={look.soft}
          // What is wrong stands below, where it is read out.
          renderErrorMessage={false}
          containerStyle={{ paddingHorizontal: 0 }}
          inputContainerStyle={{ borderBottomWidth: 0 }}
          onFocus={(event) => {
            setFocused(true);
            onFocus?.(event);
          }}
          onBlur={(event) => {
            setFocused(false);
            onBlur?.(event);
          }}
          inputStyle={typedStyle(look, { size, multiline, error, focused })}
        />
      </View>
      {secureTextEntry ? (
        <View style={{ alignItems: 'flex-start' }}>
          <WordLink
            label={isSeen ? 'Hide it' : 'Show it'}
            name={isSeen ? 'Hide what is typed' : 'Show what is typed'}
            onPress={() => setSeen(!isSeen)}
          />
        </View>
      ) : null}
      <Below id={id} error={error} hint={hint} />
    </View>
  );
});

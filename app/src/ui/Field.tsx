import { forwardRef, useId, useState } from 'react';
import { TextInput, View, type TextInputProps } from 'react-native';
import { Words } from './Words.tsx';
import { FONT, THUMB, useLook } from './look.ts';

interface FieldProps extends Omit<TextInputProps, 'style'> {
  label: string;
  /** What is wrong with it, in words. */
  error?: string | undefined;
  hint?: string | undefined;
  size?: number;
  labelHidden?: boolean;
}

/** On the web: as high as what is typed, up to a limit; the types of React Native lack it. */
const GROWS = { fieldSizing: 'content', maxHeight: 220 } as object;

/** A plain field to type in, with its label above and what is wrong below. */
export const Field = forwardRef<TextInput, FieldProps>(function Field(
  { label, error, hint, size = 17, labelHidden = false, multiline, onFocus, onBlur, ...rest },
  ref,
) {
  const look = useLook();
  const id = useId();
  const [focused, setFocused] = useState(false);
  return (
    <View style={{ gap: 5 }}>
      {labelHidden ? null : (
        <Words size={15} weight={600}>
          {label}
        </Words>
      )}
      <TextInput
        ref={ref}
        {...rest}
        multiline={multiline}
        aria-label={label}
        aria-invalid={error !== undefined}
        aria-describedby={error || hint ? id : undefined}
        placeholderTextColor={look.soft}
        onFocus={(event) => {
          setFocused(true);
          onFocus?.(event);
        }}
        onBlur={(event) => {
          setFocused(false);
          onBlur?.(event);
        }}
        style={{
          ...(multiline ? GROWS : {}),
          fontFamily: FONT,
          fontSize: size,
          lineHeight: Math.round(size * 1.4),
          color: look.ink,
          backgroundColor: look.card,
          borderWidth: error ? 2.5 : 1.5,
          borderColor: focused && !error ? look.slate : look.ink,
          borderRadius: 12,
          paddingVertical: 11,
          paddingHorizontal: 14,
          minHeight: multiline ? 76 : THUMB,
        }}
      />
      {error || hint ? (
        <View id={id} role={error ? 'alert' : undefined}>
          <Words size={14.5} tint={error ? 'ink' : 'soft'} weight={error ? 650 : 400}>
            {error ?? hint}
          </Words>
        </View>
      ) : null}
    </View>
  );
});

import Text from '@rneui/themed/dist/Text';
import type { ReactNode } from 'react';
import { Pressable, View, type Role, type StyleProp, type TextStyle } from 'react-native';
import { DISPLAY, FONT, useLook, type Look } from './look.ts';
import { grown, rem } from './rem.ts';

type Tint = 'ink' | 'soft' | 'late' | 'moss' | 'slate';

export interface WordsProps {
  children: ReactNode;
  size?: number;
  weight?: 400 | 500 | 600 | 650 | 700;
  tint?: Tint;
  style?: StyleProp<TextStyle>;
  role?: Role;
  numberOfLines?: number;
  testID?: string;
  live?: boolean;
}

/** A word longer than its line is broken, so that nothing is pushed out of sight (CSS Text 3, 5.5). */
const BREAKS = { overflowWrap: 'anywhere' } as object;

const weightOf = (weight: number) => String(weight) as TextStyle['fontWeight'];

/** Running text. None is smaller than 13.5 px. */
export function Words({
  children,
  size = 16,
  weight = 400,
  tint = 'ink',
  style,
  live,
  ...rest
}: WordsProps) {
  const look = useLook();
  return (
    <Text
      {...rest}
      {...(live ? { 'aria-live': 'polite' as const } : {})}
      style={[
        {
          fontFamily: FONT,
          fontSize: rem(size),
          lineHeight: rem(Math.round(size * 1.4)),
          fontWeight: weightOf(weight),
          color: look[tint],
          fontVariant: ['tabular-nums'],
        },
        BREAKS,
        grown(style),
      ]}
    >
      {children}
    </Text>
  );
}

interface HeadingProps {
  children: ReactNode;
  level: 1 | 2 | 3;
  size?: number;
  tint?: Tint;
  style?: StyleProp<TextStyle>;
}

/** Dates and headings. */
export function Heading({ children, level, size, tint = 'ink', style }: HeadingProps) {
  const look = useLook();
  const height = size ?? (level === 1 ? 34 : level === 2 ? 17 : 16);
  return (
    <Text
      role="heading"
      aria-level={level}
      style={[
        {
          fontFamily: DISPLAY,
          fontSize: rem(height),
          lineHeight: rem(Math.round(height * 1.12)),
          fontWeight: '700',
          letterSpacing: rem(-0.012 * height),
          color: look[tint],
        },
        grown(style),
      ]}
    >
      {children}
    </Text>
  );
}

interface WordLinkProps {
  label: string;
  onPress: () => void;
  /** What a screen reader says, where the word alone does not say enough. */
  name?: string;
  expanded?: boolean;
  selected?: boolean;
  size?: number;
  testID?: string;
}

export const underline = (look: Look) => ({
  borderBottomWidth: 2,
  borderBottomColor: look.slate,
  borderStyle: 'solid' as const,
});

/** An underlined word that does something: a control that can stand among words. */
export function WordLink({
  label,
  onPress,
  name,
  expanded,
  selected,
  size = 15,
  testID,
}: WordLinkProps) {
  const look = useLook();
  return (
    <Pressable
      onPress={onPress}
      role="button"
      aria-label={name}
      aria-expanded={expanded}
      aria-pressed={selected}
      testID={testID}
      style={{ minHeight: 48, maxWidth: '100%', flexShrink: 1, justifyContent: 'center' }}
    >
      <View
        style={[
          underline(look),
          selected ? { borderBottomWidth: 4, borderBottomColor: look.ink } : null,
        ]}
      >
        <Words size={size} weight={650}>
          {label}
        </Words>
      </View>
    </Pressable>
  );
}

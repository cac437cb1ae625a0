import { StyleSheet, type StyleProp, type TextStyle } from 'react-native';

/** What the browser’s usual size of text is, in px; a person can set another. */
const USUAL = 16;

/** A length that grows with the size of text that is set in the browser: in px at its usual size. */
export const rem = (px: number): number => `${px / USUAL}rem` as unknown as number;

/** How much larger than usual the browser’s text is: 2 at 200 %. */
export function textScale(): number {
  if (typeof document === 'undefined') return 1;
  const size = Number.parseFloat(getComputedStyle(document.documentElement).fontSize);
  return Number.isFinite(size) && size > 0 ? size / USUAL : 1;
}

/** A style of text whose lines grow with its letters. */
export function grown(style: StyleProp<TextStyle>): StyleProp<TextStyle> {
  const flat = StyleSheet.flatten(style);
  return typeof flat?.lineHeight === 'number'
    ? { ...flat, lineHeight: rem(flat.lineHeight) }
    : style;
}

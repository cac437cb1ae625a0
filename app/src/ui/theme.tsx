import { ThemeProvider, createTheme } from '@rneui/themed/dist/config';
import { useEffect, type ReactNode } from 'react';
import { useColorScheme } from 'react-native';
import { keptFocus } from './keptFocus.ts';
import { DARK, LIGHT, type Look } from './look.ts';
import { pressedOnce } from './oncePressed.ts';

/** The look as the parts of the library take it: the names are theirs, the tints are ours. */
const colorsOf = (look: Look) => ({
  primary: look.ink,
  secondary: look.slate,
  background: 'transparent',
  white: look.card,
  black: look.ink,
  grey0: look.soft,
  grey1: look.soft,
  grey2: look.soft,
  grey3: look.soft,
  grey4: look.line,
  grey5: look.line,
  greyOutline: look.track,
  searchBg: look.card,
  success: look.moss,
  warning: look.ink,
  error: look.ink,
  disabled: look.soft,
  divider: look.line,
});

// Made once each: without a theme of its own the provider makes a new one at each render.
const colors = { lightColors: colorsOf(LIGHT), darkColors: colorsOf(DARK) };
const LIGHT_THEME = createTheme({ ...colors, mode: 'light' });
const DARK_THEME = createTheme({ ...colors, mode: 'dark' });

/** Gives the parts of the library the look of the program, in the person’s colour scheme. */
export function Themed({ children }: { children: ReactNode }) {
  const theme = useColorScheme() === 'dark' ? DARK_THEME : LIGHT_THEME;
  useEffect(() => {
    const ends = [keptFocus(document), pressedOnce(document)];
    return () => ends.forEach((end) => end());
  }, []);
  return <ThemeProvider theme={theme}>{children}</ThemeProvider>;
}

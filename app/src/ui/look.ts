import { useColorScheme, useWindowDimensions } from 'react-native';
import { textScale } from './rem.ts';

/** Paper and ink. Apricot is for late and nothing else, moss for done, slate for what is ahead. */
export interface Look {
  paper: string;
  card: string;
  ink: string;
  soft: string;
  track: string;
  line: string;
  late: string;
  moss: string;
  mossFill: string;
  slate: string;
  slateFill: string;
}

export const LIGHT: Look = {
  paper: '#FAF5EC',
  card: '#FFFCF6',
  ink: '#2B1B33',
  soft: '#655769',
  track: '#857566',
  line: '#E4D9CB',
  late: '#A8420F',
  moss: '#47652A',
  mossFill: '#DCE6CB',
  slate: '#3F566F',
  slateFill: '#D8E1EA',
};

export const DARK: Look = {
  paper: '#1A1320',
  card: '#241A2B',
  ink: '#F3ECF2',
  soft: '#B5A6B8',
  track: '#8D7C95',
  line: '#3A2D42',
  late: '#F2A676',
  moss: '#A9C98A',
  mossFill: '#2C3A20',
  slate: '#A9BFD6',
  slateFill: '#26323F',
};

export const FONT = 'Back Again Text, system-ui, sans-serif';
export const DISPLAY = 'Back Again Display, system-ui, sans-serif';

/** The smallest that can be touched, in px. */
export const THUMB = 48;

/** From this width on, at the usual size of text, list and detail stand side by side. */
export const WIDE = 1000;

/** Two things beside each other at the ends of a line; of large text the second goes under the first. */
export const APART = {
  flexDirection: 'row',
  flexWrap: 'wrap',
  alignItems: 'center',
  justifyContent: 'space-between',
  columnGap: 12,
} as const;

/** The tints for the person's colour scheme. */
export function useLook(): Look {
  return useColorScheme() === 'dark' ? DARK : LIGHT;
}

export function useWide(): boolean {
  return useWindowDimensions().width >= WIDE * textScale();
}

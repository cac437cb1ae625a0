import type { PlaceKind } from '@back-again/core';

/** Where the to-dos of the demo belong, in order: each behind the one that holds it. */
export interface DemoPlace {
  name: string;
  kind: PlaceKind;
  /** The name of the one that holds it. */
  in?: string;
  note?: string;
  /** A project: its first and last day, as days from today. */
  days?: [from: number, to: number];
  isPlanned?: boolean;
  rests?: boolean;
}

export const DEMO_PLACES: readonly DemoPlace[] = [
  { name: 'Aboard', kind: 'sphere' },
  {
    name: 'Boat upkeep',
    kind: 'strand',
    in: 'Aboard',
    note: 'The boat comes out of the water in spring: **look at the hull** before that.',
  },
  { name: 'Stores', kind: 'strand', in: 'Aboard' },
  { name: 'On deck', kind: 'strand', in: 'Aboard' },
  {
    name: 'Winter cover',
    kind: 'project',
    in: 'Boat upkeep',
    days: [-20, 40],
  },
  { name: 'Bees', kind: 'sphere' },
  { name: 'Two hives', kind: 'strand', in: 'Bees' },
  {
    name: 'Honey at the fair',
    kind: 'project',
    in: 'Bees',
    days: [25, 60],
    isPlanned: true,
    note: 'Stall 14, beside the bread.',
  },
  { name: 'Work', kind: 'sphere' },
  { name: 'Repair café', kind: 'strand', in: 'Work' },
  { name: 'Papers', kind: 'strand', in: 'Work' },
  { name: 'Evening class', kind: 'strand', in: 'Work', rests: true },
];

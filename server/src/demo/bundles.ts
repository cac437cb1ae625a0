import type { Bundle, BundleItem } from '@back-again/core/bundles';

/** The bundles of the demo: what goes together for the fair, for the spring of the boat, for a guest. */

const item = (
  key: string,
  title: string,
  days: number[],
  takes: number,
  steps: string[] = [],
): BundleItem => ({
  key,
  title,
  days,
  takes,
  note: '',
  steps: steps.map((text, i) => ({ id: String(i + 1), text })),
  questions: [],
});

export const DEMO_BUNDLES: Omit<Bundle, 'id'>[] = [
  {
    name: 'The honey fair',
    per: 'week',
    items: [
      item('labels', 'Print the labels', [1], 30, ['choose the paper', 'print two sheets']),
      item('jars', 'Fill the jars', [2, 3], 50, ['warm the honey', 'fill', 'wipe the rims']),
      item('float', 'Fetch the float', [4], 20),
      item('stall', 'Mind the stall', [5], 240, ['cloth', 'scales', 'float', 'tasting spoons']),
    ],
  },
  {
    name: 'The spring of the boat',
    per: 'month',
    items: [
      item('black', 'Touch up the blacking', [4], 120),
      item('ropes', 'Wash and turn the ropes', [11], 45),
      item('flue', 'Brush out the flue', [18], 60),
      item('deck', 'Oil the deck', [25], 90),
    ],
  },
  {
    name: 'A guest on board',
    per: 'week',
    items: [
      item('berth', 'Make up the spare berth', [3], 20),
      item('water', 'Fill the water tank', [3], 35),
      item('supper', 'Cook for two', [4, 5], 60),
    ],
  },
];

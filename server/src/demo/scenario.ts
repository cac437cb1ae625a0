import {
  WEEKDAY_NAMES,
  dateOf,
  formatDay,
  ordinalText,
  weekdayIndex,
  type Answer,
  type Day,
} from '@back-again/core';
import { frameOfComb, gauge } from './pictures.ts';
import type { Random } from './random.ts';

/** How a person keeps to one to-do. */
export interface Habit {
  /** Days after due on which it gets done, one of these each time. */
  late: readonly number[];
  /** The time of day at which it gets done. */
  at: string;
  /** How often in a hundred times it is skipped, or let go by. */
  skips?: number;
  misses?: number;
}

/** One to-do of the demo, as it would be typed, and what became of it until today. */
export interface Story {
  sentence: string;
  /** The name of the place that it belongs to. */
  place?: string;
  /** The day on which it was written. */
  written: Day;
  /** What no sentence says of it. */
  note?: string;
  /** What was answered on the nth time that it was done. */
  answers?: (n: number, random: Random) => Record<string, Answer>;
  /** How many of its steps are ticked on the time that is open. */
  started?: number;
  habit?: Habit;
  /** The last day on which it was done; later times are left as they are. */
  lastDone?: Day;
  /** Done on the day itself, early in the morning. */
  doneToday?: boolean;
  /** So many times a period: on which days before today it was done, as days back. */
  tallies?: readonly number[];
  /** The day from which it is paused. */
  pausedFrom?: Day;
  /** Its page looks back. */
  looksBack?: boolean;
  /** On which days the person meant to do it on another. */
  moved?: readonly { on: Day; to: Day }[];
  /** What was attached this morning to the time that is open, or was done then. */
  file?: { name: string; type: string; content: () => Buffer };
}

/**
 * Six months of someone who lives on a narrowboat, keeps two beehives and helps at a monthly
 * repair café, made so that any day shows late ones, some for today and some on their way.
 */
export function scenario(today: Day): Story[] {
  const back = (days: number) => today - days;
  const weekday = (day: Day) => WEEKDAY_NAMES[weekdayIndex(day)]!;
  const from = (day: Day) => `starting ${formatDay(day)}`;
  const late12 = dateOf(back(12)).day;
  return [
    ...belongingTo('Aboard', [
      {
        sentence: `Pump out the tank 21 days after done, remind me at 8:30 and again every day up to 5 times, takes 45 minutes, ask for litres, steps: hose, pump, rinse and lock up`,
        place: 'Stores',
        written: back(188),
        lastDone: back(24),
        file: { name: 'gauge of the tank.png', type: 'image/png', content: () => gauge(0.86) },
        // Every 21 days is really every 25.
        habit: { late: [4, 4, 5, 4], at: '11:15' },
        answers: (_, random) => ({ 1: 120 + random.below(60) }),
        note: 'The key to the [pump-out](https://example.org/pump-out) hangs behind the door.',
        started: 1,
      },
      {
        sentence: `Send the mooring log on the ${ordinalText(late12)} of each month, remind me at 19:00`,
        written: back(170),
        lastDone: back(30),
        habit: { late: [0, 1, 3], at: '20:10' },
      },
      {
        sentence: `Top up the batteries every 9 days at 13:00 ${from(back(171))}, takes 30 min`,
        place: 'Boat upkeep',
        written: back(171),
        lastDone: back(9),
        habit: { late: [0, 0, 0, 1], at: '13:20', misses: 6 },
      },
      {
        sentence: 'Grease the stern gland 14 days after done, takes 15 min',
        place: 'Boat upkeep',
        written: back(150),
        lastDone: back(14),
        habit: { late: [0, 0, 1, 3], at: '17:30' },
      },
      {
        sentence: `Check the bilge every 3 days ${from(back(120))}, may be 1 day early or 1 day late, takes 15 min`,
        place: 'Boat upkeep',
        written: back(120),
        lastDone: back(3),
        habit: { late: [0, 0, 0, 1], at: '08:40', misses: 10, skips: 4 },
      },
      {
        sentence: `Feed the cat every day at 07:30, 12:30 and 18:30 ${from(back(30))}`,
        written: back(30),
        habit: { late: [0], at: '08:00', misses: 4 },
      },
      {
        sentence:
          'Write up the log every day at 18:00, takes 20 min, remind me 30 minutes before, ask how calm it was from 1 to 5, ask what was seen',
        written: back(60),
        lastDone: back(1),
        answers: (n, random) => ({
          ...(n % 6 === 4 ? {} : { 1: 2 + random.below(4) }),
          ...(n % 3 === 1 ? { 2: SEEN[random.below(SEEN.length)]! } : {}),
        }),
        habit: { late: [0], at: '18:25', misses: 12 },
      },
      {
        sentence: 'Swap the gas bottle 40 days after done, takes 25 min',
        place: 'Stores',
        written: back(168),
        lastDone: back(36),
        habit: { late: [0, 2, 4], at: '10:05' },
      },
      {
        sentence: 'Sweep the flue 60 days after done, takes 1 hour',
        place: 'Boat upkeep',
        written: back(178),
        lastDone: back(22),
        habit: { late: [0, 6], at: '15:00' },
      },
      {
        sentence: 'Test the smoke alarm 1 month after done',
        place: 'Boat upkeep',
        written: back(140),
        lastDone: back(29),
        habit: { late: [0, 0, 2], at: '09:30' },
      },
      {
        sentence:
          'Change the engine oil 250 hours after done, ask for “hours of the engine” in hours, steps: warm it up, drain it, change the filter and fill it',
        place: 'Boat upkeep',
        written: back(90),
        lastDone: back(4),
        habit: { late: [0, 1], at: '14:00' },
        answers: (n, random) => ({ 1: 1840 + 21 * n + random.below(6) }),
      },
      {
        sentence: `Clean the solar panels every 6 weeks opens 5 days before ${from(back(165))}`,
        place: 'On deck',
        written: back(165),
        lastDone: back(39),
        habit: { late: [0, 1, 2], at: '16:10' },
      },
      {
        sentence: `Renew the boat licence every year ${from(today + 70)}, remind me 2 weeks before and 3 days before, important`,
        written: back(160),
      },
      {
        sentence: `Mend the stern fender on ${formatDay(today + 16)}`,
        place: 'On deck',
        written: back(8),
        moved: [
          { on: back(7), to: back(2) },
          { on: back(5), to: today + 4 },
          { on: back(1), to: today + 16 },
        ],
      },
      {
        sentence: 'Find a dry store for the winter cover',
        place: 'Winter cover',
        written: back(20),
      },
      {
        sentence: `Sew new straps on ${formatDay(today + 9)}, takes 2 hours`,
        place: 'Winter cover',
        written: back(18),
      },
      {
        sentence: `Measure the cover on ${formatDay(back(12))}`,
        place: 'Winter cover',
        written: back(19),
        lastDone: back(12),
        habit: { late: [0], at: '14:30' },
      },
    ]),
    ...belongingTo('Bees', [
      {
        sentence: `Weigh the hives every ${weekday(today)} at 08:00, remind me the day before at 20:00, takes 25 min, ask for “hive one” in kg, ask for “hive two” in kg, ask how the bees were from 1 to 5, steps: smoke, lift each side, weigh, look for mites and note what is odd`,
        place: 'Two hives',
        written: back(147),
        lastDone: back(7),
        habit: { late: [0, 0, 0, 0, 1], at: '08:35', misses: 8, skips: 5 },
        answers: (n, random) => ({
          1: weight(31, n, random),
          2: weight(28.5, n, random),
          3: 2 + random.below(4),
        }),
        doneToday: true,
        file: { name: 'hive one, third frame.png', type: 'image/png', content: frameOfComb },
      },
      {
        sentence: `Feed the bees every 4 days 10 times ${from(back(80))}`,
        place: 'Two hives',
        written: back(80),
        habit: { late: [0, 0, 1], at: '09:00', misses: 10 },
      },
      {
        sentence: `Change the mite board 10 days after done until ${formatDay(today + 60)}`,
        place: 'Two hives',
        written: back(75),
        lastDone: back(11),
        habit: { late: [0, 0, 1], at: '10:30' },
      },
      {
        sentence: `Collect the hive frames on ${formatDay(today)}, remind me the day before at 18:00 and at 17:00, important, then wire the frames 3 days later`,
        place: 'Two hives',
        written: back(6),
      },
      { sentence: 'Order wax, tagged shopping', written: back(15) },
      {
        sentence: 'Feed syrup to the hives every Friday in September and October',
        place: 'Two hives',
        written: back(150),
        habit: { late: [0, 0, 1], at: '11:00', misses: 10 },
      },
      {
        sentence: `Paint the spare hive on ${formatDay(today + 5)}, remind me the day before`,
        place: 'Two hives',
        written: back(3),
      },
    ]),
    {
      sentence: `Stretch every day ${from(back(22))} for 66 days, taking it up, between 6 and 9, takes 10 min`,
      place: 'Aboard',
      written: back(22),
      habit: { late: [0], at: '07:20', misses: 9 },
    },
    { sentence: 'Ask what the mooring will cost', written: back(4) },
    { sentence: `Return the borrowed clamp on ${formatDay(today + 3)}`, written: back(2) },
    { sentence: 'Learn to splice rope, someday', place: 'Aboard', written: back(60) },
    {
      sentence: 'Walk the towpath 3 times a week, takes 40 min',
      place: 'Aboard',
      written: back(27),
      tallies: [26, 24, 22, 19, 17, 12, 10, 8, 5, 3, 1],
    },
    ...belongingTo('Aboard', [
      {
        sentence: 'Scrub the deck every 2 weeks',
        place: 'On deck',
        written: back(84),
        habit: { late: [0, 1], at: '15:30', misses: 10 },
        lastDone: back(28),
        pausedFrom: back(20),
      },
    ]),
    ...belongingTo('Work', [
      {
        sentence:
          'Help at the repair café on the first Saturday of each month at 10:00, remind me the day before at 18:00',
        place: 'Repair café',
        written: back(175),
        habit: { late: [0], at: '16:30', skips: 15 },
      },
      {
        sentence: `Sort the spare parts every 2 weeks on ${weekday(today + 2)} ${from(back(138))}`,
        place: 'Repair café',
        written: back(138),
        habit: { late: [0, 1, 3], at: '19:00', misses: 10 },
      },
      {
        sentence: 'Send the month’s invoices on the last Friday of each month',
        place: 'Papers',
        written: back(172),
        habit: { late: [0, 0, 3], at: '12:00' },
      },
      {
        sentence:
          'Look over the week every Sunday at 17:00, takes 30 min, ask how the week went from 1 to 5, ask what is to change',
        written: back(182),
        looksBack: true,
        habit: { late: [0, 0, 1], at: '17:40', misses: 8 },
        answers: (n, random) => ({
          1: 2 + random.below(4),
          ...(n % 2 ? {} : { 2: CHANGES[random.below(CHANGES.length)]! }),
        }),
      },
    ]),
    ...belongingTo('Aboard', [
      {
        sentence: `Water the herbs every ${names(today)}`,
        place: 'On deck',
        written: back(60),
        habit: { late: [0], at: '07:50', misses: 12, skips: 4 },
      },
    ]),
  ];
}

const SEEN = [
  'A heron on the weir, and the first ice by the lock.',
  'Two boats went down before breakfast.',
  'Fog until noon; the stove burned all day.',
  'The kingfisher is back under the bridge.',
  'Nobody on the water. The geese came over at four.',
];
const CHANGES = [
  'The second hive is light. Feed it before the frost.',
  'Too much on Saturday: the café takes the whole day.',
  'Pump out before the tank says so.',
  'Fewer things after dark.',
];

/** Stories of to-dos that belong to one place. */
function belongingTo(place: string, stories: readonly Story[]): Story[] {
  return stories.map((story) => ({ place, ...story }));
}

/** Two weekdays that are neither today nor tomorrow, so that it is on its way. */
function names(today: Day): string {
  const index = weekdayIndex(today);
  const days = [(index + 2) % 7, (index + 5) % 7].sort((a, b) => a - b);
  return days.map((i) => WEEKDAY_NAMES[i]!).join(' and ');
}

/** What a hive weighs in kilograms as the season goes on. */
const weight = (from: number, n: number, random: Random): number =>
  Math.round((from + 9 * Math.sin((n / 21) * Math.PI) + random.below(12) / 10) * 10) / 10;

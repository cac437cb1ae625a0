import type { Details } from '../../definition/details.ts';

/**
 * Sentences that say what a to-do is. The first forty were written before the grammar was; the others as
 * it grew, and for what must stay a title.
 */

type Wanted = Omit<Partial<Details>, 'steps' | 'questions'> & {
  steps?: string[];
  /** By what they ask, their kind, and what belongs to it. */
  questions?: (string | number | string[])[][];
};

/** A sentence, what it is, and a stretch of the rule where it comes back. */
export type Detailed = [text: string, details: Wanted & { title: string }, repeat?: string];

export const DETAILED: readonly Detailed[] = [
  ['Weigh the hives every Friday in Bees', { title: 'Weigh the hives', place: 'Bees' }, 'FR'],
  [
    'Check the bilge every week, in Aboard',
    { title: 'Check the bilge', place: 'Aboard' },
    'WEEKLY',
  ],
  ['Pump out the tank every 3 weeks, takes 30 min', { title: 'Pump out the tank', takes: 30 }],
  [
    'Feed the hens every day between 6:30 and noon',
    { title: 'Feed the hens', window: { from: '06:30', to: '12:00' } },
    'DAILY',
  ],
  ['Renew the licence every year, important', { title: 'Renew the licence', importance: 'high' }],
  ['Learn to splice rope someday', { title: 'Learn to splice rope', someday: true }],
  [
    'Service the engine every 6 months, steps: oil, filter and belt',
    { title: 'Service the engine', steps: ['oil', 'filter', 'belt'] },
  ],
  [
    'Pump out the tank every 3 weeks, ask for litres',
    { title: 'Pump out the tank', questions: [['litres', 'number', 'litres']] },
  ],
  [
    'Repair the toaster on Saturday, then send the invoice 3 days later',
    { title: 'Repair the toaster', then: { title: 'send the invoice', after: 'P3D' } },
  ],
  ['Weigh the hives every Friday, tagged bees', { title: 'Weigh the hives', tags: ['bees'] }, 'FR'],
  [
    'Weigh the hives every Friday, tagged bees and weights',
    { title: 'Weigh the hives', tags: ['bees', 'weights'] },
  ],
  ['Call the boatyard tomorrow, less important', { title: 'Call the boatyard', importance: 'low' }],
  ['Call the boatyard, it is important', { title: 'Call the boatyard', importance: 'high' }],
  [
    'Weigh the hives every Friday, ask for the weight in kg',
    { title: 'Weigh the hives', questions: [['the weight', 'number', 'kg']] },
  ],
  [
    'Walk the towpath every day, ask how it went from 1 to 5',
    { title: 'Walk the towpath', questions: [['how it went', 'scale', 5]] },
  ],
  [
    'Check the mooring every evening, ask whether it rained',
    { title: 'Check the mooring', questions: [['it rained', 'yesno']] },
  ],
  [
    'Move the boat every 2 weeks, ask which bank: north or south',
    { title: 'Move the boat', questions: [['bank', 'choice', ['north', 'south']]] },
  ],
  [
    'Clean the stove every Sunday, ask how long it took',
    { title: 'Clean the stove', questions: [['how long it took', 'minutes']] },
  ],
  [
    'Open the café on the first Saturday of each month, ask what was repaired',
    { title: 'Open the café', questions: [['what was repaired', 'text']] },
  ],
  [
    'Weigh the hives every Friday, ask for the weight in kg, ask whether they flew',
    {
      title: 'Weigh the hives',
      questions: [
        ['the weight', 'number', 'kg'],
        ['they flew', 'yesno'],
      ],
    },
  ],
  [
    'Grease the stern gland 14 days after done, takes 20 min, in Aboard, important',
    { title: 'Grease the stern gland', takes: 20, place: 'Aboard', importance: 'high' },
  ],
  ['Read about queens, someday', { title: 'Read about queens', someday: true }],
  ['Sort the tools for someday', { title: 'Sort the tools', someday: true }],
  [
    'Pack for the café every month, steps: the soldering iron, spare fuses, tea',
    { title: 'Pack for the café', steps: ['the soldering iron', 'spare fuses', 'tea'] },
  ],
  ['Swim at the weir 3 times a week, taking it up', { title: 'Swim at the weir', takingUp: true }],
  [
    'Wash the hull every 6 weeks, may be 3 days early or 2 days late',
    { title: 'Wash the hull', slack: { before: 3, after: 2 } },
  ],
  [
    'Wash the hull every 6 weeks, may be 1 day late',
    { title: 'Wash the hull', slack: { before: 0, after: 1 } },
  ],
  [
    'Walk the dog of the neighbours every day between 14 and 18',
    { title: 'Walk the dog of the neighbours', window: { from: '14:00', to: '18:00' } },
  ],
  [
    'Order wax on 5 June, then collect it 1 week later',
    { title: 'Order wax', then: { title: 'collect it', after: 'P1W' } },
  ],
  [
    'Service the engine every 250 hours, steps: oil and filter, takes 2 hours, in Aboard',
    { title: 'Service the engine', steps: ['oil', 'filter'], takes: 120, place: 'Aboard' },
  ],
  [
    'Send the mooring log on the 1st of each month, in Work, tagged papers',
    { title: 'Send the mooring log', place: 'Work', tags: ['papers'] },
  ],
  [
    'Feed the hives every 2 weeks, steps: boil water, stir in sugar and let it cool, ask for litres',
    {
      title: 'Feed the hives',
      steps: ['boil water', 'stir in sugar', 'let it cool'],
      questions: [['litres', 'number', 'litres']],
    },
  ],
  [
    'Clean the panels every month, tagged “fair weather”',
    { title: 'Clean the panels', tags: ['fair weather'] },
  ],
  [
    'Sell honey at the fair on 12 June, important, then count the till 1 day later',
    {
      title: 'Sell honey at the fair',
      importance: 'high',
      then: { title: 'count the till', after: 'P1D' },
    },
  ],
  [
    'Check the batteries every Monday, ask for “volts at rest” in volts',
    { title: 'Check the batteries', questions: [['volts at rest', 'number', 'volts']] },
  ],
  ['Steps: none of them every day', { title: 'Steps: none of them' }, 'DAILY'],
  ['Important: renew the licence on 3 June', { title: 'renew the licence', importance: 'high' }],
  [
    'Look at the gauge every day, not so important, takes 2 minutes',
    { title: 'Look at the gauge', importance: 'low', takes: 2 },
  ],
  [
    'Paint the cabin roof in Aboard someday',
    { title: 'Paint the cabin roof', place: 'Aboard', someday: true },
  ],
  [
    'Stretch every morning between 6 and 9, taking it up, takes 10 min',
    {
      title: 'Stretch',
      window: { from: '06:00', to: '09:00' },
      takingUp: true,
      takes: 10,
    },
  ],
  // As the grammar grew.
  ['Sort the important letters every week', { title: 'Sort the important letters' }],
  ['Find out what is important', { title: 'Find out what is important' }],
  ['Ask for the key tomorrow', { title: 'Ask for the key' }],
  ['Ask whether the lock is open every Monday', { title: 'Ask whether the lock is open' }],
  ['Read “Someday, perhaps”', { title: 'Read “Someday, perhaps”' }],
  ['Count the tagged birds every week', { title: 'Count the tagged birds' }],
  ['Sweep the steps every week', { title: 'Sweep the steps' }],
  ['Sing, then dance', { title: 'Sing, then dance' }],
  ['Choose between tea and coffee', { title: 'Choose between tea and coffee' }],
  ['Someday soon', { title: 'Someday soon' }],
  [
    'Pack the bag every Friday, steps: “bread, butter” and “salt and pepper”',
    { title: 'Pack the bag', steps: ['bread, butter', 'salt and pepper'] },
  ],
  [
    'Service the engine, steps: oil, filter, belt, every 6 months',
    { title: 'Service the engine', steps: ['oil', 'filter', 'belt'] },
    'INTERVAL=6',
  ],
  [
    'Service the engine, steps: oil, filter and belt every 6 months',
    { title: 'Service the engine', steps: ['oil', 'filter', 'belt'] },
    'INTERVAL=6',
  ],
  [
    'Weigh the hives every Friday, with the steps: smoke, lift and note it',
    { title: 'Weigh the hives', steps: ['smoke', 'lift', 'note it'] },
  ],
  [
    'Weigh the hives every Friday and ask for kg',
    { title: 'Weigh the hives', questions: [['kg', 'number', 'kg']] },
  ],
  [
    'Run the heater every day, ask me for hours',
    { title: 'Run the heater', questions: [['hours', 'number', 'hours']] },
  ],
  [
    'Walk the towpath every day, ask if it rained, ask how it felt from 1 to 10',
    {
      title: 'Walk the towpath',
      questions: [
        ['it rained', 'yesno'],
        ['how it felt', 'scale', 10],
      ],
    },
  ],
  [
    'Move the boat every 2 weeks, ask which lock: top, middle or bottom, important',
    {
      title: 'Move the boat',
      questions: [['lock', 'choice', ['top', 'middle', 'bottom']]],
      importance: 'high',
    },
  ],
  [
    'Repair the toaster on Saturday and then write the bill 2 hours later',
    { title: 'Repair the toaster', then: { title: 'write the bill', after: 'PT2H' } },
  ],
  [
    'Order wax on 5 June, then “collect it, and pay” a week afterwards',
    { title: 'Order wax', then: { title: 'collect it, and pay', after: 'P1W' } },
  ],
  ['Weigh the hives every Friday, tagged with bees', { title: 'Weigh the hives', tags: ['bees'] }],
  ['Weigh the hives every Friday, tagged as bees', { title: 'Weigh the hives', tags: ['bees'] }],
  [
    'Weigh the hives every Friday, very important',
    { title: 'Weigh the hives', importance: 'high' },
  ],
  [
    'Weigh the hives every Friday, of low importance',
    { title: 'Weigh the hives', importance: 'low' },
  ],
  [
    'Check the ropes every Tuesday, may be 1 day early',
    { title: 'Check the ropes', slack: { before: 1, after: 0 } },
  ],
  ['Swim at the weir every day, I am taking it up', { title: 'Swim at the weir', takingUp: true }],
  [
    'Check the ropes every Tuesday between 22:00 and 1:00',
    {
      title: 'Check the ropes',
      window: { from: '22:00', to: '01:00' },
    },
  ],
  ['Feed the hens every day from 6:30 to 7:00', { title: 'Feed the hens', takes: 30 }],
  [
    'Write to the harbour master in Work tomorrow, takes 15 min, important',
    { title: 'Write to the harbour master', place: 'Work', takes: 15, importance: 'high' },
  ],
  ['Look for shells in work boots every Sunday', { title: 'Look for shells in work boots' }],
  ['Write about bees in Bees every week', { title: 'Write about bees', place: 'Bees' }],
  ['Mend the net belongs to “The yard”', { title: 'Mend the net', place: 'The yard' }],
  ['Mend the net every week, belongs to Nowhere', { title: 'Mend the net', place: 'Nowhere' }],
  [
    'Grease the winch 30 days after done, steps: clean it, grease it, ask for minutes',
    {
      title: 'Grease the winch',
      steps: ['clean it', 'grease it'],
      questions: [['minutes', 'number', 'minutes']],
    },
  ],
  [
    'Fill the water tank once a week, ask for litres, ask whether the hose leaks',
    {
      title: 'Fill the water tank',
      questions: [
        ['litres', 'number', 'litres'],
        ['the hose leaks', 'yesno'],
      ],
    },
  ],
  [
    'Stretch every morning, important, tagged body',
    {
      title: 'Stretch',
      importance: 'high',
      tags: ['body'],
    },
  ],
  ['Important things every day', { title: 'Important things' }],
  ['Order wax then go home', { title: 'Order wax then go home' }],
  ['Answer the survey, ask: no', { title: 'Answer the survey, ask: no' }],
  ['Tidy the bench every Sunday, steps: sweep', { title: 'Tidy the bench', steps: ['sweep'] }],
  ['Tidy the bench every Sunday (important)', { title: 'Tidy the bench', importance: 'high' }],
];

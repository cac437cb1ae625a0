import type { Definition } from '../../definition/definition.ts';
import type { Repeat } from '../../series/definition/definition.ts';

/**
 * Sentences as people say them, with the definition that each one means. They were written down
 * before the grammar was, so that it is held to how people talk; none of them may be fitted to it.
 *
 * Today is Tuesday 24 November 2026; the person lives where dates are written day first, and has
 * the places Aboard, Bees and Work.
 */
export type Spoken = [text: string, series: Definition];

export const SPOKEN_TODAY = '2026-11-24';

export const cal = (rule: string): Repeat => ({ by: 'calendar', rule: `FREQ=${rule}` });
export const done = (every: string, more: object = {}): Repeat => ({
  by: 'completion',
  every,
  ...more,
});
export const times = (n: number, per: 'day' | 'week' | 'month'): Repeat => ({
  by: 'quota',
  times: n,
  per,
});

/** A sentence with its definition, in short. */
export function row(
  text: string,
  title: string,
  start: string | null,
  repeat: Repeat | null,
  more: Partial<Definition> = {},
): Spoken {
  return [text, { title, start, repeat, ...more }];
}

const T = SPOKEN_TODAY;

// prettier-ignore
export const SPOKEN: readonly Spoken[] = [
  row('Water the herbs every 3rd day', 'Water the herbs', T, cal('DAILY;INTERVAL=3')),
  row('every third day water the herbs', 'water the herbs', T, cal('DAILY;INTERVAL=3')),
  row('Turn the compost fortnightly', 'Turn the compost', T, cal('WEEKLY;INTERVAL=2')),
  row('Feed the hens twice a day at 8 and 20', 'Feed the hens', T, cal('DAILY'), { at: ['08:00', '20:00'] }),
  row('Take the bins out each weekday but Wednesday', 'Take the bins out', T, cal('WEEKLY;BYDAY=MO,TU,TH,FR')),
  row('Choir on the second and last Thursday of the month', 'Choir', '2026-11-26', cal('MONTHLY;BYDAY=2TH,-1TH')),
  row('Pay the mooring every quarter on the first working day', 'Pay the mooring', T, { by: 'calendar', workday: 1, per: 'quarter' }),
  row('Swap the gas bottle 40 days after done, on a Saturday', 'Swap the gas bottle', T, done('P40D', { onto: 'FREQ=WEEKLY;BYDAY=SA' })),
  row('Descale the kettle a week after I last did it', 'Descale the kettle', T, done('P1W')),
  row('Feed the neighbour’s hens every day from 3 to 8 August', 'Feed the neighbour’s hens', '2027-08-03', cal('DAILY'), { ends: { on: '2027-08-08' } }),
  row('Paint the hull every sixth week starting 5 February until 20 November at 9', 'Paint the hull', '2027-02-05', cal('WEEKLY;INTERVAL=6'), { at: ['09:00'], ends: { on: '2027-11-20' } }),
  row('Swim every Tuesday for four months', 'Swim', T, cal('WEEKLY;BYDAY=TU'), { ends: { within: 'P4M' } }),
  row('Check the anodes every other year in April', 'Check the anodes', '2027-04-01', cal('YEARLY;INTERVAL=2;BYMONTH=4;BYMONTHDAY=1')),
  row('Go for a run four times a week', 'Go for a run', T, times(4, 'week')),
  row('Call mum any 2 days a month', 'Call mum', T, times(2, 'month')),
  row('Change the clocks yearly on the last Sunday of March', 'Change the clocks', '2027-03-28', cal('YEARLY;BYMONTH=3;BYDAY=-1SU')),
  row('Change the engine oil every 250 hours', 'Change the engine oil', T, done('PT250H')),
  row('Weigh the hives every Friday except in August', 'Weigh the hives', '2026-11-27', cal('WEEKLY;BYMONTH=1,2,3,4,5,6,7,9,10,11,12;BYDAY=FR')),
  row('Renew the insurance every year on 12 June, opens 5 days before', 'Renew the insurance', '2027-06-12', cal('YEARLY;BYMONTH=6;BYMONTHDAY=12'), { opensBefore: 'P5D' }),
  row('Send the log on the 3rd of every month, remind me 2 days before at 18:00', 'Send the log', '2026-12-03', cal('MONTHLY;BYMONTHDAY=3'), { reminders: [{ before: 'P2D', at: '18:00' }] }),
  row('Pay the rent on the 1st of the month, if it is a holiday, the day before', 'Pay the rent', '2026-12-01', cal('MONTHLY;BYMONTHDAY=1'), { closedDays: 'before' }),
  row('Sweep the flue every Saturday, takes 30 min', 'Sweep the flue', '2026-11-28', cal('WEEKLY;BYDAY=SA'), { takes: 30 }),
  row('Grease the stern gland every 2 weeks in Aboard', 'Grease the stern gland', T, cal('WEEKLY;INTERVAL=2'), { place: 'Aboard' }),
  row('Learn to splice, no date yet', 'Learn to splice', null, null),
  row('Meet the surveyor next Tuesday', 'Meet the surveyor', '2026-12-01', null),
  row('Order wax in 3 weeks', 'Order wax', '2026-12-15', null),
  row('Send the invoices at the end of the month', 'Send the invoices', '2026-11-30', null),
  row('Pump out the tank every 10 days', 'Pump out the tank', T, cal('DAILY;INTERVAL=10')),
  row('Put the kettle on every morning', 'Put the kettle on', T, cal('DAILY'), { at: ['08:00'] }),
  row('Read in bed every evening at 10pm', 'Read in bed', T, cal('DAILY'), { at: ['22:00'] }),
  row('Stretch on weekday mornings', 'Stretch', T, cal('WEEKLY;BYDAY=MO,TU,WE,TH,FR'), { at: ['08:00'] }),
  row('Bake bread on Saturday mornings', 'Bake bread', '2026-11-28', cal('WEEKLY;BYDAY=SA'), { at: ['08:00'] }),
  row('Mondays and Thursdays: yoga at 18:30', 'yoga', '2026-11-26', cal('WEEKLY;BYDAY=MO,TH'), { at: ['18:30'] }),
  row('yoga Mon/Wed/Fri at 7am', 'yoga', '2026-11-25', cal('WEEKLY;BYDAY=MO,WE,FR'), { at: ['07:00'] }),
  row('Clean the filters once a week', 'Clean the filters', T, times(1, 'week')),
  row('Check the smoke alarm on the first of each month', 'Check the smoke alarm', '2026-12-01', cal('MONTHLY;BYMONTHDAY=1')),
  row('Check the smoke alarm first of the month', 'Check the smoke alarm', '2026-12-01', cal('MONTHLY;BYMONTHDAY=1')),
  row('Dentist every six months', 'Dentist', T, cal('MONTHLY;INTERVAL=6')),
  row('Dentist twice a year', 'Dentist', T, cal('MONTHLY;INTERVAL=6')),
  row('Replace the water filter every half year', 'Replace the water filter', T, cal('MONTHLY;INTERVAL=6')),
  row('Back up the laptop every second Sunday', 'Back up the laptop', '2026-11-29', cal('WEEKLY;INTERVAL=2;BYDAY=SU')),
  row('Take the bins out every Tuesday night', 'Take the bins out', T, cal('WEEKLY;BYDAY=TU'), { at: ['21:00'] }),
  row('Empty the ash pan daily at noon', 'Empty the ash pan', T, cal('DAILY'), { at: ['12:00'] }),
  row('Mend the fender tomorrow morning', 'Mend the fender', '2026-11-25', null, { at: ['08:00'] }),
  row('Ring the yard tonight', 'Ring the yard', T, null, { at: ['21:00'] }),
  row('Post the parcel by Friday', 'Post the parcel', '2026-11-27', null),
  row('Pay the licence by 31 January', 'Pay the licence', '2027-01-31', null),
  row('Book the dry dock the day after tomorrow', 'Book the dry dock', '2026-11-26', null),
  row('Check the mooring lines every 3 days after it’s done', 'Check the mooring lines', T, done('P3D')),
  row('Wash the blankets two months after the last time', 'Wash the blankets', T, done('P2M')),
  row('Clean the bilge 3 weeks after finishing', 'Clean the bilge', T, done('P3W')),
  row('Haircut 6 weeks after the last one', 'Haircut', T, done('P6W')),
  row('Inspect the hives every 9 days from 1 April to 30 September', 'Inspect the hives', '2027-04-01', cal('DAILY;INTERVAL=9'), { ends: { on: '2027-09-30' } }),
  row('Feed the bees every day until the end of March', 'Feed the bees', T, cal('DAILY'), { ends: { on: '2027-03-31' } }),
  row('Take the tablets at 8:00, 14:00 and 20:00 for 10 days', 'Take the tablets', T, cal('DAILY'), { at: ['08:00', '14:00', '20:00'], ends: { within: 'P10D' } }),
  row('Practise knots every day for a fortnight', 'Practise knots', T, cal('DAILY'), { ends: { within: 'P2W' } }),
  row('Report to the harbour office on 15 Jan, 15 Apr, 15 Jul and 15 Oct', 'Report to the harbour office', '2027-01-15', { by: 'dates', dates: ['2027-01-15', '2027-04-15', '2027-07-15', '2027-10-15'] }),
  row('Pay the tax on 31 January and 31 July every year', 'Pay the tax', '2027-01-31', cal('MONTHLY;BYMONTH=1,7;BYMONTHDAY=31')),
  row('Service the engine every 100 hours', 'Service the engine', T, done('PT100H')),
  row('Vacuum every weekend', 'Vacuum', '2026-11-28', cal('WEEKLY;BYDAY=SA,SU')),
  row('Vacuum at weekends', 'Vacuum', '2026-11-28', cal('WEEKLY;BYDAY=SA,SU')),
  row('Visit the hives on alternate Sundays', 'Visit the hives', '2026-11-29', cal('WEEKLY;INTERVAL=2;BYDAY=SU')),
  row('Call the yard each Monday starting next week', 'Call the yard', '2026-11-30', cal('WEEKLY;BYDAY=MO')),
  row('Gym three times per week', 'Gym', T, times(3, 'week')),
  row('Drink water 8 times a day', 'Drink water', T, times(8, 'day')),
  row('Look at the budget on the last day of the month', 'Look at the budget', '2026-11-30', cal('MONTHLY;BYMONTHDAY=-1')),
  row('Look at the budget on the last Friday of every month at 4pm', 'Look at the budget', '2026-11-27', cal('MONTHLY;BYDAY=-1FR'), { at: ['16:00'] }),
  row('Look at the budget on the second-to-last working day of the month', 'Look at the budget', T, { by: 'calendar', workday: -2, per: 'month' }),
  row('Send the newsletter on the 15th and the last day of each month', 'Send the newsletter', '2026-11-30', cal('MONTHLY;BYMONTHDAY=15,-1')),
  row('Renew the passport in 10 years', 'Renew the passport', '2036-11-24', null),
  row('Plant bulbs in October', 'Plant bulbs', '2027-10-01', null),
  row('Plant bulbs every October', 'Plant bulbs', '2027-10-01', cal('YEARLY;BYMONTH=10;BYMONTHDAY=1')),
  row('Clear the gutters every March and October', 'Clear the gutters', '2027-03-01', cal('MONTHLY;BYMONTH=3,10;BYMONTHDAY=1')),
  row('Birthday of the lock keeper every 3 May', 'Birthday of the lock keeper', '2027-05-03', cal('YEARLY;BYMONTH=5;BYMONTHDAY=3')),
  row('Birthday card for Jo on May 3rd every year', 'Birthday card for Jo', '2027-05-03', cal('YEARLY;BYMONTH=5;BYMONTHDAY=3')),
  row('Repair café on the 1st Saturday of the month at 10 am', 'Repair café', '2026-12-05', cal('MONTHLY;BYDAY=1SA'), { at: ['10:00'] }),
  row('Empty the traps every 12 hours', 'Empty the traps', T, done('PT12H')),
  row('Check the post on working days at 9', 'Check the post', T, { by: 'calendar', everyWorkdays: 1 }, { at: ['09:00'] }),
  row('Change the sheets every 2 weeks on Sunday evening', 'Change the sheets', '2026-11-29', cal('WEEKLY;INTERVAL=2;BYDAY=SU'), { at: ['18:00'] }),
  row('Bring the plants in on 1 November each year', 'Bring the plants in', '2027-11-01', cal('YEARLY;BYMONTH=11;BYMONTHDAY=1')),
  row('Test the bilge pump every month on the 20th', 'Test the bilge pump', '2026-12-20', cal('MONTHLY;BYMONTHDAY=20')),
  row('Test the bilge pump monthly on the 20th at half past 9', 'Test the bilge pump', '2026-12-20', cal('MONTHLY;BYMONTHDAY=20'), { at: ['09:30'] }),
  row('Team call at quarter to ten every Thursday', 'Team call', '2026-11-26', cal('WEEKLY;BYDAY=TH'), { at: ['09:45'] }),
  row('Wind the clock every 8 days starting Sunday', 'Wind the clock', '2026-11-29', cal('DAILY;INTERVAL=8')),
  row('Give the cat her tablet monthly, 12 times', 'Give the cat her tablet', T, cal('MONTHLY'), { ends: { after: 12 } }),
  row('Water the tomatoes every other day from May until September', 'Water the tomatoes', '2027-05-01', cal('DAILY;INTERVAL=2'), { ends: { on: '2027-09-30' } }),
  row('Pay the moorings 1st of Jan', 'Pay the moorings', '2027-01-01', null),
  row('Take the recycling out every first and third Monday', 'Take the recycling out', '2026-12-07', cal('MONTHLY;BYDAY=1MO,3MO')),
  row('Oil the lock gears on the first Sunday of Jan, Apr, Jul and Oct', 'Oil the lock gears', '2027-01-03', cal('MONTHLY;BYMONTH=1,4,7,10;BYDAY=1SU')),
  row('Pay the duty on the last working day of every quarter', 'Pay the duty', T, { by: 'calendar', workday: -1, per: 'quarter' }),
  row('Bring the van for its test yearly on 14 February', 'Bring the van for its test', '2027-02-14', cal('YEARLY;BYMONTH=2;BYMONTHDAY=14')),
  row('Stand up every hour from 9 to 17 on weekdays', 'Stand up', T, cal('WEEKLY;BYDAY=MO,TU,WE,TH,FR'), { at: ['09:00', '10:00', '11:00', '12:00', '13:00', '14:00', '15:00', '16:00', '17:00'] }),
  row('Give the cat her drops every 6 hours for 5 days', 'Give the cat her drops', T, done('PT6H'), { ends: { within: 'P5D' } }),
  row('Ask for the deposit back in a month', 'Ask for the deposit back', '2026-12-24', null),
  row('Ring the office every Friday but not on holidays', 'Ring the office', '2026-11-27', cal('WEEKLY;BYDAY=FR'), { closedDays: 'drop' }),
  row('Check the tyres monthly remind me the day before', 'Check the tyres', T, cal('MONTHLY'), { reminders: [{ before: 'P1D' }] }),
  row('Take the tablet at 8 every day and remind me 10 minutes before', 'Take the tablet', T, cal('DAILY'), { at: ['08:00'], reminders: [{ before: 'PT10M' }] }),
  row('Take the tablet daily, remind me at 21:00', 'Take the tablet', T, cal('DAILY'), { reminders: [{ at: '21:00' }] }),
  row('Renew the licence every year on 1 March, remind me a month before and a week before', 'Renew the licence', '2027-03-01', cal('YEARLY;BYMONTH=3;BYMONTHDAY=1'), { reminders: [{ before: 'P1M' }, { before: 'P1W' }] }),
  row('Ironing every Sunday, takes an hour', 'Ironing', '2026-11-29', cal('WEEKLY;BYDAY=SU'), { takes: 60 }),
  row('Read for 30 minutes every evening', 'Read', T, cal('DAILY'), { at: ['18:00'], takes: 30 }),
  row('Play the fiddle for an hour on Tuesdays and Thursdays', 'Play the fiddle', T, cal('WEEKLY;BYDAY=TU,TH'), { takes: 60 }),
  row('On the 10th: send the reading', 'send the reading', '2026-12-10', null),
  row('Phone Aunt May every Sunday at 5 pm', 'Phone Aunt May', '2026-11-29', cal('WEEKLY;BYDAY=SU'), { at: ['17:00'] }),
  row('Read chapter 3 by Thursday', 'Read chapter 3', '2026-11-26', null),
  row('Clean the 24 h pump every 2 weeks', 'Clean the 24 h pump', T, cal('WEEKLY;INTERVAL=2')),
  row('Walk to Area 51 every May', 'Walk to Area 51', '2027-05-01', cal('YEARLY;BYMONTH=5;BYMONTHDAY=1')),
  row('Water the March lilies daily', 'Water the March lilies', T, cal('DAILY')),
  row('Take a break every 50 minutes', 'Take a break', T, done('PT50M')),
  row('Polish the brass whenever 3 weeks have passed since I last did it', 'Polish the brass', T, done('P3W')),
  row('Three days after I finish, turn the compost again', 'turn the compost again', T, done('P3D')),
  row('Service the stove once every year in September', 'Service the stove', '2027-09-01', cal('YEARLY;BYMONTH=9;BYMONTHDAY=1')),
  row('Photograph the oak on the 21st of March, June, September and December', 'Photograph the oak', '2026-12-21', cal('MONTHLY;BYMONTH=3,6,9,12;BYMONTHDAY=21')),
  row('Bath the dog every 3 months starting in January', 'Bath the dog', '2027-01-01', cal('MONTHLY;INTERVAL=3')),
  row('Do the big shop every Saturday from 9 January', 'Do the big shop', '2027-01-09', cal('WEEKLY;BYDAY=SA')),
  row('Turn the mattress at the start of every quarter', 'Turn the mattress', '2027-01-01', cal('MONTHLY;BYMONTH=1,4,7,10;BYMONTHDAY=1')),
];

/**
 * Sentences as very different people type and dictate them, each with what it means on Tuesday 1 June 2027;
 * `ask`: it is vague, or contradicts itself, and has to be asked about. Written down before what reads them
 * was changed for them.
 */

export type Meant = 'ask' | Record<string, unknown>;
export type Said = readonly [who: string, text: string, meant: Meant];

const rule = (text: string, more: object = {}) => ({
  repeat: { by: 'calendar', rule: `FREQ=${text}`, ...more },
});
const after = (every: string, more: object = {}) => ({
  repeat: { by: 'completion', every, ...more },
});
const times = (n: number, per: string) => ({ repeat: { by: 'quota', times: n, per } });
const once = (start: string | null, ...at: string[]) => ({
  start,
  repeat: null,
  ...(at.length ? { at } : {}),
});

export const PEOPLE: readonly Said[] = [
  // A student, in a hurry.
  [
    'student',
    'gym mon wed fri 7am',
    { title: 'gym', ...rule('WEEKLY;BYDAY=MO,WE,FR'), at: ['07:00'] },
  ],
  ['student', 'essay due 14 june', { title: 'essay', ...once('2027-06-14') }],
  [
    'student',
    'call mum sundays 6pm',
    { title: 'call mum', ...rule('WEEKLY;BYDAY=SU'), at: ['18:00'] },
  ],
  [
    'student',
    'seminar notes tues and thurs 9.30am',
    { title: 'seminar notes', ...rule('WEEKLY;BYDAY=TU,TH'), at: ['09:30'] },
  ],
  [
    'student',
    'pay rent 1st of every month',
    { title: 'pay rent', ...rule('MONTHLY;BYMONTHDAY=1') },
  ],
  [
    'student',
    'library books back in 3 weeks',
    { title: 'library books back', ...once('2027-06-22') },
  ],
  ['student', 'dentist thu 9.30am', { title: 'dentist', ...once('2027-06-03', '09:30') }],
  ['student', 'revise vocab 2x/day', { title: 'revise vocab', ...times(2, 'day') }],
  [
    'student',
    'shift mon thru thu 5pm',
    { title: 'shift', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH'), at: ['17:00'] },
  ],
  ['student', 'swim three evenings a week', 'ask'],
  [
    'student',
    'back up laptop last friday of the month',
    { title: 'back up laptop', ...rule('MONTHLY;BYDAY=-1FR') },
  ],
  [
    'student',
    'flat meeting first monday of each month 8pm',
    { title: 'flat meeting', ...rule('MONTHLY;BYDAY=1MO'), at: ['20:00'] },
  ],
  ['student', 'return the router tmrw', 'ask'],
  ['student', 'exam 12/06/27 at 0930', { title: 'exam', ...once('2027-06-12', '09:30') }],
  [
    'student',
    'laundry every other sunday',
    { title: 'laundry', ...rule('WEEKLY;INTERVAL=2;BYDAY=SU') },
  ],
  [
    'student',
    'meds 8am 2pm 8pm daily',
    { title: 'meds', ...rule('DAILY'), at: ['08:00', '14:00', '20:00'] },
  ],
  [
    'student',
    'hand in lab report friday noon',
    { title: 'hand in lab report', ...once('2027-06-04', '12:00') },
  ],
  [
    'student',
    'clean the fridge once a fortnight',
    { title: 'clean the fridge', ...rule('WEEKLY;INTERVAL=2') },
  ],
  ['student', 'haircut every 6 weeks or so', 'ask'],
  [
    'student',
    'read for an hour and a half every evening',
    { title: 'read', ...rule('DAILY'), takes: 90 },
  ],
  [
    'student',
    'practise piano daily, 30 minutes',
    { title: 'practise piano', ...rule('DAILY'), takes: 30 },
  ],
  ['student', 'water the cactus most sundays', 'ask'],
  ['student', 'renew passport by 30 september', { title: 'renew passport', ...once('2027-09-30') }],
  ['student', 'bins out weds night', { title: 'bins out' }],
  [
    'student',
    'split the bills on the last workday of the month',
    { title: 'split the bills', repeat: { by: 'calendar', workday: -1, per: 'month' } },
  ],
  // A carer, exact about hours.
  [
    'carer',
    'Give Dad his tablets at 8am and 8pm every day',
    { title: 'Give Dad his tablets', ...rule('DAILY'), at: ['08:00', '20:00'] },
  ],
  [
    'carer',
    'Change the dressing every 3 days at half past nine',
    { title: 'Change the dressing', ...rule('DAILY;INTERVAL=3'), at: ['09:30'] },
  ],
  [
    'carer',
    'Check his blood pressure twice a day',
    { title: 'Check his blood pressure', ...times(2, 'day') },
  ],
  ['carer', 'Order the prescription 5 working days before the 20th of each month', 'ask'],
  [
    'carer',
    'Turn the mattress every three months',
    { title: 'Turn the mattress', ...rule('MONTHLY;INTERVAL=3') },
  ],
  [
    'carer',
    'Eye drops every 4 hours between 8 and 20',
    { title: 'Eye drops', ...rule('DAILY'), at: ['08:00', '12:00', '16:00', '20:00'] },
  ],
  [
    'carer',
    'Foot clinic on the second Thursday of the month at 10:40',
    { title: 'Foot clinic', ...rule('MONTHLY;BYDAY=2TH'), at: ['10:40'] },
  ],
  [
    'carer',
    'Remind me to collect the prescription on Friday at noon',
    { title: 'collect the prescription', ...once('2027-06-04', '12:00') },
  ],
  [
    'carer',
    'Cut his nails every two weeks on Saturday',
    { title: 'Cut his nails', ...rule('WEEKLY;INTERVAL=2;BYDAY=SA') },
  ],
  [
    'carer',
    'Ring the respite centre next Monday at 9, remind me the day before at 18:00',
    {
      title: 'Ring the respite centre',
      start: '2027-06-07',
      at: ['09:00'],
      reminders: [{ before: 'P1D', at: '18:00' }],
    },
  ],
  ['carer', 'Wash the bedding every week except July', { title: 'Wash the bedding' }],
  ['carer', 'Physio exercises at least twice a day', 'ask'],
  ['carer', 'Weigh him once a month, not on bank holidays', 'ask'],
  [
    'carer',
    'Replace the batteries in the alarm 6 months after I last did it',
    { title: 'Replace the batteries in the alarm', ...after('P6M') },
  ],
  [
    'carer',
    'Shower Tuesdays, Thursdays and Saturdays in the morning',
    { title: 'Shower', ...rule('WEEKLY;BYDAY=TU,TH,SA') },
  ],
  ['carer', 'Medication review every quarter on its last Thursday', 'ask'],
  ['carer', 'Give the antibiotic every 8 hours for 7 days', { title: 'Give the antibiotic' }],
  [
    'carer',
    'Fill the pill box every Sunday, takes about 20 minutes',
    { title: 'Fill the pill box', ...rule('WEEKLY;BYDAY=SU'), takes: 20 },
  ],
  [
    'carer',
    'Check the smoke alarm on the first of every month',
    { title: 'Check the smoke alarm', ...rule('MONTHLY;BYMONTHDAY=1') },
  ],
  ['carer', 'Optician in 2 years', { title: 'Optician', ...once('2029-06-01') }],
  [
    'carer',
    'Visit from the nurse Monday to Friday at 7:30',
    { title: 'Visit from the nurse', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR'), at: ['07:30'] },
  ],
  [
    'carer',
    'Take the wheelchair in for service every year on 3 March',
    { title: 'Take the wheelchair in for service', ...rule('YEARLY;BYMONTH=3;BYMONTHDAY=3') },
  ],
  // A gardener, by seasons and weather.
  ['gardener', 'Water the tomatoes every day unless it rains', 'ask'],
  ['gardener', 'Feed the roses every 2 weeks from April to September', 'ask'],
  [
    'gardener',
    'Mow the lawn every 10 days until the end of October',
    { title: 'Mow the lawn', ...rule('DAILY;INTERVAL=10'), ends: { on: '2027-10-31' } },
  ],
  ['gardener', 'Prune the apple trees every winter', 'ask'],
  ['gardener', 'Sow lettuce every three weeks until August', { title: 'Sow lettuce' }],
  [
    'gardener',
    'Turn the compost 3 weeks after I last turned it',
    { title: 'Turn the compost', ...after('P3W') },
  ],
  ['gardener', 'Check the beehives every 7 to 10 days', 'ask'],
  [
    'gardener',
    'Sharpen the shears on the first Sunday of March, June and September',
    { title: 'Sharpen the shears' },
  ],
  ['gardener', 'Cut back the lavender every year in August', { title: 'Cut back the lavender' }],
  [
    'gardener',
    'Plant out the leeks on 12 June',
    { title: 'Plant out the leeks', ...once('2027-06-12') },
  ],
  ['gardener', 'Hoe the beds weekly', { title: 'Hoe the beds', ...rule('WEEKLY') }],
  [
    'gardener',
    'Empty the rain gauge every morning at 8',
    { title: 'Empty the rain gauge', ...rule('DAILY'), at: ['08:00'] },
  ],
  ['gardener', 'Order seed potatoes early each January', 'ask'],
  [
    'gardener',
    'Spray the vines 14 days after the last time',
    { title: 'Spray the vines', ...after('P14D') },
  ],
  ['gardener', 'Clean the greenhouse on 1 March and 1 September', 'ask'],
  [
    'gardener',
    'Service the mower every 50 hours',
    { title: 'Service the mower', ...after('PT50H') },
  ],
  ['gardener', 'Net the strawberries in about two weeks', 'ask'],
  [
    'gardener',
    'Lift the dahlias after the first frost',
    { title: 'Lift the dahlias after the first frost' },
  ],
  [
    'gardener',
    'Test the soil every 3 years',
    { title: 'Test the soil', ...rule('YEARLY;INTERVAL=3') },
  ],
  [
    'gardener',
    'Deadhead the sweet peas Mondays and Fridays but not in August',
    { title: 'Deadhead the sweet peas' },
  ],
  // A nurse on shifts.
  [
    'nurse',
    'Lates Mon Tue Wed 13:30',
    { title: 'Lates', ...rule('WEEKLY;BYDAY=MO,TU,WE'), at: ['13:30'] },
  ],
  [
    'nurse',
    'Request off duty by the 5th of each month',
    { title: 'Request off duty', ...rule('MONTHLY;BYMONTHDAY=5') },
  ],
  [
    'nurse',
    'Mandatory training every 12 months after done',
    { title: 'Mandatory training', ...after('P12M') },
  ],
  [
    'nurse',
    'Wash uniforms every second day',
    { title: 'Wash uniforms', ...rule('DAILY;INTERVAL=2') },
  ],
  [
    'nurse',
    'Bank shift on Saturday 12 June 7am',
    { title: 'Bank shift', ...once('2027-06-12', '07:00') },
  ],
  [
    'nurse',
    'Supervision every 6 weeks on a Wednesday',
    { title: 'Supervision', ...rule('WEEKLY;INTERVAL=6;BYDAY=WE') },
  ],
  [
    'nurse',
    'Charge the bike light every 4 days',
    { title: 'Charge the bike light', ...rule('DAILY;INTERVAL=4') },
  ],
  ['nurse', 'Run 3 times a week', { title: 'Run', ...times(3, 'week') }],
  ['nurse', 'Revalidation Friday 13 May 2027', 'ask'],
  [
    'nurse',
    'Meal prep Sundays 4-6pm',
    { title: 'Meal prep', ...rule('WEEKLY;BYDAY=SU'), at: ['16:00'], takes: 120 },
  ],
  [
    'nurse',
    'Pay the parking permit every quarter on the 1st',
    { title: 'Pay the parking permit', ...rule('MONTHLY;INTERVAL=3;BYMONTHDAY=1') },
  ],
  ['nurse', 'Book annual leave 6 weeks before 20 December', 'ask'],
  ['nurse', 'Nights from 7 June to 11 June at 20:00', { title: 'Nights' }],
  [
    'nurse',
    'Ring the ward tomorrow at quarter past seven',
    { title: 'Ring the ward', ...once('2027-06-02', '07:15') },
  ],
  ['nurse', 'Drink water every hour from 9 to 17', { title: 'Drink water', ...rule('DAILY') }],
  [
    'nurse',
    'Phone Gran every other Tuesday evening',
    { title: 'Phone Gran', ...rule('WEEKLY;INTERVAL=2;BYDAY=TU') },
  ],
  // A shopkeeper.
  [
    'shopkeeper',
    'Cash up every day except Sunday at 17:30',
    { title: 'Cash up', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA'), at: ['17:30'] },
  ],
  [
    'shopkeeper',
    'VAT return on the 7th of February, May, August and November',
    { title: 'VAT return', ...rule('MONTHLY;BYMONTH=2,5,8,11;BYMONTHDAY=7') },
  ],
  [
    'shopkeeper',
    'Stocktake last working day of each quarter',
    { title: 'Stocktake', repeat: { by: 'calendar', workday: -1, per: 'quarter' } },
  ],
  ['shopkeeper', 'Order milk Mon, Wed & Fri before 10am', 'ask'],
  ['shopkeeper', 'Pay wages on the 25th, if it falls on a weekend the Friday before', 'ask'],
  [
    'shopkeeper',
    'Clean the coffee machine every night',
    { title: 'Clean the coffee machine', ...rule('DAILY') },
  ],
  [
    'shopkeeper',
    'Window display every 6 weeks',
    { title: 'Window display', ...rule('WEEKLY;INTERVAL=6') },
  ],
  [
    'shopkeeper',
    'Bank the takings Mondays and Thursdays 3pm',
    { title: 'Bank the takings', ...rule('WEEKLY;BYDAY=MO,TH'), at: ['15:00'] },
  ],
  [
    'shopkeeper',
    'Renew the licence every 5 years',
    { title: 'Renew the licence', ...rule('YEARLY;INTERVAL=5') },
  ],
  [
    'shopkeeper',
    'Supplier call first workday of the month at 9:15',
    { title: 'Supplier call', repeat: { by: 'calendar', workday: 1, per: 'month' }, at: ['09:15'] },
  ],
  ['shopkeeper', 'Fire drill twice a year', { title: 'Fire drill' }],
  [
    'shopkeeper',
    'Sale starts on 3, 10 and 17 December',
    {
      title: 'Sale starts',
      repeat: { by: 'dates', dates: ['2027-12-03', '2027-12-10', '2027-12-17'] },
    },
  ],
  [
    'shopkeeper',
    'Check use-by dates each morning, ~15 min',
    { title: 'Check use-by dates', ...rule('DAILY'), takes: 15 },
  ],
  ['shopkeeper', 'Deep clean the oven monthly, skip weekends', 'ask'],
  [
    'shopkeeper',
    'Change the till roll when it runs out',
    { title: 'Change the till roll when it runs out', repeat: null },
  ],
  ['shopkeeper', 'Rent on the 28th of every month or the next working day if closed', 'ask'],
  ['shopkeeper', 'Van service every 12 months or 10000 miles', 'ask'],
  [
    'shopkeeper',
    'Staff rota every Thursday by 4pm',
    { title: 'Staff rota', ...rule('WEEKLY;BYDAY=TH'), at: ['16:00'] },
  ],
  // Dictated: long, spoken, without signs.
  [
    'dictated',
    'okay so every Tuesday and Thursday I need to take the recycling out at seven in the evening please',
    { ...rule('WEEKLY;BYDAY=TU,TH'), at: ['19:00'] },
  ],
  [
    'dictated',
    'I need to ring the boatyard about the mooring every first Monday of the month at ten in the morning',
    { ...rule('MONTHLY;BYDAY=1MO'), at: ['10:00'] },
  ],
  [
    'dictated',
    'please remind me to water the plants on the balcony every three days at eight in the morning',
    { ...rule('DAILY;INTERVAL=3'), at: ['08:00'] },
  ],
  [
    'dictated',
    'and then every two weeks on Friday I have to send the timesheet and it takes about twenty minutes',
    { ...rule('WEEKLY;INTERVAL=2;BYDAY=FR'), takes: 20 },
  ],
  [
    'dictated',
    'I want to change the bed sheets two weeks after I last did it on a Saturday if possible',
    'ask',
  ],
  [
    'dictated',
    'the car has to go for its test every year on the fourteenth of October and remind me a month before',
    { ...rule('YEARLY;BYMONTH=10;BYMONTHDAY=14'), reminders: [{ before: 'P1M' }] },
  ],
  ['dictated', 'okay can you put down that I should check the oil every thousand miles', 'ask'],
  [
    'dictated',
    'I would like to call my sister every Sunday at half past six in the evening until Christmas',
    'ask',
  ],
  // A second set, from others.
  [
    'father',
    'school run mon-fri 8.20am',
    { title: 'school run', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR'), at: ['08:20'] },
  ],
  ['father', 'swimming lesson saturdays at half nine', 'ask'],
  [
    'father',
    'pay the childminder every 2nd friday',
    { title: 'pay the childminder', ...rule('WEEKLY;INTERVAL=2;BYDAY=FR') },
  ],
  [
    'father',
    'parents evening 22 june 6.30pm',
    { title: 'parents evening', ...once('2027-06-22', '18:30') },
  ],
  ['father', 'nits check once a week', { title: 'nits check' }],
  [
    'father',
    'birthday card for Ines by 9 july',
    { title: 'birthday card for Ines', ...once('2027-07-09') },
  ],
  [
    'father',
    'bath night tues thurs sun',
    { title: 'bath night', ...rule('WEEKLY;BYDAY=TU,TH,SU') },
  ],
  [
    'father',
    'change the water filter 2 months after done',
    { title: 'change the water filter', ...after('P2M') },
  ],
  ['father', 'tidy the shed in the second week of each month', 'ask'],
  [
    'father',
    'pocket money every Saturday, remind me at 9',
    { title: 'pocket money', ...rule('WEEKLY;BYDAY=SA') },
  ],
  ['father', 'clean bike chains first weekend of the month', 'ask'],
  ['father', 'renew bus pass every sept', { title: 'renew bus pass' }],
  [
    'father',
    'haircuts every 5 weeks starting 12 june',
    { title: 'haircuts', ...rule('WEEKLY;INTERVAL=5'), start: '2027-06-12' },
  ],
  [
    'father',
    'check tyres every other month',
    { title: 'check tyres', ...rule('MONTHLY;INTERVAL=2') },
  ],
  ['father', 'ring the plumber asap', { title: 'ring the plumber asap', repeat: null }],
  [
    'skipper',
    'Grease the stern gland 14 days after done',
    { title: 'Grease the stern gland', ...after('P14D') },
  ],
  ['skipper', 'Antifoul each spring', 'ask'],
  [
    'skipper',
    'Check the anchor chain on the 1st and 15th of each month',
    { title: 'Check the anchor chain', ...rule('MONTHLY;BYMONTHDAY=1,15') },
  ],
  [
    'skipper',
    'Send the mooring log by noon every Friday',
    { title: 'Send the mooring log', ...rule('WEEKLY;BYDAY=FR'), at: ['12:00'] },
  ],
  ['skipper', 'Service the engine every 100 hours or once a year', 'ask'],
  [
    'skipper',
    'Renew the flares on 31 October 2029',
    { title: 'Renew the flares', ...once('2029-10-31') },
  ],
  ['skipper', 'Pump the bilge every morning and evening', 'ask'],
  [
    'skipper',
    'Run the generator for half an hour every Sunday',
    { title: 'Run the generator', ...rule('WEEKLY;BYDAY=SU'), takes: 30 },
  ],
  [
    'skipper',
    'Swap the gas bottle every 40 days until end of May',
    { title: 'Swap the gas bottle', ...rule('DAILY;INTERVAL=40'), ends: { on: '2028-05-31' } },
  ],
  [
    'skipper',
    'Tide tables 2 days before the end of each month',
    { title: 'Tide tables', ...rule('MONTHLY;BYMONTHDAY=-3') },
  ],
  ['skipper', 'Lift her out in the last week of September', 'ask'],
  [
    'skipper',
    'Look at the batteries every 2 weeks on Tuesday at 9 until 1 October except in August',
    { title: 'Look at the batteries' },
  ],
  [
    'skipper',
    'Check lines after every storm',
    { title: 'Check lines after every storm', repeat: null },
  ],
  [
    'skipper',
    'Air the cabin Tue/Sat 9:00',
    { title: 'Air the cabin', ...rule('WEEKLY;BYDAY=TU,SA'), at: ['09:00'] },
  ],
  [
    'skipper',
    'Mooring fee every year on the first of April, remind me two weeks before',
    {
      title: 'Mooring fee',
      ...rule('YEARLY;BYMONTH=4;BYMONTHDAY=1'),
      reminders: [{ before: 'P2W' }],
    },
  ],
  ['beekeeper', 'Inspect the hives every 9 days from May to July', 'ask'],
  ['beekeeper', 'Treat for mites 3 times in August', 'ask'],
  [
    'beekeeper',
    'Weigh the hives Fri 8am',
    { title: 'Weigh the hives', at: ['08:00'], start: '2027-06-04' },
  ],
  [
    'beekeeper',
    'Change the mite board every 2 weeks on Tue',
    { title: 'Change the mite board', ...rule('WEEKLY;INTERVAL=2;BYDAY=TU') },
  ],
  ['beekeeper', 'Feed syrup daily for 10 days', { title: 'Feed syrup', ...rule('DAILY') }],
  [
    'beekeeper',
    'Order jars 1 month before the honey fair',
    { title: 'Order jars 1 month before the honey fair', repeat: null },
  ],
  [
    'beekeeper',
    'Clean the smoker when it is cold',
    { title: 'Clean the smoker when it is cold', repeat: null },
  ],
  [
    'beekeeper',
    'Check entrances on warm days',
    { title: 'Check entrances on warm days', repeat: null },
  ],
  ['beekeeper', 'Replace the queen every two years in May', { title: 'Replace the queen' }],
  [
    'beekeeper',
    'Fair at the hall Sunday 20 June 10:00-16:00',
    { title: 'Fair at the hall', ...once('2027-06-20', '10:00'), takes: 360 },
  ],
  ['retired', 'Bowls Wednesdays at 2', 'ask'],
  ['retired', 'Choir every Thursday 19.30 except school holidays', 'ask'],
  ['retired', 'Take the blue pills every 12 hours', 'ask'],
  [
    'retired',
    'Wind the clock every 8 days',
    { title: 'Wind the clock', ...rule('DAILY;INTERVAL=8') },
  ],
  [
    'retired',
    'Telephone Margaret on the last Sunday of the month',
    { title: 'Telephone Margaret', ...rule('MONTHLY;BYDAY=-1SU') },
  ],
  [
    'retired',
    'Library books due back on 18 June',
    { title: 'Library books due back', ...once('2027-06-18') },
  ],
  ['retired', 'Blood test in six months time', 'ask'],
  [
    'retired',
    'Pay the window cleaner every 4 weeks',
    { title: 'Pay the window cleaner', ...rule('WEEKLY;INTERVAL=4') },
  ],
  [
    'retired',
    'Put the clocks back on the last Sunday in October',
    { title: 'Put the clocks back' },
  ],
  [
    'retired',
    'Descale the kettle the first Saturday of every other month',
    { title: 'Descale the kettle', ...rule('MONTHLY;INTERVAL=2;BYDAY=1SA') },
  ],
  [
    'retired',
    'Church flowers every 6th Sunday',
    { title: 'Church flowers', ...rule('WEEKLY;INTERVAL=6;BYDAY=SU') },
  ],
  [
    'retired',
    'Read meter on the last day of each month',
    { title: 'Read meter', ...rule('MONTHLY;BYMONTHDAY=-1') },
  ],
  [
    'freelance',
    'invoice Tilda on the last working day monthly',
    { title: 'invoice Tilda', repeat: { by: 'calendar', workday: -1, per: 'month' } },
  ],
  ['freelance', 'timesheet fri 5pm weekly', { title: 'timesheet' }],
  ['freelance', 'backup 3x a week', { title: 'backup', ...times(3, 'week') }],
  [
    'freelance',
    'standup weekdays 9:45',
    { title: 'standup', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR'), at: ['09:45'] },
  ],
  ['freelance', 'tax return due 31/01/28', { title: 'tax return', ...once('2028-01-31') }],
  ['freelance', 'review goals quarterly', { title: 'review goals', ...rule('MONTHLY;INTERVAL=3') }],
  ['freelance', 'chase invoice 30 days after done', { title: 'chase invoice', ...after('P30D') }],
  ['freelance', 'update portfolio twice a year', { title: 'update portfolio' }],
  [
    'freelance',
    'inbox zero every workday 16:30, 20 min',
    { title: 'inbox zero', at: ['16:30'], takes: 20 },
  ],
  ['freelance', 'gym either tue or wed', 'ask'],
  ['freelance', 'water plants eod fridays', 'ask'],
  ['freelance', 'call accountant b4 15 june', 'ask'],
  [
    'dictated',
    'right so I have to give the cat her tablet every evening at about six for the next two weeks',
    'ask',
  ],
  [
    'dictated',
    'I need to pay the window cleaner on the first of every month and remind me the day before at nine',
    { ...rule('MONTHLY;BYMONTHDAY=1'), reminders: [{ before: 'P1D', at: '09:00' }] },
  ],
  ['dictated', 'please put the bins out every Wednesday night but not on bank holidays', 'ask'],
  ['dictated', 'every other Saturday we should clean the gutters if it is not raining', 'ask'],
  ['dictated', 'I want to go swimming twice a week in the mornings', 'ask'],
  [
    'dictated',
    'okay the boiler needs its service every year in September takes about two hours',
    { ...rule('YEARLY;BYMONTH=9;BYMONTHDAY=1'), takes: 120 },
  ],
  [
    'dictated',
    'remind me to ring the bank tomorrow at eleven in the morning',
    { title: 'ring the bank', ...once('2027-06-02', '11:00') },
  ],
  [
    'dictated',
    'so on Mondays Wednesdays and Fridays at seven in the morning I go for a run for forty five minutes',
    'ask',
  ],
  // A third set, written after what the two before asked for was done.
  [
    'third',
    'walk the dog every morning at 7',
    { title: 'walk the dog', ...rule('DAILY'), at: ['07:00'] },
  ],
  ['third', 'yoga tue thu 6pm', { title: 'yoga', ...rule('WEEKLY;BYDAY=TU,TH'), at: ['18:00'] }],
  ['third', 'dentist 24 june 10.20', { title: 'dentist', ...once('2027-06-24', '10:20') }],
  [
    'third',
    'check in with Mira every 3 weeks',
    { title: 'check in with Mira', ...rule('WEEKLY;INTERVAL=3') },
  ],
  ['third', 'rent due on the 3rd each month', { title: 'rent', ...rule('MONTHLY;BYMONTHDAY=3') }],
  ['third', 'clean windows spring and autumn', 'ask'],
  [
    'third',
    'vet for the cat next thursday at 4.15pm',
    { title: 'vet for the cat', start: '2027-06-03', at: ['16:15'] },
  ],
  ['third', 'vitamin d daily in winter', 'ask'],
  ['third', 'laundry wednesdays & saturdays', { title: 'laundry', ...rule('WEEKLY;BYDAY=WE,SA') }],
  ['third', 'deposit money every payday', 'ask'],
  ['third', 'cancel the trial before 20 june', 'ask'],
  [
    'third',
    'take out the trash mon + thu',
    { title: 'take out the trash', ...rule('WEEKLY;BYDAY=MO,TH') },
  ],
  ['third', 'floss nightly', { title: 'floss' }],
  [
    'third',
    'change toothbrush every 3 months',
    { title: 'change toothbrush', ...rule('MONTHLY;INTERVAL=3') },
  ],
  ['third', 'eye test every 2 years after done', { title: 'eye test', ...after('P2Y') }],
  [
    'third',
    'book club last thursday monthly 7.30pm',
    { title: 'book club', ...rule('MONTHLY;BYDAY=-1TH'), at: ['19:30'] },
  ],
  [
    'third',
    'car wash fortnightly on sunday',
    { title: 'car wash', ...rule('WEEKLY;INTERVAL=2;BYDAY=SU') },
  ],
  [
    'third',
    'language lesson every weekday except friday at 8',
    { title: 'language lesson', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH'), at: ['08:00'] },
  ],
  ['third', 'write journal at least 4 times a week', 'ask'],
  ['third', 'salt the softener every 6 to 8 weeks', 'ask'],
  [
    'third',
    'send grandpa photos on the 1st and 3rd sunday of the month',
    { title: 'send grandpa photos', ...rule('MONTHLY;BYDAY=1SU,3SU') },
  ],
  [
    'third',
    'reorder contact lenses in 10 weeks',
    { title: 'reorder contact lenses', ...once('2027-08-10') },
  ],
  ['third', 'council tax 10 times a year', 'ask'],
  [
    'third',
    'mot test yearly on 9 october',
    { title: 'mot test', ...rule('YEARLY;BYMONTH=10;BYMONTHDAY=9') },
  ],
  ['third', 'physio mon 14/6 at 11', { title: 'physio', ...once('2027-06-14', '11:00') }],
  ['third', 'flu jab every october', { title: 'flu jab' }],
  [
    'third',
    'pick up prescription from Friday',
    { title: 'pick up prescription', ...once('2027-06-04') },
  ],
  [
    'third',
    'team lunch second wednesday of every other month 12:30',
    { title: 'team lunch', ...rule('MONTHLY;INTERVAL=2;BYDAY=2WE'), at: ['12:30'] },
  ],
  [
    'third',
    'boiler pressure every sun 9am, 5 min',
    { title: 'boiler pressure', ...rule('WEEKLY;BYDAY=SU'), at: ['09:00'], takes: 5 },
  ],
  ['third', 'walk 30 min every day', { title: 'walk' }],
  ['third', 'water the fern every 4-5 days', 'ask'],
  [
    'third',
    'practice scales every day but sunday',
    { title: 'practice scales', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA') },
  ],
  ['third', 'renew insurance 3 weeks before 1 august', 'ask'],
  ['third', 'turn mattress jan and july', 'ask'],
  ['third', 'post the parcel today', { title: 'post the parcel', ...once('2027-06-01') }],
  [
    'third',
    'charge the drill overnight every sunday',
    { title: 'charge the drill overnight', ...rule('WEEKLY;BYDAY=SU') },
  ],
  ['third', 'drops 3x daily until 10 june', { title: 'drops', ...times(3, 'day') }],
  ['third', 'clean the hob weekly-ish', 'ask'],
  [
    'third',
    'visit mum every other weekend',
    { title: 'visit mum', ...rule('WEEKLY;INTERVAL=2;BYDAY=SA,SU') },
  ],
  ['third', 'order cat food 2 weeks after last time', { title: 'order cat food', ...after('P2W') }],
  ['third', 'swap winter tyres in november', { title: 'swap winter tyres' }],
  [
    'third',
    'pay gardener on the last Friday, if closed the working day before',
    { title: 'pay gardener' },
  ],
  ['third', 'stretch mornings and evenings', 'ask'],
  ['third', 'payroll on the 25th or the working day before', { title: 'payroll' }],
  ['third', 'ring Otto at 18.45 tomorrow', { title: 'ring Otto', ...once('2027-06-02', '18:45') }],
  [
    'third',
    'check gutters twice yearly',
    { title: 'check gutters', ...rule('MONTHLY;INTERVAL=6') },
  ],
  [
    'third',
    'sourdough starter every 5 days starting saturday',
    { title: 'sourdough starter', ...rule('DAILY;INTERVAL=5'), start: '2027-06-05' },
  ],
  [
    'third',
    'call the school between 9 and 11 on Monday',
    { title: 'call the school', start: '2027-06-07' },
  ],
  ['third', 'piano tuner once in spring', 'ask'],
  [
    'third',
    'okay so I have to move the car every Monday and Thursday before nine in the morning',
    'ask',
  ],
  [
    'third',
    'I need to send in the meter reading on the last day of each month please',
    { ...rule('MONTHLY;BYMONTHDAY=-1') },
  ],
  ['third', 'could you remind me to take the bread out in twenty minutes', 'ask'],
  ['third', 'we should meet the neighbours about the hedge some time in July', 'ask'],
  [
    'third',
    'and also clean the aquarium every two weeks on Saturday takes forty minutes',
    { ...rule('WEEKLY;INTERVAL=2;BYDAY=SA'), takes: 40 },
  ],
  ['third', 'the plants need water every third day in summer and once a week in winter', 'ask'],
  ['third', 'my passport has to be renewed by the end of March 2028', { ...once('2028-03-31') }],
  ['third', 'I would like to call Jonas on the first Sunday of every month around five', 'ask'],
  // Behind another clause.
  ['behind', 'water the beans tomorrow noon and 4pm', { ...once('2027-06-02', '12:00', '16:00') }],
  [
    'behind',
    'ping me to water the cactus every day at 9',
    { title: 'water the cactus', ...rule('DAILY'), at: ['09:00'] },
  ],
  [
    'behind',
    'take out the bins every tuesday, remind me the evening before',
    { title: 'take out the bins', reminders: [{ before: 'P1D', at: '18:00' }] },
  ],
  ['behind', 'clean the oven monthly ~45 min', { title: 'clean the oven', takes: 45 }],
  [
    'behind',
    'check the hives every day 1 to 8 Dec',
    { title: 'check the hives', start: '2027-12-01', ends: { on: '2027-12-08' } },
  ],
  [
    'behind',
    'pay the milk every friday, notify me at 8',
    { title: 'pay the milk', ...rule('WEEKLY;BYDAY=FR'), reminders: [{ at: '08:00' }] },
  ],
];

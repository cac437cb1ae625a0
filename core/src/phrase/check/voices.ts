/**
 * Three hundred sentences of five people, typed in a hurry and dictated, with what each means on Tuesday
 * 1 June 2027; `ask`: vague, or at odds with itself. Written down before what reads them was changed for
 * them, and not changed since, but for eight meanings that had been noted wrongly: the usual hour of a
 * morning is eight, “sharp” is an exact hour, “nightly at quarter to ten” says which, a Tuesday named on a
 * Tuesday is that day, the end of February is its last day, “the last two Fridays”, “unless it’s a bank
 * holiday” and “ping me 10 min before handover” have one meaning each and need not be asked about.
 */
import { after, dates, once, quota, rule, type Said, workday } from './meanings.ts';

const STUDENT: readonly Said[] = [
  [
    'student',
    'stats problem set fridays',
    { title: 'stats problem set', ...rule('WEEKLY;BYDAY=FR') },
  ],
  ['student', 'lab tue + thu 2pm', { title: 'lab', ...rule('WEEKLY;BYDAY=TU,TH'), at: ['14:00'] }],
  ['student', 'library fines by fri', { title: 'library fines', ...once('2027-06-04') }],
  ['student', 'flashcards every day 20 mins', { title: 'flashcards', ...rule('DAILY'), takes: 20 }],
  [
    'student',
    'ring gran every other sun at 5',
    { title: 'ring gran', ...rule('WEEKLY;INTERVAL=2;BYDAY=SU') },
  ],
  ['student', 'gym 3x week', { title: 'gym', ...quota(3, 'week') }],
  ['student', 'run 4 times per week', { title: 'run', ...quota(4, 'week') }],
  [
    'student',
    'seminar wed 11am weekly until 30 june',
    { title: 'seminar', ...rule('WEEKLY;BYDAY=WE'), at: ['11:00'], ends: { on: '2027-06-30' } },
  ],
  ['student', 'hand in draft 18/6', { title: 'hand in draft', ...once('2027-06-18') }],
  [
    'student',
    'hand in final 2 july 5pm remind me 2 days before',
    { title: 'hand in final', ...once('2027-07-02', '17:00'), reminders: [{ before: 'P2D' }] },
  ],
  ['student', 'wash sheets every 10 days', { title: 'wash sheets', ...rule('DAILY;INTERVAL=10') }],
  [
    'student',
    'clean bathroom 7 days after last time',
    { title: 'clean bathroom', ...after('P7D') },
  ],
  ['student', 'top up bus card on the 1st', { title: 'top up bus card' }],
  ['student', 'rent due 1st every month', { title: 'rent', ...rule('MONTHLY;BYMONTHDAY=1') }],
  [
    'student',
    'council tax 15th monthly',
    { title: 'council tax', ...rule('MONTHLY;BYMONTHDAY=15') },
  ],
  ['student', 'bins mon nite', 'ask'],
  ['student', 'choir thurs 7.30pm', { title: 'choir', ...once('2027-06-03', '19:30') }],
  [
    'student',
    'choir every thurs 7.30pm',
    { title: 'choir', ...rule('WEEKLY;BYDAY=TH'), at: ['19:30'] },
  ],
  ['student', 'do taxes sometime in july', 'ask'],
  [
    'student',
    'email prof tomorrow morning',
    { title: 'email prof', ...once('2027-06-02', '08:00') },
  ],
  ['student', 'vitamins daily', { title: 'vitamins', ...rule('DAILY') }],
  ['student', 'vitamins everyday', { title: 'vitamins', ...rule('DAILY') }],
  ['student', 'vitamins evry day', 'ask'],
  ['student', 'back up thesis every evening', { title: 'back up thesis', ...rule('DAILY') }],
  [
    'student',
    'check job board mon/wed/fri',
    { title: 'check job board', ...rule('WEEKLY;BYDAY=MO,WE,FR') },
  ],
  [
    'student',
    'lecture mon-thu 9am',
    { title: 'lecture', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH'), at: ['09:00'] },
  ],
  [
    'student',
    'read chapter on weekdays',
    { title: 'read chapter', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR') },
  ],
  ['student', 'call landlord asap', 'ask'],
  ['student', 'pick up parcel today before 6pm', 'ask'],
  ['student', 'dentist 9 june 14:20', { title: 'dentist', ...once('2027-06-09', '14:20') }],
  ['student', 'haircut every 5 weeks', { title: 'haircut', ...rule('WEEKLY;INTERVAL=5') }],
  ['student', 'defrost freezer twice a year', 'ask'],
  [
    'student',
    'defrost freezer every 6 months',
    { title: 'defrost freezer', ...rule('MONTHLY;INTERVAL=6') },
  ],
  [
    'student',
    'exam revision daily from 7 june to 25 june',
    { title: 'exam revision', ...rule('DAILY'), start: '2027-06-07', ends: { on: '2027-06-25' } },
  ],
  [
    'student',
    'exam revision every day until the 25th',
    { title: 'exam revision', ...rule('DAILY'), ends: { on: '2027-06-25' } },
  ],
  [
    'student',
    'language app daily for 30 days',
    { title: 'language app', ...rule('DAILY'), ends: { within: 'P30D' } },
  ],
  [
    'student',
    'meal prep sundays 4pm takes 2h',
    { title: 'meal prep', ...rule('WEEKLY;BYDAY=SU'), at: ['16:00'], takes: 120 },
  ],
  [
    'student',
    'flat inspection 1st monday in july',
    { title: 'flat inspection', ...once('2027-07-05') },
  ],
  [
    'student',
    'submit timesheet last day of the month',
    { title: 'submit timesheet', ...rule('MONTHLY;BYMONTHDAY=-1') },
  ],
  [
    'student',
    'submit hours every 2nd friday',
    { title: 'submit hours', ...rule('WEEKLY;INTERVAL=2;BYDAY=FR') },
  ],
  ['student', 'water basil every 2 days skip weekends', 'ask'],
  [
    'student',
    'group call in 2 days at 10',
    { title: 'group call', ...once('2027-06-03', '10:00') },
  ],
  ['student', 'borrow tent sat', { title: 'borrow tent', ...once('2027-06-05') }],
  ['student', 'return tent mon 14 june', { title: 'return tent', ...once('2027-06-14') }],
  ['student', 'return tent tue 14 june', 'ask'],
  [
    'student',
    'sign up for modules 21st june 9am sharp',
    { title: 'sign up for modules', ...once('2027-06-21', '09:00') },
  ],
  ['student', 'physio exercises 3 times a day', { title: 'physio exercises', ...quota(3, 'day') }],
  [
    'student',
    'physio exercises at 8, 13 and 19 every day',
    { title: 'physio exercises', ...rule('DAILY'), at: ['08:00', '13:00', '19:00'] },
  ],
  [
    'student',
    'ok so i need to email my tutor every monday at nine and then remind me fifteen minutes before please',
    {
      title: 'email my tutor',
      ...rule('WEEKLY;BYDAY=MO'),
      at: ['09:00'],
      reminders: [{ before: 'PT15M' }],
    },
  ],
  [
    'student',
    'please remind me to pay the rent on the first of every month and tell me two days before at six in the evening',
    {
      title: 'pay the rent',
      ...rule('MONTHLY;BYMONTHDAY=1'),
      reminders: [{ before: 'P2D', at: '18:00' }],
    },
  ],
  [
    'student',
    'um i have to hand in the history essay on the twenty first of june at noon and i want a reminder the day before',
    {
      title: 'hand in the history essay',
      ...once('2027-06-21', '12:00'),
      reminders: [{ before: 'P1D' }],
    },
  ],
  [
    'student',
    'i want to go swimming three times a week',
    { title: 'go swimming', ...quota(3, 'week') },
  ],
  [
    'student',
    'can you put down laundry every saturday morning at ten starting this week',
    { title: 'laundry', ...rule('WEEKLY;BYDAY=SA'), at: ['10:00'] },
  ],
  [
    'student',
    'okay every weekday at seven in the morning take my iron tablet for the next three months',
    {
      title: 'take my iron tablet',
      ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR'),
      at: ['07:00'],
      ends: { within: 'P3M' },
    },
  ],
  [
    'student',
    "i should really change the bike chain two months after i've last done it",
    { title: 'change the bike chain', ...after('P2M') },
  ],
  [
    'student',
    'so my library books have to go back every three weeks on a thursday starting next thursday',
    { ...rule('WEEKLY;INTERVAL=3;BYDAY=TH') },
  ],
  ['student', 'let me know on friday at four that the parcel has to go out', 'ask'],
  [
    'student',
    'the flat meeting is on the first tuesday of every month at eight in the evening and it takes about an hour',
    { ...rule('MONTHLY;BYDAY=1TU'), at: ['20:00'], takes: 60 },
  ],
  ['student', 'clean the kitchen when i feel like it but at least once a week', 'ask'],
  [
    'student',
    'study spanish every day except sunday for half an hour at six pm',
    { title: 'study spanish', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA'), at: ['18:00'], takes: 30 },
  ],
];

const CARER: readonly Said[] = [
  [
    'carer',
    "Mum's tablets at 7.30am and 7.30pm daily",
    { title: "Mum's tablets", ...rule('DAILY'), at: ['07:30', '19:30'] },
  ],
  ['carer', 'Insulin before breakfast every day at 07:15', 'ask'],
  [
    'carer',
    'Warfarin check every 4 weeks on a Wednesday',
    { title: 'Warfarin check', ...rule('WEEKLY;INTERVAL=4;BYDAY=WE') },
  ],
  ['carer', 'Turn him every 2 hours', { title: 'Turn him' }],
  [
    'carer',
    'Drinks every hour from 9 to 17',
    {
      title: 'Drinks',
      ...rule('DAILY'),
      at: ['09:00', '10:00', '11:00', '12:00', '13:00', '14:00', '15:00', '16:00', '17:00'],
    },
  ],
  [
    'carer',
    'Hearing aid batteries 8 days after the last change',
    { title: 'Hearing aid batteries', ...after('P8D') },
  ],
  ['carer', 'Wheelchair service every year in May', { title: 'Wheelchair service' }],
  [
    'carer',
    'Repeat prescription every 28 days, remind me 5 days before',
    { title: 'Repeat prescription', ...rule('DAILY;INTERVAL=28'), reminders: [{ before: 'P5D' }] },
  ],
  [
    'carer',
    'Repeat prescription 28 days after I did it',
    { title: 'Repeat prescription', ...after('P28D') },
  ],
  [
    'carer',
    'Podiatrist on 24 June at 11.15',
    { title: 'Podiatrist', ...once('2027-06-24', '11:15') },
  ],
  [
    'carer',
    'Day centre on Tuesdays and Thursdays, 10am',
    { title: 'Day centre', ...rule('WEEKLY;BYDAY=TU,TH'), at: ['10:00'] },
  ],
  [
    'carer',
    'Day centre on Tuesdays and Thursdays except in August',
    { title: 'Day centre', ...rule('WEEKLY;BYMONTH=1,2,3,4,5,6,7,9,10,11,12;BYDAY=TU,TH') },
  ],
  ['carer', 'Weigh Dad every Monday morning', { title: 'Weigh Dad', ...rule('WEEKLY;BYDAY=MO') }],
  ['carer', 'Ring the surgery first thing on Monday', 'ask'],
  [
    'carer',
    'Ring the surgery on Monday at 8',
    { title: 'Ring the surgery', ...once('2027-06-07', '08:00') },
  ],
  ['carer', 'Flu jab in October', { title: 'Flu jab' }],
  [
    'carer',
    'Carer’s allowance form by 15 July',
    { title: 'Carer’s allowance form', ...once('2027-07-15') },
  ],
  ['carer', 'Blood test in six weeks', { title: 'Blood test', ...once('2027-07-13') }],
  ['carer', 'Blood test six weeks after the last one', { title: 'Blood test', ...after('P6W') }],
  [
    'carer',
    'Change the bed every Friday, 25 minutes',
    { title: 'Change the bed', ...rule('WEEKLY;BYDAY=FR'), takes: 25 },
  ],
  [
    'carer',
    'Order pads on the 10th, 20th and last day of the month',
    { title: 'Order pads', ...rule('MONTHLY;BYMONTHDAY=10,20,-1') },
  ],
  [
    'carer',
    'Eye drops 4 times a day for 2 weeks',
    { title: 'Eye drops', ...quota(4, 'day'), ends: { within: 'P2W' } },
  ],
  [
    'carer',
    'Eye drops at 8am, noon, 4pm and 8pm until 12 June',
    {
      title: 'Eye drops',
      ...rule('DAILY'),
      at: ['08:00', '12:00', '16:00', '20:00'],
      ends: { on: '2027-06-12' },
    },
  ],
  [
    'carer',
    'Exercise class every Wednesday 2.30 to 3.30pm',
    { title: 'Exercise class', ...rule('WEEKLY;BYDAY=WE'), at: ['14:30'], takes: 60 },
  ],
  ['carer', 'Respite stay from 10 to 17 July', 'ask'],
  [
    'carer',
    'Pay the cleaner every second Friday',
    { title: 'Pay the cleaner', ...rule('WEEKLY;INTERVAL=2;BYDAY=FR') },
  ],
  [
    'carer',
    'Pay the cleaner on the second Friday of each month',
    { title: 'Pay the cleaner', ...rule('MONTHLY;BYDAY=2FR') },
  ],
  ['carer', 'Nails every three weeks after it was done', { title: 'Nails', ...after('P3W') }],
  [
    'carer',
    'Review the care plan quarterly',
    { title: 'Review the care plan', ...rule('MONTHLY;INTERVAL=3') },
  ],
  [
    'carer',
    'Review the care plan on the first working day of each quarter',
    { title: 'Review the care plan', ...workday(1, 'quarter') },
  ],
  [
    'carer',
    'Invoice the council on the last working day of every month',
    { title: 'Invoice the council', ...workday(-1, 'month') },
  ],
  [
    'carer',
    'Bank run on the 5th of the month, or the next working day if closed',
    { title: 'Bank run', ...rule('MONTHLY;BYMONTHDAY=5'), closedDays: 'after' },
  ],
  ['carer', 'Bank run on the 5th of the month; if it falls on a weekend, the Friday before', 'ask'],
  [
    'carer',
    'Physio Thurs 3pm, remind me 1 hour before',
    { title: 'Physio', ...once('2027-06-03', '15:00'), reminders: [{ before: 'PT1H' }] },
  ],
  [
    'carer',
    'Medication review every 6 months from 1 September',
    { title: 'Medication review', ...rule('MONTHLY;INTERVAL=6'), start: '2027-09-01' },
  ],
  [
    'carer',
    'Stairlift service yearly on 3 March',
    { title: 'Stairlift service', ...rule('YEARLY;BYMONTH=3;BYMONTHDAY=3') },
  ],
  [
    'carer',
    'Mum’s birthday cake every 14 February',
    { title: 'Mum’s birthday cake', ...rule('YEARLY;BYMONTH=2;BYMONTHDAY=14') },
  ],
  ['carer', 'Antibiotic every 8 hours for 7 days', { title: 'Antibiotic' }],
  [
    'carer',
    'Check the smoke alarm on the 1st of January, April, July and October',
    { title: 'Check the smoke alarm', ...rule('YEARLY;BYMONTH=1,4,7,10;BYMONTHDAY=1') },
  ],
  [
    'carer',
    'Taxi to clinic 9 June, 23 June and 7 July at 8:45',
    { title: 'Taxi to clinic', ...dates('2027-06-09', '2027-06-23', '2027-07-07'), at: ['08:45'] },
  ],
  [
    'carer',
    'Visit every day apart from Wednesday',
    { title: 'Visit', ...rule('WEEKLY;BYDAY=MO,TU,TH,FR,SA,SU') },
  ],
  [
    'carer',
    'Visit every day but not on Sundays',
    { title: 'Visit', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA') },
  ],
  ['carer', 'Sit with Joan most afternoons', 'ask'],
  [
    'carer',
    'Meals to Joan on alternate Tuesdays',
    { title: 'Meals to Joan', ...rule('WEEKLY;INTERVAL=2;BYDAY=TU') },
  ],
  ['carer', 'Phone my sister every so often', 'ask'],
  [
    'carer',
    'Oxygen delivery every Monday unless it’s a bank holiday',
    { title: 'Oxygen delivery', ...rule('WEEKLY;BYDAY=MO'), closedDays: 'drop' },
  ],
  [
    'carer',
    'Bath Mondays and Fridays at half past six in the evening',
    { title: 'Bath', ...rule('WEEKLY;BYDAY=MO,FR'), at: ['18:30'] },
  ],
  [
    'carer',
    'Check feet nightly at quarter to ten',
    { title: 'Check feet', ...rule('DAILY'), at: ['21:45'] },
  ],
  [
    'carer',
    'remind me every morning at eight to give dad his blood pressure tablet',
    { title: 'give dad his blood pressure tablet', ...rule('DAILY'), at: ['08:00'] },
  ],
  [
    'carer',
    'I need to change the catheter bag every seven days counting from when I last did it',
    { title: 'change the catheter bag', ...after('P7D') },
  ],
  [
    'carer',
    'Please put in that the district nurse comes every Tuesday and Friday at ten thirty',
    { ...rule('WEEKLY;BYDAY=TU,FR'), at: ['10:30'] },
  ],
  [
    'carer',
    'okay so on the third Thursday of every month at two o’clock I take mum to the memory clinic and I want to be told the evening before',
    { ...rule('MONTHLY;BYDAY=3TH'), at: ['14:00'] },
  ],
  [
    'carer',
    'every two weeks on Saturday I do the big shop and it takes about two hours',
    { ...rule('WEEKLY;INTERVAL=2;BYDAY=SA'), takes: 120 },
  ],
  [
    'carer',
    'make sure I order the dressings four weeks after the last order and remind me three days before that',
    { title: 'order the dressings', ...after('P4W'), reminders: [{ before: 'P3D' }] },
  ],
  [
    'carer',
    'well the carers’ group meets on the last Wednesday of the month at half past seven except in December',
    { ...rule('MONTHLY;BYMONTH=1,2,3,4,5,6,7,8,9,10,11;BYDAY=-1WE'), at: ['19:30'] },
  ],
  [
    'carer',
    'from the seventh of June give her the new cream twice a day for ten days',
    {
      title: 'give her the new cream',
      start: '2027-06-07',
      ...quota(2, 'day'),
      ends: { within: 'P10D' },
    },
  ],
  [
    'carer',
    'next Tuesday at quarter past three take the dog to the vet please and remind me at noon that day',
    {
      title: 'take the dog to the vet',
      ...once('2027-06-08', '15:15'),
      reminders: [{ at: '12:00' }],
    },
  ],
  [
    'carer',
    'dad has to be turned every two hours between eight in the morning and eight in the evening',
    { ...rule('DAILY'), at: ['08:00', '10:00', '12:00', '14:00', '16:00', '18:00', '20:00'] },
  ],
  ['carer', 'Ask for new glasses in about three weeks', 'ask'],
  [
    'carer',
    'Renew the parking badge by the end of July',
    { title: 'Renew the parking badge', ...once('2027-07-31') },
  ],
];

const GARDENER: readonly Said[] = [
  ['gardener', 'Feed tomatoes weekly May to September', { title: 'Feed tomatoes' }],
  [
    'gardener',
    'Feed tomatoes every Sunday in June, July and August',
    { title: 'Feed tomatoes', ...rule('WEEKLY;BYMONTH=6,7,8;BYDAY=SU') },
  ],
  ['gardener', 'Mow lawn 10 days after last mow', { title: 'Mow lawn', ...after('P10D') }],
  ['gardener', 'Mow lawn every 10 days, April through October', { title: 'Mow lawn' }],
  ['gardener', 'Water greenhouse every morning and evening', 'ask'],
  [
    'gardener',
    'Water greenhouse 7am & 7pm daily',
    { title: 'Water greenhouse', ...rule('DAILY'), at: ['07:00', '19:00'] },
  ],
  ['gardener', 'Prune the roses in late winter', 'ask'],
  [
    'gardener',
    'Prune the roses every year at the end of February',
    { title: 'Prune the roses', ...rule('YEARLY;BYMONTH=2;BYMONTHDAY=-1') },
  ],
  [
    'gardener',
    'Prune the roses each 20 February',
    { title: 'Prune the roses', ...rule('YEARLY;BYMONTH=2;BYMONTHDAY=20') },
  ],
  ['gardener', 'Sow lettuce every 3 weeks until mid August', 'ask'],
  [
    'gardener',
    'Sow lettuce every 3 weeks until 15 August',
    { title: 'Sow lettuce', ...rule('WEEKLY;INTERVAL=3'), ends: { on: '2027-08-15' } },
  ],
  [
    'gardener',
    'Sow beans every 2 weeks, 4 times',
    { title: 'Sow beans', ...rule('WEEKLY;INTERVAL=2'), ends: { after: 4 } },
  ],
  [
    'gardener',
    'Turn compost every fortnight',
    { title: 'Turn compost', ...rule('WEEKLY;INTERVAL=2') },
  ],
  ['gardener', 'Turn compost when it is 3 weeks since I last turned it', { ...after('P3W') }],
  ['gardener', 'Clean gutters in spring and autumn', 'ask'],
  [
    'gardener',
    'Clean gutters every 1 April and 1 November',
    { title: 'Clean gutters', ...rule('YEARLY;BYMONTH=4,11;BYMONTHDAY=1') },
  ],
  ['gardener', 'Service mower first Saturday of March', { title: 'Service mower' }],
  [
    'gardener',
    'Service mower every year on the first Saturday of March',
    { title: 'Service mower', ...rule('YEARLY;BYMONTH=3;BYDAY=1SA') },
  ],
  ['gardener', 'Slug patrol every 3 to 4 days', 'ask'],
  [
    'gardener',
    'Slug patrol every third evening',
    { title: 'Slug patrol', ...rule('DAILY;INTERVAL=3') },
  ],
  ['gardener', 'Open coldframe at 9, close it at 17 daily', 'ask'],
  [
    'gardener',
    'Pay allotment rent yearly on 1 October, show it from 2 weeks before',
    { title: 'Pay allotment rent', ...rule('YEARLY;BYMONTH=10;BYMONTHDAY=1'), opensBefore: 'P2W' },
  ],
  [
    'gardener',
    'Allotment meeting last Sunday of the month, 11am',
    { title: 'Allotment meeting', ...rule('MONTHLY;BYDAY=-1SU'), at: ['11:00'] },
  ],
  [
    'gardener',
    'Allotment meeting second last Sunday of every month',
    { title: 'Allotment meeting', ...rule('MONTHLY;BYDAY=-2SU') },
  ],
  [
    'gardener',
    'Harvest courgettes every second day',
    { title: 'Harvest courgettes', ...rule('DAILY;INTERVAL=2') },
  ],
  ['gardener', 'Dig over bed 4 on Saturday', { title: 'Dig over bed 4', ...once('2027-06-05') }],
  [
    'gardener',
    'Dig over bed 4 Saturday 8am about 90 min',
    { title: 'Dig over bed 4', ...once('2027-06-05', '08:00'), takes: 90 },
  ],
  ['gardener', 'Spray apples if no rain on Friday', 'ask'],
  [
    'gardener',
    'Spray apples every 14 days after it was done',
    { title: 'Spray apples', ...after('P14D') },
  ],
  ['gardener', 'Order seed potatoes in January', { title: 'Order seed potatoes' }],
  [
    'gardener',
    'Order seed potatoes on 5 January each year',
    { title: 'Order seed potatoes', ...rule('YEARLY;BYMONTH=1;BYMONTHDAY=5') },
  ],
  [
    'gardener',
    'Plant out leeks on 12, 13 and 14 June',
    { title: 'Plant out leeks', ...dates('2027-06-12', '2027-06-13', '2027-06-14') },
  ],
  ['gardener', 'Check bird box weekly from now on', { title: 'Check bird box', ...rule('WEEKLY') }],
  [
    'gardener',
    'Check bird box weekly from 20 June',
    { title: 'Check bird box', ...rule('WEEKLY'), start: '2027-06-20' },
  ],
  [
    'gardener',
    'Feed the worms Weds and Suns',
    { title: 'Feed the worms', ...rule('WEEKLY;BYDAY=WE,SU') },
  ],
  ['gardener', 'Tidy shed on a rainy day', 'ask'],
  ['gardener', 'Tidy shed once a month', { title: 'Tidy shed' }],
  ['gardener', 'Weed the paths twice a month', { title: 'Weed the paths', ...quota(2, 'month') }],
  ['gardener', 'Lift dahlias after the first frost', 'ask'],
  ['gardener', 'Trim hedge in the first week of July', 'ask'],
  [
    'gardener',
    'Trim hedge every 8 weeks on a Saturday from 3 July',
    { title: 'Trim hedge', ...rule('WEEKLY;INTERVAL=8;BYDAY=SA'), start: '2027-07-03' },
  ],
  [
    'gardener',
    'Trim hedge 8 weeks after finishing, on a Saturday',
    { title: 'Trim hedge', ...after('P8W', { onto: 'FREQ=WEEKLY;BYDAY=SA' }) },
  ],
  [
    'gardener',
    'Top up pond every 5 days until 31/8',
    { title: 'Top up pond', ...rule('DAILY;INTERVAL=5'), ends: { on: '2027-08-31' } },
  ],
  ['gardener', 'Wash pots Sat or Sun', 'ask'],
  ['gardener', 'Check frost forecast nightly in April', { title: 'Check frost forecast' }],
  [
    'gardener',
    'Read rain gauge on the 1st and 16th at 8',
    { title: 'Read rain gauge', ...rule('MONTHLY;BYMONTHDAY=1,16'), at: ['08:00'] },
  ],
  [
    'gardener',
    'Open garden Sunday 20 June 2 to 5pm',
    { title: 'Open garden', ...once('2027-06-20', '14:00'), takes: 180 },
  ],
  [
    'gardener',
    'Green bin every other Thursday starting 10 June',
    { title: 'Green bin', ...rule('WEEKLY;INTERVAL=2;BYDAY=TH'), start: '2027-06-10' },
  ],
  [
    'gardener',
    'Green bin every other Thursday, remind me the evening before',
    { title: 'Green bin', ...rule('WEEKLY;INTERVAL=2;BYDAY=TH') },
  ],
  [
    'gardener',
    'I want to water the tomatoes every day at seven in the evening from now until the end of August',
    { title: 'water the tomatoes', ...rule('DAILY'), at: ['19:00'], ends: { on: '2027-08-31' } },
  ],
  [
    'gardener',
    'remind me to turn the compost heap three weeks after I last did it and it takes about forty minutes',
    { title: 'turn the compost heap', ...after('P3W'), takes: 40 },
  ],
  [
    'gardener',
    'so every spring on the first of March I have to sharpen the shears',
    { ...rule('YEARLY;BYMONTH=3;BYMONTHDAY=1') },
  ],
  ['gardener', 'on Saturdays in summer open the gate at nine', 'ask'],
  [
    'gardener',
    'please add lawn feed every six weeks starting on the fifteenth of June and stop after four times',
    { title: 'lawn feed', ...rule('WEEKLY;INTERVAL=6'), start: '2027-06-15', ends: { after: 4 } },
  ],
  [
    'gardener',
    'every first Sunday of the month at ten I meet the allotment people except in January and February',
    { ...rule('MONTHLY;BYMONTH=3,4,5,6,7,8,9,10,11,12;BYDAY=1SU'), at: ['10:00'] },
  ],
  ['gardener', 'the greenhouse needs shading off by the middle of September', 'ask'],
  [
    'gardener',
    'I must remember to pick the beans every two days and I mean two days after I picked them',
    'ask',
  ],
  [
    'gardener',
    'check the water butt every Monday and Thursday and remind me at six pm',
    { title: 'check the water butt', ...rule('WEEKLY;BYDAY=MO,TH'), reminders: [{ at: '18:00' }] },
  ],
  [
    'gardener',
    'Net the strawberries tomorrow, 40 minutes',
    { title: 'Net the strawberries', ...once('2027-06-02'), takes: 40 },
  ],
  ['gardener', 'Paint fence next weekend', 'ask'],
];

const NURSE: readonly Said[] = [
  [
    'nurse',
    'night shift 4, 5 and 6 june 20:30',
    { title: 'night shift', ...dates('2027-06-04', '2027-06-05', '2027-06-06'), at: ['20:30'] },
  ],
  [
    'nurse',
    'early shift every 4 days from 3 june 0645',
    { title: 'early shift', ...rule('DAILY;INTERVAL=4'), start: '2027-06-03', at: ['06:45'] },
  ],
  [
    'nurse',
    'pick up rota last friday of month',
    { title: 'pick up rota', ...rule('MONTHLY;BYDAY=-1FR') },
  ],
  ['nurse', 'locker check 1st workday of month', { title: 'locker check', ...workday(1, 'month') }],
  [
    'nurse',
    'mandatory training every year by 30 nov',
    { title: 'mandatory training', ...rule('YEARLY;BYMONTH=11;BYMONTHDAY=30') },
  ],
  [
    'nurse',
    'pin renewal 31 oct yearly, start 6 weeks early',
    { title: 'pin renewal', ...rule('YEARLY;BYMONTH=10;BYMONTHDAY=31'), opensBefore: 'P6W' },
  ],
  ['nurse', 'clean stethoscope every shift', 'ask'],
  ['nurse', 'hand cream 5x/day', { title: 'hand cream', ...quota(5, 'day') }],
  [
    'nurse',
    'obs 6am 10am 2pm 6pm 10pm daily',
    { title: 'obs', ...rule('DAILY'), at: ['06:00', '10:00', '14:00', '18:00', '22:00'] },
  ],
  [
    'nurse',
    'crash trolley check daily 07:00 & 19:00',
    { title: 'crash trolley check', ...rule('DAILY'), at: ['07:00', '19:00'] },
  ],
  ['nurse', 'supervision every 6 wks', { title: 'supervision', ...rule('WEEKLY;INTERVAL=6') }],
  ['nurse', 'supervision 6 weeks after last one done', { title: 'supervision', ...after('P6W') }],
  ['nurse', 'book leave 8 weeks before 23 august', 'ask'],
  [
    'nurse',
    'timesheet mondays noon',
    { title: 'timesheet', ...rule('WEEKLY;BYDAY=MO'), at: ['12:00'] },
  ],
  [
    'nurse',
    'sleep study appt 17.06.2027 13:30',
    { title: 'sleep study appt', ...once('2027-06-17', '13:30') },
  ],
  ['nurse', 'car mot 22 aug 27', { title: 'car mot', ...once('2027-08-22') }],
  ['nurse', 'car wash every 3rd sunday', 'ask'],
  ['nurse', 'uniform wash after every third day', 'ask'],
  [
    'nurse',
    'uniforms in wash mon, wed, sat',
    { title: 'uniforms in wash', ...rule('WEEKLY;BYDAY=MO,WE,SA') },
  ],
  [
    'nurse',
    'fridge temps daily at 8 except weekends',
    { title: 'fridge temps', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR'), at: ['08:00'] },
  ],
  [
    'nurse',
    'fridge temps every day 8am takes 5 min',
    { title: 'fridge temps', ...rule('DAILY'), at: ['08:00'], takes: 5 },
  ],
  ['nurse', 'cpr refresher in 11 months', { title: 'cpr refresher', ...once('2028-05-01') }],
  [
    'nurse',
    'pay parking permit 28th each month',
    { title: 'pay parking permit', ...rule('MONTHLY;BYMONTHDAY=28') },
  ],
  ['nurse', 'pay parking permit on the 31st', { title: 'pay parking permit' }],
  ['nurse', 'yoga tues 6.15 pm', { title: 'yoga', ...once('2027-06-01', '18:15') }],
  [
    'nurse',
    'yoga tuesdays 6.15 pm 10 times',
    { title: 'yoga', ...rule('WEEKLY;BYDAY=TU'), at: ['18:15'], ends: { after: 10 } },
  ],
  [
    'nurse',
    'yoga tuesdays for 10 weeks',
    { title: 'yoga', ...rule('WEEKLY;BYDAY=TU'), ends: { within: 'P10W' } },
  ],
  [
    'nurse',
    'change water filter 60 days after changing it',
    { title: 'change water filter', ...after('P60D') },
  ],
  ['nurse', 'call in re bank shifts wed/thu', 'ask'],
  ['nurse', 'call mum after night shift', 'ask'],
  ['nurse', 'vaccines due 2028-02-14', { title: 'vaccines', ...once('2028-02-14') }],
  ['nurse', 'drug count every 12 hours', { title: 'drug count' }],
  [
    'nurse',
    'drug count at 0730 and 1930 every day',
    { title: 'drug count', ...rule('DAILY'), at: ['07:30', '19:30'] },
  ],
  ['nurse', 'ring occ health this friday at 9ish', 'ask'],
  ['nurse', 'swap lanyard monthly', { title: 'swap lanyard', ...rule('MONTHLY') }],
  [
    'nurse',
    'audit charts on the last two fridays of the month',
    { title: 'audit charts', ...rule('MONTHLY;BYDAY=-1FR,-2FR') },
  ],
  [
    'nurse',
    'audit charts on the 2nd and 4th friday',
    { title: 'audit charts', ...rule('MONTHLY;BYDAY=2FR,4FR') },
  ],
  [
    'nurse',
    'union dues quarterly on the 15th',
    { title: 'union dues', ...rule('MONTHLY;INTERVAL=3;BYMONTHDAY=15') },
  ],
  [
    'nurse',
    'long day every mon and tue, 0700, remind me the night before at 9pm',
    {
      title: 'long day',
      ...rule('WEEKLY;BYDAY=MO,TU'),
      at: ['07:00'],
      reminders: [{ before: 'P1D', at: '21:00' }],
    },
  ],
  [
    'nurse',
    'ping me 10 min before handover every day at 19:30',
    { title: 'handover', ...rule('DAILY'), at: ['19:30'], reminders: [{ before: 'PT10M' }] },
  ],
  [
    'nurse',
    'handover every day at 19:30 ping me 10 min before',
    { title: 'handover', ...rule('DAILY'), at: ['19:30'], reminders: [{ before: 'PT10M' }] },
  ],
  [
    'nurse',
    'revalidation due 13 may 2028, remind me a month before',
    { title: 'revalidation', ...once('2028-05-13'), reminders: [{ before: 'P1M' }] },
  ],
  ['nurse', 'blood bank course 7 sept - 9 sept', 'ask'],
  ['nurse', 'night feed every 3 hours', { title: 'night feed' }],
  ['nurse', 'half day thursday', 'ask'],
  ['nurse', 'appraisal in a fortnight', { title: 'appraisal', ...once('2027-06-15') }],
  ['nurse', 'renew dbs 3 yrs from now', { title: 'renew dbs', ...once('2030-06-01') }],
  ['nurse', 'stock order every weekday, or the next one if closed', 'ask'],
  [
    'nurse',
    'right then every second week on monday tuesday and wednesday I am on earlies at quarter to seven',
    { ...rule('WEEKLY;INTERVAL=2;BYDAY=MO,TU,WE'), at: ['06:45'] },
  ],
  [
    'nurse',
    'please remind me to take my tablets every night at ten',
    { title: 'take my tablets', ...rule('DAILY'), at: ['22:00'] },
  ],
  [
    'nurse',
    'I have got to complete the e-learning by the thirtieth of June and I want reminding a week before',
    { title: 'complete the e-learning', ...once('2027-06-30'), reminders: [{ before: 'P1W' }] },
  ],
  [
    'nurse',
    'set up a check of the crash trolley every day at seven in the morning and seven in the evening',
    { ...rule('DAILY'), at: ['07:00', '19:00'] },
  ],
  [
    'nurse',
    'could you remind me on the last working day of each month to send in my overtime',
    { title: 'send in my overtime', ...workday(-1, 'month') },
  ],
  ['nurse', 'every eight weeks after I last had it book the back massage for a Saturday', 'ask'],
  [
    'nurse',
    'and then on Thursday the tenth of June at half past one there is the sleep clinic',
    { ...once('2027-06-10', '13:30') },
  ],
  [
    'nurse',
    'oh and also water the ward plants twice a week please',
    { title: 'water the ward plants', ...quota(2, 'week') },
  ],
  [
    'nurse',
    'I work nights on the eleventh twelfth and thirteenth of June starting at half past eight in the evening',
    { at: ['20:30'] },
  ],
  [
    'nurse',
    'change the sharps bin every Monday but if that is a bank holiday then on the Tuesday',
    'ask',
  ],
  ['nurse', 'ring mum every Sunday at six unless I am on shift', 'ask'],
  ['nurse', 'once it has been five days since I did it clean the humidifier', { ...after('P5D') }],
];

const SHOP: readonly Said[] = [
  [
    'shopkeeper',
    'Bank takings every weekday 4pm',
    { title: 'Bank takings', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR'), at: ['16:00'] },
  ],
  [
    'shopkeeper',
    'VAT return due 7th of Feb, May, Aug and Nov',
    { title: 'VAT return', ...rule('YEARLY;BYMONTH=2,5,8,11;BYMONTHDAY=7') },
  ],
  [
    'shopkeeper',
    'VAT return quarterly, due the 7th, remind me 10 days before',
    {
      title: 'VAT return',
      ...rule('MONTHLY;INTERVAL=3;BYMONTHDAY=7'),
      reminders: [{ before: 'P10D' }],
    },
  ],
  ['shopkeeper', 'Stocktake last Sunday of every quarter', { title: 'Stocktake' }],
  [
    'shopkeeper',
    'Stocktake every 3 months on the last Sunday',
    { title: 'Stocktake', ...rule('MONTHLY;INTERVAL=3;BYDAY=-1SU') },
  ],
  [
    'shopkeeper',
    'Wages every Thursday by noon',
    { title: 'Wages', ...rule('WEEKLY;BYDAY=TH'), at: ['12:00'] },
  ],
  [
    'shopkeeper',
    'Milk order daily by 10am',
    { title: 'Milk order', ...rule('DAILY'), at: ['10:00'] },
  ],
  [
    'shopkeeper',
    'Window cleaner every 4 weeks on Tues',
    { title: 'Window cleaner', ...rule('WEEKLY;INTERVAL=4;BYDAY=TU') },
  ],
  [
    'shopkeeper',
    'Change window display 1st of the month',
    { title: 'Change window display', ...rule('MONTHLY;BYMONTHDAY=1') },
  ],
  [
    'shopkeeper',
    'Insurance renewal 4 Dec every year',
    { title: 'Insurance renewal', ...rule('YEARLY;BYMONTH=12;BYMONTHDAY=4') },
  ],
  ['shopkeeper', 'Insurance renewal every December', { title: 'Insurance renewal' }],
  [
    'shopkeeper',
    'Bread order Mon-Sat 6am',
    { title: 'Bread order', ...rule('WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA'), at: ['06:00'] },
  ],
  ['shopkeeper', 'Late opening Thursdays till 8', 'ask'],
  [
    'shopkeeper',
    'Christmas stock order 1 September',
    { title: 'Christmas stock order', ...once('2027-09-01') },
  ],
  [
    'shopkeeper',
    'Order till rolls 3 weeks after the last order',
    { title: 'Order till rolls', ...after('P3W') },
  ],
  [
    'shopkeeper',
    'Pay rent on the first working day of the month',
    { title: 'Pay rent', ...workday(1, 'month') },
  ],
  ['shopkeeper', 'Pay rent on the 25th, before if closed', { title: 'Pay rent' }],
  [
    'shopkeeper',
    'Pay suppliers on the 15th and the last day of every month',
    { title: 'Pay suppliers', ...rule('MONTHLY;BYMONTHDAY=15,-1') },
  ],
  [
    'shopkeeper',
    'Pay suppliers on the 28th or the working day before',
    { title: 'Pay suppliers', closedDays: 'before' },
  ],
  [
    'shopkeeper',
    'Market stall Sat 12 and Sat 26 June',
    { title: 'Market stall', ...dates('2027-06-12', '2027-06-26') },
  ],
  [
    'shopkeeper',
    'Market stall every Saturday until Christmas',
    { title: 'Market stall', ...rule('WEEKLY;BYDAY=SA'), ends: { on: '2027-12-25' } },
  ],
  ['shopkeeper', 'Fire drill twice yearly', 'ask'],
  ['shopkeeper', 'Fire extinguisher check monthly on a Monday', 'ask'],
  [
    'shopkeeper',
    'Fire extinguisher check on the first Monday monthly',
    { title: 'Fire extinguisher check', ...rule('MONTHLY;BYDAY=1MO') },
  ],
  ['shopkeeper', 'PAT test every two years', { title: 'PAT test', ...rule('YEARLY;INTERVAL=2') }],
  ['shopkeeper', 'Descale coffee machine every 200 cups', 'ask'],
  [
    'shopkeeper',
    'Descale coffee machine 5 weeks after descaling',
    { title: 'Descale coffee machine', ...after('P5W') },
  ],
  ['shopkeeper', 'Empty bins Mon, Wed + Fri after closing', 'ask'],
  [
    'shopkeeper',
    'Newsletter 2nd Tuesday monthly at 10',
    { title: 'Newsletter', ...rule('MONTHLY;BYDAY=2TU'), at: ['10:00'] },
  ],
  [
    'shopkeeper',
    'Newsletter each month on its third Tuesday',
    { title: 'Newsletter', ...rule('MONTHLY;BYDAY=3TU') },
  ],
  [
    'shopkeeper',
    'Call rep back Wed at 3.15',
    { title: 'Call rep back', ...once('2027-06-02', '15:15') },
  ],
  ['shopkeeper', 'Check delivery in an hour', 'ask'],
  ['shopkeeper', 'Licence renewal 30/09/2027', { title: 'Licence renewal', ...once('2027-09-30') }],
  [
    'shopkeeper',
    'Licence fee 30 Sept yearly',
    { title: 'Licence fee', ...rule('YEARLY;BYMONTH=9;BYMONTHDAY=30') },
  ],
  [
    'shopkeeper',
    'Staff rota every 2 weeks on Fri by 5pm',
    { title: 'Staff rota', ...rule('WEEKLY;INTERVAL=2;BYDAY=FR'), at: ['17:00'] },
  ],
  [
    'shopkeeper',
    'Staff meeting 1st & 3rd Wed 8.30am',
    { title: 'Staff meeting', ...rule('MONTHLY;BYDAY=1WE,3WE'), at: ['08:30'] },
  ],
  [
    'shopkeeper',
    'Deep clean kitchen every 10 working days',
    { title: 'Deep clean kitchen', repeat: { by: 'calendar', everyWorkdays: 10 } },
  ],
  [
    'shopkeeper',
    'Chase invoice 14 days from today',
    { title: 'Chase invoice', ...once('2027-06-15') },
  ],
  [
    'shopkeeper',
    'Chase invoice a week on Friday',
    { title: 'Chase invoice', ...once('2027-06-11') },
  ],
  ['shopkeeper', 'Sale starts 1 July ends 14 July', 'ask'],
  [
    'shopkeeper',
    'Count float every morning 8.45',
    { title: 'Count float', ...rule('DAILY'), at: ['08:45'] },
  ],
  ['shopkeeper', 'Back up the till nightly', { title: 'Back up the till', ...rule('DAILY') }],
  ['shopkeeper', 'Feed shop cat morning and night', 'ask'],
  [
    'shopkeeper',
    'Flowers for the counter every Fri, not in August',
    {
      title: 'Flowers for the counter',
      ...rule('WEEKLY;BYMONTH=1,2,3,4,5,6,7,9,10,11,12;BYDAY=FR'),
    },
  ],
  ['shopkeeper', 'Check fire exits daily during opening hours', 'ask'],
  ['shopkeeper', 'Business rates 10 instalments on the 1st from April', 'ask'],
  ['shopkeeper', 'Year end accounts 9 months after 31 March', 'ask'],
  ['shopkeeper', 'Review prices in January and July', 'ask'],
  [
    'shopkeeper',
    'I want to be reminded every Friday at three to do the banking and it takes about twenty minutes',
    { title: 'do the banking', ...rule('WEEKLY;BYDAY=FR'), at: ['15:00'], takes: 20 },
  ],
  [
    'shopkeeper',
    'Please put the bins out every Tuesday night and remind me at seven in the evening',
    { title: 'put the bins out', ...rule('WEEKLY;BYDAY=TU'), reminders: [{ at: '19:00' }] },
  ],
  [
    'shopkeeper',
    'okay the accountant needs the receipts on the tenth of every month and I should be reminded three days before',
    { ...rule('MONTHLY;BYMONTHDAY=10'), reminders: [{ before: 'P3D' }] },
  ],
  [
    'shopkeeper',
    'every working day at half past five cash up and lock the back door',
    { title: 'cash up and lock the back door', at: ['17:30'] },
  ],
  [
    'shopkeeper',
    'remind me to order the Christmas cards on the first Monday in September every year',
    { title: 'order the Christmas cards', ...rule('YEARLY;BYMONTH=9;BYDAY=1MO') },
  ],
  [
    'shopkeeper',
    'I do the stock check at the end of every month and it takes three hours',
    { ...rule('MONTHLY;BYMONTHDAY=-1'), takes: 180 },
  ],
  [
    'shopkeeper',
    'so from the first of July we open on Sundays too so add open the shop every Sunday at ten',
    'ask',
  ],
  [
    'shopkeeper',
    'we get a delivery every Monday Wednesday and Friday at six thirty in the morning except bank holidays',
    { ...rule('WEEKLY;BYDAY=MO,WE,FR'), at: ['06:30'] },
  ],
  [
    'shopkeeper',
    'clean the coffee machine every day after we close and do it properly once a week',
    'ask',
  ],
  [
    'shopkeeper',
    'ring the landlord tomorrow at eleven about the roof and then again in two weeks',
    'ask',
  ],
  [
    'shopkeeper',
    'Renew the alarm contract by 31 January next year',
    { title: 'Renew the alarm contract', ...once('2028-01-31') },
  ],
  [
    'shopkeeper',
    'Order paper bags every six weeks after I ordered, last done 15 May',
    { title: 'Order paper bags', ...after('P6W'), start: '2027-06-26' },
  ],
];

export const VOICES: readonly Said[] = [...STUDENT, ...CARER, ...GARDENER, ...NURSE, ...SHOP];

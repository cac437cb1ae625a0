import { checkReminders } from './reminders.ts';

const error = (given: unknown) => {
  try {
    checkReminders(given);
  } catch (thrown) {
    const { code, where } = thrown as { code: string; where: string };
    return [code, where];
  }
  return null;
};

test('reminders are given in their order, each once, without what says nothing', () => {
  expect(
    checkReminders([
      { before: 'P2D', at: '18:00', of: 'due' },
      { before: 'PT2H' },
      { before: 'P2D', at: '18:00' },
      {},
      { of: 'plan', channel: 'email', again: { every: 'P1D', atMost: 3 } },
    ]),
  ).toEqual([
    { before: 'P2D', at: '18:00' },
    { before: 'PT2H' },
    {},
    { of: 'plan', channel: 'email', again: { every: 'P1D', atMost: 3 } },
  ]);
});

test.each<[unknown, string, string]>([
  ['soon', 'reminders.form', 'reminders'],
  [Array.from({ length: 11 }, () => ({})), 'reminders.form', 'reminders'],
  [[null], 'reminders.form', 'reminders.0'],
  [[{}, { when: 'P1D' }], 'reminders.part', 'reminders.1.when'],
  [[{ before: 2 }], 'reminders.form', 'reminders.0.before'],
  [[{ before: 'two days' }], 'span.form', 'reminders.0.before'],
  [[{ before: 'P1DT2H' }], 'reminders.mixed', 'reminders.0.before'],
  [[{ before: 'PT2H', at: '18:00' }], 'reminders.at', 'reminders.0.at'],
  [[{ at: '25:00' }], 'time.form', 'reminders.0.at'],
  [[{ before: 'P3Y' }], 'reminders.before', 'reminders.0.before'],
  [[{ before: 'PT20000H' }], 'reminders.before', 'reminders.0.before'],
  [[{ before: `P${'0'.repeat(40)}2D` }], 'reminders.before', 'reminders.0.before'],
  [[{ of: 'noon' }], 'reminders.of', 'reminders.0.of'],
  [[{ channel: 'drum' }], 'reminders.channel', 'reminders.0.channel'],
  [[{ again: null }], 'reminders.form', 'reminders.0.again.every'],
  [[{ again: { every: 'PT1H', atMost: 100 } }], 'reminders.atMost', 'reminders.0.again.atMost'],
  [[{ again: { every: 'PT1H', atMost: 1, until: 'done' } }], 'reminders.part', 'reminders.0.again'],
])('%j is refused by name', (given, code, where) => expect(error(given)).toEqual([code, where]));

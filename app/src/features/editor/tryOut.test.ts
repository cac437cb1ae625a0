import { checkSettings } from '@back-again/core';
import { read } from '@back-again/core/reading';
import { canTry, tryOut, type Plan } from './tryOut.ts';

const TODAY = '2026-11-24'; // a Tuesday
const person = { today: TODAY, weekStart: 'MO' } as const;
const settings = checkSettings({ zone: 'Europe/London' });
const tried = (sentence: string, plan: Plan) =>
  tryOut(read(sentence, TODAY).series, plan, person, settings, []).map((it) => ({
    ...it,
    times: it.times.map(({ due, words }) => `${due.slice(5)} ${words}`),
  }));

test('finished a week late: fixed goes on by the calendar, the other way counts from then', () => {
  const [fixed, after] = tried('Grease the stern gland 14 days after done', {
    '2026-12-01': 'done',
  });
  expect(after).toMatchObject({
    chosen: true,
    times: ['11-24 done 7 days late', '12-15 open'],
    next: null,
  });
  expect(fixed).toMatchObject({
    chosen: false,
    times: ['11-24 done 7 days late', '12-08 missed', '12-22 open'],
    next: '2027-01-05',
  });
});

test('a skip, and a fixed one that is left', () => {
  const [fixed] = tried('Check the bilge every Tuesday', {
    '2026-11-24': 'done',
    '2026-12-02': 'skip',
  });
  expect(fixed!.times.slice(0, 3)).toEqual([
    '11-24 done on its day',
    '12-01 skipped',
    '12-08 missed',
  ]);
});

test.each([
  ['Order wax tomorrow', false],
  ['Swim 3 times a week', false],
  ['Order wax every week', true],
  ['Order wax 3 days after done', true],
])('%s: %s', (sentence, can) => expect(canTry(read(sentence, TODAY).series)).toBe(can));

import type { Reminder, Definition } from '@back-again/core';
import { withUsual, withoutUsual } from './usual.ts';

const USUAL: Reminder[] = [{ before: 'P1D' }];
const plain: Definition = { title: 'Order wax', start: '2027-06-12', repeat: null };

test('a definition that says none has the usual ones', () => {
  expect(withUsual(plain, USUAL)).toEqual({ ...plain, reminders: USUAL });
  expect(withoutUsual(withUsual(plain, USUAL), USUAL)).toEqual(plain);
});

test('what says its own keeps them; what has no date, and who wants none, has none', () => {
  const own = { ...plain, reminders: [{ at: '18:00' }] };
  expect(withUsual(own, USUAL)).toBe(own);
  expect(withoutUsual(own, USUAL)).toBe(own);
  const undated = { ...plain, start: null };
  expect(withUsual(undated, USUAL)).toBe(undated);
  expect(withUsual(plain, undefined)).toBe(plain);
  expect(withUsual(plain, [])).toBe(plain);
});

import { read } from '../phrase/meaning/read.ts';
import { habitDay, lastDayOfHabit } from './takingUp.ts';

const habit = read('Stretch every day for 66 days, taking it up', '2027-06-01').series;

test('66 days are the first and the 65 that follow', () => {
  expect(habit.takingUp).toBe(true);
  expect(lastDayOfHabit(habit)).toBe('2027-08-05');
  expect(habitDay(habit, '2027-06-01')).toEqual({ day: 1, of: 66 });
  expect(habitDay(habit, '2027-06-23')).toEqual({ day: 23, of: 66 });
  expect(habitDay(habit, '2027-08-05')).toEqual({ day: 66, of: 66 });
  expect(habitDay(habit, '2027-08-06')).toBeNull();
  expect(habitDay(habit, '2027-05-31')).toBeNull();
});

test('without a last day there is no such count', () => {
  const { ends: _ends, ...endless } = habit;
  expect(habitDay(endless, '2027-06-23')).toBeNull();
  expect(habitDay({ ...habit, ends: { after: 10 } }, '2027-06-23')).toBeNull();
  expect(lastDayOfHabit({ ...habit, ends: { on: '2027-07-01' } })).toBe('2027-07-01');
});

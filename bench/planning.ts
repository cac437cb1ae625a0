import { formatDay, parseDay } from '@back-again/core';
import { chance } from '@back-again/core/rehearsal';
import { evenOut, layOut, type EvenInput, type LayInput } from '@back-again/core/planning';

/**
 * Evening out and laying out beyond what is exact: how near to the best, where that is known, and how long.
 */

const MONDAY = parseDay('2027-06-07');
const date = (i: number) => formatDay(MONDAY + i);

/** Times for which a way is known that fills each day to its measure and not a minute more. */
function filled(seed: number, many: number, days: number): EvenInput {
  const below = chance(seed);
  const holds = Array.from({ length: days }, () => 0);
  const times = Array.from({ length: many }, (_, i) => {
    const [best, on] = [below(days), below(days)];
    const takes = 5 * (1 + below(18));
    holds[best]! += takes;
    const may = [...new Set([on, best, below(days)])].map(date);
    return { id: `t${i}`, takes, on: date(on), may };
  });
  return { days: holds.map((minutes, i) => ({ date: date(i), holds: minutes })), times };
}

function measured(name: string, weeks: readonly EvenInput[]): void {
  const before = weeks.map(overAsItIs);
  let after = 0;
  let worst = 0;
  const from = performance.now();
  for (const week of weeks) {
    const { over } = evenOut(week);
    after += over;
    worst = Math.max(worst, over);
  }
  const each = (performance.now() - from) / weeks.length;
  const sum = before.reduce((all, n) => all + n, 0);
  const share = ((sum - after) / sum) * 100;
  console.log(
    `Evening out ${name}: ${share.toFixed(2)} % of the minutes over that can be mended are, ${worst} left at most; ${each.toFixed(1)} ms each`,
  );
}

function overAsItIs({ days, times }: EvenInput): number {
  return days.reduce((sum, { date: day, holds }) => {
    const load = times.reduce((all, { on, takes }) => all + (on === day ? (takes ?? 0) : 0), 0);
    return sum + Math.max(0, load - (holds ?? Infinity));
  }, 0);
}

const weeks = (count: number, many: number, days: number) =>
  Array.from({ length: count }, (_, i) => filled(i + 1, many, days));
evenOut(filled(1, 40, 7));
measured('12 times of a week, exact', weeks(20, 12, 7));
measured('12 times of 31 days, exact', weeks(5, 12, 31));
measured('40 times of a week', weeks(100, 40, 7));
measured('200 times of a week', weeks(20, 200, 7));
measured('200 times of 31 days', weeks(20, 200, 31));

/** A day for which a way is known in which all find room, one after another. */
function day(seed: number, many: number): LayInput {
  const below = chance(seed);
  const clock = (n: number) =>
    `${String(Math.floor(n / 12)).padStart(2, '0')}:${String((n % 12) * 5).padStart(2, '0')}`;
  let at = 84;
  const times = Array.from({ length: many }, (_, i) => {
    const steps = 1 + below(Math.floor((2 * 168) / many) - 1);
    const [from, to] = [Math.max(0, at - below(20)), Math.min(287, at + steps + below(20))];
    at += steps;
    return { id: `t${i}`, takes: steps * 5, from: clock(from), to: clock(Math.max(to, from + 1)) };
  });
  return { up: { from: '07:00', to: '24:00' }, fixed: [], times };
}

for (const many of [8, 24]) {
  const days = Array.from({ length: 40 }, (_, i) => day(i + 1, many));
  layOut(days[0]!);
  const from = performance.now();
  const left = days.reduce((all, it) => all + layOut(it).left.length, 0);
  const each = (performance.now() - from) / days.length;
  const share = 100 - (left / (days.length * many)) * 100;
  console.log(
    `Laying out ${many}${many > 8 ? '' : ', exact'}: ${share.toFixed(1)} % find room; ${each.toFixed(1)} ms each`,
  );
}

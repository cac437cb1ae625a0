import { WEEKDAYS, type Weekday } from '../../calendar/day.ts';
import { formatRule } from '../../rule/format.ts';
import { parseRule } from '../../rule/parse.ts';
import { hasTimes, type Rule } from '../../rule/rule.ts';
import { lackedBy } from '../meaning/rules.ts';
import { monthNames, weekdayNames, type DaySet, type OfMonths, type Speech } from './speech.ts';

/** A rule in the words of a language; one that has no words of its own is given as it is written. */
export function ruleText(text: string, weekStart: Weekday, speech: Speech): string {
  const rule = parseRule(text);
  return plainRuleText(rule, weekStart, speech) ?? speech.by(formatRule(rule));
}

export const dayName = (day: Weekday, speech: Speech) =>
  weekdayNames(speech)[WEEKDAYS.indexOf(day)]!;

function plainRuleText(rule: Rule, weekStart: Weekday, speech: Speech): string | null {
  if (rule.count !== null || rule.until !== null || hasUnsaid(rule)) return null;
  const { freq, interval: n, byDay, byMonthDay, byMonth, bySetPos, skip } = rule;
  if (byMonth.length > 11 || byMonth.some((month, i) => i > 0 && month <= byMonth[i - 1]!))
    return null;
  if (bySetPos.length && freq !== 'MONTHLY' && freq !== 'YEARLY') return null;
  const inMonths = byMonth.length ? ` ${monthsText(byMonth, speech)}` : '';
  switch (freq) {
    case 'DAILY':
      return byDay.length || byMonthDay.length || skip !== 'OMIT'
        ? null
        : speech.every(n, 'day') + inMonths;
    case 'WEEKLY':
      return weeklyText(rule, inMonths, weekStart, speech);
    case 'MONTHLY': {
      if (rule.weekStart !== 'MO' || (byDay.length && byMonthDay.length)) return null;
      const of = ofMonths(rule, inMonths, speech);
      if (byDay.length) return skip === 'OMIT' ? positionText(rule, of, speech) : null;
      if (bySetPos.length) return null;
      if (!byMonthDay.length) return skip === 'OMIT' ? speech.every(n, 'month') + inMonths : null;
      return monthDayText(rule, of, speech);
    }
    case 'YEARLY':
      return yearlyText(rule, speech);
    default:
      return null;
  }
}

/** Whether a rule has parts for which there are no words. */
function hasUnsaid(rule: Rule): boolean {
  return hasTimes(rule) || rule.byYearDay.length > 0 || rule.byWeekNo.length > 0;
}

function weeklyText(
  rule: Rule,
  inMonths: string,
  weekStart: Weekday,
  speech: Speech,
): string | null {
  const { interval: n, byDay, byMonthDay, skip } = rule;
  // Steps of several named days count from the person's first day of the week.
  const counted = n > 1 && byDay.length ? weekStart : 'MO';
  if (skip !== 'OMIT' || byMonthDay.length || rule.weekStart !== counted) return null;
  if (!byDay.length) return speech.every(n, 'week') + inMonths;
  const days = byDay.map((part) => part.weekday);
  const sorted = WEEKDAYS.filter((day) => days.includes(day));
  if (sorted.join() !== days.join()) return null;
  const names = days.map((day) => dayName(day, speech));
  const isMondayToFriday = days.join() === 'MO,TU,WE,TH,FR';
  return (n === 1 ? speech.onDays(names, isMondayToFriday) : speech.weeksOn(n, names)) + inMonths;
}

/** Which months it is about: “the 12th of June” alone is a date, and so is said another way. */
function ofMonths(rule: Rule, inMonths: string, speech: Speech): OfMonths {
  const { byMonth, byDay, byMonthDay, interval: n } = rule;
  const isDate = !byDay.length && byMonthDay.some((day) => day > 0);
  // “the first Sunday of May” is of a year.
  const isYear = rule.freq === 'MONTHLY' && byDay.length > 0 && !rule.bySetPos.length;
  const least = isDate || isYear ? 2 : 1;
  const isNamed = n === 1 && byMonth.length >= least && byMonth.length <= MOST_NAMED;
  return isNamed
    ? { n, named: namesOf(byMonth, speech), inMonths: '' }
    : { n, named: [], inMonths };
}

function yearlyText(rule: Rule, speech: Speech): string | null {
  const { interval: n, byDay, byMonthDay, byMonth, bySetPos, skip } = rule;
  if (rule.weekStart !== 'MO') return null;
  if (byDay.length) {
    if (byMonth.length !== 1 || byMonthDay.length || skip !== 'OMIT') return null;
    const of = { n: 1, named: namesOf(byMonth, speech), inMonths: '' };
    const what = positionText(rule, of, speech);
    return what === null ? null : speech.yearly(n, what);
  }
  if (bySetPos.length) return null;
  if (!byMonth.length && !byMonthDay.length)
    return skip === 'OMIT' ? speech.every(n, 'year') : null;
  const [month] = byMonth;
  const [day] = byMonthDay;
  if (byMonth.length !== 1 || byMonthDay.length !== 1) return null;
  const leap = month === 2 && day === 29;
  if (skip !== (leap ? 'BACKWARD' : 'OMIT') || day! < 1) return null;
  return speech.yearlyOn(n, day!, namesOf(byMonth, speech)[0]!);
}

/** Up to so many months are named; of more, the others are said to be left out. */
const MOST_NAMED = 6;
const namesOf = (months: readonly number[], speech: Speech) =>
  months.map((n) => monthNames(speech)[n - 1]!);

/** “in June and July”, “except in August”. */
function monthsText(months: readonly number[], speech: Speech): string {
  if (months.length <= MOST_NAMED) return speech.inMonths(namesOf(months, speech));
  const others = Array.from({ length: 12 }, (_, i) => i + 1).filter((n) => !months.includes(n));
  return speech.exceptMonths(namesOf(others, speech));
}

const SETS: Record<string, DaySet> = { 'MO,TU,WE,TH,FR': 'weekday', 'SA,SU': 'weekend' };

function positionText(rule: Rule, of: OfMonths, speech: Speech): string | null {
  const { byDay, bySetPos } = rule;
  if (bySetPos.length) {
    const set = SETS[byDay.map(({ weekday }) => weekday).join()];
    const isPlain = byDay.every(({ ordinal }) => ordinal === null);
    if (!set || !isPlain || !bySetPos.every((nth) => speech.isPlace(nth))) return null;
    return new Set(bySetPos).size === bySetPos.length ? speech.ofSet(bySetPos, set, of) : null;
  }
  if (byDay.some(({ ordinal }) => ordinal === null || !speech.isPlace(ordinal))) return null;
  const groups = groupsOf(rule);
  return (
    groups &&
    speech.positions(
      groups.map(({ nth, days }) => ({
        nth,
        names: days.map((day) => dayName(day, speech)),
      })),
      of,
    )
  );
}

/**
 * The nth weekdays in groups that are said together: “the first and third Monday”, “the second
 * Tuesday and Thursday”. Null where said so they would be read in another order.
 */
function groupsOf({ byDay }: Rule): { nth: number[]; days: Weekday[] }[] | null {
  const groups: { nth: number[]; days: Weekday[] }[] = [];
  for (const { ordinal, weekday } of byDay) {
    const last = groups.at(-1);
    if (last?.days.length === 1 && last.days[0] === weekday) last.nth.push(ordinal!);
    else if (last?.nth.length === 1 && last.nth[0] === ordinal) last.days.push(weekday);
    else groups.push({ nth: [ordinal!], days: [weekday] });
  }
  const read = groups.flatMap(({ nth, days }) =>
    nth.flatMap((n) => days.map((day) => `${n}${day}`)),
  );
  const isSame = read.join() === byDay.map(({ ordinal, weekday }) => `${ordinal}${weekday}`).join();
  return isSame && new Set(read).size === read.length ? groups : null;
}

function monthDayText(rule: Rule, of: OfMonths, speech: Speech): string | null {
  const { byMonthDay: days, byMonth, skip } = rule;
  if (days.some((day) => day < 0 && !speech.isPlace(day))) return null;
  const order = [...days].sort((a, b) => (a < 0 ? 99 + a : a) - (b < 0 ? 99 + b : b));
  if (order.join() !== days.join() || new Set(days).size !== days.length) return null;
  const lacks = days.some((day) => lackedBy(day, byMonth));
  if (skip === 'FORWARD' || (skip === 'BACKWARD' && !lacks)) return null;
  return speech.monthDays(days, of, !lacks ? null : skip === 'BACKWARD' ? 'last' : 'omit');
}

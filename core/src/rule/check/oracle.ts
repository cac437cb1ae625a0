import type { Rule } from '../rule.ts';

/**
 * The standard read word for word (RFC 5545 §3.3.10), as slowly as one likes: each day of each
 * period, each second of a day, is held against every part. It uses the runtime’s own dates and
 * nothing of the engine, so that the two can be held against each other. SKIP is not in it.
 */
export function byTheLetter(rule: Rule, start: number, until: number, most: number): number[] {
  const found: number[] = [];
  for (const set of sets(rule, start, until)) {
    const places = rule.bySetPos.map((place) => (place > 0 ? place - 1 : set.length + place));
    const chosen = rule.bySetPos.length ? set.filter((_, i) => places.includes(i)) : set;
    for (const at of chosen) {
      if (at < start) continue;
      if (at > until || found.length >= most) return found;
      found.push(at);
    }
  }
  return found;
}

const DAY = 86400;
const CODES = ['SU', 'MO', 'TU', 'WE', 'TH', 'FR', 'SA'];

const dateAt = (at: number) => new Date(at * 1000);
const utc = (year: number, month: number, day: number) => Date.UTC(year, month, day) / 1000;

/** The candidates of one period after another, each set in order. */
function* sets(rule: Rule, start: number, until: number): Generator<number[]> {
  const { freq, interval } = rule;
  const date = dateAt(start);
  const midnight = start - (start % DAY);
  const times = timesOfDay(rule, start);
  const withTimes = (days: number[]) => days.flatMap((day) => times.map((time) => day + time));
  switch (freq) {
    case 'YEARLY':
      for (let year = date.getUTCFullYear(); utc(year, 0, 1) <= until; year += interval)
        yield withTimes(daysOf(rule, start, utc(year, 0, 1), utc(year + 1, 0, 1)));
      return;
    case 'MONTHLY':
      for (let m = date.getUTCMonth(); utc(date.getUTCFullYear(), m, 1) <= until; m += interval) {
        const year = date.getUTCFullYear();
        yield withTimes(daysOf(rule, start, utc(year, m, 1), utc(year, m + 1, 1)));
      }
      return;
    case 'WEEKLY': {
      const back = (date.getUTCDay() - CODES.indexOf(rule.weekStart) + 7) % 7;
      for (let at = midnight - back * DAY; at <= until; at += 7 * DAY * interval)
        yield withTimes(daysOf(rule, start, at, at + 7 * DAY));
      return;
    }
    case 'DAILY':
      for (let at = midnight; at <= until; at += DAY * interval)
        yield withTimes(daysOf(rule, start, at, at + DAY));
      return;
    default:
      yield* clockSets(rule, start, until);
  }
}

function* clockSets(rule: Rule, start: number, until: number): Generator<number[]> {
  const unit = { HOURLY: 3600, MINUTELY: 60, SECONDLY: 1 }[rule.freq as 'HOURLY'];
  const step = unit * rule.interval;
  const within = timesOfDay({ ...rule, byHour: [] }, start)
    .map((time) => time % unit)
    .filter((time, i, all) => all.indexOf(time) === i)
    .sort((a, b) => a - b);
  const limit = (values: number[], value: number) => !values.length || values.includes(value);
  const first = start - (start % unit);
  for (let day = start - (start % DAY); day <= until; day += DAY) {
    if (!fits(rule, day, start, true)) continue;
    let at = first + Math.max(0, Math.ceil((day - first) / step)) * step;
    for (; at < day + DAY; at += step) {
      const time = at - day;
      if (!limit(rule.byHour, Math.floor(time / 3600))) continue;
      if (unit < 3600 && !limit(rule.byMinute, Math.floor(time / 60) % 60)) continue;
      if (
        unit < 60 &&
        !limit(
          rule.bySecond.map((s) => Math.min(s, 59)),
          time % 60,
        )
      )
        continue;
      yield within.map((rest) => at + rest);
    }
  }
}

function timesOfDay(rule: Rule, start: number): number[] {
  const time = start % DAY;
  const found = new Set<number>();
  for (const h of rule.byHour.length ? rule.byHour : [Math.floor(time / 3600)])
    for (const m of rule.byMinute.length ? rule.byMinute : [Math.floor(time / 60) % 60])
      for (const s of rule.bySecond.length ? rule.bySecond : [time % 60])
        found.add(h * 3600 + m * 60 + Math.min(s, 59));
  return [...found].sort((a, b) => a - b);
}

function daysOf(rule: Rule, start: number, from: number, to: number): number[] {
  const days: number[] = [];
  for (let day = from; day < to; day += DAY) if (fits(rule, day, start, false)) days.push(day);
  return days;
}

/** Whether a day holds to every part by day; what the rule leaves open comes from the start. */
function fits(rule: Rule, day: number, start: number, clock: boolean): boolean {
  const { freq, byMonth, byMonthDay, byYearDay, byWeekNo, byDay } = rule;
  const date = dateAt(day);
  const from = dateAt(start);
  const year = date.getUTCFullYear();
  const month = date.getUTCMonth();
  const nth = date.getUTCDate();
  const monthLength = (utc(year, month + 1, 1) - utc(year, month, 1)) / DAY;
  const yearLength = (utc(year + 1, 0, 1) - utc(year, 0, 1)) / DAY;
  const nthOfYear = (day - utc(year, 0, 1)) / DAY + 1;
  const either = (values: number[], n: number, length: number) =>
    values.includes(n) || values.includes(n - length - 1);

  if (byMonth.length && !byMonth.includes(month + 1)) return false;
  if (byMonthDay.length && !either(byMonthDay, nth, monthLength)) return false;
  if (byYearDay.length && !either(byYearDay, nthOfYear, yearLength)) return false;
  if (byWeekNo.length) {
    const { week, weeks } = weekOf(day, CODES.indexOf(rule.weekStart));
    if (!either(byWeekNo, week, weeks)) return false;
  }
  if (byDay.length) {
    const inMonth = freq === 'MONTHLY' || (freq === 'YEARLY' && byMonth.length > 0);
    const [n, length] = inMonth ? [nth, monthLength] : [nthOfYear, yearLength];
    const ok = byDay.some(({ ordinal, weekday }) => {
      if (CODES[date.getUTCDay()] !== weekday) return false;
      if (ordinal === null) return true;
      return ordinal === (ordinal > 0 ? Math.ceil(n / 7) : -Math.ceil((length - n + 1) / 7));
    });
    if (!ok) return false;
  }
  if (clock) return true;
  const noDay = !byMonthDay.length && !byYearDay.length && !byDay.length;
  if (freq === 'WEEKLY' && noDay) return date.getUTCDay() === from.getUTCDay();
  if (freq === 'MONTHLY' && noDay) return nth === from.getUTCDate();
  if (freq === 'YEARLY' && noDay) {
    if (byWeekNo.length) return date.getUTCDay() === from.getUTCDay();
    return nth === from.getUTCDate() && (byMonth.length > 0 || month === from.getUTCMonth());
  }
  return true;
}

/** The week of a day and how many its year has; week 1 is the first with four days of the year. */
function weekOf(day: number, weekStart: number): { week: number; weeks: number } {
  const firstWeek = (year: number) => {
    const fourth = utc(year, 0, 4);
    return fourth - ((dateAt(fourth).getUTCDay() - weekStart + 7) % 7) * DAY;
  };
  let year = dateAt(day).getUTCFullYear() + 1;
  while (firstWeek(year) > day) year--;
  return {
    week: Math.floor((day - firstWeek(year)) / DAY / 7) + 1,
    weeks: (firstWeek(year + 1) - firstWeek(year)) / DAY / 7,
  };
}

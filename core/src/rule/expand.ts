import { FIRST_DAY, LAST_DAY, formatDay, parseDay, type Day } from '../calendar/day.ts';
import { formatTime, type LocalDateTime } from '../calendar/time.ts';
import {
  DAY_SECONDS,
  atPositions,
  clockPeriodsOf,
  timesOf,
  withTimes,
  type Stamp,
} from './clock.ts';
import { dayPeriodsOf } from './periods.ts';
import { isSubDaily, type Rule } from './rule.ts';
import { sequenceOf, type Periods, type Sequence } from './sequence.ts';

/** The dates of one rule; each question and answer is in days. */
export type Dates = Sequence;

/**
 * The dates of a rule counted from `start` (RFC 5545 §3.8.5.3, R1): none is before it, and a start
 * that is off the rule is no date of it. Its times of day are left out of account (with BYSETPOS of a
 * DAILY rule, which chooses among them), and UNTIL is taken by its day; COUNT counts dates.
 *
 * The cost of an answer does not depend on how far it is from the start.
 * @throws RangeError for a rule in hours, minutes or seconds: those have no dates, see {@link stampsOf}
 * @example datesOf(parseRule('FREQ=DAILY;INTERVAL=9'), start).next(start) // start + 9
 */
export function datesOf(rule: Rule, start: Day): Dates {
  if (isSubDaily(rule)) throw new RangeError(`A ${rule.freq} rule is not of dates.`);
  const until = rule.until === null ? LAST_DAY : parseDay(rule.until.slice(0, 10), 'UNTIL');
  const days = placed(dayPeriodsOf(rule, start), rule);
  return sequenceOf(days, {
    start: Math.max(start, FIRST_DAY),
    until,
    count: rule.count,
  });
}

/**
 * The moments of a rule counted from `start`, all in seconds as {@link Stamp} has them: with its
 * times of day, and in hours, minutes and seconds too. UNTIL is inclusive; a date alone reaches to
 * the end of its day, and one in UTC is taken as it is written, so that whoever knows the zone has
 * to bring it over first.
 * @example stampsOf(parseRule('FREQ=HOURLY;INTERVAL=3'), stampOf('2027-01-02T09:00')).next(…)
 */
export function stampsOf(rule: Rule, start: Stamp): Moments {
  const until = rule.until === null ? LAST_STAMP : untilStamp(rule.until);
  const bounds = { start, until, count: rule.count };
  if (isSubDaily(rule)) return withTexts(sequenceOf(clockPeriodsOf(rule, start), bounds));
  const day = Math.floor(start / DAY_SECONDS);
  const times = timesOf(rule, start);
  const [only] = times;
  if (times.length !== 1) {
    // BYSETPOS chooses among the times of the days of a month, too: it has to wait for them.
    const days = dayPeriodsOf({ ...rule, bySetPos: [] }, day);
    const timed = withTimes(days, times);
    const chosen = rule.bySetPos.length && rule.freq !== 'DAILY';
    return withTexts(sequenceOf(chosen ? atPositions(timed, rule.bySetPos) : timed, bounds));
  }
  // One time a day: reckoned in days, which are small integers.
  const first = only! < start - day * DAY_SECONDS ? day + 1 : day;
  const last = Math.floor((until - only!) / DAY_SECONDS);
  const periods = placed(dayPeriodsOf(rule, day), rule);
  const days = sequenceOf(periods, { start: first, until: last, count: rule.count });
  return new OnceADay(days, only!);
}

/** The days of a sequence at one time of day, in seconds: a class, since to make closures costs more. */
class OnceADay implements Moments {
  constructor(
    private readonly days: Sequence,
    private readonly time: number,
  ) {}

  /** The last day that is on or before a moment. */
  private on(at: Stamp): Day {
    return Math.floor((at - this.time) / DAY_SECONDS);
  }

  private at(day: Day | null): Stamp | null {
    return day === null ? null : day * DAY_SECONDS + this.time;
  }

  next(after: Stamp): Stamp | null {
    return this.at(this.days.next(this.on(after)));
  }

  previous(before: Stamp): Stamp | null {
    return this.at(this.days.previous(this.on(before - 1) + 1));
  }

  list(after: Stamp, until: Stamp, limit: number): Stamp[] {
    const found = this.days.list(this.on(after), this.on(until), limit);
    for (let i = 0; i < found.length; i++) found[i] = this.at(found[i]!)!;
    return found;
  }

  count(after: Stamp, until: Stamp): number {
    return this.days.count(this.on(after), this.on(until));
  }

  has(at: Stamp): boolean {
    const day = this.on(at);
    return this.at(day) === at && this.days.has(day);
  }

  texts(after: Stamp, until: Stamp, limit: number): LocalDateTime[] {
    const time = formatStamp(this.time).slice(10);
    const found = this.days.list(this.on(after), this.on(until), limit);
    return found.map((day) => formatDay(day) + time);
  }
}

/** A sequence of stamps that can be listed as text, `YYYY-MM-DDTHH:MM`. */
export interface Moments extends Sequence {
  texts(after: Stamp, until: Stamp, limit: number): LocalDateTime[];
}

function withTexts(sequence: Sequence): Moments {
  const moments = sequence as Moments;
  moments.texts = (after, until, limit) => sequence.list(after, until, limit).map(formatStamp);
  return moments;
}

const LAST_STAMP: Stamp = LAST_DAY * DAY_SECONDS + DAY_SECONDS - 1;

function placed(periods: Periods, rule: Rule): Periods {
  // The days of a MONTHLY rule are chosen by kinds of months, the times of a DAILY one beforehand.
  if (!rule.bySetPos.length || rule.freq === 'DAILY' || rule.freq === 'MONTHLY') return periods;
  return atPositions(periods, rule.bySetPos);
}

function untilStamp(until: string): Stamp {
  return until.includes('T') ? stampOf(until.replace('Z', '')) : stampOf(`${until}T23:59:59`);
}

const STAMP = /^(\d{4}-\d{2}-\d{2})T(\d{2}):(\d{2})(?::(\d{2}))?$/;

/** The stamp of a civil date and time, `YYYY-MM-DDTHH:MM` or `…:SS`. */
export function stampOf(text: string): Stamp {
  const [, date, hour, minute, second] = STAMP.exec(text)!;
  const day = parseDay(date!);
  return day * DAY_SECONDS + Number(hour) * 3600 + Number(minute) * 60 + Number(second ?? 0);
}

const TIMES = Array.from({ length: 1440 }, (_, minute) => `T${formatTime(minute)}`);

/** Writes a stamp as `YYYY-MM-DDTHH:MM`, with its seconds where there are some. */
export function formatStamp(at: Stamp): LocalDateTime {
  const day = Math.floor(at / DAY_SECONDS);
  const second = at - day * DAY_SECONDS;
  const minute = Math.floor(second / 60);
  const rest = second - minute * 60;
  const text = formatDay(day) + TIMES[minute]!;
  return rest ? `${text}:${String(rest).padStart(2, '0')}` : text;
}

import ICAL from 'ical.js';
import rrule from 'rrule';
import { RRuleSet } from 'rrule-rust';
import { RRuleTemporal } from 'rrule-temporal';
import { formatStamp, parseRule, stampOf, stampsOf } from '../core/src/index.ts';

/** The spread of rules: what people repeat by. */
export const RULES: readonly (readonly [name: string, rule: string])[] = [
  ['daily', 'FREQ=DAILY'],
  ['every 18 days', 'FREQ=DAILY;INTERVAL=18'],
  ['working weekdays', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
  ['every third week on two days', 'FREQ=WEEKLY;INTERVAL=3;BYDAY=TU,SA'],
  ['three a day', 'FREQ=DAILY;BYHOUR=8,13,20'],
  ['day of month', 'FREQ=MONTHLY;BYMONTHDAY=12'],
  ['last day', 'FREQ=MONTHLY;BYMONTHDAY=-1'],
  ['third weekday', 'FREQ=MONTHLY;BYDAY=3TH'],
  ['last weekday by BYSETPOS', 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-1'],
  ['quarterly', 'FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=1'],
  ['yearly', 'FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=12'],
  ['week number', 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO'],
  ['Friday the 13th', 'FREQ=MONTHLY;BYMONTHDAY=13;BYDAY=FR'],
  ['29 February', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29'],
];

export const START = '2027-01-02T10:00';
export const FAR = '2067-01-02T10:00';
export const LIST = 200;

/** A rule made ready, whose answers are text, `YYYY-MM-DDTHH:MM`. */
export interface Prepared {
  list(): string[];
  near(): string;
  far(): string;
}

export interface Library {
  name: string;
  /** Null where the library does not answer for this rule, or never comes to an end. */
  prepare(rule: string): Prepared | null;
}

const start = stampOf(START);
const far = stampOf(FAR);

const ours: Library = {
  name: 'ours',
  prepare(rule) {
    const sequence = stampsOf(parseRule(rule), start);
    return {
      list: () => sequence.texts(start - 1, Infinity, LIST),
      near: () => formatStamp(sequence.next(start)!),
      far: () => formatStamp(sequence.next(far)!),
    };
  },
};

const { RRule } = rrule;
const iso = (date: Date) => date.toISOString().slice(0, 16);
const startDate = new Date(`${START}:00Z`);
const farDate = new Date(`${FAR}:00Z`);

const byRrule: Library = {
  name: 'rrule',
  prepare(rule) {
    // Without its cache: it keeps what it computed once.
    const made = new RRule({ ...RRule.parseString(rule), dtstart: startDate }, true);
    return {
      list() {
        const dates: string[] = [];
        made.all((date) => dates.push(iso(date)) < LIST);
        return dates;
      },
      near: () => iso(made.after(startDate)!),
      far: () => iso(made.after(farDate)!),
    };
  },
};

const byTemporal: Library = {
  name: 'rrule-temporal',
  prepare(rule) {
    const made = new RRuleTemporal({ rruleString: `DTSTART:20270102T100000Z\nRRULE:${rule}` });
    const text = (date: { toString(): string } | null) => date!.toString().slice(0, 16);
    return {
      list: () =>
        made
          .all((_date, i) => i < LIST)
          .slice(0, LIST)
          .map(text),
      near: () => text(made.next(startDate)),
      far: () => text(made.next(farDate)),
    };
  },
};

const byIcal: Library = {
  name: 'ical.js',
  prepare(rule) {
    // With BYWEEKNO it stops early, or never comes to an end.
    if (rule.includes('BYWEEKNO')) return null;
    const recur = ICAL.Recur.fromString(rule);
    const from = ICAL.Time.fromDateTimeString(`${START}:00`);
    const until = ICAL.Time.fromDateTimeString(`${FAR}:00`);
    // It gives the start also where it is off the rule.
    const onRule = stampsOf(parseRule(rule), start).has(start);
    const first = (after: ICAL.Time) => {
      const iterator = recur.iterator(from);
      for (let next = iterator.next(); ; next = iterator.next())
        if (next!.compare(after) > 0) return next!.toString().slice(0, 16);
    };
    return {
      list() {
        const iterator = recur.iterator(from);
        const dates: string[] = [];
        while (dates.length < LIST) {
          const next = iterator.next()!;
          if (dates.length || onRule || next.compare(from) > 0)
            dates.push(next.toString().slice(0, 16));
        }
        return dates;
      },
      near: () => first(from),
      far: () => first(until),
    };
  },
};

const byRust: Library = {
  name: 'rrule-rust',
  prepare(rule) {
    const made = RRuleSet.fromString(`DTSTART:20270102T100000Z\nRRULE:${rule}`);
    made.cache.disable();
    const text = (date: { toString(): string }) => {
      const it = date.toString();
      return `${it.slice(0, 4)}-${it.slice(4, 6)}-${it.slice(6, 11)}:${it.slice(11, 13)}`;
    };
    const after = (from: string) => {
      const limit = `${from.replaceAll('-', '').replace(':', '')}00Z`;
      for (const date of made) if (date.toString() > limit) return text(date);
      throw new Error('none');
    };
    return {
      list: () => made.all(LIST).map(text),
      near: () => after(START),
      far: () => after(FAR),
    };
  },
};

export const libraries: Library[] = [ours, byRrule, byTemporal, byIcal, byRust];

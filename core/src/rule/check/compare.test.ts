import { hasTimes, isSubDaily, type Rule } from '../rule.ts';
import { parseRule } from '../parse.ts';
import { stampOf, stampsOf } from '../expand.ts';
import { byTheLetter } from './oracle.ts';
import { chance } from '../../chance.ts';
import { randomRule } from './random.ts';
import { MOST, byIcal, byRrule, horizon, within } from './references.ts';

/**
 * Random rules against the standard read word for word (oracle.ts), and against the libraries
 * rrule and ical.js. A few hundred run with the other tests; `npm run check:rules` runs 20,000.
 */

const RULES = Number(process.env.RULES ?? 250);
const SEED = Number(process.env.SEED ?? 5545);

/** Where a library differs, and the clause that decides. In each of these cases oracle.ts agrees with us. */
interface Difference {
  name: string;
  clause: string;
  has(rule: Rule): boolean;
}

const BY_RRULE: readonly Difference[] = [
  {
    name: 'a negative place beyond the set is counted round from its other end',
    clause: 'RFC 5545 §3.3.10, BYSETPOS: the nth occurrence within the set; there is none',
    has: (rule) => rule.bySetPos.some((place) => place < -1),
  },
  {
    name: 'two places that meet count twice for COUNT',
    clause: 'RFC 5545 §3.8.5.3: duplicate instances are ignored',
    has: (rule) => rule.bySetPos.length > 1 && rule.count !== null,
  },
  {
    name: 'BYSETPOS of the first week counts from the start and not from the week’s first day',
    clause: 'RFC 5545 §3.3.10, BYSETPOS: the set within the interval, which is the week',
    has: (rule) => rule.freq === 'WEEKLY' && rule.bySetPos.length > 0,
  },
  {
    name: 'times that BYHOUR, BYMINUTE or BYSECOND leave are jumped over',
    clause: 'RFC 5545 §3.3.10, the table: they limit HOURLY, MINUTELY and SECONDLY',
    has: (rule) => isSubDaily(rule) && hasTimes({ ...rule, freq: 'DAILY' }),
  },
  {
    name: 'weeks at the year’s end, counted from the end or with WKST',
    clause: 'RFC 5545 §3.3.10, BYWEEKNO: week 1 has at least four days of its year',
    has: (rule) => rule.byWeekNo.length > 0,
  },
];

const BY_ICAL: readonly Difference[] = [
  {
    name: 'BYHOUR, BYMINUTE and BYSECOND are expanded for some frequencies alone',
    clause: 'RFC 5545 §3.3.10, the table',
    has: hasTimes,
  },
  {
    name: 'BYSETPOS beside another set than the days of a month',
    clause: 'RFC 5545 §3.3.10, BYSETPOS: within each interval of the frequency',
    has: (rule) => rule.bySetPos.length > 0,
  },
  {
    name: 'BYWEEKNO',
    clause: 'RFC 5545 §3.3.10, BYWEEKNO',
    has: (rule) => rule.byWeekNo.length > 0,
  },
  {
    name: 'BYYEARDAY counted from the end, or with other parts',
    clause: 'RFC 5545 §3.3.10, BYYEARDAY: −1 is the last day of the year',
    has: (rule) => rule.byYearDay.length > 0,
  },
  {
    name: 'YEARLY with BYMONTHDAY or BYDAY and not both with BYMONTH: months or ordinals are lost',
    clause: 'RFC 5545 §3.3.10, the table: they expand or limit YEARLY',
    has: (rule) => rule.freq === 'YEARLY' && rule.byMonthDay.length + rule.byDay.length > 0,
  },
  {
    name: 'YEARLY from 29 February comes in every year',
    clause: 'RFC 5545 §3.3.10: invalid dates are ignored',
    has: (rule) => rule.freq === 'YEARLY' && !rule.byMonth.length,
  },
  {
    name: 'MONTHLY with a weekday or a day that the first month lacks',
    clause: 'RFC 5545 §3.3.10: invalid dates are ignored',
    has: (rule) => rule.freq === 'MONTHLY' && rule.byDay.length + rule.byMonthDay.length > 0,
  },
  {
    name: 'DAILY with days that limit it: COUNT counts a start off the rule, negative days are lost',
    clause: 'RFC 5545 §3.3.10, the table: BYMONTHDAY and BYDAY limit DAILY; R1',
    has: (rule) => rule.freq === 'DAILY' && rule.byDay.length + rule.byMonthDay.length > 0,
  },
  {
    name: 'months that BYMONTH leaves out, in the first period',
    clause: 'RFC 5545 §3.3.10, the table: BYMONTH limits',
    has: (rule) => rule.byMonth.length > 0,
  },
];

interface Tally {
  same: number;
  noAnswer: number;
  refused: number;
  classes: Map<string, number>;
  unknown: string[];
}

const tally = (): Tally => ({ same: 0, noAnswer: 0, refused: 0, classes: new Map(), unknown: [] });

test(`${RULES} random rules: as the standard says, and as rrule and ical.js say but for known differences`, () => {
  const of = chance(SEED);
  const rrule = tally();
  const ical = tally();
  let compared = 0;
  let empty = 0;
  while (compared < RULES) {
    const random = randomRule(of);
    const rule = parseRule(random.rule);
    const start = stampOf(random.start);
    const sequence = stampsOf(rule, start);

    const until = Math.min(
      isSubDaily(rule) ? start + 500 * 86400 : horizon(random.start),
      rule.until === null ? Infinity : stampOf(rule.until.replace('Z', '')),
    );
    const most = Math.min(MOST, rule.count ?? MOST);
    const letter = byTheLetter(rule, start, until, most);
    const mine = sequence.list(start - 1, until, most);
    if (mine.join() !== letter.join())
      throw new Error(
        `${random.rule} from ${random.start}: ${mine.join()} is not ${letter.join()}`,
      );
    if (!mine.length) {
      empty++;
      continue;
    }
    compared++;
    hold(rrule, BY_RRULE, rule, random, mine, () => byRrule(random, mine.length));
    // ical.js gives the start even where it is off the rule, as DTSTART counts there (R1).
    hold(ical, BY_ICAL, rule, random, mine, () => {
      const all = byIcal(random, mine.length + 1);
      return (all[0] === start && mine[0] !== start ? all.slice(1) : all).slice(0, mine.length);
    });
  }
  if (process.env.RULES) report({ compared, empty, rrule, ical });
  expect(rrule.unknown).toEqual([]);
  expect(ical.unknown).toEqual([]);
  expect(rrule.same / compared).toBeGreaterThan(0.85);
  expect(ical.same / compared).toBeGreaterThan(0.3);
}, 3_600_000);

function hold(
  into: Tally,
  differences: readonly Difference[],
  rule: Rule,
  { rule: text, start }: { rule: string; start: string },
  mine: readonly number[],
  ask: () => number[],
): void {
  let theirs: number[] | null;
  try {
    theirs = within(ask);
  } catch {
    into.refused++;
    return;
  }
  if (theirs === null) into.noAnswer++;
  else if ([...theirs].join() === mine.join()) into.same++;
  else {
    const name = differences.find((difference) => difference.has(rule))?.name;
    if (name === undefined) into.unknown.push(`${text} from ${start}`);
    else into.classes.set(name, (into.classes.get(name) ?? 0) + 1);
  }
}

function report(it: { compared: number; empty: number; rrule: Tally; ical: Tally }): void {
  const lines = [`${it.compared} rules compared, ${it.empty} more came to nothing within 12 years`];
  for (const [name, found] of [
    ['rrule', it.rrule],
    ['ical.js', it.ical],
  ] as const) {
    lines.push(
      `${name}: ${found.same} the same, ${found.noAnswer} without an answer in time, ${found.refused} refused`,
    );
    for (const [difference, n] of found.classes) lines.push(`  ${n}: ${difference}`);
  }
  process.stdout.write(`${lines.join('\n')}\n`);
}

import { LAST_DAY, datesOf, formatDay, parseDay, parseRule } from '../core/src/index.ts';
import rrule from 'rrule';

const { RRule } = rrule;

/** The rules of the first slice: a spread of what people repeat by. */
const RULES: [name: string, rule: string][] = [
  ['daily', 'FREQ=DAILY'],
  ['every 18 days', 'FREQ=DAILY;INTERVAL=18'],
  ['weekdays', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
  ['every third week on two days', 'FREQ=WEEKLY;INTERVAL=3;BYDAY=TU,SA'],
  ['day of month', 'FREQ=MONTHLY;BYMONTHDAY=12'],
  ['last day of month', 'FREQ=MONTHLY;BYMONTHDAY=-1'],
  ['third Thursday', 'FREQ=MONTHLY;BYDAY=3TH'],
  ['each quarter', 'FREQ=MONTHLY;INTERVAL=3;BYMONTHDAY=1'],
  ['yearly', 'FREQ=YEARLY;BYMONTH=6;BYMONTHDAY=12'],
  ['Friday the 13th', 'FREQ=MONTHLY;BYMONTHDAY=13;BYDAY=FR'],
  ['29 February', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29'],
];
const START = '2027-01-02';
const start = parseDay(START);
const FAR = parseDay('2067-01-02');
const LIST = 200;

/** Nanoseconds for one run of `work`: the best of five rounds, each long enough to be measured. */
function cost(work: () => unknown): number {
  let times = 1;
  for (;;) {
    const took = round(work, times);
    if (took > 20e6) break;
    times *= 2;
  }
  return Math.min(...Array.from({ length: 5 }, () => round(work, times) / times));
}

let sink: unknown;
function round(work: () => unknown, times: number): number {
  const from = process.hrtime.bigint();
  for (let i = 0; i < times; i++) sink = work();
  return Number(process.hrtime.bigint() - from);
}

/** Both sides begin with the text of the rule: what is prepared once is part of the cost. */
const ours = {
  list: (rule: string) =>
    datesOf(parseRule(rule), start)
      .list(start - 1, LAST_DAY, LIST)
      .map(formatDay),
  next: (rule: string) => formatDay(datesOf(parseRule(rule), start).next(start)!),
  far: (rule: string) => formatDay(datesOf(parseRule(rule), start).next(FAR)!),
};
const dtstart = new Date(`${START}T00:00:00Z`);
const far = new Date('2067-01-02T00:00:00Z');
const iso = (date: Date | null) => date!.toISOString().slice(0, 10);
const theirs = {
  // A fresh rule each time: this library keeps what it computed once.
  make: (rule: string) => new RRule({ ...RRule.parseString(rule), dtstart }, true),
  list: (rule: string) => {
    const dates: Date[] = [];
    theirs.make(rule).all((date, n) => n < LIST && dates.push(date) > 0);
    return dates.map(iso);
  },
  next: (rule: string) => iso(theirs.make(rule).after(dtstart)),
  far: (rule: string) => iso(theirs.make(rule).after(far)),
};

const KINDS = ['list', 'next', 'far'] as const;
const HEADS = { list: `first ${LIST}`, next: 'next', far: '40 years on' };
const ratios: Record<(typeof KINDS)[number], number[]> = { list: [], next: [], far: [] };

process.stdout.write('How many times faster than rrule, by rule, in this one run:\n\n');
row('', ...KINDS.map((kind) => HEADS[kind]), 'far : near');
for (const [name, rule] of RULES) {
  const costs = KINDS.map((kind) => {
    const [mine, other] = [ours[kind](rule), theirs[kind](rule)];
    if (JSON.stringify(mine) !== JSON.stringify(other))
      throw new Error(`${name}, ${kind}: ${JSON.stringify(mine)} is not ${JSON.stringify(other)}`);
    const mineTook = cost(() => ours[kind](rule));
    const ratio = cost(() => theirs[kind](rule)) / mineTook;
    ratios[kind].push(ratio);
    return { mineTook, ratio };
  });
  row(
    name,
    ...costs.map(({ ratio }) => `${ratio.toFixed(1)}×`),
    (costs[2]!.mineTook / costs[1]!.mineTook).toFixed(2),
  );
}
const mean = (values: number[]) =>
  Math.exp(values.reduce((sum, v) => sum + Math.log(v), 0) / values.length);
row('geometric mean', ...KINDS.map((kind) => `${mean(ratios[kind]).toFixed(1)}×`), '');
if (sink === undefined) process.exitCode = 1;

function row(name: string, ...cells: string[]): void {
  process.stdout.write(`${name.padEnd(30)}${cells.map((cell) => cell.padStart(14)).join('')}\n`);
}

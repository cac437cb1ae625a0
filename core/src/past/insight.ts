import { addMonths, formatDay, parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import type { Span } from '../calendar/span.ts';
import { parseMoment, type LocalMoment } from '../calendar/time.ts';
import { parseInstant } from '../calendar/zone.ts';
import { checkSeries } from '../definition/check.ts';
import type { Answer, Question } from '../definition/details.ts';
import { checkQuestions, checkTakes } from '../definition/whatChecks.ts';
import { CoreError } from '../errors.ts';
import type { Series } from '../series/definition/definition.ts';
import { UNDATED } from '../series/life/progress.ts';
import {
  checkSettings,
  clockOf,
  type PersonalClock,
  type Settings,
} from '../series/person/settings.ts';
import { answersOf, type AnswerFigures } from './answers.ts';
import { keptOf, spreadOf, type Spread } from './figures.ts';
import { LAST_GAPS, insteadOf } from './instead.ts';
import { OUTCOMES, countedOf, type Counted, type Outcome, type PastTime } from './times.ts';

/** What a month came to: counts by due day, minutes by done day. */
export interface MonthFigures {
  /** `YYYY-MM`. */
  month: string;
  done: number;
  skipped: number;
  missed: number;
  /** Per cent; null where nothing was done or missed. */
  kept: number | null;
  minutes: number;
  /** The part of them that was not entered. */
  estimated: number;
}

/** What a span of days says of one to-do. */
export interface Insight {
  done: number;
  skipped: number;
  missed: number;
  /** Per cent; null where nothing was done or missed. */
  kept: number | null;
  /** Days from due to done. */
  lateness: Spread | null;
  /** Days between one done day and the next; `last` are the last twelve, oldest first. */
  gaps: (Spread & { last: number[] }) | null;
  /** How many were done one after another, up to the last one, and at most. */
  inARow: { now: number; most: number };
  /** The interval that it really has, where that is another than the one defined. */
  instead: Span | null;
  /** From the first to the last month that has something, without gaps. */
  months: MonthFigures[];
  /** By the ids of the questions. */
  answers: Record<string, AnswerFigures>;
}

/** What a span of days is asked about one to-do. */
export interface InsightOf {
  series: Pick<Series, 'repeat'>;
  questions: readonly Question[];
  times: readonly PastTime[];
  /** Both inclusive. */
  from: Day;
  to: Day;
}

/**
 * What a span of days says of one to-do. Due days decide what is counted, kept, late and in a row; done days
 * decide gaps, answers and minutes.
 */
export function insightOf(clock: PersonalClock, it: InsightOf): Insight {
  const { from, to } = it;
  const isIn = (day: Day | null): day is Day => day !== null && day >= from && day <= to;
  const all = it.times.map((time) => ({ ...time, ...countedOf(clock, time) }));
  const due = all.filter(({ dueOn }) => isIn(dueOn));
  const done = all
    .filter(({ doneOn }) => isIn(doneOn))
    .sort((a, b) => a.doneOn! - b.doneOn! || a.closedAt - b.closedAt);
  const count = (status: Outcome) => due.filter((time) => time.status === status).length;
  const counts = { done: count('done'), skipped: count('skipped'), missed: count('missed') };
  const gaps = done.slice(1).map(({ doneOn }, i) => doneOn! - done[i]!.doneOn!);
  const gap = spreadOf(gaps);
  return {
    ...counts,
    kept: keptOf(counts.done, counts.missed),
    lateness: spreadOf(due.flatMap(({ late }) => (late === null ? [] : [late]))),
    gaps: gap && { ...gap, last: gaps.slice(-LAST_GAPS) },
    inARow: inARow(due),
    instead: insteadOf(it.series, gaps),
    months: monthsOf(due, done),
    answers: answersOf(
      it.questions,
      done.map(({ answers }) => answers ?? {}),
    ),
  };
}

type CountedTime = PastTime & Counted;

/** Skipped ones are passed over; a missed one ends what was done in a row. */
function inARow(due: readonly CountedTime[]): Insight['inARow'] {
  const inOrder = [...due].sort(
    (a, b) =>
      a.dueOn - b.dueOn ||
      (a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : 0) ||
      a.closedAt - b.closedAt,
  );
  let now = 0;
  let most = 0;
  for (const { status } of inOrder) {
    if (status === 'done') now += 1;
    if (status === 'missed') now = 0;
    most = Math.max(most, now);
  }
  return { now, most };
}

const monthOf = (day: Day): string => formatDay(day).slice(0, 7);

/** Months from one to another, both inclusive. */
function monthsBetween(first: string, last: string): string[] {
  const start = parseDay(`${first}-01`);
  const found = [first];
  while (found.at(-1)! < last) found.push(monthOf(addMonths(start, found.length)));
  return found;
}

function monthsOf(due: readonly CountedTime[], done: readonly CountedTime[]): MonthFigures[] {
  const found = new Map<string, Omit<MonthFigures, 'month' | 'kept'>>();
  const at = (day: Day) => {
    const month = monthOf(day);
    const known = found.get(month) ?? { done: 0, skipped: 0, missed: 0, minutes: 0, estimated: 0 };
    found.set(month, known);
    return known;
  };
  for (const { dueOn, status } of due) at(dueOn)[status] += 1;
  for (const { doneOn, minutes, estimated } of done) {
    if (!minutes) continue;
    const month = at(doneOn!);
    month.minutes += minutes;
    month.estimated += estimated;
  }
  if (!found.size) return [];
  const known = [...found.keys()].sort();
  return monthsBetween(known[0]!, known.at(-1)!).map((month) => {
    const it = found.get(month) ?? { done: 0, skipped: 0, missed: 0, minutes: 0, estimated: 0 };
    const { done, skipped, missed, minutes, estimated } = it;
    return { month, done, skipped, missed, kept: keptOf(done, missed), minutes, estimated };
  });
}

/** What the command `insight` takes: the record of one to-do, and a span of days, both inclusive. */
export interface InsightInput {
  series: unknown;
  details?: { questions?: unknown; takes?: unknown };
  settings?: Partial<Settings>;
  times: {
    slot: LocalMoment;
    due: LocalMoment | null;
    status: Outcome;
    /** ISO 8601. */
    closedAt: string;
    answers?: Record<string, Answer>;
    spent?: number;
  }[];
  from: LocalDate;
  to: LocalDate;
}

/**
 * What a span of days says of one to-do, of plain data from outside.
 * @throws CoreError with the place of what is wrong: `insight.form`, `insight.span`, `series.…`, `date.…`
 */
export function insight(it: InsightInput): Insight {
  const settings = checkSettings(it.settings);
  const { questions, takes } = it.details ?? {};
  const estimate = takes === undefined || takes === null ? null : checkTakes(takes);
  const [from, to] = [parseDay(it.from, 'from'), parseDay(it.to, 'to')];
  if (to < from) throw wrong('span', 'to', 'A span ends on the day it begins, or later.');
  if (!Array.isArray(it.times)) throw wrong('form', 'times', 'The times are a list.');
  return insightOf(clockOf(settings), {
    series: checkSeries(it.series),
    questions: checkQuestions(questions ?? []) ?? [],
    times: it.times.map((time, i) => timeIn(time, `times.${i}`, estimate)),
    from,
    to,
  });
}

const wrong = (code: string, where: string, message: string) =>
  new CoreError(`insight.${code}`, where, message);

function momentIn(value: unknown, where: string): LocalMoment {
  if (typeof value !== 'string') throw wrong('form', where, 'It is a date, or a date and time.');
  parseMoment(value, where);
  return value;
}

function timeIn(value: unknown, where: string, takes: number | null): PastTime {
  if (typeof value !== 'object' || value === null)
    throw wrong('form', where, 'A time is an object with a slot, a due date and how it ended.');
  const { slot, due, status, closedAt, answers, spent } = value as Record<string, unknown>;
  if (!OUTCOMES.includes(status as Outcome))
    throw wrong('form', `${where}.status`, 'A time ended as done, skipped or missed.');
  if (typeof closedAt !== 'string')
    throw wrong('form', `${where}.closedAt`, 'When it ended is an instant (ISO 8601).');
  if (spent !== undefined && !(typeof spent === 'number' && spent >= 0 && Number.isFinite(spent)))
    throw wrong('form', `${where}.spent`, 'What it took is a number of minutes, 0 or more.');
  if (answers !== undefined && (typeof answers !== 'object' || answers === null))
    throw wrong('form', `${where}.answers`, 'Answers are an object, by the ids of the questions.');
  return {
    slot: slot === UNDATED ? UNDATED : momentIn(slot, `${where}.slot`),
    due: due === null || due === undefined ? null : momentIn(due, `${where}.due`),
    status: status as Outcome,
    closedAt: parseInstant(closedAt, `${where}.closedAt`),
    answers: answers as Record<string, Answer> | undefined,
    spent: spent as number | undefined,
    takes,
  };
}

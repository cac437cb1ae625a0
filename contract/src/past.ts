import type { Answer, Details, Filled, LocalDate, LocalMoment, Series } from '@back-again/core';
import type { AnswerFigures, Insight, Outcome } from '@back-again/core/past';
import { object, string, type InferType } from 'yup';
import { day, id, whole } from './schemas.ts';

/** What is asked about what really happened, and what is answered. */

const oneOf = <T extends string>(label: string, values: readonly T[]) =>
  string<T>()
    .strict()
    .oneOf(values, `${label} is one of ${values.join(', ')}.`);

export const pastDaySchema = object({ on: day('on').required('Say which day.') })
  .noUnknown()
  .strict();

/** Of what: one to-do, a place with all that it holds, or everything. */
const about = { todo: id('The to-do').notRequired(), place: id('The place').notRequired() };
const span = {
  from: day('from').required('Say from which day.'),
  to: day('to').required('Say to which day.'),
};

export const pastDaysSchema = object({ ...span, ...about })
  .noUnknown()
  .strict();

export const pastTodoSchema = object({
  from: day('from').optional(),
  to: day('to').optional(),
  /** How many of its times come before the page, the newest first. */
  skip: whole('skip').optional(),
})
  .noUnknown()
  .strict();

export const ROWS = [
  'sphere',
  'strand',
  'project',
  'place',
  'todo',
  'tag',
  'week',
  'month',
  'year',
] as const;
export const EACH = ['none', 'week', 'month', 'year'] as const;
export type TotalsBy = (typeof ROWS)[number];
export type TotalsEach = (typeof EACH)[number];

export const totalsSchema = object({
  ...span,
  ...about,
  by: oneOf('by', ROWS).required('Say by what.'),
  each: oneOf('each', EACH).optional(),
  /** The numbers of a question: its words and its unit. */
  asks: string().strict().max(200, 'A question has 200 characters at most.').optional(),
  unit: string().strict().max(20, 'A unit has 20 characters at most.').optional(),
})
  .noUnknown()
  .strict();
export type TotalsAsked = InferType<typeof totalsSchema>;

export const lookBackSchema = object({
  /** Which of its times, by its running number; left out: the one that is open or comes. */
  number: whole('number').optional(),
})
  .noUnknown()
  .strict();

interface Stamp {
  now: string;
  today: LocalDate;
}

/** A time that has ended, with what it was then. */
export interface PastRow {
  todo: string;
  number: number;
  slot: LocalMoment;
  due: LocalMoment | null;
  status: Outcome;
  closedAt: string;
  dueOn: LocalDate;
  doneOn: LocalDate | null;
  late: number | null;
  minutes: number;
  estimated: number;
  /** What it was called then. */
  title: string;
  /** What the place was called in which it belonged then. */
  place: string | null;
  /** How it comes back, for its arc. */
  kind: 'fixed' | 'after' | 'once';
  /** So many times a period: how many were done, and of how many. */
  tally: number | null;
  quota: number | null;
  note: string | null;
  filled: Filled | null;
  /** The steps and questions that it had then, and its estimate. */
  had: Pick<Details, 'steps' | 'questions' | 'takes'>;
  /** Whether its to-do was taken away. */
  isGone: boolean;
}

/** What happened on a day: done on it; skipped and missed that were due on it. */
export interface PastDayView extends Stamp {
  on: LocalDate;
  done: PastRow[];
  skipped: PastRow[];
  missed: PastRow[];
  /** How many of each; more than are in the lists where those are cut. */
  counts: Counts;
  minutes: number;
  estimated: number;
}

export interface Counts {
  done: number;
  skipped: number;
  missed: number;
}

/** What some days came to, those with something alone, in order. */
export interface PastDaysView extends Stamp {
  days: (Counts & {
    date: LocalDate;
    /** How many were done on that day; `done` are those that were due on it. */
    doneOn: number;
    minutes: number;
    estimated: number;
  })[];
}

/** One time of the trail: how the to-do came back. */
export interface TrailTime {
  slot: LocalMoment;
  dueOn: LocalDate;
  doneOn: LocalDate | null;
  status: Outcome;
}

/** The record of one to-do over a span. */
export interface PastTodoView extends Stamp {
  todo: string;
  title: string;
  place: string | null;
  series: Series;
  details: Details;
  /** When it was taken away, and by which action; null where it is there. */
  removed: { at: string; action: string | null } | null;
  from: LocalDate;
  to: LocalDate;
  insight: Insight;
  /** The last times of the span, the oldest first. */
  trail: TrailTime[];
  /** The last answers to each question in the span, the oldest first. */
  answers: Record<string, { on: LocalDate; answer: Answer }[]>;
  /** Whether what is said is of its last times alone: there are too many in the span. */
  isCut: boolean;
  /** A page of the times that have ended, the newest first. */
  times: PastRow[];
  /** Whether there are older ones. */
  more: boolean;
}

/** What something came to. */
export interface Figures extends Counts {
  /** Per cent; null where nothing was done or missed. */
  kept: number | null;
  minutes: number;
  estimated: number;
  /** The numbers that were asked for; null where there are none. */
  asked: AnswerFigures | null;
}

export interface TotalsRow extends Figures {
  /** Of a place or a to-do its id, of a tag its words, of a period its first day; `none` for the rest. */
  key: string;
  name: string;
  /** What the sphere is called that holds it; null for none. */
  under: string | null;
  /** Whether the to-do or the place was taken away. */
  isGone: boolean;
  /** By the keys of the periods. */
  parts: Record<string, Figures>;
}

export interface TotalsView extends Stamp {
  /** All of it: a time with several tags counts once. */
  all: Figures;
  rows: TotalsRow[];
  /** The first days of the periods, in order, from the first to the last that has something. */
  periods: LocalDate[];
}

/** What the page of a look-back fills itself with. */
export interface LookBackView extends Stamp {
  todo: string;
  title: string;
  /** From the end of the one before to the end of this one, or now. */
  since: string;
  until: string;
  /** This one; null where none is open yet. */
  time: PastRow | null;
  /** The numbers of the ended ones beside it. */
  before: number | null;
  after: number | null;
  counts: Counts;
  minutes: number;
  estimated: number;
  /** To-dos that were done, with how often, the most first. */
  done: { todo: string; title: string; place: string | null; times: number; minutes: number }[];
  missed: PastRow[];
  /** Times that were moved three times and more, the last time meanwhile. */
  moved: {
    todo: string;
    title: string;
    slot: LocalMoment;
    moves: number;
    due: LocalMoment | null;
  }[];
  /** What was late as it ended: due before, and not done by then. */
  late: { todo: string; title: string; slot: LocalMoment; due: LocalMoment; days: number }[];
}

import { CoreError, MOST_KEPT, isKept, type Details, type Series } from '@back-again/core';
import type { ExchangedTime } from '@back-again/core/exchange';
import { array, mixed, object, string, type InferType } from 'yup';
import { checkWhat, checkWhen, id, passes } from './schemas.ts';

/** What goes in and out: secret addresses and keys, what comes in, and the account. */

export const DOORS = ['key', 'feed', 'way'] as const;
export const REACHES = ['read', 'finish', 'all'] as const;
export type DoorKind = (typeof DOORS)[number];
/** What a key opens: reading, finishing as well, or everything. */
export type Reach = (typeof REACHES)[number];

/** A key, the address of a feed, or the way of its own of a to-do. */
export const doorSchema = object({
  kind: string<DoorKind>()
    .strict()
    .oneOf(DOORS, 'It is a key, a feed or a way.')
    .required('Say what it is.'),
  name: string()
    .strict()
    .typeError('A name is text.')
    .max(100, 'A name has 100 characters at most.')
    .optional(),
  reach: string<Reach>()
    .strict()
    .oneOf(REACHES, 'A key opens “read”, “finish” or “all”.')
    .when('kind', { is: 'key', then: (it) => it.required('Say what the key opens.') }),
  /** The sphere of a feed; null: everything. */
  place: id('The place').nullable().notRequired(),
  todo: id('The to-do')
    .notRequired()
    .when('kind', { is: 'way', then: (it) => it.required('Say which to-do.') }),
})
  .noUnknown()
  .strict();
export type DoorBody = InferType<typeof doorSchema>;

/** One that was made: its secret is shown once, and never again. */
export interface DoorView {
  id: string;
  kind: DoorKind;
  name: string;
  reach: Reach | null;
  place: string | null;
  todo: string | null;
  createdAt: string;
  usedAt: string | null;
  uses: number;
}
export interface MadeDoor {
  door: DoorView;
  /** The key itself, or the address. */
  secret: string;
}
export interface DoorsView {
  doors: DoorView[];
}

/** What the way of its own of a to-do would do, or has done. */
export interface WayView {
  state: 'open' | 'waits' | 'done' | 'ended';
  title: string;
  /** When what it finishes is due. */
  due: string | null;
  today: string;
  /** When it comes back; null for not known. */
  next: { due: string; kind: 'firm' | 'expected' } | null;
}

export const waySchema = object({ id: id('The id').optional() })
  .noUnknown()
  .strict();

const MOST_TIMES = 20_000;
const STATUS = ['open', 'done', 'skipped', 'missed'];
const isText = (value: unknown, most: number) => typeof value === 'string' && value.length <= most;

/** @throws CoreError `exchange.time` */
function checkExchanged(given: unknown): ExchangedTime[] {
  const wrong = (where: string, words: string) => new CoreError('exchange.time', where, words);
  if (!Array.isArray(given) || given.length > MOST_TIMES)
    throw wrong('times', `The times are a list of ${MOST_TIMES} at most.`);
  given.forEach((it: unknown, i) => {
    const at = `times.${i}`;
    if (typeof it !== 'object' || it === null) throw wrong(at, 'A time is an object.');
    const {
      slot,
      due,
      status,
      closedAt,
      plan,
      part,
      tally,
      note,
      ticks,
      steps,
      answers,
      spent,
      kept,
    } = it as Record<string, unknown>;
    const isMoment = (value: unknown) =>
      typeof value === 'string' && /^(\d{4}-\d\d-\d\d(T\d\d:\d\d)?|undated)$/u.test(value);
    if (!isMoment(slot)) throw wrong(`${at}.slot`, 'A slot is a date, or a date and time.');
    if (due !== null && !isMoment(due))
      throw wrong(`${at}.due`, 'A due moment is a date, or a date and time.');
    if (!STATUS.includes(status as string))
      throw wrong(`${at}.status`, `It is ${STATUS.join(', ')}.`);
    if (closedAt !== undefined && closedAt !== null && Number.isNaN(Date.parse(String(closedAt))))
      throw wrong(`${at}.closedAt`, 'When it ended is a moment.');
    if (plan !== undefined && plan !== null && !isMoment(plan))
      throw wrong(`${at}.plan`, 'A plan is a date.');
    const isCount = (value: unknown, most: number) =>
      value === undefined ||
      (Number.isInteger(value) && Number(value) >= 0 && Number(value) <= most);
    if (!isCount(part, 99)) throw wrong(`${at}.part`, 'A part is 0 to 99 in a hundred.');
    if (!isCount(tally, 999)) throw wrong(`${at}.tally`, 'A tally is 0 to 999.');
    if (!isCount(spent, 6000)) throw wrong(`${at}.spent`, 'What it took is 0 to 6,000 minutes.');
    if (note !== undefined && !isText(note, 2000))
      throw wrong(`${at}.note`, 'A note has 2,000 characters at most.');
    const isIds = (all: unknown) =>
      Array.isArray(all) && all.length <= 100 && all.every((id_) => isText(id_, 36));
    if (ticks !== undefined && !isIds(ticks))
      throw wrong(`${at}.ticks`, 'Ticks are the ids of steps.');
    if (
      steps !== undefined &&
      !(
        Array.isArray(steps) &&
        steps.length <= 100 &&
        steps.every(
          (step: { id?: unknown; text?: unknown }) =>
            isText(step?.id, 36) && isText(step?.text, 200),
        )
      )
    )
      throw wrong(`${at}.steps`, 'Steps have an id and words.');
    if (
      answers !== undefined &&
      (typeof answers !== 'object' || answers === null || JSON.stringify(answers).length > 20_000)
    )
      throw wrong(`${at}.answers`, 'Answers are an object.');
    if (kept !== undefined && !isKept(kept))
      throw wrong(
        `${at}.kept`,
        `What is kept with it is a list of properties, ${MOST_KEPT} characters at most.`,
      );
  });
  return given as ExchangedTime[];
}

/** Several to-dos that come in, with their records: one action, with one undo. */
export const takeInSchema = object({
  id: id('The id'),
  todos: array(
    object({
      todo: id('The to-do'),
      /** It is there already, and becomes what it is elsewhere. */
      isThere: mixed<boolean>().oneOf([true, false]).optional(),
      series: mixed<Series>()
        .required('Say when it comes back.')
        .test(passes((value) => checkWhen(value))),
      details: mixed<Partial<Details> & Pick<Details, 'title'>>()
        .required('Say what it is.')
        .test(passes((value) => checkWhat(value))),
      times: mixed<ExchangedTime[]>()
        .optional()
        .test(passes((value) => checkExchanged(value))),
    })
      .noUnknown()
      .strict(),
  )
    .strict()
    .typeError('The to-dos are a list.')
    .required('The to-dos are missing.')
    .min(1, 'Say which to-dos.')
    .max(5000, 'At most 5,000 to-dos at once.'),
})
  .noUnknown()
  .strict();
export type TakeInBody = InferType<typeof takeInSchema>;
export type TakenIn = TakeInBody['todos'][number];

/** What came of it; the app hears of the to-dos themselves as of any change. */
export interface TakeInAnswer {
  action: string;
  version: number;
  /** How many came in, and how many of those there before were changed. */
  made: number;
  changed: number;
}

/** What of a calendar is asked for: one to-do, a place with all that it holds, or everything. */
export const calendarSchema = object({
  todo: id('The to-do').notRequired(),
  place: id('The place').notRequired(),
})
  .noUnknown()
  .strict();

/** What was put back. */
export interface PutBackView {
  todos: number;
  times: number;
  places: number;
  files: number;
  /** What was there already, and stays as it is. */
  there: number;
}

export interface SessionsView {
  sessions: { id: string; isThis: boolean; device: string; since: string; seen: string }[];
}

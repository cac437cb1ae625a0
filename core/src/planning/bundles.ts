import { formatDay, parseDay, weekdayIndex, type LocalDate } from '../calendar/day.ts';
import {
  checkDetailNote,
  checkQuestions,
  checkSteps,
  checkTakes,
  checkTitle,
  wordsIn,
} from '../definition/whatChecks.ts';
import { NO_DETAILS, type Details, type FromBundle } from '../definition/details.ts';
import { CoreError } from '../errors.ts';

/** Several to-dos that go together, written once and laid into a week or a month as one-offs. */

export interface BundleItem {
  /** What names it within its bundle. */
  key: string;
  title: string;
  /** On which days: of a week from 0 for Monday, of a month from 1. */
  days: number[];
  takes: number | null;
  note: string;
  steps: Details['steps'];
  questions: Details['questions'];
}

export interface Bundle {
  id: string;
  name: string;
  per: 'week' | 'month';
  items: BundleItem[];
}

export const MOST_BUNDLES = 60;
export const MOST_ITEMS = 60;
const MOST_NAME = 80;

/**
 * Checks what a bundle has, its id aside.
 * @throws CoreError `bundle.*`, `series.*` with its place
 */
export function checkBundle(given: unknown): Omit<Bundle, 'id'> {
  const { name, per, items, ...rest } = (given ?? {}) as Record<string, unknown>;
  if (Object.keys(rest).length)
    throw wrong('part', Object.keys(rest)[0]!, 'A bundle has no such part.');
  if (per !== 'week' && per !== 'month')
    throw wrong('per', 'per', 'A bundle is of a week or of a month.');
  if (!Array.isArray(items) || items.length > MOST_ITEMS)
    throw wrong('items', 'items', `A bundle has ${MOST_ITEMS} to-dos at most.`);
  const checked = items.map((it, i) => checkItem(it, per, `items.${i}`));
  if (new Set(checked.map(({ key }) => key)).size < checked.length)
    throw wrong('items', 'items', 'Two of its to-dos have the same key.');
  return { name: wordsIn(name, 'name', 'The name of a bundle', MOST_NAME), per, items: checked };
}

function checkItem(given: unknown, per: Bundle['per'], where: string): BundleItem {
  const it = (given ?? {}) as Record<string, unknown>;
  if (typeof it.key !== 'string' || !it.key || it.key.length > 36)
    throw wrong('items', `${where}.key`, 'Each of its to-dos has a key.');
  const [first, last] = per === 'week' ? [0, 6] : [1, 31];
  const isDay = (day: unknown) =>
    Number.isInteger(day) && Number(day) >= first && Number(day) <= last;
  if (!Array.isArray(it.days) || !it.days.length || !it.days.every(isDay))
    throw wrong(
      'days',
      `${where}.days`,
      `Its days are a list of numbers from ${first} to ${last}.`,
    );
  return {
    key: it.key,
    title: checkTitle(it.title),
    days: [...new Set(it.days as number[])].sort((a, b) => a - b),
    takes: (it.takes ?? null) === null ? null : (checkTakes(it.takes) ?? null),
    note: (it.note ? checkDetailNote(it.note) : '') ?? '',
    steps: (it.steps ? checkSteps(it.steps) : []) ?? [],
    questions: (it.questions ? checkQuestions(it.questions) : []) ?? [],
  };
}

const wrong = (code: string, where: string, message: string) =>
  new CoreError(`bundle.${code}`, where, message);

/** One to-do of a bundle on one of its days. */
export interface Laying {
  from: FromBundle;
  title: string;
  day: LocalDate;
  details: Details;
}

/**
 * What a bundle comes to in a week or a month: each of its to-dos on each of its days. A day that a month
 * lacks is its last one. `there` are those that lie there already: they are left out.
 * @param first the first day of the week or the month
 * @param last its last day
 */
export function layingOf(
  { id, items, per }: Bundle,
  { first, last }: { first: LocalDate; last: LocalDate },
  there: readonly FromBundle[],
): Laying[] {
  const known = new Set(there.map(keyOf));
  const end = parseDay(last);
  return items
    .flatMap(({ key, title, days, takes, note, steps, questions }) =>
      days.map((day, nth): Laying => {
        const start = parseDay(first);
        const at = start + (per === 'week' ? (day - weekdayIndex(start) + 7) % 7 : day - 1);
        const from = { id, item: key, nth, on: first };
        const details = { ...NO_DETAILS, title, takes, note, steps, questions, bundle: from };
        return { from, title, day: formatDay(Math.min(at, end)), details };
      }),
    )
    .filter(({ from }) => !known.has(keyOf(from)))
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}

const keyOf = ({ id, item, nth, on }: FromBundle) => `${id} ${item} ${nth} ${on}`;

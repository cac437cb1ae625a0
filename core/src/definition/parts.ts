import { parseSpan, type Span } from '../calendar/span.ts';
import { formatTime } from '../calendar/time.ts';
import { CoreError } from '../errors.ts';
import { checkTwoYears } from '../series/definition/limits.ts';
import {
  checkEnds,
  checkRepeat,
  checkTimes,
  dateIn,
  isHourly,
  textIn,
} from '../series/definition/checks.ts';
import type { Series } from '../series/definition/definition.ts';
import { checkPauses } from '../series/plan/pauses.ts';
import { checkReminders } from '../series/reminding/reminders.ts';
import type { Definition } from './definition.ts';
import type { Details, Question } from './details.ts';
import {
  checkCame,
  checkDeclined,
  checkDetailNote,
  checkFromBundle,
  checkImportance,
  checkQuestions,
  checkSlack,
  checkSteps,
  checkTags,
  checkTakes,
  checkThen,
  checkTitle,
  checkWindow,
} from './whatChecks.ts';

/**
 * Each part of a definition, once: whether it is of *when* or of *what*, how it is checked, read and said,
 * and by which control it is offered and changed. Every list of parts comes from here.
 */

/** A definition that is being checked: the parts before this one are there already. */
export type Draft = Partial<Definition> & Pick<Definition, 'start' | 'repeat'>;

/** How one stretch of a sentence is said: what joins it to the words before it, and its own words. */
export interface Said {
  joint: string;
  text: string;
}

/** What a part needs of a language to be said. */
export interface SayingWords {
  span(span: Span): string;
  joints: { takes: string; place: string };
  /** Words as they stand, or in quotes where they would be read as more. */
  item(text: string): string;
  list(items: readonly string[], link?: 'and' | 'or'): string;
  days(n: number): string;
  /** The name of a place by its id, as a sentence has it; another text is a name itself. */
  placeName(place: string): string;
  what: WhatWords;
}

/** How a language says what a to-do is. */
export interface WhatWords {
  importance: { high: string; low: string };
  tagged(tags: string): string;
  steps(steps: string): string;
  asks: {
    number(asks: string, unit: string | null): string;
    scale(asks: string, to: number): string;
    yesno(asks: string): string;
    choice(asks: string, of: string): string;
    text(asks: string): string;
    minutes(asks: string): string;
  };
  between(from: string, to: string): string;
  slack(before: string | null, after: string | null): string;
  then(title: string, after: string): string;
  someday: string;
  takingUp: string;
}

/** Words from which a part is read: a pattern of the grammar (see `phrase/lines.ts`), and its value. */
export interface Reads {
  pattern: string;
  /** What was read in the places of the pattern; gives undefined where that says nothing. */
  value(given: { n?: number; m?: number; span?: Span; time?: Minute; to?: Minute }): unknown;
}

/** A time of day as read: minutes since midnight, below 0 for none. */
interface Minute {
  minute: number;
}

/** How a person sets a part. Without `as` the control is one of its own. */
export interface Control {
  /** What the controls are called. */
  title: string;
  /** How it is offered where it is not set, and whether it has a meaning then; left out: it is not offered. */
  offer?: { label: string; isFree(definition: Definition): boolean };
  as?:
    | { kind: 'number'; label: string; from: number; to: number }
    | { kind: 'text'; label: string; most: number }
    | { kind: 'choice'; options: readonly { value: string; label: string }[] };
}

export interface Part {
  /** Its name in the definition. */
  key: string;
  half: 'when' | 'what';
  /** The stretch of a sentence that says it, with one control; several parts may share one. */
  kind: string;
  /** It is there always, and null where it says nothing. */
  isAlways?: boolean;
  /** It decides when it comes (R13). */
  isTiming?: boolean;
  /** A person sets it elsewhere than in a sentence: a change of the others leaves it as it is. */
  isApart?: boolean;
  /** No sentence says it: it stands beside. */
  isBeside?: boolean;
  /** It is a list: what is said of it in several places of a sentence is joined. */
  isList?: boolean;
  /**
   * Gives it as it is kept; undefined where it says nothing.
   * @throws CoreError with its place
   */
  check(value: unknown, draft: Draft): unknown;
  /** Why it goes with no repeat of so many times a period. */
  notWithQuota?: string;
  reads?: readonly Reads[];
  says?(value: never, words: SayingWords): Said;
  control?: Control;
}

export const MOST_PLACE = 60;

const CLOSED_DAYS: readonly unknown[] = ['keep', 'drop', 'before', 'after', 'nearest'];
const LATES: readonly unknown[] = ['roll', 'wait', 'lapse'];
const OWES: readonly unknown[] = ['latest', 'every'];

const isQuota = ({ repeat }: Pick<Series, 'repeat'>) => repeat?.by === 'quota';
const inHours = ({ repeat }: Pick<Series, 'repeat'>) =>
  repeat?.by === 'completion' && repeat.every.includes('T');
const onWorkdays = ({ repeat }: Pick<Series, 'repeat'>) =>
  repeat !== null && ('everyWorkdays' in repeat || 'workday' in repeat);

/** A span of hours and minutes, in minutes; undefined for any other. */
function minutesIn(span: Span | undefined): number | undefined {
  if (span === undefined) return undefined;
  try {
    const parts = parseSpan(span);
    return parts.months || parts.days ? undefined : parts.minutes;
  } catch (error) {
    if (error instanceof CoreError) return undefined;
    throw error;
  }
}

/** Minutes as a span: “PT1H30M”. */
export function spanOfMinutes(minutes: number): Span {
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  return `PT${hours ? `${hours}H` : ''}${rest ? `${rest}M` : ''}`;
}

/** A check of what says nothing where it is absent or null. */
const given =
  (check: (value: unknown) => unknown): Part['check'] =>
  (value) =>
    value === undefined || value === null ? undefined : check(value);

const yes =
  (key: string): Part['check'] =>
  (value) => {
    if (value !== undefined && value !== null && typeof value !== 'boolean')
      throw new CoreError(`series.${key}`, key, 'It is so, or it is not.');
    return value === true ? true : undefined;
  };

const comma = (text: string): Said => ({ joint: ', ', text });

function askText(question: Question, { what: { asks }, item, list }: SayingWords): string {
  const words = item(question.asks);
  switch (question.kind) {
    case 'number':
      return asks.number(words, question.unit ? item(question.unit) : null);
    case 'scale':
      return asks.scale(words, question.to);
    case 'choice':
      return asks.choice(words, list(question.of.map(item), 'or'));
    default:
      return asks[question.kind](words);
  }
}

/** The parts in the order in which they are checked, kept and offered. */
export const PARTS: Part[] = [
  {
    key: 'title',
    half: 'what',
    kind: 'title',
    isAlways: true,
    check: checkTitle,
  },
  {
    key: 'start',
    half: 'when',
    kind: 'start',
    isAlways: true,
    isTiming: true,
    check: (value) => (value === undefined || value === null ? null : dateIn(value, 'start')),
    control: { title: 'First on' },
  },
  {
    key: 'repeat',
    half: 'when',
    kind: 'repeat',
    isAlways: true,
    isTiming: true,
    check(value, { start }) {
      const repeat = checkRepeat(value ?? null, start);
      if (repeat && start === null)
        throw new CoreError('series.start', 'start', 'What repeats needs a day to start from.');
      return repeat;
    },
    control: {
      title: 'How it comes back',
      offer: { label: 'how it comes back', isFree: ({ start }) => start === null },
    },
  },
  {
    key: 'at',
    half: 'when',
    kind: 'at',
    isTiming: true,
    check(value, { start, repeat }) {
      const at = checkTimes(value);
      if (!at) return undefined;
      if (start === null)
        throw new CoreError('series.at', 'at', 'A time of day needs a day: there is no date yet.');
      if (isHourly(repeat))
        throw new CoreError(
          'series.at',
          'at',
          'With a span in hours the time of day follows from when it was done.',
        );
      if (at.length > 1 && repeat?.by === 'completion')
        throw new CoreError(
          'series.at',
          'at',
          'After I finish, it comes back at one time of day: several go with a repeat by the calendar.',
        );
      return at;
    },
    notWithQuota: 'So many times a period have no time of day.',
    control: {
      title: 'Time of day',
      offer: { label: 'a time of day', isFree: (it) => !inHours(it) && !isQuota(it) },
    },
  },
  {
    key: 'ends',
    half: 'when',
    kind: 'ends',
    check: (value, draft) => checkEnds(value ?? null, draft) ?? undefined,
    control: {
      title: 'Until when',
      offer: { label: 'an end', isFree: ({ repeat }) => repeat !== null },
    },
  },
  {
    key: 'reminders',
    half: 'when',
    kind: 'remind',
    check(value, { start }) {
      if (value === undefined || value === null) return undefined;
      const reminders = checkReminders(value);
      if (reminders.length && start === null)
        throw new CoreError(
          'series.reminders',
          'reminders',
          'A reminder needs a day: there is no date yet.',
        );
      return reminders.length ? reminders : undefined;
    },
    control: {
      title: 'Reminders',
      offer: { label: 'a reminder', isFree: ({ start }) => start !== null },
    },
  },
  {
    key: 'takes',
    half: 'what',
    kind: 'takes',
    check: given(checkTakes),
    reads: ['it? takes about? {span}', 'for about? {span}', '( {span} )'].map((pattern) => ({
      pattern,
      value: ({ span }) => minutesIn(span),
    })),
    says: (minutes: number, { joints, span }) => ({
      joint: joints.takes,
      text: span(spanOfMinutes(minutes)),
    }),
    control: {
      title: 'How long it takes',
      offer: { label: 'how long it takes', isFree: () => true },
    },
  },
  {
    key: 'place',
    half: 'what',
    kind: 'place',
    check(value) {
      if (value === undefined || value === null) return undefined;
      const place = textIn(value, 'place').trim();
      if (!place || place.length > MOST_PLACE)
        throw new CoreError(
          'series.place',
          'place',
          `Where it belongs has 1 to ${MOST_PLACE} characters.`,
        );
      return place;
    },
    says: (place: string, { joints, placeName }) => ({
      joint: joints.place,
      text: placeName(place),
    }),
    control: {
      title: 'Where it belongs',
      offer: { label: 'where it belongs', isFree: () => true },
    },
  },
  {
    key: 'importance',
    half: 'what',
    kind: 'importance',
    check: given(checkImportance),
    says: (importance: 'high' | 'low', { what }) => comma(what.importance[importance]),
    control: {
      title: 'How important it is',
      offer: { label: 'how important it is', isFree: () => true },
    },
  },
  {
    key: 'tags',
    half: 'what',
    kind: 'tags',
    isList: true,
    check: given(checkTags),
    says: (tags: string[], { what, item, list }) => comma(what.tagged(list(tags.map(item)))),
    control: { title: 'Tags', offer: { label: 'tags', isFree: () => true } },
  },
  {
    key: 'window',
    half: 'what',
    kind: 'window',
    check: given(checkWindow),
    reads: [
      {
        pattern: 'between {time} and|to|– {to}',
        value: ({ time, to }) =>
          time && to && time.minute >= 0 && to.minute >= 0 && time.minute !== to.minute
            ? { from: formatTime(time.minute), to: formatTime(to.minute) }
            : undefined,
      },
    ],
    says: ({ from, to }: { from: string; to: string }, { what }) => comma(what.between(from, to)),
    control: {
      title: 'In which part of the day',
      offer: { label: 'in which part of the day', isFree: (it) => it.start !== null && !it.at },
    },
  },
  {
    key: 'slack',
    half: 'what',
    kind: 'slack',
    check: given(checkSlack),
    reads: [
      {
        pattern: 'may be {n} days|day early or {m} days|day late',
        value: ({ n, m }) => ({ before: n, after: m }),
      },
      { pattern: 'may be {n} days|day early', value: ({ n }) => ({ before: n, after: 0 }) },
      { pattern: 'may be {n} days|day late', value: ({ n }) => ({ before: 0, after: n }) },
    ],
    says: ({ before, after }: { before: number; after: number }, { what, days }) =>
      comma(what.slack(before ? days(before) : null, after ? days(after) : null)),
    control: {
      title: 'How far it can be moved',
      offer: { label: 'how far it can be moved', isFree: ({ repeat }) => repeat !== null },
    },
  },
  {
    key: 'someday',
    half: 'what',
    kind: 'someday',
    check(value, draft) {
      const someday = yes('someday')(value, draft);
      if (someday && draft.start)
        throw new CoreError('series.someday', 'someday', 'What is for someday has no date.');
      return someday;
    },
    says: (_: true, { what }) => comma(what.someday),
    control: {
      title: 'Someday',
      offer: { label: 'someday', isFree: ({ start }) => start === null },
    },
  },
  {
    key: 'takingUp',
    half: 'what',
    kind: 'takingUp',
    check: yes('takingUp'),
    says: (_: true, { what }) => comma(what.takingUp),
    control: {
      title: 'A habit that I take up',
      offer: { label: 'that I am taking it up', isFree: ({ repeat }) => repeat !== null },
    },
  },
  {
    key: 'then',
    half: 'what',
    kind: 'then',
    check: given(checkThen),
    says: ({ title, after }: NonNullable<Details['then']>, { what, item, span }) =>
      comma(what.then(item(title), span(after))),
    control: {
      title: 'What comes then',
      offer: { label: 'what comes after it', isFree: () => true },
    },
  },
  {
    key: 'questions',
    half: 'what',
    kind: 'questions',
    isList: true,
    check: given(checkQuestions),
    says: (questions: Question[], words) =>
      comma(questions.map((question) => askText(question, words)).join(', ')),
    control: {
      title: 'What to write down when it is done',
      offer: { label: 'what to write down', isFree: () => true },
    },
  },
  {
    key: 'steps',
    half: 'what',
    kind: 'steps',
    isList: true,
    check: given(checkSteps),
    says: (steps: { text: string }[], { what, item, list }) =>
      comma(what.steps(list(steps.map(({ text }) => item(text))))),
    control: { title: 'Steps', offer: { label: 'steps', isFree: () => true } },
  },
  {
    key: 'note',
    half: 'what',
    kind: 'note',
    isBeside: true,
    check: given(checkDetailNote),
    control: { title: 'Notes', offer: { label: 'a note', isFree: () => true } },
  },
  {
    key: 'bundle',
    half: 'what',
    kind: 'bundle',
    isApart: true,
    isBeside: true,
    check: given(checkFromBundle),
  },
  {
    key: 'looksBack',
    half: 'what',
    kind: 'looksBack',
    isApart: true,
    isBeside: true,
    check: yes('looksBack'),
  },
  {
    key: 'declined',
    half: 'what',
    kind: 'declined',
    isApart: true,
    isBeside: true,
    check: given(checkDeclined),
  },
  {
    key: 'came',
    half: 'what',
    kind: 'came',
    isApart: true,
    isBeside: true,
    check: given(checkCame),
  },
  {
    key: 'opensBefore',
    half: 'when',
    kind: 'opens',
    isTiming: true,
    check(value) {
      if (value === undefined) return undefined;
      const span = textIn(value, 'opensBefore');
      checkTwoYears(
        span,
        'bounds.opensBefore',
        'opensBefore',
        'It opens two years before at the earliest.',
      );
      return span;
    },
    notWithQuota: 'A period opens when it begins.',
    control: {
      title: 'When it opens',
      offer: {
        label: 'when it opens',
        isFree: (it) => it.start !== null && !inHours(it) && !isQuota(it),
      },
    },
  },
  {
    key: 'closedDays',
    half: 'when',
    kind: 'closed',
    isTiming: true,
    check(value, { repeat }) {
      if (value === undefined) return undefined;
      if (!CLOSED_DAYS.includes(value))
        throw new CoreError(
          'series.closedDays',
          'closedDays',
          'A closed day is one of keep, drop, before, after, nearest.',
        );
      if (value === 'drop' && (!repeat || repeat.by === 'completion'))
        throw new CoreError(
          'series.closedDays',
          'closedDays',
          'Only what repeats by the calendar can leave out closed days.',
        );
      return value === 'keep' ? undefined : value;
    },
    notWithQuota: 'So many times a period fall on no set day, closed or not.',
    control: {
      title: 'When that day is closed',
      offer: {
        label: 'what to do on closed days',
        isFree: (it) => it.repeat !== null && !inHours(it) && !isQuota(it) && !onWorkdays(it),
      },
    },
  },
  {
    key: 'late',
    half: 'when',
    kind: 'late',
    check(value) {
      if (value !== undefined && !LATES.includes(value))
        throw new CoreError(
          'series.late',
          'late',
          'What becomes of a late one is “roll”, “wait” or “lapse”.',
        );
      return value;
    },
    notWithQuota: 'What is left of a period ends with it: “late” has no meaning there.',
    control: {
      title: 'When it is left unfinished',
      offer: {
        label: 'what becomes of a late one',
        isFree: (it) => it.repeat !== null && !isQuota(it) && !it.owe,
      },
    },
  },
  {
    key: 'grace',
    half: 'when',
    kind: 'late',
    check(value, { late }) {
      if (value === undefined) return undefined;
      if (late !== 'lapse')
        throw new CoreError(
          'series.grace',
          'grace',
          'A time of grace goes with “lapse”: only what lapses ends by itself.',
        );
      const grace = textIn(value, 'grace');
      parseSpan(grace, 'grace');
      return grace;
    },
  },
  {
    key: 'owe',
    half: 'when',
    kind: 'late',
    check(value) {
      if (value !== undefined && !OWES.includes(value))
        throw new CoreError('series.owe', 'owe', 'What is owed is “latest” or “every”.');
      return value;
    },
    notWithQuota: 'What is left of a period ends with it: “owe” has no meaning there.',
  },
  {
    key: 'pauses',
    half: 'when',
    kind: 'pauses',
    isApart: true,
    check(value) {
      if (value === undefined || value === null) return undefined;
      const pauses = checkPauses(value);
      return pauses.length ? pauses : undefined;
    },
  },
];

export const partOf = (key: string): Part | undefined => PARTS.find((part) => part.key === key);

/** The controls of a definition, by the stretch of a sentence that opens them. */
export function controlOf(kind: string): Control | undefined {
  return PARTS.find((part) => part.kind === kind && part.control)?.control;
}

/** What is not set yet and has a meaning, in order. */
export function offersOf(definition: Definition): { kind: string; label: string }[] {
  const given = definition as unknown as Record<string, unknown>;
  return PARTS.flatMap(({ key, kind, control, isAlways }) => {
    const offer = control?.offer;
    if (!offer || (!isAlways && given[key] !== undefined)) return [];
    return offer.isFree(definition) ? [{ kind, label: offer.label }] : [];
  });
}

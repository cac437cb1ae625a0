import { parseDay } from '../calendar/day.ts';
import { parseSpan, type Span } from '../calendar/span.ts';
import { parseTime } from '../calendar/time.ts';
import { CoreError } from '../errors.ts';
import { checkTwoYears } from '../series/definition/limits.ts';
import type { Answer, Details, Question, StepText } from './details.ts';

/** How the parts of what a to-do is are checked. Each gives it as it is kept, undefined where it says nothing. */

export const MOST_TITLE = 200;
/** An estimate of a hundred hours says nothing. */
export const MOST_TAKES = 100 * 60;
export const MOST_TAGS = 10;
export const MOST_TAG = 40;
export const MOST_DETAIL_NOTE = 20_000;
export const MOST_STEPS = 100;
export const MOST_STEP = 300;
export const MOST_QUESTIONS = 20;
export const MOST_ASKS = 200;
export const MOST_UNIT = 20;
export const MOST_SLACK = 60;
const MOST_DECLINED = 20;
const MOST_CHOICES = 20;
export const MOST_ANSWER = 2000;
const SCALES: readonly unknown[] = [3, 5, 7, 10];

const wrong = (where: string, message: string) =>
  new CoreError(`series.${where.split('.')[0]}`, where, message);

type Given = Record<string, unknown>;

function objectIn(value: unknown, where: string, message: string): Given {
  if (typeof value !== 'object' || value === null || Array.isArray(value))
    throw wrong(where, message);
  return value as Given;
}

/** The bundle that a one-off was laid from. */
export function checkFromBundle(value: unknown): Details['bundle'] {
  const { id, item, nth, on, ...rest } = objectIn(
    value,
    'bundle',
    'It comes from a bundle, or from none.',
  );
  const isKey = (key: unknown) => typeof key === 'string' && key.length > 0 && key.length <= 36;
  const isNth = Number.isInteger(nth) && Number(nth) >= 0 && Number(nth) < 31;
  if (!isKey(id) || !isKey(item) || !isNth || typeof on !== 'string' || Object.keys(rest).length)
    throw wrong('bundle', 'It has the id of its bundle, which of it, and the day from which.');
  parseDay(on, 'bundle.on');
  return { id: id as string, item: item as string, nth: nth as number, on };
}

/** Other intervals that the person does not want for it: spans, each once. */
export function checkDeclined(value: unknown): Span[] | undefined {
  const spans = listIn(value, 'declined', 'Intervals', Infinity).map((it, i) => {
    if (typeof it !== 'string') throw wrong(`declined.${i}`, 'An interval is a span, as P24D.');
    parseSpan(it, `declined.${i}`);
    return it;
  });
  // Those declined last are the ones that would be offered again.
  const kept = [...new Set(spans)].slice(-MOST_DECLINED);
  return kept.length ? kept : undefined;
}

const MOST_UID = 1000;
/** In characters, as JSON. */
export const MOST_KEPT = 20_000;

/** Where it came from. */
export function checkCame(value: unknown): Details['came'] {
  const words = 'It has its UID, and what is kept with it.';
  const { uid, kept, ...rest } = objectIn(value, 'came', words);
  const isNamed = typeof uid === 'string' && uid && uid.length <= MOST_UID;
  if (!isNamed || Object.keys(rest).length || (kept !== undefined && !isKept(kept)))
    throw wrong('came', words);
  return { uid, ...(kept ? { kept: kept as unknown[] } : {}) };
}

/** Properties as jCal: each a list of its name, its parameters, its type and values (RFC 7265 §3.4). */
export const isKept = (value: unknown): value is unknown[] =>
  Array.isArray(value) &&
  JSON.stringify(value).length <= MOST_KEPT &&
  value.every((it) => Array.isArray(it) && it.length > 3 && typeof it[0] === 'string');

/** Text without the white space around it, of 1 to so many characters. */
export function wordsIn(value: unknown, where: string, what: string, most: number): string {
  const text = typeof value === 'string' ? value.trim() : '';
  if (!text || text.length > most) throw wrong(where, `${what} has 1 to ${most} characters.`);
  return text;
}

function listIn(value: unknown, where: string, what: string, most: number): unknown[] {
  if (!Array.isArray(value)) throw wrong(where, `${what} are a list.`);
  if (value.length > most) throw wrong(where, `There are ${most} ${what.toLowerCase()} at most.`);
  return value as unknown[];
}

/** Two ids in one list would be one thing. */
function ownIds(all: readonly { id: string }[], where: string, what: string): void {
  const ids = all.map(({ id }) => id);
  const twice = ids.findIndex((id, i) => ids.indexOf(id) < i);
  if (twice >= 0) throw wrong(`${where}.${twice}.id`, `Each ${what} has an id of its own.`);
}

export function checkTitle(value: unknown): string {
  const text = typeof value === 'string' ? value.trim() : '';
  if (!text) throw wrong('title', 'Say in a few words what it is.');
  if (text.length > MOST_TITLE)
    throw wrong('title', `A title has ${MOST_TITLE} characters at most.`);
  return text;
}

export function checkImportance(value: unknown): string | undefined {
  if (value !== 'high' && value !== 'normal' && value !== 'low')
    throw wrong('importance', 'How important it is, is “high”, “normal” or “low”.');
  return value === 'normal' ? undefined : value;
}

/** Tags as they are kept: one that differs in its case alone is the same. */
export function checkTags(value: unknown): string[] | undefined {
  const tags: string[] = [];
  const known = new Set<string>();
  listIn(value, 'tags', 'Tags', Infinity).forEach((it, i) => {
    const tag = wordsIn(it, `tags.${i}`, 'A tag', MOST_TAG);
    const low = tag.toLocaleLowerCase('en');
    if (!known.has(low)) tags.push(tag);
    known.add(low);
  });
  if (tags.length > MOST_TAGS) throw wrong('tags', `There are ${MOST_TAGS} tags at most.`);
  return tags.length ? tags : undefined;
}

export function checkDetailNote(value: unknown): string | undefined {
  if (typeof value !== 'string') throw wrong('note', 'A note is text.');
  if (value.length > MOST_DETAIL_NOTE) throw wrong('note', 'A note has 20,000 characters at most.');
  return value.trim() ? value.trim() : undefined;
}

/** @throws CoreError with its place */
export function checkStep(value: unknown, where: string): StepText {
  const { id, text } = objectIn(value, where, 'A step has an id and its words.');
  return {
    id: wordsIn(id, `${where}.id`, 'The id of a step', 36),
    text: wordsIn(text, `${where}.text`, 'A step', MOST_STEP),
  };
}

export function checkSteps(value: unknown): StepText[] | undefined {
  const steps = listIn(value, 'steps', 'Steps', MOST_STEPS).map((it, i) =>
    checkStep(it, `steps.${i}`),
  );
  ownIds(steps, 'steps', 'step');
  return steps.length ? steps : undefined;
}

export function checkQuestions(value: unknown): Question[] | undefined {
  const questions = listIn(value, 'questions', 'Questions', MOST_QUESTIONS).map((it, i) =>
    checkQuestion(it, `questions.${i}`),
  );
  ownIds(questions, 'questions', 'question');
  return questions.length ? questions : undefined;
}

function checkQuestion(value: unknown, where: string): Question {
  const given = objectIn(value, where, 'A question has an id, its words and a kind.');
  const about = {
    id: wordsIn(given.id, `${where}.id`, 'The id of a question', 36),
    asks: wordsIn(given.asks, `${where}.asks`, 'A question', MOST_ASKS),
  };
  const end = (name: 'low' | 'high') =>
    given[name] === undefined || given[name] === ''
      ? {}
      : { [name]: wordsIn(given[name], `${where}.${name}`, 'An end of a scale', 40) };
  switch (given.kind) {
    case 'number': {
      const { unit = '', step } = given;
      if (typeof unit !== 'string' || unit.trim().length > MOST_UNIT)
        throw wrong(`${where}.unit`, `A unit has ${MOST_UNIT} characters at most.`);
      if (step !== undefined && !(typeof step === 'number' && step > 0 && step <= 1e6))
        throw wrong(`${where}.step`, 'A step between numbers is a number above 0.');
      return {
        ...about,
        kind: 'number',
        unit: unit.trim(),
        ...(step === undefined ? {} : { step: step as number }),
      };
    }
    case 'scale': {
      if (!SCALES.includes(given.to))
        throw wrong(`${where}.to`, 'A scale goes from 1 to 3, 5, 7 or 10.');
      return { ...about, kind: 'scale', to: given.to as 5, ...end('low'), ...end('high') };
    }
    case 'choice': {
      const of = listIn(given.of, `${where}.of`, 'Choices', MOST_CHOICES).map((it, i) =>
        wordsIn(it, `${where}.of.${i}`, 'A choice', 60),
      );
      if (of.length < 2 || new Set(of).size < of.length)
        throw wrong(`${where}.of`, 'A choice is between two different things at least.');
      return { ...about, kind: 'choice', of };
    }
    case 'yesno':
    case 'text':
    case 'minutes':
      return { ...about, kind: given.kind };
    default:
      throw wrong(
        `${where}.kind`,
        'A question asks for a number, scale, yesno, choice, text or minutes.',
      );
  }
}

export function checkTakes(value: unknown): number {
  if (typeof value !== 'number' || !Number.isInteger(value) || value < 1 || value > MOST_TAKES)
    throw wrong('takes', 'What it takes is in minutes, a hundred hours at most.');
  return value;
}

export function checkWindow(value: unknown): Details['window'] {
  const { from, to } = objectIn(
    value,
    'window',
    'A part of the day goes from one time to another.',
  );
  if (typeof from !== 'string') throw wrong('window.from', 'Say from when.');
  if (typeof to !== 'string') throw wrong('window.to', 'Say until when.');
  if (parseTime(from, 'window.from') === parseTime(to, 'window.to'))
    throw wrong('window.to', 'A part of the day ends at another time than it begins.');
  return { from, to };
}

export function checkSlack(value: unknown): Details['slack'] | undefined {
  const { before = 0, after = 0 } = objectIn(value, 'slack', 'Say by how many days.');
  for (const [key, days] of Object.entries({ before, after }))
    if (typeof days !== 'number' || !Number.isInteger(days) || days < 0 || days > MOST_SLACK)
      throw wrong(`slack.${key}`, `It may be earlier or later by ${MOST_SLACK} days at most.`);
  return before || after ? { before: before as number, after: after as number } : undefined;
}

export function checkThen(value: unknown): Details['then'] {
  const { title, after } = objectIn(value, 'then', 'Say what comes then, and how long after.');
  if (typeof after !== 'string') throw wrong('then.after', 'Say how long after.');
  checkTwoYears(after, 'series.then', 'then.after', 'It is due within two years.');
  return { title: wordsIn(title, 'then.title', 'What comes then', MOST_TITLE), after };
}

/**
 * Checks an answer to a question; null takes it away.
 * @throws CoreError `answer.…` with the place of the answer
 */
export function checkAnswer(question: Question, value: Answer | null): void {
  const where = `answers.${question.id}`;
  const refuse = (message: string) => new CoreError(`answer.${question.kind}`, where, message);
  if (value === null) return;
  switch (question.kind) {
    case 'number':
      if (typeof value !== 'number' || !Number.isFinite(value) || Math.abs(value) > 1e12)
        throw refuse('The answer is a number.');
      return;
    case 'minutes':
      if (typeof value !== 'number' || !Number.isInteger(value) || value < 0 || value > MOST_TAKES)
        throw refuse('The answer is a whole number of minutes.');
      return;
    case 'scale':
      if (typeof value !== 'number' || !Number.isInteger(value) || value < 1 || value > question.to)
        throw refuse(`The answer is a whole number from 1 to ${question.to}.`);
      return;
    case 'yesno':
      if (typeof value !== 'boolean') throw refuse('The answer is yes or no.');
      return;
    case 'choice':
      if (typeof value !== 'string' || !question.of.includes(value))
        throw refuse(`The answer is one of ${question.of.join(', ')}.`);
      return;
    case 'text':
      if (typeof value !== 'string' || value.length > MOST_ANSWER)
        throw refuse('The answer has 2,000 characters at most.');
  }
}

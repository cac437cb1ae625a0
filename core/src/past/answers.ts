import type { Answer, Question } from '../definition/details.ts';
import { spreadOf, sumOf, type Spread } from './figures.ts';

/** What the answers to one question came to; of text, how many there are. */
export interface AnswerFigures extends Partial<Spread> {
  /** Of numbers and minutes. */
  sum?: number;
  /** Of yes or no, and of a choice: how often each was said. */
  counts?: Record<string, number>;
  /** How many answers there are. */
  of: number;
}

const TYPES: Record<Question['kind'], 'number' | 'boolean' | 'string'> = {
  number: 'number',
  scale: 'number',
  minutes: 'number',
  yesno: 'boolean',
  choice: 'string',
  text: 'string',
};

/** Whether an answer is of the kind that a question asks for now: it may have asked for another then. */
export const isAnswerTo = ({ kind }: Question, answer: Answer | undefined): answer is Answer =>
  typeof answer === TYPES[kind];

/** Whether a question is answered with a number. */
export const isNumeric = ({ kind }: Question): boolean => TYPES[kind] === 'number';

/** Whether the numbers of a question make sense together: those of a scale do not. */
export const isSummed = ({ kind }: Question): boolean => kind === 'number' || kind === 'minutes';

/**
 * What the answers to each question came to; questions without any are left out, and so are answers of a
 * kind that their question no longer has.
 * @param given the answers of each time, by the ids of the questions
 */
export function answersOf(
  questions: readonly Question[],
  given: readonly Readonly<Record<string, Answer>>[],
): Record<string, AnswerFigures> {
  const found: [string, AnswerFigures][] = [];
  for (const question of questions) {
    const said = given.flatMap((answers) => {
      const answer = Object.hasOwn(answers, question.id) ? answers[question.id] : undefined;
      return isAnswerTo(question, answer) ? [answer] : [];
    });
    if (said.length) found.push([question.id, figuresOf(question, said)]);
  }
  return Object.fromEntries(found);
}

function figuresOf(question: Question, said: readonly Answer[]): AnswerFigures {
  const of = said.length;
  if (question.kind === 'text') return { of };
  if (!isNumeric(question)) {
    const counts = new Map<string, number>();
    for (const answer of said) counts.set(String(answer), (counts.get(String(answer)) ?? 0) + 1);
    return { counts: Object.fromEntries(counts), of };
  }
  const numbers = said as readonly number[];
  return {
    ...spreadOf(numbers)!,
    ...(isSummed(question) ? { sum: sumOf(numbers) } : {}),
    of,
  };
}

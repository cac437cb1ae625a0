import { QueryTypes } from 'sequelize';
import type { Question } from '@back-again/core';
import { isAnswerTo, isNumeric, isSummed } from '@back-again/core/past';
import type { Database } from '../db/database.ts';
import type { Actor } from '../machine/work.ts';
import { eachOf, sumAt, type Query, type Sum } from './sums.ts';

/** Numbers that were asked for, by the words of their question: those of several to-dos stand together. */

export type Words = Pick<Extract<Question, { kind: 'number' }>, 'asks' | 'unit'>;

/** Whether a question is the one of those words. */
const isAsked = (question: Question, { asks, unit }: Words) =>
  isNumeric(question) &&
  question.asks.toLocaleLowerCase('en') === asks.toLocaleLowerCase('en') &&
  (question.kind === 'number' ? question.unit : '') === unit;

/** The questions of those words, by the to-dos that ask them. */
async function questionsOf(
  db: Database,
  { userId }: Actor,
  words: Words,
): Promise<Map<string, Question[]>> {
  const rows = await db.sequelize.query<{ id: string; questions: string | Question[] }>(
    `SELECT id, JSON_EXTRACT(details, '$.questions') AS questions FROM series
      WHERE userId = :userId AND JSON_LENGTH(details, '$.questions') > 0`,
    { type: QueryTypes.SELECT, replacements: { userId } },
  );
  const found = new Map<string, Question[]>();
  for (const { id, questions } of rows) {
    const all = typeof questions === 'string' ? (JSON.parse(questions) as Question[]) : questions;
    const those = all.filter((question) => isAsked(question, words));
    if (those.length) found.set(id, those);
  }
  return found;
}

/** Adds the numbers that were answered, by group and period; gives whether they make sense together. */
export async function addNumbers(
  query: Query,
  words: Words,
  sums: Map<string, Sum>,
): Promise<boolean> {
  const questions = await questionsOf(query.db, query.actor, words);
  const isSum = [...questions.values()].flat().every(isSummed);
  if (!questions.size) return isSum;
  const about = {
    sql: `${query.about.sql} AND o.seriesId IN (:asking)`,
    replacements: { ...query.about.replacements, asking: [...questions.keys()] },
  };
  const rows = await eachOf<{
    seriesId: string;
    answers: string | Record<string, unknown> | null;
  }>(
    { ...query, about },
    'doneOn',
    "o.seriesId, JSON_EXTRACT(o.filled, '$.answers') AS answers",
    'AND o.filled IS NOT NULL',
  );
  for (const { of, period, seriesId, answers } of rows) {
    const said = (typeof answers === 'string' ? JSON.parse(answers) : (answers ?? {})) as Record<
      string,
      number
    >;
    for (const question of questions.get(seriesId)!)
      if (isAnswerTo(question, said[question.id]))
        sumAt(sums, query, { of, period }).numbers.push(said[question.id]!);
  }
  return isSum;
}

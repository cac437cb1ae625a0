import { Op } from 'sequelize';
import type { Ended } from '@back-again/core';
import { plannerFor } from '../compute/tasks.ts';
import { endings, keyOf } from './endings.ts';
import { timeOf, type Todo } from './todo.ts';
import type { Work } from './work.ts';

/** Keeps beside to-dos what was ended of them since yesterday, from their record: where steps were taken back. */
export async function endedLately(work: Work, todos: readonly Todo[]): Promise<void> {
  const { db, userId, transaction, settings } = work;
  const { clock } = plannerFor(settings);
  const mine = { userId, seriesId: todos.map(({ row }) => row.id) };
  const since = clock.startOf(clock.dayAt(work.now()) - 1);
  const last = await endings(db, { ...mine, number: { [Op.ne]: null } }, transaction);
  const ends = [...last.values()];
  const actions = await db.actions.findAll({
    attributes: ['seq', 'id', 'doneAt'],
    where: {
      userId,
      seq: [...new Set(ends.map(({ actionSeq }) => actionSeq))],
      doneAt: { [Op.gte]: new Date(since) },
    },
    transaction,
  });
  const bySeq = new Map(actions.map((action) => [action.seq, action]));
  const numbers = ends.filter((step) => bySeq.has(step.actionSeq)).map(({ number }) => number!);
  const times = numbers.length
    ? await db.occurrences.findAll({
        where: { ...mine, number: [...new Set(numbers)], status: ['done', 'skipped'] },
        transaction,
      })
    : [];
  const found = new Map<string, Ended[]>();
  for (const time of times) {
    const ending = last.get(keyOf(time));
    const action = ending && bySeq.get(ending.actionSeq);
    if (!action) continue;
    const one = { time: timeOf(time), action: action.id, at: action.doneAt.getTime() };
    found.set(time.seriesId, [...(found.get(time.seriesId) ?? []), one]);
  }
  for (const { row } of todos)
    row.lately =
      found.get(row.id)?.sort((a, b) => a.at - b.at || a.time.number - b.time.number) ?? null;
}

import { Op } from 'sequelize';
import { daysLate, lastOverview, pauseOn, type Instant } from '@back-again/core';
import type { OverviewContent, OverviewItem, TimeView, TodoView } from '@back-again/contract';
import type { Database } from '../store/database.ts';
import type { UserRow } from '../store/models.ts';
import { overviewOf, writeDrafts } from '../store/notices.ts';
import { overviewAfter } from '../store/users.ts';
import { todayView } from '../store/views.ts';

const BATCH = 20;

/** Says the morning overviews that are due, each by one server alone; after an outage the last one. */
export async function sayOverviews(db: Database, now: Instant): Promise<void> {
  for (;;) {
    const users = await db.users.findAll({
      where: { overviewAt: { [Op.lte]: new Date(now) } },
      order: [['overviewAt', 'ASC']],
      limit: BATCH,
    });
    for (const user of users) await sayTo(db, user, now);
    if (users.length < BATCH) return;
  }
}

async function sayTo(db: Database, user: UserRow, now: Instant): Promise<void> {
  const { id, settings, overviewAt } = user;
  const last = lastOverview(settings, now);
  // Nothing is locked while it is put together: who moves the hour on first says it.
  const content = last && (await contentOf(db, user, last.day, now));
  await db.transaction(async (transaction) => {
    const [moved] = await db.users.update(
      { overviewAt: overviewAfter(settings, now) },
      { where: { id, overviewAt }, transaction },
    );
    if (!moved || !content || !last) return;
    await writeDrafts(db, [overviewOf(id, settings, last, content, now)], transaction);
  });
}

/** What is late, for today and back soon; null where there is nothing to say. */
async function contentOf(
  db: Database,
  { id, settings }: UserRow,
  day: string,
  now: Instant,
): Promise<OverviewContent | null> {
  const { open, later, soon, today } = await todayView(db, { userId: id, settings, now });
  const times = open
    .filter(({ series, quota }) => quota === null && !pauseOn(series, today))
    .flatMap((todo) => todo.open.map((time) => ({ todo, time })))
    .filter(({ time }) => time.plan !== null && time.plan <= today);
  // What was brought to today is for today.
  const isLate = ({ due, plan, planBy }: TimeView) =>
    daysLate({ due }, today, settings) > 0 && !(planBy === 'person' && plan === today);
  const content: OverviewContent = {
    day,
    late: times.filter(({ time }) => isLate(time)).map(itemOf),
    today: [
      ...times.filter(({ time }) => !isLate(time)).map(itemOf),
      ...later.map(({ todo, ahead }) => itemOf({ todo, time: ahead })),
    ].sort((a, b) => ((a.due ?? '') < (b.due ?? '') ? -1 : 1)),
    soon: soon.flatMap((todo) => (todo.next ? [itemOf({ todo, time: todo.next })] : [])),
  };
  const { late, today: forToday, soon: back } = content;
  return late.length + forToday.length + back.length ? content : null;
}

const itemOf = (it: { todo: TodoView; time: { due: string | null } }): OverviewItem => ({
  todo: it.todo.id,
  title: it.todo.series.title,
  due: it.time.due,
});

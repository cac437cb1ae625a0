import { Op } from 'sequelize';
import { lastOverview, type Instant, type SectionId } from '@back-again/core';
import type { OverviewContent, OverviewItem } from '@back-again/contract';
import type { Log } from '../log.ts';
import { readyFor } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { UserRow } from '../db/models.ts';
import { overviewOf, writeDrafts } from '../said/notices.ts';
import { overviewAfter } from '../account/users.ts';
import { agendaOf } from '../todos/today.ts';

const BATCH = 20;
/** How long a person’s overview that could not be said is left alone before it is tried again. */
const REST = 3600_000;
/** So many to-dos of each kind are named. */
const MOST_NAMED = 50;

/** Says the morning overviews that are due, each by one server alone; after an outage the last one. */
export async function sayOverviews(db: Database, log: Log, now: Instant): Promise<void> {
  for (;;) {
    const users = await db.users.findAll({
      where: { overviewAt: { [Op.lte]: new Date(now) } },
      order: [['overviewAt', 'ASC']],
      limit: BATCH,
    });
    for (const user of users)
      try {
        await readyFor(user.settings);
        await sayTo(db, user, now);
      } catch (error) {
        // It rests, and holds up nobody else.
        log.error({ user: user.id, err: error }, 'a morning overview could not be said');
        await db.users.update({ overviewAt: new Date(now + REST) }, { where: { id: user.id } });
      }
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
  const { agenda, titleOf } = await agendaOf(db, { userId: id, settings, now });
  const itemOf = ({ todo, due }: { todo: string; due: string | null }): OverviewItem => ({
    todo,
    title: titleOf(todo),
    due,
  });
  const named = (ids: readonly SectionId[]) =>
    agenda.sections.filter((section) => ids.includes(section.id)).flatMap(({ rows }) => rows);
  const late = named(['late']).map(itemOf);
  const forToday = named(['morning', 'afternoon', 'evening', 'anytime'])
    .map(itemOf)
    .sort((a, b) => ((a.due ?? '') < (b.due ?? '') ? -1 : 1));
  const soon = agenda.soon.map(itemOf);
  return late.length + forToday.length + soon.length
    ? bounded(day, { late, today: forToday, soon })
    : null;
}

/** An overview that names the first so many of each kind, and says how many more there are. */
function bounded(
  day: string,
  { late, today, soon }: Pick<OverviewContent, 'late' | 'today' | 'soon'>,
): OverviewContent {
  const over = (items: readonly OverviewItem[]) => Math.max(0, items.length - MOST_NAMED);
  const more = { late: over(late), today: over(today), soon: over(soon) };
  return {
    day,
    late: late.slice(0, MOST_NAMED),
    today: today.slice(0, MOST_NAMED),
    soon: soon.slice(0, MOST_NAMED),
    ...(more.late + more.today + more.soon ? { more } : {}),
  };
}

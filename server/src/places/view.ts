import { Op } from 'sequelize';
import {
  addMonths,
  clockOf,
  formatDay,
  formatInstant,
  parseDay,
  within,
  type LocalDate,
} from '@back-again/core';
import { noPlace, type PlacePage } from '@back-again/contract';
import type { Database } from '../db/database.ts';
import { keptOf } from '../machine/places.ts';
import { describedOf } from '../machine/described.ts';
import { findSeries, timeOf, todoOf } from '../machine/todo.ts';
import type { Actor } from '../machine/work.ts';

/** What was done in a place: what belonged to it when it was done. */

const MONTHS = 12;
const MOST_DONE = 30;

/**
 * The record of a place and of all that it holds: what was done last, and its totals by month.
 * @throws CoreError `place.none` where there is none of this person's by that id
 */
export async function placePage(db: Database, actor: Actor, id: string): Promise<PlacePage> {
  const { userId, settings, now } = actor;
  const rows = await db.places.findAll({ where: { userId } });
  const places = rows.map(keptOf);
  if (!places.some((place) => place.id === id && !place.gone)) throw noPlace();
  const inside = within(places, id);
  const clock = clockOf(settings);
  const today = formatDay(clock.dayAt(now));
  const first = monthBefore(today, MONTHS - 1);
  const ended = await db.occurrences.findAll({
    where: {
      userId,
      status: 'done',
      closedAt: { [Op.gte]: new Date(clock.instantOf(`${first}-01`)) },
    },
    order: [
      ['closedAt', 'DESC'],
      ['seriesId', 'ASC'],
    ],
  });
  const ids = [...new Set(ended.map(({ seriesId }) => seriesId))];
  const series = await findSeries(db, userId, { id: ids, removedAt: null });
  const details = new Map(series.map((row) => [row.id, todoOf(row, settings).details]));
  const whatAt = await describedOf(db, userId, details);
  const done: PlacePage['done'] = [];
  const months = new Map(
    Array.from({ length: MONTHS }, (_, i) => [
      monthBefore(today, MONTHS - 1 - i),
      { minutes: 0, done: 0 },
    ]),
  );
  for (const row of ended) {
    const at = row.closedAt!.getTime();
    const was = whatAt(row.seriesId, at)?.details;
    if (!was?.place || !inside.has(was.place)) continue;
    const time = timeOf(row);
    const month = months.get(formatDay(clock.dayAt(at)).slice(0, 7));
    if (month) {
      month.minutes += time.filled?.spent ?? was.takes ?? 0;
      month.done += 1;
    }
    if (done.length < MOST_DONE)
      done.push({
        todo: row.seriesId,
        title: was.title,
        slot: time.slot,
        closedAt: formatInstant(at),
      });
  }
  return {
    now: formatInstant(now),
    today,
    done,
    months: [...months].map(([month, totals]) => ({ month, ...totals })),
  };
}

/** The month so many before that of a date, as `YYYY-MM`. */
const monthBefore = (date: LocalDate, n: number): string =>
  formatDay(addMonths(parseDay(`${date.slice(0, 7)}-01`), -n)).slice(0, 7);

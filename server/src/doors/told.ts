import { Op, type Transaction } from 'sequelize';
import {
  CoreError,
  formatInstant,
  namesOf,
  present,
  within,
  type KeptPlace,
} from '@back-again/core';
import {
  aroundEntries,
  seriesTold,
  timesTold,
  type ExchangedTime,
  type ExchangedTodo,
} from '@back-again/core/exchange';
import { noPlace, noTodo } from '@back-again/contract';
import { compute } from '../compute/compute.ts';
import { holidaysFor } from '../compute/holidays.ts';
import type { Database } from '../db/database.ts';
import type { SeriesRow } from '../db/models.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import { describedOf, type Described } from '../machine/described.ts';
import { placesOf } from '../machine/places.ts';
import { timeOf, todoOf, type Todo } from '../machine/todo.ts';
import type { Actor } from '../machine/work.ts';

/** To-dos as other programs are told them. */

/** So many to-dos are read at a time. */
const SOME = 50;

export interface About {
  todo?: string | null | undefined;
  place?: string | null | undefined;
}

interface Telling {
  db: Database;
  actor: Actor;
  places: KeptPlace[];
  transaction?: Transaction;
}

/** Those of a person’s to-dos that are told, a batch at a time, in the order of their ids. */
export async function* rowsTold(
  { db, actor, places, transaction }: Telling,
  { todo, place }: About,
): AsyncGenerator<SeriesRow[]> {
  const inPlace = place ? { place: [...within(places, place)] } : {};
  let after = '';
  for (;;) {
    const rows = await db.series.findAll({
      where: {
        userId: actor.userId,
        removedAt: null,
        ...inPlace,
        id: todo ? todo : { [Op.gt]: after },
      },
      order: [['id', 'ASC']],
      limit: SOME,
      ...(transaction ? { transaction } : {}),
    });
    if (rows.length) yield rows;
    if (todo || rows.length < SOME) return;
    after = rows.at(-1)!.id;
  }
}

/** A to-do with its whole record, as it is told. */
async function toldOf(it: Telling, todo: Todo): Promise<ExchangedTodo> {
  const { db, actor, transaction } = it;
  const { row, progress } = todo;
  const rows = await db.occurrences.findAll({
    where: { userId: actor.userId, seriesId: row.id, status: { [Op.ne]: 'open' } },
    order: ['slot', 'number'],
    ...(transaction ? { transaction } : {}),
  });
  const whatAt = await describedOf(
    db,
    actor.userId,
    new Map([[row.id, todo.details]]),
    transaction,
  );
  const [last] = await db.steps.findAll({
    attributes: ['at'],
    where: { userId: actor.userId, seriesId: row.id },
    order: [['at', 'DESC']],
    limit: 1,
    ...(transaction ? { transaction } : {}),
  });
  const ended = rows.map(timeOf);
  const byNumber = new Map(ended.map((time) => [time.number, time]));
  const times = timesTold(progress, ended).map((time): ExchangedTime => {
    const had = time.number === undefined ? undefined : byNumber.get(time.number);
    const closedAt = had?.closedAt ?? null;
    const then = closedAt === null ? null : whatAt(row.id, closedAt);
    const other = then && otherThen(then, todo);
    return other ? { ...time, details: other } : time;
  });
  const { came, ...details } = todo.details;
  return {
    id: came?.uid ?? row.id,
    series: seriesTold(progress),
    details,
    ...(times.length ? { times } : {}),
    created: formatInstant(row.createdAt.getTime()),
    ...(last ? { changed: formatInstant(last.at.getTime()) } : {}),
    version: row.steps,
    ...(came?.kept ? { kept: came.kept as NonNullable<ExchangedTodo['kept']> } : {}),
  };
}

/** What it was called and noted with then, where that is other than now. */
function otherThen({ details }: Described, todo: Todo): ExchangedTime['details'] | null {
  const { title, note } = details;
  const other = {
    ...(title === todo.details.title ? {} : { title }),
    ...(note === todo.details.note ? {} : { note }),
  };
  return Object.keys(other).length ? other : null;
}

/**
 * A calendar of some of a person’s to-dos, piece by piece; what is behind catches up before.
 * @param leftOut hears of each that cannot be written, with why
 * @throws CoreError `todo.none`, `place.none`
 */
export async function* calendarOf(
  db: Database,
  actor: Actor,
  about: About,
  {
    transaction,
    leftOut = () => undefined,
  }: { transaction?: Transaction; leftOut?: (id: string, why: string) => void } = {},
): AsyncGenerator<string> {
  const { userId, settings, now } = actor;
  if (!transaction) await catchUpAll(db, userId, settings, now);
  const places = await placesOf(db, userId, transaction);
  if (about.place && !places.some(({ id, gone }) => id === about.place && !gone)) throw noPlace();
  const it = { db, actor, places, ...(transaction ? { transaction } : {}) };
  const names = namesOf(present(places));
  const year = new Date(now).getUTCFullYear();
  const { head, foot } = aroundEntries(settings, { from: 2000, to: year + 3 });
  const input = {
    settings,
    holidays: [...holidaysFor(settings)],
    places: names,
    now: formatInstant(now),
  };
  let isFirst = true;
  for await (const rows of rowsTold(it, about)) {
    for (const row of rows) {
      const todo = todoOf(row, settings);
      try {
        const text = await compute('entryText', { input, todo: await toldOf(it, todo) });
        yield isFirst ? head + text : text;
        isFirst = false;
      } catch (error) {
        if (!(error instanceof CoreError)) throw error;
        leftOut(row.id, error.message);
      }
    }
  }
  if (isFirst && about.todo) throw noTodo();
  yield isFirst ? head + foot : foot;
}

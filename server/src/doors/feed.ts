import { createHash } from 'node:crypto';
import { Op } from 'sequelize';
import { clockOf, formatDay, within } from '@back-again/core';
import { aroundEntries } from '@back-again/core/exchange';
import { compute } from '../compute/compute.ts';
import type { Database } from '../db/database.ts';
import type { DoorRow, OccurrenceRow, SeriesRow } from '../db/models.ts';
import { catchUpAll } from '../machine/catchUp.ts';
import { placesOf } from '../machine/places.ts';
import { findSeries, timeOf, todoOf } from '../machine/todo.ts';
import type { Actor } from '../machine/work.ts';

/** A calendar to subscribe to: what is open and comes, and what was done lately. */

const BACK = 60;
const AHEAD = 400;
/** So many characters of events are remembered, the last used ones. */
const MOST_KEPT = 64_000_000;

/** What was written of a to-do, as long as it stands as it stood. */
interface Kept {
  key: string;
  text: string;
}

const kept = new Map<string, Kept>();
let size = 0;

function keep(id: string, it: Kept): void {
  size += it.text.length - (kept.get(id)?.text.length ?? 0);
  kept.delete(id);
  kept.set(id, it);
  for (const [oldest, { text }] of kept) {
    if (size <= MOST_KEPT) break;
    kept.delete(oldest);
    size -= text.length;
  }
}

export interface Feed {
  /** Of what is in it, for ETag (RFC 9110 §8.8.3). */
  tag: string;
  /** The text, for who has not got it yet. */
  text(): Promise<string>;
}

/** Of a to-do what tells whether its events are as they were. */
type Light = Pick<SeriesRow, 'id' | 'version' | 'changesAt' | 'ended'>;

/**
 * The feed of a door as it is now; what is behind catches up before. Each to-do is written once, and again
 * when something of it has changed, or the day has.
 */
export async function feedOf(db: Database, actor: Actor, door: DoorRow): Promise<Feed> {
  const { userId, settings, now } = actor;
  await catchUpAll(db, userId, settings, now);
  const clock = clockOf(settings);
  const today = clock.dayAt(now);
  const span = {
    from: formatDay(today - BACK),
    until: formatDay(today + AHEAD),
    zone: settings.zone,
    now,
  };
  const places =
    door.placeId === null ? null : [...within(await placesOf(db, userId), door.placeId)];
  const where = { userId, removedAt: null, ...(places ? { place: places } : {}) };
  const rows: Light[] = await db.series.findAll({
    attributes: ['id', 'version', 'changesAt', 'ended'],
    where,
    order: ['createdAt', 'id'],
    raw: true,
  });
  const done = await doneSince(db, userId, span.from);
  const wanted = rows
    .filter(({ id, ended }) => !ended || done.has(id))
    .map((row) => ({ id: row.id, key: keyOf(row, done.get(row.id) ?? [], span) }));
  const all = wanted.map(({ id, key }) => `${id} ${key}`).join('\n');
  const tag = createHash('sha256').update(all).digest('base64url').slice(0, 32);
  return {
    tag,
    async text() {
      const stale = wanted.filter(({ id, key }) => kept.get(`${userId} ${id}`)?.key !== key);
      const fresh = new Map(stale.map(({ id, key }) => [id, key]));
      const found = stale.length
        ? await findSeries(db, userId, { ...where, id: [...fresh.keys()] })
        : [];
      const texts = new Map<string, string>();
      for (const row of found) {
        const text = await eventsOf(row, done.get(row.id) ?? [], span, actor);
        texts.set(row.id, text);
        keep(`${userId} ${row.id}`, { key: fresh.get(row.id)!, text });
      }
      const year = new Date(now).getUTCFullYear();
      const { head, foot } = aroundEntries(settings, { from: year - 1, to: year + 3 }, [
        ['name', {}, 'text', 'Back Again'],
        ['refresh-interval', { value: 'DURATION' }, 'duration', 'PT1H'],
      ]);
      const events = wanted.map(
        ({ id }) => texts.get(id) ?? kept.get(`${userId} ${id}`)?.text ?? '',
      );
      return head + events.join('') + foot;
    },
  };
}

interface Span {
  from: string;
  until: string;
  zone: string;
  now: number;
}

const keyOf = (
  { version, changesAt }: Light,
  times: readonly Pick<OccurrenceRow, 'closedAt'>[],
  { from, until, zone }: Span,
) =>
  [
    version,
    changesAt?.getTime(),
    from,
    until,
    zone,
    times.length,
    times.at(-1)?.closedAt?.getTime(),
  ].join(' ');

async function eventsOf(
  row: SeriesRow,
  times: readonly OccurrenceRow[],
  { from, until, zone, now }: Span,
  { settings }: Actor,
): Promise<string> {
  const { details, progress } = todoOf(row, settings);
  const { title, takes } = details;
  const told = { id: row.id, title, takes, progress, done: times.map(timeOf) };
  const said = Math.max(row.createdAt.getTime(), progress.through ?? 0);
  try {
    return await compute('feedEvents', {
      settings,
      todo: told,
      span: { zone, now, from, until, said },
    });
  } catch {
    // One that cannot be worked out has no times.
    return '';
  }
}

async function doneSince(
  db: Database,
  userId: string,
  from: string,
): Promise<Map<string, OccurrenceRow[]>> {
  const rows = await db.occurrences.findAll({
    where: { userId, doneOn: { [Op.gte]: from } },
    order: ['seriesId', 'number'],
  });
  const found = new Map<string, OccurrenceRow[]>();
  for (const row of rows) found.set(row.seriesId, [...(found.get(row.seriesId) ?? []), row]);
  return found;
}

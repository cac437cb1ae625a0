import { QueryTypes } from 'sequelize';
import {
  formatInstant,
  plainText,
  textHas,
  type Details,
  type Filled,
  type Question,
} from '@back-again/core';
import type { FoundView } from '@back-again/contract';
import type { Database } from '../db/database.ts';
import { describedOf } from '../machine/described.ts';
import { findSeries, todoOf } from '../machine/todo.ts';
import type { Actor } from '../machine/work.ts';

/** Search over what was written down with times that have ended. */

/** So many are given at a time. */
const MOST_FOUND = 20;
/** So many times are looked through at a time, and in one request. */
const AT_ONCE = 500;
const MOST_LOOKED = 5000;

interface Row {
  seriesId: string;
  number: number;
  slot: string;
  closedAt: Date;
  note: string | null;
  filled: string | Filled | null;
}

/**
 * Looks for words in notes, answers and steps of ended times, the latest first; each word begins a word
 * of them, accents and case are of no matter.
 * @param after where the page begins, as the page before said
 */
export async function findInRecord(
  db: Database,
  actor: Actor,
  { words, after }: { words: string; after?: string | undefined },
): Promise<FoundView> {
  const wanted = plainText(words).split(' ').filter(Boolean);
  const found: FoundView['found'] = [];
  if (!wanted.length) return { found, next: null };
  let from = after;
  for (let looked = 0; looked < MOST_LOOKED; looked += AT_ONCE) {
    const rows = await writtenRows(db, actor.userId, from);
    const texts = await textsOf(db, actor, rows);
    for (const row of rows) {
      from = placeOf(row);
      const it = texts(row);
      if (!it || !textHas(it.text, wanted)) continue;
      const { seriesId: todo, slot, closedAt } = row;
      found.push({ todo, slot, closedAt: formatInstant(closedAt.getTime()), ...it });
      if (found.length === MOST_FOUND) return { found, next: from };
    }
    if (rows.length < AT_ONCE) return { found, next: null };
  }
  return { found, next: from ?? null };
}

const placeOf = ({ closedAt, seriesId, number }: Row) =>
  `${closedAt.getTime()} ${seriesId} ${number}`;

/** Ended times with which something was written down, from a place on. */
function writtenRows(db: Database, userId: string, after: string | undefined): Promise<Row[]> {
  const [at, seriesId, number] = after?.split(' ') ?? [];
  const behind = after
    ? 'AND (o.closedAt < :at OR (o.closedAt = :at AND (o.seriesId, o.number) > (:seriesId, :number)))'
    : '';
  return db.sequelize.query<Row>(
    `SELECT o.seriesId, o.number, o.slot, o.closedAt, o.note, o.filled
      FROM occurrences o JOIN series s ON s.userId = o.userId AND s.id = o.seriesId
      WHERE o.userId = :userId AND o.status <> 'open' AND o.closedAt IS NOT NULL
        AND s.removedAt IS NULL AND (o.note IS NOT NULL OR o.filled IS NOT NULL) ${behind}
      ORDER BY o.closedAt DESC, o.seriesId, o.number LIMIT ${AT_ONCE}`,
    {
      type: QueryTypes.SELECT,
      replacements: {
        userId,
        at: new Date(Number(at ?? 0)),
        seriesId: seriesId ?? '',
        number: Number(number ?? 0),
      },
    },
  );
}

/** What was written down with times, as text, with what their to-dos were called then. */
async function textsOf(db: Database, { userId, settings }: Actor, rows: readonly Row[]) {
  const ids = [...new Set(rows.map(({ seriesId }) => seriesId))];
  const series = ids.length ? await findSeries(db, userId, { id: ids }) : [];
  const now = new Map(series.map((row) => [row.id, todoOf(row, settings).details]));
  const whatAt = await describedOf(db, userId, now);
  return ({ seriesId, closedAt, note, filled }: Row): { title: string; text: string } | null => {
    const was = whatAt(seriesId, closedAt.getTime());
    if (!was) return null;
    const said = typeof filled === 'string' ? (JSON.parse(filled) as Filled) : filled;
    const parts = [...(note ? [note] : []), ...(said ? writtenText(said, was.details) : [])];
    return parts.length ? { title: was.details.title, text: parts.join(' · ') } : null;
  };
}

/** Answers by what was asked, steps of that time alone, and the names of files. */
function writtenText(
  { answers = {}, added = [], files = [] }: Filled,
  { questions }: Details,
): string[] {
  const asks = new Map(questions.map(({ id, asks: words }: Question) => [id, words]));
  const said = Object.entries(answers).map(([id, answer]) => {
    const words = answer === true ? 'yes' : answer === false ? 'no' : String(answer);
    return asks.has(id) ? `${asks.get(id)!}: ${words}` : words;
  });
  return [...said, ...added.map(({ text }) => text), ...files.map(({ name }) => name)];
}

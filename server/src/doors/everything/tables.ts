import Papa from 'papaparse';
import { namesOf, present, type Details, type Question } from '@back-again/core';
import type { Database } from '../../db/database.ts';
import type { Transaction } from 'sequelize';
import type { rowsOf } from './rows.ts';
import { placesOf } from '../../machine/places.ts';

/**
 * The same as tables for a spreadsheet: CSV (RFC 4180) in UTF-8, with dates as ISO 8601. Words that it would
 * take for a formula begin with an apostrophe (common practice).
 */

type Cells = readonly (string | number | null | undefined)[];

const line = (cells: Cells): string =>
  `${Papa.unparse([[...cells]], { newline: '\r\n', escapeFormulae: true })}\r\n`;

interface TodoRow {
  id: string;
  title: string;
  place: string | null;
  details: Omit<Details, 'title' | 'place'>;
  definition: { start: string | null };
  nextDue: string | null;
  ended: boolean;
  createdAt: string;
  removedAt: string | null;
  progress: { series: object };
}

export async function tablesOf(
  db: Database,
  userId: string,
  transaction: Transaction,
  rows: ReturnType<typeof rowsOf>,
) {
  const places = await placesOf(db, userId, transaction);
  const names = new Map(namesOf(present(places)).map(({ id, name }) => [id, name]));
  const titles = new Map<string, { title: string; questions: Question[] }>();
  return {
    async *'csv/to-dos.csv'() {
      yield line([
        ...['id', 'title', 'place', 'tags', 'importance', 'minutes', 'start', 'comes back (JSON)'],
        ...['next due', 'ended', 'made', 'taken away', 'note'],
      ]);
      for await (const row of rows.todos() as AsyncGenerator<unknown>) {
        const it = row as TodoRow;
        titles.set(it.id, { title: it.title, questions: it.details.questions ?? [] });
        yield line([
          ...[it.id, it.title, it.place && (names.get(it.place) ?? null)],
          ...[(it.details.tags ?? []).join(', '), it.details.importance, it.details.takes],
          ...[it.definition.start, JSON.stringify(it.progress.series), it.nextDue],
          ...[it.ended ? 'yes' : 'no', it.createdAt, it.removedAt, it.details.note],
        ]);
      }
    },
    async *'csv/times.csv'() {
      yield line([
        ...['to-do', 'title', 'number', 'slot', 'due', 'planned for', 'status', 'opened', 'ended'],
        ...['days late', 'minutes', 'part', 'tally', 'note', 'answers'],
      ]);
      for await (const row of rows.times()) {
        const it = row as Record<string, string | number | null> & {
          filled: { answers?: Record<string, unknown> } | null;
        };
        const about = titles.get(String(it.seriesId));
        yield line([
          ...[it.seriesId, about?.title, it.number, it.slot, it.due, it.plan, it.status],
          ...[it.openedAt, it.closedAt, it.late, it.minutes, it.part, it.tally, it.note],
          answersOf(it.filled, about?.questions ?? []),
        ]);
      }
    },
    async *'csv/places.csv'() {
      yield line(['id', 'kind', 'name', 'in', 'state']);
      for (const { id, kind, name, in: holder, state, gone } of places)
        yield line([
          id,
          kind,
          name,
          holder && (names.get(holder) ?? holder),
          gone ? 'gone' : state,
        ]);
    },
  };
}

/** Answers in the words of their questions. */
function answersOf(
  filled: { answers?: Record<string, unknown> } | null,
  questions: readonly Question[],
) {
  const answers = Object.entries(filled?.answers ?? {});
  const asked = (id: string) => questions.find((it) => it.id === id)?.asks ?? id;
  return answers.map(([id, answer]) => `${asked(id)}: ${String(answer)}`).join('; ');
}

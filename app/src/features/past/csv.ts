import type { Answer, Question } from '@back-again/core';
import type { PastRow } from '@back-again/contract/past';
import Papa from 'papaparse';

/** Tables as CSV (RFC 4180): what is shown, as numbers and words. */

export interface Table {
  heads: readonly string[];
  rows: readonly (readonly (string | number | null)[])[];
}

/**
 * A table as CSV, in UTF-8 with lines ended by CR and LF. Words that a spreadsheet would take for a formula
 * begin with an apostrophe (common practice); numbers stay as they are.
 */
export const csvOf = ({ heads, rows }: Table): string =>
  Papa.unparse(
    { fields: [...heads], data: rows.map((row) => [...row]) },
    {
      newline: '\r\n',
      escapeFormulae: true,
    },
  );

const cellOf = (answer: Answer | undefined): string | number | null =>
  answer === undefined ? null : typeof answer === 'boolean' ? (answer ? 'yes' : 'no') : answer;

/** The times of a to-do as they are shown, with what was written down with each. */
export function rowsCsv(rows: readonly PastRow[], questions: readonly Question[]): Table {
  // What was asked before is a column too, where something shown was answered to it.
  const others = rows
    .flatMap(({ had, filled }) =>
      had.questions.filter(({ id }) => filled?.answers?.[id] !== undefined),
    )
    .filter(({ id }) => !questions.some((question) => question.id === id));
  const asked = [...questions, ...new Map(others.map((it) => [it.id, it])).values()];
  return {
    heads: [
      'Due',
      'Ended as',
      'Done on',
      'Days late',
      'Minutes',
      'Estimated',
      ...asked.map(headOf),
      'Note',
    ],
    rows: rows.map((row) => [
      row.due,
      row.status,
      row.doneOn,
      row.late,
      row.status === 'done' ? row.minutes : null,
      row.status === 'done' ? row.estimated : null,
      ...asked.map(({ id }) => cellOf(row.filled?.answers?.[id])),
      row.note,
    ]),
  };
}

const headOf = (question: Question): string =>
  question.kind === 'number' && question.unit && question.unit !== question.asks
    ? `${question.asks} (${question.unit})`
    : question.asks;

/** Hands a table to the person as a file. */
export function saveCsv(name: string, table: Table): void {
  // A byte order mark: without it some programs take it for another encoding (common practice).
  const url = URL.createObjectURL(
    new Blob(['\uFEFF', csvOf(table)], { type: 'text/csv;charset=utf-8' }),
  );
  const link = document.createElement('a');
  link.href = url;
  link.download = name.replaceAll(/[\\/:*?"<>|]/gu, ' ');
  link.click();
  URL.revokeObjectURL(url);
}

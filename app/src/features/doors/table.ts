import Papa from 'papaparse';

/** A table of a file: CSV (RFC 4180), with whatever stands between its cells. */

/** What a column of a table is. */
export const COLUMNS = [
  'title',
  'sentence',
  'due',
  'note',
  'place',
  'tags',
  'minutes',
  'importance',
  'done',
  'none',
] as const;
export type Column = (typeof COLUMNS)[number];

export interface Table {
  /** The words at its head; where it has none, the cells of its first row. */
  heads: string[];
  /** What each column is. */
  columns: Column[];
  /** The first cells of each column. */
  samples: string[][];
  rows: { line: number; cells: string[] }[];
  problems: { line: number; message: string }[];
}

const WORDS: readonly [Column, RegExp][] = [
  ['title', /^(title|name|to-?dos?|what|summary|subject|thing|task|chore|item|job)$/iu],
  [
    'sentence',
    /^(sentence|when|every|repeats?|recurs?|recurrence|rule|comes back|how often|interval|frequency)$/iu,
  ],
  ['due', /^(due|date|due date|start|next|next due|on|day|deadline)$/iu],
  ['note', /^(notes?|description|comments?|details)$/iu],
  ['place', /^(place|where|list|project|area|sphere|strand|folder)$/iu],
  ['tags', /^(tags?|labels?|categor(y|ies)|keywords?)$/iu],
  ['minutes', /^(minutes|takes|estimate|duration|length|time needed)$/iu],
  ['importance', /^(importance|priority|important)$/iu],
  ['done', /^(done|completed?|finished|ended|status)$/iu],
];

const columnOf = (head: string): Column =>
  WORDS.find(([, pattern]) => pattern.test(head.trim()))?.[0] ?? 'none';

const SAMPLES = 3;

/** Reads a table; null where there is none. @param columns what each column is, where the person said so */
export function readTable(text: string, columns?: readonly Column[]): Table | null {
  const { data, errors, meta } = Papa.parse<string[]>(text.replace(/^\uFEFF/u, ''), {
    skipEmptyLines: 'greedy',
  });
  const [first] = data;
  if (!first || data.length > 1_000_000) return null;
  const isOne = first.length < 2 && meta.delimiter !== ',' && data.every((row) => row.length < 2);
  // Tags of a page, and long prose, are no table.
  if (/^\s*<(!doctype|html|\?xml)/iu.test(first[0] ?? '')) return null;
  const guessed = first.map(columnOf);
  const hasHeads = guessed.some((column) => column !== 'none');
  const heads = hasHeads ? first : first.map((_, i) => `Column ${i + 1}`);
  const own =
    columns ??
    (hasHeads ? once(guessed) : first.map((_, i): Column => (i === 0 ? 'sentence' : 'none')));
  if (!columns && !hasHeads && !isOne && first.length > 1 && data.length < 2) return null;
  const body = hasHeads ? data.slice(1) : data;
  const offset = hasHeads ? 2 : 1;
  return {
    heads,
    columns: heads.map((_, i) => own[i] ?? 'none'),
    samples: heads.map((_, i) => body.slice(0, SAMPLES).map((row) => row[i] ?? '')),
    rows: body.map((cells, i) => ({ line: i + offset, cells })),
    problems: errors
      .filter(({ type }) => type === 'Quotes')
      .slice(0, 100)
      .map(({ row, message }) => ({
        line: (row ?? 0) + 1,
        message: `A quotation mark is left open: ${message}.`,
      })),
  };
}

/**
 * Of two columns that say the same the first is taken, and where none is a name the first that says nothing:
 * the person can say otherwise.
 */
function once(columns: readonly Column[]): Column[] {
  const each = columns.map((column, i) =>
    column !== 'note' && columns.indexOf(column) < i ? 'none' : column,
  );
  const free = columns.indexOf('none');
  if (!each.includes('title') && free >= 0) each[free] = 'title';
  return each;
}

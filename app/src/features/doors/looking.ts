import {
  CoreError,
  NO_DETAILS,
  forecast,
  plannerOf,
  whatOf,
  whenOf,
  checkSeries,
  type Details,
  type LocalDate,
  type NamedPlace,
  type Planner,
  type Series,
  type Settings,
} from '@back-again/core';
import {
  fromIcal,
  settle,
  type ExchangedTime,
  type ExchangedTodo,
} from '@back-again/core/exchange';
import { read, say } from '@back-again/core/reading';
import { definitionOf } from '@back-again/core';
import { readTable, type Column, type Table } from './table.ts';

/** What would come in from a file: worked out in a worker, and shown before anything happens. */

export interface Looked {
  bytes: ArrayBuffer;
  settings: Settings;
  holidays: readonly LocalDate[];
  places: NamedPlace[];
  now: number;
  today: LocalDate;
  /** What each column of a table is, where the person said so. */
  columns?: Column[];
}

/** One to-do that would come in. */
export interface Candidate {
  /** What it is called where it comes from; null where nothing names it. */
  uid: string | null;
  series: Series;
  details: Details;
  times: ExchangedTime[];
  /** As one plain sentence. */
  says: string;
  /** When it comes next: three at most. */
  next: string[];
  /** What was lost of it, or is not certain. */
  doubts: string[];
}

export interface Found {
  form: 'calendar' | 'table' | 'none';
  candidates: Candidate[];
  /** What does not come in at all, with why. */
  left: { where: string; message: string }[];
  table: Omit<Table, 'rows'> | null;
}

export type Told =
  | { kind: 'far'; done: number; of: number }
  | { kind: 'found'; found: Found }
  | { kind: 'wrong'; words: string };

/** So many come in at once. */
export const MOST = 5000;

const NONE: Found = { form: 'none', candidates: [], left: [], table: null };

export function lookAt(it: Looked, heard: (done: number, of: number) => void): Found {
  const text = textOf(it.bytes);
  if (text === null || !text.trim()) return NONE;
  const planner = plannerOf(it.settings, it.holidays);
  return /^\uFEFF?\s*BEGIN\s*:\s*V(CALENDAR|TODO|EVENT|JOURNAL)/iu.test(text)
    ? calendarIn(it, planner, text, heard)
    : tableIn(it, planner, text, heard);
}

/** UTF-8, or else Windows-1252, of which Latin-1 is a part (WHATWG Encoding standard); null for what is no text. */
export function textOf(bytes: ArrayBuffer): string | null {
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    text = new TextDecoder('windows-1252').decode(bytes);
  }
  // A picture or a program has these; no text does.
  const isText = [...text.slice(0, 2000)].every((it) => it >= '\t');
  return isText ? text : null;
}

function calendarIn(
  it: Looked,
  planner: Planner,
  text: string,
  heard: (done: number, of: number) => void,
): Found {
  const input = { ical: text, settings: it.settings, now: new Date(it.now).toISOString() };
  const { todos, problems } = fromIcal(input, (done, of) => heard(done, of * 1.25));
  const doubts = new Map<string, string[]>();
  const left: Found['left'] = [];
  for (const { where, kind, message } of problems) {
    if (kind === 'left out') left.push({ where, message });
    else doubts.set(where, [...(doubts.get(where) ?? []), message]);
  }
  const kept = todos.slice(0, MOST);
  for (const { id } of todos.slice(MOST))
    left.push({ where: id, message: 'Only 5,000 come in at once: take these first.' });
  const candidates = kept.map((todo, i) => {
    if (i % 100 === 0) heard(0.8 + (0.2 * i) / kept.length, 1);
    return candidateOf(it, planner, todo, doubts.get(todo.id) ?? []);
  });
  return { form: 'calendar', candidates, left, table: null };
}

function candidateOf(
  it: Looked,
  planner: Planner,
  todo: ExchangedTodo,
  doubts: readonly string[],
): Candidate {
  const { id, series, kept } = todo;
  const said = [...doubts];
  const given = { ...NO_DETAILS, ...todo.details } as Details;
  const times = (todo.times ?? []).map(({ details, number: _number, ...time }) => {
    // What a time was called then has no place of its own here: it stands in its note.
    const other = [details?.title, details?.note].filter(Boolean).join(': ');
    return other
      ? { ...time, note: [other, time.note].filter(Boolean).join('\n').slice(0, 2000) }
      : time;
  });
  const { place, tags, others } = placeIn(it, given, kept ?? []);
  const came = { uid: id, ...(others.length ? { kept: others } : {}) };
  const details: Details = { ...given, place, tags, came };
  return finished(it, planner, { uid: id, series, details, times, doubts: said });
}

type Kept = NonNullable<ExchangedTodo['kept']>;

/** The place by its id or its name; one that is not here becomes a tag. */
function placeIn(
  { places }: Looked,
  { place, tags }: Details,
  kept: Kept,
): { place: string | null; tags: string[]; others: Kept } {
  const there = places.find(({ id }) => id === place);
  const named = kept.find(([name]) => name === 'categories');
  const others = kept.filter(([name]) => name !== 'categories');
  if (there) return { place: there.id, tags, others };
  const name = named === undefined ? null : String(named[3]);
  const found = places.find((it) => it.name === name);
  if (found) return { place: found.id, tags, others };
  const more = name === null ? [] : [name.slice(0, 60)];
  return { place: null, tags: [...new Set([...tags, ...more])].slice(0, 10), others };
}

function finished(
  it: Looked,
  planner: Planner,
  candidate: Omit<Candidate, 'says' | 'next'>,
): Candidate {
  const { series, details, times, doubts } = candidate;
  const settled = settle(planner, series, times, it.now);
  const lost = settled.lost.map(
    (slot) => `What is said of ${slot} does not come in: it is none of its times now.`,
  );
  const open = settled.begun.open.map(({ due }) => due).filter((due) => due !== null);
  const coming = forecast(planner, settled.begun, it.now, undefined, 3).map(({ due }) => due);
  return {
    ...candidate,
    doubts: [...doubts, ...lost],
    says: say(definitionOf(series, details), it.today, { ...it.settings, places: it.places }),
    next: [...open, ...coming].slice(0, 3),
  };
}

function tableIn(
  it: Looked,
  planner: Planner,
  text: string,
  heard: (done: number, of: number) => void,
): Found {
  const table = readTable(text, it.columns);
  if (!table) return NONE;
  const { rows, columns, problems, ...about } = table;
  const left: Found['left'] = problems.map(({ line, message }) => ({
    where: `line ${line}`,
    message,
  }));
  const candidates: Candidate[] = [];
  for (const [i, { line, cells }] of rows.entries()) {
    if (i % 100 === 0) heard(i, rows.length);
    if (candidates.length >= MOST) {
      left.push({
        where: `line ${line} and on`,
        message: 'Only 5,000 come in at once: take these first.',
      });
      break;
    }
    try {
      candidates.push(rowOf(it, planner, columns, cells));
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      left.push({ where: `line ${line}`, message: error.message });
    }
  }
  return { form: 'table', candidates, left, table: { ...about, columns, problems } };
}

/** A row as a to-do: its sentence is read, and what stands in other columns comes to it. */
function rowOf(
  it: Looked,
  planner: Planner,
  columns: readonly Column[],
  cells: readonly string[],
): Candidate {
  const cell = (kind: Column) =>
    columns
      .flatMap((column, i) => (column === kind && cells[i]?.trim() ? [cells[i].trim()] : []))
      // An apostrophe before what a spreadsheet would take for a formula is not of the words.
      .map((text) => text.replace(/^'(?=[=+\-@\t\r])/u, ''))
      .join(' ');
  const [title, sentence, due] = [cell('title'), cell('sentence'), cell('due')];
  const text = [title, sentence].filter(Boolean).join(' ');
  if (!text && !due)
    throw new CoreError('table.empty', '', 'There is neither a title nor when it comes back.');
  const options = { ...it.settings, places: it.places };
  const reading = read(sentence ? text : 'x', it.today, options);
  const definition = reading.series;
  const doubts = [
    ...(sentence ? reading.problems.map(({ message }) => message) : []),
    ...(sentence && title && definition.title !== title
      ? [`“${sentence}” was not understood as a whole: what was not stays in the title.`]
      : []),
  ];
  let series = sentence
    ? checkSeries(whenOf(definition))
    : checkSeries({ start: null, repeat: null });
  const on = due ? dateIn(due, it.today) : null;
  if (due && on === null)
    doubts.push(`“${due}” is no date that can be read: it comes in without one.`);
  if (on !== null)
    series = series.repeat ? { ...series, start: on } : checkSeries({ ...series, start: on });
  const place = cell('place');
  const found = place
    ? it.places.find(({ name }) => name.toLowerCase() === place.toLowerCase())
    : undefined;
  const tags = [
    ...(sentence ? whatOf(definition).tags : []),
    ...cell('tags')
      .split(/[,;]/u)
      .map((tag) => tag.trim()),
  ];
  if (place && !found) tags.push(place);
  const minutes = minutesIn(cell('minutes'));
  const importance = importanceIn(cell('importance'));
  const what = sentence ? whatOf(definition) : { ...NO_DETAILS, title };
  const name = (sentence ? what.title : title) || 'Without a title';
  const details: Details = {
    ...what,
    title: name.slice(0, 200),
    note: cell('note').slice(0, 20_000),
    place: found?.id ?? what.place,
    tags: [...new Set(tags.filter(Boolean).map((tag) => tag.slice(0, 60)))].slice(0, 10),
    ...(minutes === null ? {} : { takes: minutes }),
    ...(importance === null ? {} : { importance }),
  };
  const isDone = /^(yes|y|x|true|done|1|ja)$/iu.test(cell('done'));
  const slot = series.start ?? 'undated';
  const times: ExchangedTime[] =
    isDone && !series.repeat ? [{ slot, due: series.start, status: 'done' }] : [];
  return finished(it, planner, { uid: null, series, details, times, doubts });
}

/** A date of a cell: ISO 8601, or as a person writes one. */
function dateIn(text: string, today: LocalDate): LocalDate | null {
  const iso = /^(\d{4}-\d\d-\d\d)/u.exec(text)?.[1];
  if (iso) return iso;
  const { series, problems, notUnderstood } = read(`x on ${text}`, today);
  return problems.length || notUnderstood.length || series.title !== 'x' ? null : series.start;
}

function minutesIn(text: string): number | null {
  const [, hours, minutes] =
    /^(?:(\d+)\s*h(?:ours?)?)?\s*(?:(\d+)\s*(?:m|min|minutes?)?)?$/iu.exec(text) ?? [];
  const all = Number(hours ?? 0) * 60 + Number(minutes ?? 0);
  return text && all >= 1 && all <= 6000 ? all : null;
}

function importanceIn(text: string): Details['importance'] | null {
  if (/^(high|important|1|2|urgent)$/iu.test(text)) return 'high';
  if (/^(low|less important|9|8)$/iu.test(text)) return 'low';
  return null;
}

import ICAL from 'ical.js';
import { CoreError } from '../errors.ts';
import { written, type Component } from './jcal.ts';

/**
 * Cuts a calendar into its entries, so that one bad entry never takes the rest along; the lines of each are
 * read by a library.
 */

export interface Cut {
  /** `vtodo`, `vevent`, `vjournal`, `vtimezone`. */
  name: string;
  /** Its running number among the entries, from 1; of zones 0. */
  entry: number;
  /** The line on which it begins, from 1. */
  line: number;
  lines: string[];
  /** Why it cannot be read; null where it may. */
  wrong: string | null;
}

const ENTRIES = ['vtodo', 'vevent', 'vjournal'];
const DEEPEST = 10;

/** The lines of a text with what was folded joined again (RFC 5545 §3.1), each with its number. */
function* unfolded(text: string): Generator<{ text: string; line: number }> {
  let held: { text: string; line: number } | null = null;
  let line = 0;
  for (const piece of text.replace(/^\uFEFF/u, '').split(/\r\n|\r|\n/u)) {
    line += 1;
    if (held && /^[ \t]/u.test(piece)) {
      held.text += piece.slice(1);
      continue;
    }
    if (held) yield held;
    held = { text: piece, line };
  }
  if (held) yield held;
}

const MARK = /^(BEGIN|END)\s*:\s*([A-Z0-9-]+)\s*$/iu;

/** The entries of a text, and its zones, in their order; null where it is no calendar. */
export function cut(text: string): Cut[] | null {
  const found: Cut[] = [];
  let isCalendar = false;
  let open: Cut | null = null;
  let inside: string[] = [];
  let count = 0;
  const close = (wrong: string | null) => {
    if (open && (wrong || !open.wrong)) open.wrong = wrong;
    open = null;
    inside = [];
  };
  const begin = (name: string, line: number) => {
    const entry = ENTRIES.includes(name) ? ++count : 0;
    open = { name, entry, line, lines: [`BEGIN:${name.toUpperCase()}`], wrong: null };
    inside = [name];
    found.push(open);
  };
  for (const { text: raw, line } of unfolded(text)) {
    const mark = MARK.exec(raw.trim());
    const [how, name] = [mark?.[1]?.toUpperCase(), mark?.[2]?.toLowerCase()];
    if (how === 'BEGIN' && name === 'vcalendar') {
      isCalendar = true;
      if (open) close('It does not end before another calendar begins.');
      continue;
    }
    if (how === 'END' && name === 'vcalendar') {
      if (open) close('It does not end before its calendar does.');
      continue;
    }
    if (!open) {
      if (how !== 'BEGIN' || !name) continue;
      if (!ENTRIES.includes(name) && name !== 'vtimezone') {
        // What we have no use for is passed by, with all that is in it, and listed.
        const wrong = 'It is neither a to-do nor an event nor an entry of a journal.';
        open = { name: `other ${name}`, entry: 0, line, lines: [], wrong };
        if (isCalendar) found.push(open);
        inside = [name];
        continue;
      }
      isCalendar = true;
      begin(name, line);
      continue;
    }
    if (how === 'BEGIN' && name) {
      if (ENTRIES.includes(name) && inside.length === 1) {
        // The one before was never ended.
        close('It does not end before the next one begins.');
        begin(name, line);
        continue;
      }
      inside.push(name);
      if (inside.length > DEEPEST)
        open.wrong = `It has more than ${DEEPEST} parts inside each other.`;
      else open.lines.push(`BEGIN:${name.toUpperCase()}`);
      continue;
    }
    if (how === 'END' && name) {
      if (inside.length <= DEEPEST) open.lines.push(`END:${name.toUpperCase()}`);
      if (inside.at(-1) !== name) open.wrong ??= 'What begins in it does not end.';
      inside.pop();
      if (!inside.length) open = null;
      continue;
    }
    if (raw.trim() && inside.length <= DEEPEST) open.lines.push(raw);
  }
  if (open) close('It does not end.');
  return isCalendar ? found : null;
}

/** Reads the lines of one entry. @throws CoreError `exchange.entry` with what is wrong */
export function parsed({ lines }: Pick<Cut, 'lines'>): Component {
  try {
    return ICAL.parse(lines.join('\r\n')) as unknown as Component;
  } catch (error) {
    const words = error instanceof Error ? error.message.slice(0, 200) : 'It cannot be read.';
    throw new CoreError('exchange.entry', '', words);
  }
}

/**
 * Reads the lines of one entry; those that the library cannot read are left out, and given with why.
 * @throws CoreError `exchange.entry` where it cannot be read for all that
 */
export function readable({ lines }: Pick<Cut, 'lines'>): { component: Component; lost: string[] } {
  try {
    return { component: parsed({ lines }), lost: [] };
  } catch (error) {
    const lost: string[] = [];
    const left = lines.filter((line) => {
      if (MARK.test(line)) return true;
      try {
        parsed({ lines: ['BEGIN:VTODO', line, 'END:VTODO'] });
        return true;
      } catch (why) {
        const name = line.split(/[:;]/u)[0]!.slice(0, 40).toUpperCase();
        lost.push(`${name}: ${why instanceof CoreError ? why.message : 'it cannot be read'}`);
        return false;
      }
    });
    if (!lost.length) throw error;
    return { component: parsed({ lines: left }), lost };
  }
}

/** An entry as a reader of its text has it. */
export const parsedEntry = (entry: Component): Component =>
  parsed({ lines: unfoldedLines(written(entry)) });

const unfoldedLines = (text: string): string[] =>
  [...unfolded(text)].map((it) => it.text).filter(Boolean);

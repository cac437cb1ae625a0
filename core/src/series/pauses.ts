import { formatDay, parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import { CoreError } from '../errors.ts';

/** A stretch of days, both inclusive, in which nothing comes; without an end until it is resumed. */
export interface Pause {
  from: LocalDate;
  to: LocalDate | null;
}

const MOST_PAUSES = 1000;

/**
 * Checks pauses and gives them in order, those that touch or overlap as one.
 * @throws CoreError `pauses.form`, `pauses.order`, `date.…`
 */
export function checkPauses(given: unknown): Pause[] {
  if (!Array.isArray(given) || given.length > MOST_PAUSES)
    throw new CoreError('pauses.form', 'pauses', 'The pauses are a list of 1,000 at most.');
  const pauses = given.map((one: unknown, i): Pause => {
    const where = `pauses.${i}`;
    const { from, to = null } = (one ?? {}) as Partial<Pause>;
    if (typeof from !== 'string' || (to !== null && typeof to !== 'string'))
      throw new CoreError(
        'pauses.form',
        where,
        'A pause has a day “from” and a day “to”, or null.',
      );
    const first = parseDay(from, `${where}.from`);
    if (to !== null && parseDay(to, `${where}.to`) < first)
      throw new CoreError('pauses.order', where, `A pause cannot end on ${to}, before ${from}.`);
    return { from, to };
  });
  return joined(pauses);
}

function joined(pauses: readonly Pause[]): Pause[] {
  const sorted = [...pauses].sort((a, b) => (a.from < b.from ? -1 : a.from > b.from ? 1 : 0));
  const found: Pause[] = [];
  for (const pause of sorted) {
    const last = found.at(-1);
    if (last && (last.to === null || parseDay(pause.from) <= parseDay(last.to) + 1)) {
      if (last.to !== null && (pause.to === null || pause.to > last.to)) last.to = pause.to;
    } else found.push({ ...pause });
  }
  return found;
}

/** The days of pauses, made ready to ask: in order, none touching another. */
export interface PausedDays {
  /** The pause that holds a day, as its first and last day (Infinity without an end), or null. */
  at(day: Day): { from: Day; to: Day } | null;
  /** How many days of `from` to `to`, both inclusive, are in no pause, and the last of them. */
  free(from: Day, to: Day): { count: number; last: Day | null };
}

export function pausedDays(pauses: readonly Pause[] = []): PausedDays {
  const spans = pauses.map(({ from, to }) => ({
    from: parseDay(from),
    to: to === null ? Infinity : parseDay(to),
  }));
  const at = (day: Day) => spans.find((span) => day >= span.from && day <= span.to) ?? null;
  return {
    at,
    free(from, to) {
      let count = Math.max(0, to - from + 1);
      for (const span of spans)
        count -= Math.max(0, Math.min(to, span.to) - Math.max(from, span.from) + 1);
      if (count === 0) return { count, last: null };
      const last = at(to);
      return { count, last: last ? last.from - 1 : to };
    },
  };
}

/** Pauses with one more, from a day on; `to` null until it is resumed. */
export function withPause(pauses: readonly Pause[] = [], pause: Pause): Pause[] {
  return joined([...pauses, pause]);
}

/**
 * Pauses as they are when a person resumes on a day: the pause that holds it ends with the day
 * before, one to come is gone.
 */
export function resumed(pauses: readonly Pause[] = [], today: Day): Pause[] {
  const before = formatDay(today - 1);
  return pauses
    .filter(({ from }) => parseDay(from) < today)
    .map((pause) => (pause.to === null || pause.to > before ? { ...pause, to: before } : pause));
}

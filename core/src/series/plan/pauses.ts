import { formatDay, parseDay, type Day, type LocalDate } from '../../calendar/day.ts';
import { CoreError } from '../../errors.ts';
import { MOST_PAUSES } from '../definition/limits.ts';

/** A stretch of days, both inclusive, in which nothing comes; without an end until it is resumed. */
export interface Pause {
  from: LocalDate;
  to: LocalDate | null;
}

/**
 * Checks pauses and gives them in order, those that touch or overlap as one.
 * @throws CoreError `pauses.form`, `pauses.order`, `date.…`
 */
export function checkPauses(given: unknown): Pause[] {
  if (!Array.isArray(given) || given.length > MOST_PAUSES)
    throw new CoreError(
      'pauses.form',
      'pauses',
      `The pauses are a list of ${MOST_PAUSES} at most.`,
    );
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
  /** All of them, in order. */
  spans: readonly { from: Day; to: Day }[];
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
    spans,
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

/**
 * Pauses with one more, from a day on; `to` null until it is resumed. Where there are too many, those
 * that ended longest ago are let go of: nothing depends on them any more.
 * @throws CoreError `pauses.many` where too many are still to come
 */
export function withPause(pauses: readonly Pause[] = [], pause: Pause, today: LocalDate): Pause[] {
  const all = joined([...pauses, pause]);
  const kept = all.slice(-MOST_PAUSES);
  if (all.slice(0, -MOST_PAUSES).some(({ to }) => to === null || to >= today))
    throw new CoreError('pauses.many', 'from', `There are ${MOST_PAUSES} pauses at most.`);
  return kept;
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

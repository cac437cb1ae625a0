/**
 * A rule cut into periods. Its moments are whole numbers, days or seconds; period 0 holds the
 * start.
 */
export interface Periods {
  /** The period that holds a moment: the last one that begins on or before it. */
  indexOf(at: number): number;
  /** The moment with which a period begins. */
  begins(index: number): number;
  /** The first period from this one on that may hold something; −1 when none ever does. Null: each may. */
  skip: ((index: number) => number) | null;
  /** Writes the candidates of a period, in order and each once; gives how many there are. */
  fill(index: number, into: number[]): number;
  /** How many periods back a candidate may come from (RFC 7529 SKIP=FORWARD). */
  spills: 0 | 1;
  /** How many candidates each period has, where that is the same for all; else null. */
  size: number | null;
  /** After so many empty periods in a row all that follow are empty. */
  empty: number;
  /** The most that `fill` writes before it leaves each once. */
  room: number;
}

/** The moments of a rule in order, prepared once and asked often; days or seconds. */
export interface Sequence {
  /** The first after `after`, or null when there is none. */
  next(after: number): number | null;
  /** The last before `before`, or null when there is none. */
  previous(before: number): number | null;
  /** The first `limit` after `after` (exclusive), up to `until` (inclusive). */
  list(after: number, until: number, limit: number): number[];
  /** How many there are after `after` (exclusive), up to `until` (inclusive). */
  count(after: number, until: number): number;
  /** Whether this is one of them. */
  has(at: number): boolean;
}

export interface Bounds {
  /** Nothing is before it. */
  start: number;
  /** Nothing is after it. */
  until: number;
  /** How many there are at most, or null. */
  count: number | null;
}

/**
 * The moments that periods yield, within bounds. Each question costs about one period, wherever it
 * is asked; where COUNT ends a rule, its last moment is computed once: at once where every period
 * has as many, else by counting.
 */
export function sequenceOf(periods: Periods, bounds: Bounds): Sequence {
  const { start } = bounds;
  const { skip, spills, size } = periods;
  // A plain array keeps days as small integers; it is filled so that it never grows.
  const buffer = new Array<number>(Math.max(1, periods.room)).fill(0);
  const isRegular = size !== null && size > 0 && spills === 0;
  let end: number | null = bounds.count === null ? bounds.until : null;
  /** The last moment that `scan` met. */
  let met = 0;

  const last = (): number => (end ??= Math.min(bounds.until, nth(bounds.count!)));

  /**
   * Goes through the moments after `after` and up to `to`, at most `limit`; puts them into `out`.
   * Gives how many there were.
   */
  function scan(after: number, to: number, limit: number, out: number[] | null): number {
    let seen = after < start ? start - 1 : after;
    let index = periods.indexOf(seen + 1) - spills;
    if (index < 0) index = 0;
    let n = 0;
    search: for (let empty = 0; empty <= periods.empty; index++) {
      if (skip !== null) {
        index = skip(index);
        if (index < 0) break;
      }
      const filled = periods.fill(index, buffer);
      if (filled === 0) {
        empty++;
        // It is asked now and then alone: most often the next period holds something.
        if ((empty & 15) === 0 && periods.begins(index) > to) break;
        continue;
      }
      empty = 0;
      for (let k = 0; k < filled; k++) {
        const at = buffer[k]!;
        if (at <= seen) continue;
        if (at > to) break search;
        seen = at;
        if (out !== null) out.push(at);
        if (++n >= limit) break search;
      }
    }
    met = seen;
    return n;
  }

  /** The `count`th moment of all, the last where there are fewer, or −Infinity without any. */
  function nth(count: number): number {
    if (!isRegular) return scan(start - 1, bounds.until, count, null) ? met : -Infinity;
    const n = periods.fill(0, buffer);
    let before = 0;
    while (before < n && buffer[before]! < start) before++;
    if (count <= n - before) return buffer[before + count - 1]!;
    const left = count - (n - before) - 1;
    periods.fill(1 + Math.floor(left / size), buffer);
    return buffer[left % size]!;
  }

  function next(after: number): number | null {
    return scan(after, last(), 1, null) ? met : null;
  }

  function list(after: number, until: number, limit: number): number[] {
    const found: number[] = [];
    if (limit >= 1) scan(after, Math.min(until, last()), limit, found);
    return found;
  }

  /** Looks back through more and more periods, until one of them holds something. */
  function previous(before: number): number | null {
    const to = Math.min(before - 1, last());
    if (to < start) return null;
    const from = periods.indexOf(to);
    for (let back: number = spills; ; back = back * 4 + 1) {
      const index = from - back;
      const after = index <= 0 ? start - 1 : periods.begins(index) - 1;
      if (scan(after, to, Infinity, null)) return met;
      if (index <= 0) return null;
    }
  }

  /** How many there are up to `at`, where every period has as many. */
  function rank(at: number, each: number): number {
    if (at < start) return 0;
    const upTo = (index: number, to: number): number => {
      const n = periods.fill(index, buffer);
      let k = 0;
      while (k < n && buffer[k]! <= to) k++;
      return k;
    };
    const index = periods.indexOf(at);
    return index * each + upTo(index, at) - upTo(0, start - 1);
  }

  function count(after: number, until: number): number {
    const to = Math.min(until, last());
    if (to <= after) return 0;
    if (isRegular) return rank(to, size) - rank(after, size);
    return scan(after, to, Infinity, null);
  }

  return { next, previous, list, count, has: (at) => next(at - 1) === at };
}

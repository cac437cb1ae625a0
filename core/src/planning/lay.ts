import { chance } from '../chance.ts';
import { formatTime, parseTime, type LocalTime } from '../calendar/time.ts';
import { checksOf } from './given.ts';
import { firstOf, ranking } from './subsets.ts';

/** Laying out a day: at what hour each thing is done that has a window and takes a while. */

export type Importance = 'high' | 'normal' | 'low';

export interface LayTime {
  id: string;
  /** How many minutes it takes. */
  takes: number;
  /** The window in which it lies whole; `to` may be 24:00. */
  from: LocalTime;
  to: LocalTime;
  importance?: Importance;
}

export interface LayInput {
  /** The hours in which the person is up. */
  up: { from: LocalTime; to: LocalTime };
  /** Nothing begins before it. */
  now?: LocalTime;
  /** What has an hour and a length already. */
  fixed: { from: LocalTime; minutes: number }[];
  times: LayTime[];
}

export interface Laid {
  /** In order of id. */
  laid: { id: string; at: LocalTime }[];
  /** What finds no room, in order of id. */
  left: string[];
}

/** In minutes: everything begins on such a grid, from 00:00. */
export const GRID = 5;
const DAY = 1440;
/** Up to so many the answer is the best there is. */
const EXACT = 8;

/**
 * What is best, in this order: fewest of high importance left out; fewest left out; earliest, the starts
 * summed; what comes first when written in order of id (by code unit) and start. Exact up to eight; beyond
 * that good, eight at a time. The same input gives the same answer.
 * @throws CoreError `lay.*` with its place: ids that are not unique, hours that do not end after they begin
 */
export function layOut(given: LayInput): Laid {
  const { times, blocked } = checked(given);
  const places = new Map<Plain, number | null>(times.map((time) => [time, null]));
  if (times.length <= EXACT) settle(places, times, blocked);
  else search(places, times, blocked);
  const laid = times.flatMap((time) => {
    const start = places.get(time)!;
    return start === null ? [] : [{ id: time.id, at: formatTime(start) }];
  });
  const left = times.filter((time) => places.get(time) === null).map(({ id }) => id);
  return { laid, left };
}

/** A time in minutes of the day, with the first and the last minute at which it may begin. */
interface Plain {
  index: number;
  id: string;
  takes: number;
  first: number;
  last: number;
  isHigh: boolean;
}

/** For each minute of the day, 1 where something fixed lies, or 0. */
type Blocked = Uint8Array;

function checked({ up, now, fixed, times: given }: LayInput): { times: Plain[]; blocked: Blocked } {
  const hours = hoursIn(up, 'up');
  const earliest = Math.max(hours.from, now === undefined ? 0 : minuteIn(now, 'now'));
  const blocked: Blocked = new Uint8Array(DAY);
  list(fixed, 'fixed').forEach((it, i) => {
    const { from, minutes } = object(it, `fixed.${i}`) as LayInput['fixed'][number];
    const start = minuteIn(from, `fixed.${i}.from`);
    blocked.fill(1, start, start + whole(minutes, `fixed.${i}.minutes`, 0));
  });
  const times = list(given, 'times').map((it, i): Plain => {
    const where = `times.${i}`;
    const { id, takes, importance = 'normal', ...window } = object(it, where) as LayTime;
    const name = idIn(id, `${where}.id`);
    if (!IMPORTANCES.includes(importance))
      throw wrong('importance', `${where}.importance`, 'It is one of high, normal, low.');
    const { from, to } = hoursIn(window, where);
    const minutes = whole(takes, `${where}.takes`, 1);
    return {
      index: 0,
      id: name,
      takes: minutes,
      first: Math.ceil(Math.max(from, earliest) / GRID) * GRID,
      last: Math.floor((Math.min(to, hours.to) - minutes) / GRID) * GRID,
      isHigh: importance === 'high',
    };
  });
  inOrder(times);
  return { times, blocked };
}

const IMPORTANCES: readonly unknown[] = ['high', 'normal', 'low'];

const { wrong, list, object, whole, id: idIn, inOrder } = checksOf('lay');

function minuteIn(value: unknown, where: string): number {
  if (typeof value !== 'string') throw wrong('form', where, 'A time of day is written as 08:30.');
  return value === '24:00' ? DAY : parseTime(value, where);
}

function hoursIn(value: unknown, where: string): { from: number; to: number } {
  const { from, to } = object(value, where) as { from: unknown; to: unknown };
  const hours = { from: minuteIn(from, `${where}.from`), to: minuteIn(to, `${where}.to`) };
  if (hours.to <= hours.from)
    throw wrong('hours', where, 'Hours end after they begin, on the same day.');
  return hours;
}

const STEPS = DAY / GRID;

/**
 * Lays some times where they lie best, all others staying where they are: from the end of the day to its
 * beginning, for each set of them, what is best from that hour on (dynamic programming over subsets).
 */
function settle(places: Map<Plain, number | null>, some: readonly Plain[], fixed: Blocked): void {
  const things = [...some].sort((a, b) => a.index - b.index);
  const size = 1 << things.length;
  const free = roomAround(places, new Set(some), fixed);
  // What is left out costs more than all starts together, and one of high importance more than all others.
  const perLeft = STEPS * things.length + 1;
  const perHigh = perLeft * (things.length + 1);
  const rankOf = ranking(things.length, STEPS + 1);
  const costs = Array.from({ length: STEPS + 1 }, () => new Float64Array(size));
  const highs = Array.from({ length: STEPS + 1 }, () => new Float64Array(size));
  const lows = Array.from({ length: STEPS + 1 }, () => new Float64Array(size));
  const choices = Array.from({ length: STEPS + 1 }, () => new Int8Array(size).fill(-1));
  for (let set = 1; set < size; set++) {
    const { first: i, rest } = firstOf(set);
    const out = rankOf(i, STEPS);
    costs[STEPS]![set] = costs[STEPS]![rest]! + perLeft + (things[i]!.isHigh ? perHigh : 0);
    highs[STEPS]![set] = highs[STEPS]![rest]! + out.high;
    lows[STEPS]![set] = lows[STEPS]![rest]! + out.low;
  }
  for (let step = STEPS - 1; step >= 0; step--) {
    const start = step * GRID;
    const [cost, high, low, choice] = [costs[step]!, highs[step]!, lows[step]!, choices[step]!];
    cost.set(costs[step + 1]!);
    high.set(highs[step + 1]!);
    low.set(lows[step + 1]!);
    things.forEach(({ takes, first, last }, i) => {
      if (start < first || start > last || free[start]! < takes) return;
      const next = Math.min(STEPS, Math.ceil((start + takes) / GRID));
      const here = rankOf(i, step);
      const bit = 1 << i;
      for (let set = bit; set < size; set++) {
        if (!(set & bit)) continue;
        const rest = set ^ bit;
        const c = costs[next]![rest]! + step;
        if (c > cost[set]!) continue;
        const [h, l] = [highs[next]![rest]! + here.high, lows[next]![rest]! + here.low];
        if (c === cost[set]! && (h > high[set]! || (h === high[set]! && l >= low[set]!))) continue;
        cost[set] = c;
        high[set] = h;
        low[set] = l;
        choice[set] = i;
      }
    });
  }
  for (const thing of things) places.set(thing, null);
  for (let step = 0, set = size - 1; step < STEPS && set;) {
    const i = choices[step]![set]!;
    if (i < 0) {
      step++;
      continue;
    }
    places.set(things[i]!, step * GRID);
    set ^= 1 << i;
    step = Math.min(STEPS, Math.ceil((step * GRID + things[i]!.takes) / GRID));
  }
}

/** How many minutes from each minute on are free of what is fixed and of the times that stay. */
function roomAround(
  places: ReadonlyMap<Plain, number | null>,
  without: ReadonlySet<Plain>,
  fixed: Blocked,
): Int32Array {
  const taken = Uint8Array.from(fixed);
  for (const [{ takes }, start] of [...places].filter(([time]) => !without.has(time)))
    if (start !== null) taken.fill(1, start, start + takes);
  const free = new Int32Array(DAY + 1);
  for (let minute = DAY - 1; minute >= 0; minute--)
    free[minute] = taken[minute] ? 0 : free[minute + 1]! + 1;
  return free;
}

const ROUNDS = 40;

/** Lays out the important and the narrow ones first, then some at once, again and again. */
function search(places: Map<Plain, number | null>, times: readonly Plain[], fixed: Blocked): void {
  const room = ({ first, last }: Plain) => last - first;
  const order = [...times].sort(
    (a, b) => Number(b.isHigh) - Number(a.isHigh) || room(a) - room(b) || a.index - b.index,
  );
  for (let i = 0; i < order.length; i += EXACT) settle(places, order.slice(i, i + EXACT), fixed);
  const below = chance(times.length);
  for (let round = 0; round < ROUNDS; round++) {
    const left = order.filter((time) => places.get(time) === null);
    const there = order.filter((time) => places.get(time) !== null);
    const some: Plain[] = [];
    while (left.length && some.length < EXACT / 2) some.push(...left.splice(below(left.length), 1));
    while (there.length && some.length < EXACT) some.push(...there.splice(below(there.length), 1));
    settle(places, some, fixed);
  }
}

import { chance } from '../chance.ts';
import { parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import { dealOut, type Dealt } from './dealOut.ts';
import { checksOf } from './given.ts';

/** Evening out: which times to move to other days so that no day holds more than it should. */

export interface EvenDay {
  date: LocalDate;
  /** How many minutes the day holds; null: there is no measure. */
  holds: number | null;
}

export interface EvenTime {
  id: string;
  /** How many minutes it takes; null counts nothing. */
  takes: number | null;
  on: LocalDate;
  /** The days on which it may lie, `on` among them. */
  may: LocalDate[];
  /** Those with the same key lie on different days. */
  apart?: string;
}

export interface EvenInput {
  days: EvenDay[];
  times: EvenTime[];
}

export interface Evened {
  /** In order of id. */
  moves: { id: string; from: LocalDate; to: LocalDate }[];
  /** Minutes over the measures after the moves, summed over the days. */
  over: number;
  /** What lies on every day after the moves, in the order of the days given. */
  loads: { date: LocalDate; minutes: number }[];
}

/** Up to so many movable times the answer is the best there is. */
const EXACT = 12;

/**
 * What is best, in this order: fewest minutes over the measures, summed over the days; fewest times
 * moved; fewest days moved, summed; the moves that come first when written in order of id (by code unit),
 * the first difference deciding, by id, then by day. Exact up to twelve movable times; beyond that never
 * worse than leaving all as it is. The same input gives the same answer.
 * @throws CoreError `even.*` with its place: ids that are not unique, a day that is none of the days, a
 * time that may not lie where it is, two that are to lie apart on one day
 */
export function evenOut(given: EvenInput): Evened {
  const { days, times } = checked(given);
  const places = times.map(({ on }) => on);
  const movable = times.filter((time) => canMatter(time, times));
  const problem: Problem = { days, times, places };
  if (movable.length <= EXACT)
    settle(problem, movable, movable.length ? days.map((_, i) => i) : []);
  else search(problem, movable);
  return evened(given, problem);
}

/** A day by its number, and the same for times: all by their places in the lists, days in order. */
interface PlainDay {
  day: Day;
  date: LocalDate;
  holds: number;
}

interface PlainTime {
  /** Its place in order of id. */
  index: number;
  id: string;
  takes: number;
  on: number;
  may: readonly number[];
  apart: string | undefined;
}

interface Problem {
  days: readonly PlainDay[];
  /** In order of id. */
  times: readonly PlainTime[];
  /** Where each time lies now, by its index. */
  places: number[];
}

function checked({ days: givenDays, times: givenTimes }: EvenInput): {
  days: PlainDay[];
  times: PlainTime[];
} {
  const days = list(givenDays, 'days').map((it, i): PlainDay => {
    const { date, holds = null } = object(it, `days.${i}`) as Partial<EvenDay>;
    if (typeof date !== 'string') throw wrong('form', `days.${i}.date`, 'A day has a date.');
    const minutes = holds === null ? Infinity : whole(holds, `days.${i}.holds`, 0, MOST_MINUTES);
    return { date, day: parseDay(date, `days.${i}.date`), holds: minutes };
  });
  days.sort((a, b) => a.day - b.day);
  const byDate = new Map(days.map(({ date }, i) => [date, i]));
  if (byDate.size < days.length) throw wrong('day', 'days', 'A day is there twice.');
  const dayOf = (date: unknown, where: string): number => {
    const found = typeof date === 'string' ? byDate.get(date) : undefined;
    if (found === undefined) throw wrong('day', where, `“${String(date)}” is none of the days.`);
    return found;
  };
  const times = list(givenTimes, 'times').map((it, i): PlainTime => {
    const where = `times.${i}`;
    const { id, takes = null, on, may, apart } = object(it, where) as Partial<EvenTime>;
    const name = idIn(id, `${where}.id`);
    if (apart !== undefined && typeof apart !== 'string')
      throw wrong('form', `${where}.apart`, 'What keeps times apart is a text.');
    const onDay = dayOf(on, `${where}.on`);
    const mayDays = list(may, `${where}.may`).map((date, k) => dayOf(date, `${where}.may.${k}`));
    if (!mayDays.includes(onDay))
      throw wrong('may', `${where}.may`, `“${name}” lies on ${on}, where it may not lie.`);
    return {
      index: 0,
      id: name,
      takes: takes === null ? 0 : whole(takes, `${where}.takes`, 0, MOST_MINUTES),
      on: onDay,
      may: [...new Set(mayDays)].sort((a, b) => a - b),
      apart,
    };
  });
  inOrder(times);
  const taken = new Set<string>();
  for (const { apart, on, id } of times) {
    if (apart === undefined) continue;
    const place = `${on} ${apart}`;
    if (taken.has(place))
      throw wrong('apart', 'times', `“${id}” lies on one day with another of “${apart}”.`);
    taken.add(place);
  }
  return { days, times };
}

const { wrong, list, object, whole, id: idIn, inOrder } = checksOf('even');
const MOST_MINUTES = 1_000_000;

/** Whether moving a time could make anything better: it takes a while, or makes room for one that does. */
function canMatter(time: PlainTime, times: readonly PlainTime[]): boolean {
  if (time.may.length < 2) return false;
  if (time.takes > 0 || time.apart === undefined) return time.takes > 0;
  return times.some(({ apart, takes }) => apart === time.apart && takes > 0);
}

/** What lies on each day, in minutes, without some times. */
function loadsOf(
  { days, times, places }: Problem,
  without: ReadonlySet<PlainTime> = NONE,
): number[] {
  const loads = days.map(() => 0);
  for (const time of times) if (!without.has(time)) loads[places[time.index]!]! += time.takes;
  return loads;
}

const NONE: ReadonlySet<PlainTime> = new Set();
const overOf = ({ days }: Pick<Problem, 'days'>, loads: readonly number[]) =>
  loads.reduce((sum, load, i) => sum + Math.max(0, load - days[i]!.holds), 0);

/** Puts some times where they lie best within some days, all others staying where they are. */
function settle(problem: Problem, some: readonly PlainTime[], within: readonly number[]): void {
  const { days, times, places } = problem;
  if (!some.length) return;
  const chosen = new Set(some);
  const loads = loadsOf(problem, chosen);
  const taken = new Set<string>();
  for (const { apart, index } of times)
    if (apart !== undefined && !chosen.has(times[index]!)) taken.add(`${places[index]} ${apart}`);
  const farthest = days.at(-1)!.day - days[0]!.day;
  /** One more time moved is worse than all days that they could be moved by. */
  const perMove = times.length * farthest + 1;
  const perMinute = (times.length + 1) * perMove;
  const inOrder = [...some].sort((a, b) => a.index - b.index);
  const dealt: Dealt[] = inOrder.map((time) => ({
    takes: time.takes,
    apart: time.apart,
    on: time.on,
    price: (to) => (to === time.on ? 0 : perMove + Math.abs(days[to]!.day - days[time.on]!.day)),
    may: within.filter(
      (day) =>
        time.may.includes(day) && (time.apart === undefined || !taken.has(`${day} ${time.apart}`)),
    ),
  }));
  const best = dealOut(dealt, {
    days: within,
    over: (day, minutes) => perMinute * Math.max(0, loads[day]! + minutes - days[day]!.holds),
  });
  if (best) inOrder.forEach((time, i) => void (places[time.index] = best[i]!));
}

/** So many tries for each time, and at least and at most so many; again and again while it is not the best. */
const TRIES_EACH = 700;
const [LEAST_TRIES, MOST_TRIES] = [12_000, 60_000];
const MOST_RUNS = 24;
const MOST_TRIES_IN_ALL = 300_000;
/** At first a worse way is taken about as often as not when it costs so much of a usual time. */
const WARM = 0.6;
const COLD = 0.004;
/** How much one more time moved weighs, in minutes over. */
const PER_MOVE = 0.01;

/**
 * Tries ways next to each other, first boldly and then ever more carefully, and keeps the best one
 * (simulated annealing; S. Kirkpatrick, C. D. Gelatt, M. P. Vecchi 1983, from memory), then mends what is
 * left some times at once.
 */
function search(problem: Problem, movable: readonly PlainTime[]): void {
  const { days, times, places } = problem;
  const below = chance(times.length * 17 + days.length);
  const least = leastOver(problem);
  const tries = Math.min(MOST_TRIES, Math.max(LEAST_TRIES, TRIES_EACH * movable.length));
  let best: { over: number; places: number[] } | null = null;
  for (let run = 0; run < MOST_RUNS && run * tries < MOST_TRIES_IN_ALL; run++) {
    const tried = { ...problem, places: [...places] };
    anneal(tried, movable, tries, below);
    polish(tried, movable, below);
    const over = overOf(problem, loadsOf(tried));
    if (!best || over < best.over) best = { over, places: tried.places };
    if (best.over <= least) break;
  }
  best!.places.forEach((day, i) => void (places[i] = day));
}

/** On so many days at most, each set of them is looked at. */
const MOST_SETS = 8;

/**
 * No way is better than this: of some days, what may lie on none but these is over what they hold (a cut
 * of the flow from times to days; L. R. Ford and D. R. Fulkerson 1956, from memory).
 */
function leastOver({ days, times }: Problem): number {
  if (days.length > MOST_SETS)
    return Math.max(
      0,
      times.reduce((sum, { takes }) => sum + takes, 0) -
        days.reduce((sum, { holds }) => sum + holds, 0),
    );
  const sets = times.map(({ may }) => may.reduce((set, day) => set | (1 << day), 0));
  let most = 0;
  for (let set = 1; set < 1 << days.length; set++) {
    const room = days.reduce((sum, { holds }, i) => sum + (set & (1 << i) ? holds : 0), 0);
    if (room === Infinity) continue;
    const stuck = times.reduce(
      (sum, { takes }, i) => sum + ((sets[i]! & set) === sets[i] ? takes : 0),
      0,
    );
    most = Math.max(most, stuck - room);
  }
  return most;
}

/** Moves one time, or exchanges two, so many times; leaves the best way that was met. */
function anneal(
  { days, times, places }: Problem,
  movable: readonly PlainTime[],
  tries: number,
  below: (n: number) => number,
): void {
  const mates = matesOf(times);
  const loads = Float64Array.from(loadsOf({ days, times, places }));
  const over = (day: number, load: number) => Math.max(0, load - days[day]!.holds);
  const mateOn = (time: PlainTime, day: number): PlainTime | null => {
    for (const mate of mates[time.index]!)
      if (places[mate.index] === day && mate !== time) return mate;
    return null;
  };
  const isAway = (time: PlainTime, day: number) => (day === time.on ? 0 : PER_MOVE);
  const usual = movable.reduce((sum, { takes }) => sum + takes, 0) / movable.length;
  const cooling = (COLD / WARM) ** (1 / tries);
  let warmth = WARM * usual;
  let now = 0;
  let best = 0;
  let kept = [...places];
  for (let n = 0; n < tries; n++) {
    warmth *= cooling;
    const time = movable[below(movable.length)]!;
    const from = places[time.index]!;
    let to: number;
    let other: PlainTime | null;
    if (n & 1) {
      other = movable[below(movable.length)]!;
      to = places[other.index]!;
      if (to === from || !time.may.includes(to) || !other.may.includes(from)) continue;
      const [mate, its] = [mateOn(time, to), mateOn(other, from)];
      if ((mate && mate !== other) || (its && its !== time)) continue;
    } else {
      to = time.may[below(time.may.length)]!;
      if (to === from) continue;
      other = mateOn(time, to);
      if (other && !other.may.includes(from)) continue;
    }
    const more = time.takes - (other?.takes ?? 0);
    const [atFrom, atTo] = [loads[from]!, loads[to]!];
    const cost =
      over(from, atFrom - more) -
      over(from, atFrom) +
      over(to, atTo + more) -
      over(to, atTo) +
      isAway(time, to) -
      isAway(time, from) +
      (other ? isAway(other, from) - isAway(other, to) : 0);
    if (cost > 0 && below(SHARES) / SHARES >= Math.exp(-cost / warmth)) continue;
    loads[from] = atFrom - more;
    loads[to] = atTo + more;
    places[time.index] = to;
    if (other) places[other.index] = from;
    now += cost;
    if (now < best - 1e-9) {
      best = now;
      kept = [...places];
    }
  }
  kept.forEach((day, i) => void (places[i] = day));
}

const SHARES = 1 << 20;

/** Those that must lie apart from each time, itself among them, by its index. */
function matesOf(times: readonly PlainTime[]): PlainTime[][] {
  const groups = new Map<string, PlainTime[]>();
  for (const time of times)
    if (time.apart !== undefined) groups.set(time.apart, [...(groups.get(time.apart) ?? []), time]);
  return times.map(({ apart }) => (apart === undefined ? [] : groups.get(apart)!));
}

const ROUNDS = 30;
const AT_ONCE = 8;
const DAYS_AT_ONCE = 4;

/** Some times on some days at once, all ways of these: again and again. */
function polish(
  problem: Problem,
  movable: readonly PlainTime[],
  below: (n: number) => number,
): void {
  const { days, places } = problem;
  for (let round = 0; round < ROUNDS; round++) {
    const loads = loadsOf(problem);
    const overfull = days.map((_, i) => i).filter((i) => loads[i]! > days[i]!.holds);
    const chosen = new Set([
      overfull.length ? overfull[below(overfull.length)]! : below(days.length),
    ]);
    while (chosen.size < Math.min(DAYS_AT_ONCE, days.length)) chosen.add(below(days.length));
    const there = movable.filter(
      ({ index, may }) =>
        chosen.has(places[index]!) && may.filter((day) => chosen.has(day)).length > 1,
    );
    const some: PlainTime[] = [];
    while (some.length < AT_ONCE && there.length)
      some.push(...there.splice(below(there.length), 1));
    settle(
      problem,
      some,
      [...chosen].sort((a, b) => a - b),
    );
  }
}

function evened({ days: inGivenOrder }: EvenInput, problem: Problem): Evened {
  const { days, times } = problem;
  const asItWas = times.map(({ on }) => on);
  const before = overOf(problem, loadsOf({ ...problem, places: asItWas }));
  // Where no minute is mended, nothing is moved.
  const isMended = overOf(problem, loadsOf(problem)) < before;
  const places = isMended ? problem.places : asItWas;
  const loads = loadsOf({ ...problem, places });
  const byDate = new Map(days.map(({ date }, i) => [date, loads[i]!]));
  return {
    moves: times
      .filter(({ index, on }) => places[index] !== on)
      .map(({ id, index, on }) => ({
        id,
        from: days[on]!.date,
        to: days[places[index]!]!.date,
      })),
    over: overOf(problem, loads),
    loads: inGivenOrder.map(({ date }) => ({ date, minutes: byDate.get(date)! })),
  };
}

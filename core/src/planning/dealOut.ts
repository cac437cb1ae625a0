import { firstOf, ranking } from './subsets.ts';

/** Deals things out to days so that it costs least: exact, over all ways there are. */

/** Something that lies on one of some days. */
export interface Dealt {
  takes: number;
  /** Those with the same key lie on different days. */
  apart: string | undefined;
  on: number;
  /** What it costs to put it on a day. */
  price(to: number): number;
  may: readonly number[];
}

export interface Table {
  /** In order. */
  days: readonly number[];
  /** What it costs that so many minutes of these lie on a day: an integer. */
  over(day: number, minutes: number): number;
}

/**
 * On which day each lies so that the sum of all costs is least; of those that cost the same, the one in
 * which the first that differs is moved, and to the earlier day. Null where there is no way.
 *
 * Day by day from the last: for each set of things, what is best for them from that day on (dynamic
 * programming over subsets; 3 to the power of their number steps a day). The order of ways that cost the
 * same is kept as two numbers, in which each thing has a digit of its own: so it adds up as costs do.
 */
export function dealOut(things: readonly Dealt[], { days, over }: Table): number[] | null {
  const size = 1 << things.length;
  const none = days.length;
  const clash = clashes(things);
  const rankOf = ranking(things.length, days.length + 1);

  let costs = new Float64Array(size).fill(Infinity);
  let highs = new Float64Array(size);
  let lows = new Float64Array(size);
  costs[0] = 0;
  const chosen: Int32Array[] = [];
  for (let d = days.length - 1; d >= 0; d--) {
    const day = days[d]!;
    const here = things.reduce((set, { may }, i) => (may.includes(day) ? set | (1 << i) : set), 0);
    const takes = new Float64Array(size);
    const price = new Float64Array(size);
    const high = new Float64Array(size);
    const low = new Float64Array(size);
    for (let set = 1; set < size; set++) {
      if ((set & here) !== set) continue;
      const { first: i, rest } = firstOf(set);
      const { on, takes: minutes, price: priceOf } = things[i]!;
      // One that stays is not written: it comes after all that are moved.
      const rank = rankOf(i, on === day ? none : d);
      takes[set] = takes[rest]! + minutes;
      price[set] = clash[set] ? Infinity : price[rest]! + priceOf(day);
      high[set] = high[rest]! + rank.high;
      low[set] = low[rest]! + rank.low;
    }
    const free = over(day, 0);
    for (let set = 0; set < size; set++)
      if (price[set]! < Infinity && (set & here) === set)
        price[set]! += set ? over(day, takes[set]!) : free;
    const nextCosts = new Float64Array(size).fill(Infinity);
    const nextHighs = new Float64Array(size);
    const nextLows = new Float64Array(size);
    const choice = new Int32Array(size);
    for (let all = 0; all < size; all++) {
      const can = all & here;
      let best = Infinity;
      let [bestHigh, bestLow] = [0, 0];
      for (let set = can; ; set = (set - 1) & can) {
        const left = all ^ set;
        const cost = price[set]! + costs[left]!;
        if (cost <= best && cost < Infinity) {
          const [h, l] = [high[set]! + highs[left]!, low[set]! + lows[left]!];
          if (cost < best || h < bestHigh || (h === bestHigh && l < bestLow)) {
            best = cost;
            bestHigh = h;
            bestLow = l;
            choice[all] = set;
          }
        }
        if (set === 0) break;
      }
      nextCosts[all] = best;
      nextHighs[all] = bestHigh;
      nextLows[all] = bestLow;
    }
    [costs, highs, lows] = [nextCosts, nextHighs, nextLows];
    chosen[d] = choice;
  }
  if (costs[size - 1] === Infinity) return null;
  const places = things.map(() => -1);
  let all = size - 1;
  days.forEach((day, d) => {
    const set = chosen[d]![all]!;
    places.forEach((_, i) => {
      if (set & (1 << i)) places[i] = day;
    });
    all ^= set;
  });
  return places;
}

/** For each set of things, whether two of them must lie apart. */
function clashes(things: readonly Dealt[]): Uint8Array {
  const clash = new Uint8Array(1 << things.length);
  for (let set = 1; set < clash.length; set++) {
    const { first: i, rest } = firstOf(set);
    const { apart } = things[i]!;
    const meets =
      apart !== undefined && things.some((it, k) => rest & (1 << k) && it.apart === apart);
    clash[set] = clash[rest]! || meets ? 1 : 0;
  }
  return clash;
}

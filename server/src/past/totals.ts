import { CoreError } from '@back-again/core';
import { keptOf, spreadOf, sumOf } from '@back-again/core/past';
import type {
  Figures,
  TotalsAsked,
  TotalsBy,
  TotalsEach,
  TotalsView,
} from '@back-again/contract/past';
import type { Database } from '../db/database.ts';
import { stamp, type Actor } from '../machine/work.ts';
import { aboutOf, spanOf } from './asked.ts';
import { addNumbers } from './numbers.ts';
import { headsOf, type RowHead } from './rowHeads.ts';
import { between, sumsOf, type Sum } from './sums.ts';
import { upToDate } from './upToDate.ts';

/** Totals: what ended in a span, by what a person asks. */

/** So many periods stand beside each other at most. */
const MOST_PERIODS = 400;

/**
 * What ended in a span, by what a person asks.
 * @throws CoreError `past.span`, `past.periods` for too many at once, `place.none`
 */
export async function totals(db: Database, actor: Actor, asked: TotalsAsked): Promise<TotalsView> {
  const span = spanOf(asked);
  await upToDate(db, actor);
  const { by } = asked;
  const each = eachOf(by, asked.each ?? 'none');
  if (each !== 'none' && (span.last - span.first) / LEAST_DAYS[each] > MOST_PERIODS)
    throw new CoreError('past.periods', 'each', `At most ${MOST_PERIODS} of them at once.`);
  const about = await aboutOf(db, actor.userId, asked);
  const dimension = isPeriod(by) ? null : by === 'todo' || by === 'tag' ? 'seriesId' : 'place';
  const query = { db, actor, span, about, each, dimension } as const;
  const found = await sumsOf(query);
  const question = asked.asks === undefined ? null : { asks: asked.asks, unit: asked.unit ?? '' };
  const isSum = question ? await addNumbers(query, question, found) : false;
  const figures = (some: readonly Sum[]) => figuresOf(some, question !== null, isSum);
  const sums = [...found.values()];
  const periods = each === 'none' ? [] : between(sums, each);
  if (isPeriod(by)) {
    const byPeriod = grouped(sums, ({ period }) => [period]);
    const rows = periods.map((period) => ({
      ...{ key: period, name: period, under: null, isGone: false },
      ...figures(byPeriod.get(period) ?? []),
      parts: {},
    }));
    return { ...stamp(actor), all: figures(sums), rows, periods: [] };
  }
  const heads = await headsOf(db, actor.userId, by, [...new Set(sums.map(({ of }) => of))]);
  const rows = grouped<RowHead>(sums, ({ of }) => heads.get(of) ?? []);
  return {
    ...stamp(actor),
    all: figures(sums),
    rows: [...rows].map(([head, some]) => ({
      ...head,
      ...figures(some),
      parts: periods.length
        ? Object.fromEntries(
            [...grouped(some, ({ period }) => [period])].map(([period, of]) => [
              period,
              figures(of),
            ]),
          )
        : {},
    })),
    periods,
  };
}

/** Sums by what they belong to, each perhaps to several. */
function grouped<K>(sums: readonly Sum[], keysOf: (sum: Sum) => readonly K[]): Map<K, Sum[]> {
  const found = new Map<K, Sum[]>();
  for (const sum of sums)
    for (const key of keysOf(sum)) {
      const known = found.get(key);
      if (known) known.push(sum);
      else found.set(key, [sum]);
    }
  return found;
}

const LEAST_DAYS: Record<Exclude<TotalsEach, 'none'>, number> = { week: 7, month: 28, year: 365 };

const isPeriod = (by: TotalsBy): by is 'week' | 'month' | 'year' =>
  by === 'week' || by === 'month' || by === 'year';
/** Where each row is a period it is by that. */
const eachOf = (by: TotalsBy, each: TotalsEach): TotalsEach => (isPeriod(by) ? by : each);

function figuresOf(sums: readonly Sum[], isAsking: boolean, isSum: boolean): Figures {
  const total = (of: 'done' | 'skipped' | 'missed' | 'minutes' | 'estimated') =>
    sums.reduce((all, sum) => all + sum[of], 0);
  const numbers = isAsking ? sums.flatMap((sum) => sum.numbers) : [];
  const spread = spreadOf(numbers);
  const [done, missed] = [total('done'), total('missed')];
  return {
    done,
    skipped: total('skipped'),
    missed,
    kept: keptOf(done, missed),
    minutes: total('minutes'),
    estimated: total('estimated'),
    asked: spread && {
      ...spread,
      ...(isSum ? { sum: sumOf(numbers) } : {}),
      of: numbers.length,
    },
  };
}

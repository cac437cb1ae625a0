import { formatDay, type Day, type LocalDate } from '../calendar/day.ts';
import type { Series } from '../series/definition/definition.ts';
import { begin } from '../series/life/begin.ts';
import { upcoming } from '../series/plan/coming.ts';
import { pass, take } from '../series/life/record.ts';
import type { Planner } from '../series/plan/plan.ts';

/** One time as it would have come: when it would have been due, for the day on which it was done. */
export interface Replayed {
  due: LocalDate;
  doneOn: LocalDate;
  /** Days from due to done, negative when early. */
  late: number;
}

const NOON = 12 * 60;

/**
 * How a to-do would have come back with a definition, had it been done on the days on which it really was:
 * the first of them begins it, and is not among what is given. What it ends with and pauses are passed by.
 * @param doneOn in order
 */
export function replay(
  planner: Planner,
  { repeat, at, closedDays, opensBefore, late, grace, owe }: Series,
  doneOn: readonly Day[],
): Replayed[] {
  const [first, ...rest] = doneOn;
  if (first === undefined) return [];
  const { clock } = planner;
  const plain = Object.entries({ at, closedDays, opensBefore, late, grace, owe }).filter(
    ([, value]) => value !== undefined,
  );
  const series: Series = {
    ...Object.fromEntries(plain),
    start: formatDay(first),
    repeat: repeat && 'rule' in repeat ? { ...repeat, rule: endless(repeat.rule) } : repeat,
  };
  let progress = begin(planner, series, clock.startOf(first));
  const found: Replayed[] = [];
  for (const [i, day] of [first, ...rest].entries()) {
    const now = clock.instantAt(day, NOON) + i;
    progress = pass(planner, progress, now).progress;
    const slot = progress.open[0]?.slot ?? upcoming(planner, progress)?.slot;
    if (slot === undefined) break;
    const outcome = take(planner, progress, {
      key: String(i),
      at: now,
      deed: { do: 'done', slot },
    });
    progress = outcome.progress;
    const time = outcome.times.find((it) => it.slot === slot);
    if (i === 0 || !time?.due) continue;
    const due = clock.dayOfMoment(time.due);
    found.push({ due: formatDay(due), doneOn: formatDay(day), late: day - due });
  }
  return found;
}

const endless = (rule: string) =>
  rule
    .split(';')
    .filter((part) => !/^(COUNT|UNTIL)=/iu.test(part))
    .join(';');

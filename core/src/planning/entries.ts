import { formatDay, parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import type { LocalMoment, LocalTime } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { standsAt, type KeptTodo } from '../agenda/kept.ts';
import type { Ended } from '../agenda/lately.ts';
import type { Details } from '../definition/details.ts';
import { forecast, type Ahead } from '../series/plan/forecast.ts';
import type { Occurrence, Progress } from '../series/life/progress.ts';
import { periodOf } from '../series/plan/quota.ts';
import type { Planner } from '../series/plan/plan.ts';
import { pauseOn } from '../series/life/standing.ts';

/** What stands on the days ahead. */

/** A to-do with what of it matters for planning. */
export interface PlannedTodo extends KeptTodo {
  details: Pick<Details, 'takes' | 'window' | 'slack' | 'importance' | 'place'>;
  lately?: readonly Ended[];
}

/** How a time stands: to come by the calendar, expected after another, open, or ended. */
export type EntryKind = 'firm' | 'expected' | 'open' | 'done' | 'skipped' | 'missed';

/** One time on the day for which it is planned; of so many a period each that is missing. */
export interface Entry {
  todo: string;
  slot: LocalMoment;
  /** Its running number; null where it has not opened. */
  number: number | null;
  /** So many times a period: which of the missing ones, from 0; null for all others. */
  nth: number | null;
  kind: EntryKind;
  day: LocalDate;
  /** Its hour on that day; null for any time of it. */
  at: LocalTime | null;
  /** Null only where there is no date yet. */
  due: LocalMoment | null;
  /** Whether it comes once alone. */
  once: boolean;
  /** Whether the person moved it by hand. */
  byHand: boolean;
  /** About how many minutes it takes; null where nobody said. */
  takes: number | null;
}

/** What names an entry among all others. */
export const entryKey = ({
  todo,
  slot,
  number,
  nth,
}: Pick<Entry, 'todo' | 'slot' | 'number' | 'nth'>): string =>
  `${todo} ${slot}${number === null ? '' : `#${number}`}${nth === null ? '' : `/${nth}`}`;

/** Whether it is still to be done, so that its minutes count. */
export const isToDo = ({ kind }: Pick<Entry, 'kind'>): boolean =>
  kind === 'open' || kind === 'firm' || kind === 'expected';

/** The times of one to-do by day, made ready up to a day: asked for more, it goes on from there. */
export class TimesAhead {
  private until: Day = -Infinity;
  private ahead: Ahead[] = [];
  /** As it stands now. */
  readonly progress: Progress;
  /** Until when it stands as it does; null for ever. */
  readonly changesAt: Instant | null;
  readonly planner: Planner;
  readonly todo: PlannedTodo;
  private readonly now: Instant;

  constructor(planner: Planner, todo: PlannedTodo, now: Instant) {
    this.planner = planner;
    this.todo = todo;
    this.now = now;
    const stands = standsAt(planner, todo, now);
    this.progress = stands.progress;
    this.changesAt = stands.changesAt;
  }

  /** The slot of the first that is to come, as far as was looked; null for none. */
  get first(): LocalMoment | null {
    return this.ahead[0]?.slot ?? null;
  }

  /** What stands on the days from one to another, both inclusive, in no order. */
  between(from: Day, to: Day): Entry[] {
    const today = this.planner.clock.dayAt(this.now);
    return [...this.ended(), ...this.open(today), ...this.toCome(from, to)].filter(({ day }) => {
      const at = parseDay(day);
      return at >= from && at <= to;
    });
  }

  private entry(
    time: { slot: LocalMoment; due: LocalMoment | null },
    more: Pick<Entry, 'kind' | 'day'> & Partial<Entry>,
  ): Entry {
    return {
      todo: this.todo.id,
      slot: time.slot,
      due: time.due,
      number: null,
      nth: null,
      at: null,
      once: this.progress.series.repeat === null,
      byHand: false,
      takes: this.todo.details.takes,
      ...more,
    };
  }

  private ended(): Entry[] {
    const { clock } = this.planner;
    return (this.todo.lately ?? []).flatMap(({ time }) => {
      const { status, closedAt, number } = time;
      if (status === 'open' || closedAt === null) return [];
      const moment = clock.momentAt(closedAt);
      const day = formatDay(clock.dayAt(closedAt));
      const at = time.due?.includes('T') || time.planAt ? moment.slice(11) : null;
      return [this.entry(time, { kind: status, day, at, number })];
    });
  }

  private open(today: Day): Entry[] {
    const { progress } = this;
    const { series } = progress;
    const isQuota = series.repeat?.by === 'quota';
    if (!isQuota && pauseOn(series, formatDay(today))) return [];
    return progress.open.flatMap((time) => {
      if (time.plan === null) return [];
      if (isQuota) return this.missing(time, time.tally ?? 0, time.number, 'open');
      const day = Math.max(parseDay(time.plan), today);
      return [
        this.entry(time, {
          kind: 'open',
          number: time.number,
          day: formatDay(day),
          at: this.hourOn(time, day),
          byHand: time.moved && !time.proposed,
        }),
      ];
    });
  }

  /** The hour at which it stands on a day: the planned one, or the due one on its due day. */
  private hourOn(time: Pick<Occurrence, 'due' | 'planAt'>, day: Day): LocalTime | null {
    const { clock } = this.planner;
    const moment = time.planAt ?? time.due;
    if (moment === null || !moment.includes('T') || clock.dayOfMoment(moment) !== day) return null;
    return moment.slice(11);
  }

  /** The missing ones of a period, each on a day of its own: where the person put them, or on its last days. */
  private missing(
    time: Pick<Occurrence, 'slot' | 'due' | 'days' | 'proposed'>,
    tally: number,
    number: number | null,
    kind: 'open' | 'firm',
  ): Entry[] {
    const { repeat } = this.progress.series;
    if (repeat?.by !== 'quota') return [];
    const { clock } = this.planner;
    const { first, last } = periodOf(repeat.per, parseDay(time.slot), this.planner.weekStart);
    const from = Math.max(first, clock.dayAt(this.now));
    const left = repeat.times - tally;
    const chosen = (time.days ?? []).map((day) => parseDay(day));
    const days = chosen.filter((day) => day >= from && day <= last).slice(0, left);
    for (let day = last; day >= from && days.length < left; day--)
      if (!days.includes(day)) days.push(day);
    return days
      .sort((a, b) => a - b)
      .map((day, nth) =>
        this.entry(time, {
          kind,
          number,
          nth,
          day: formatDay(day),
          byHand: chosen.includes(day) && !time.proposed,
        }),
      );
  }

  private toCome(from: Day, to: Day): Entry[] {
    const { progress, planner } = this;
    const { clock } = planner;
    const moved = new Map(progress.moved?.map((move) => [move.slot, move]));
    // The last period of a quota begins before, and ends after; two at night are of the day before.
    const isQuota = progress.series.repeat?.by === 'quota';
    const reach = isQuota ? 31 : 1;
    if (to > this.until) {
      const last = Math.max(to, ...[...moved.values()].map(({ due }) => clock.dayOfMoment(due)));
      this.ahead = forecast(planner, progress, this.now, last + reach, MOST_AHEAD);
      this.until = to;
    }
    // Looked through before anything is made of them.
    const [first, last] = [formatDay(from - 1), formatDay(to + reach)];
    return this.ahead.flatMap(({ slot, due, kind, plan, planAt }) => {
      const near = plan ?? due.slice(0, 10);
      if (near < first || near > last) return [];
      if (isQuota) return this.missing({ ...moved.get(slot), slot, due }, 0, null, 'firm');
      const day = plan === undefined ? clock.dayOfMoment(due) : parseDay(plan);
      const at = this.hourOn({ due, ...(planAt === undefined ? {} : { planAt }) }, day);
      return [
        this.entry(
          { slot, due },
          {
            kind,
            day: formatDay(day),
            at,
            byHand: plan !== undefined && !moved.get(slot)?.proposed,
          },
        ),
      ];
    });
  }
}

/** Of one to-do, as far as anybody looks. */
const MOST_AHEAD = 50_000;

/** In the order in which they stand on a day: hours first, then by when they are due, then by name. */
export function inDayOrder(a: Entry, b: Entry): number {
  const keyOf = ({ at, due, todo, slot, nth }: Entry) =>
    `${at ?? '~'} ${due ?? '~'} ${todo} ${slot} ${nth ?? ''}`;
  const [left, right] = [keyOf(a), keyOf(b)];
  return a.day < b.day ? -1 : a.day > b.day ? 1 : left < right ? -1 : left > right ? 1 : 0;
}

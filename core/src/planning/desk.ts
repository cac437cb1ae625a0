import { formatDay, parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import type { Instant } from '../calendar/zone.ts';
import type { Settings } from '../series/person/settings.ts';
import { plannerOf } from '../series/plan/planner.ts';
import type { Planner } from '../series/plan/plan.ts';
import { TimesAhead, inDayOrder, isToDo, type Entry, type PlannedTodo } from './entries.ts';
import { layDay, type LaidDay } from './layDay.ts';
import { MOST_SPAN, holdsOn, proposalFor, type DayLoad, type Proposal } from './spread.ts';

/** One day ahead, with what stands on it. */
export interface DayAhead extends DayLoad {
  entries: Entry[];
  /** How many of them count nothing, as nobody said how long they take. */
  without: number;
}

/** One day of a month, in few numbers. */
export interface DayInMonth extends DayLoad {
  /** How many by the calendar and open, expected, and done. */
  firm: number;
  expected: number;
  done: number;
}

/** Whose to-dos they are, and when they are looked at. */
export interface DeskSettings {
  settings: Settings;
  holidays: readonly LocalDate[];
  now: Instant;
}

/**
 * Keeps to-dos and what comes of them by day, so that after a change only what changed is worked out
 * again. It works where it is put: in a worker, so that no screen waits for it.
 */
export class Desk {
  private readonly todos = new Map<string, PlannedTodo>();
  private readonly times = new Map<string, TimesAhead | null>();
  private mine: DeskSettings | null = null;
  private planner: Planner | null = null;

  /** Says whose they are; other settings, or another day, begin anew. */
  look(mine: DeskSettings): void {
    const before = this.mine;
    const isSame =
      before !== null &&
      JSON.stringify([before.settings, before.holidays]) ===
        JSON.stringify([mine.settings, mine.holidays]);
    const planner = isSame ? this.planner! : plannerOf(mine.settings, mine.holidays);
    const isOld = !isSame || planner.clock.dayAt(before.now) !== planner.clock.dayAt(mine.now);
    this.mine = mine;
    this.planner = planner;
    if (isOld) this.times.clear();
    for (const [id, times] of this.times)
      if ((times?.changesAt ?? Infinity) <= mine.now) this.times.delete(id);
  }

  /** Puts to-dos in, in place of what was there of them, and takes others away. */
  put(todos: readonly PlannedTodo[], gone: readonly string[] = []): void {
    for (const todo of todos) {
      this.todos.set(todo.id, todo);
      this.times.delete(todo.id);
    }
    for (const id of gone) {
      this.todos.delete(id);
      this.times.delete(id);
    }
  }

  /** Days with all that stands on them. */
  days(from: LocalDate, to: LocalDate): DayAhead[] {
    const [first, last] = [parseDay(from), parseDay(to)];
    const byDay = new Map<LocalDate, Entry[]>();
    for (const entry of this.entries(first, last))
      byDay.set(entry.day, [...(byDay.get(entry.day) ?? []), entry]);
    return Array.from({ length: last - first + 1 }, (_, i) => {
      const date = formatDay(first + i);
      const entries = (byDay.get(date) ?? []).sort(inDayOrder);
      const toDo = entries.filter(isToDo);
      return {
        date,
        holds: holdsOn(this.mine!.settings, first + i),
        minutes: toDo.reduce((sum, { takes }) => sum + (takes ?? 0), 0),
        without: toDo.filter(({ takes }) => takes === null).length,
        entries,
      };
    });
  }

  /** The same days in few numbers. */
  months(from: LocalDate, to: LocalDate): DayInMonth[] {
    const [first, last] = [parseDay(from), parseDay(to)];
    const days = Array.from({ length: last - first + 1 }, (_, i): DayInMonth => ({
      date: formatDay(first + i),
      holds: holdsOn(this.mine!.settings, first + i),
      minutes: 0,
      firm: 0,
      expected: 0,
      done: 0,
    }));
    for (const entry of this.entries(first, last)) {
      const day = days[parseDay(entry.day) - first]!;
      if (isToDo(entry)) day.minutes += entry.takes ?? 0;
      if (entry.kind === 'expected') day.expected++;
      else if (isToDo(entry)) day.firm++;
      else day.done++;
    }
    return days;
  }

  /** What would even out these days, at most 31. */
  even(from: LocalDate, to: LocalDate): Proposal {
    const [first, given] = [parseDay(from), parseDay(to)];
    const last = Math.min(given, first + MOST_SPAN - 1);
    return proposalFor({
      from: first,
      to: last,
      today: this.planner!.clock.dayAt(this.mine!.now),
      entries: this.entries(first, last),
      timesOf: (id) => this.timesOf(id)!,
      settings: this.mine!.settings,
    });
  }

  /** At what hours what has none could be done on these days; nothing for days gone by. */
  lay(from: LocalDate, to: LocalDate): Record<LocalDate, LaidDay> {
    const { clock } = this.planner!;
    const { settings, now } = this.mine!;
    const today = clock.dayAt(now);
    const laid: Record<LocalDate, LaidDay> = {};
    for (const { date, entries } of this.days(from, to)) {
      const day = parseDay(date);
      if (day < today) continue;
      laid[date] = layDay({
        planner: this.planner!,
        settings,
        day,
        now: day === today ? clock.momentAt(now).slice(11) : null,
        entries,
        timesOf: (id) => this.timesOf(id)!,
      });
    }
    return laid;
  }

  private entries(from: Day, to: Day): Entry[] {
    return [...this.todos.keys()].flatMap((id) => {
      try {
        return this.timesOf(id)?.between(from, to) ?? [];
      } catch {
        this.times.set(id, null);
        return [];
      }
    });
  }

  /** One that cannot be worked out stands on no day. */
  private timesOf(id: string): TimesAhead | null {
    const known = this.times.get(id);
    if (known !== undefined) return known;
    let times: TimesAhead | null;
    try {
      times = new TimesAhead(this.planner!, this.todos.get(id)!, this.mine!.now);
    } catch {
      times = null;
    }
    this.times.set(id, times);
    return times;
  }
}

import type { TodoState } from '@back-again/contract';
import { budgeted, spend } from '@back-again/contract/going';
import {
  brokenView,
  dayRemindersOf,
  plannerOf,
  todayOf,
  viewOf,
  type Agenda,
  type Day,
  type DayReminder,
  type Instant,
  type LocalDate,
  type Settings,
  type TodoView,
} from '@back-again/core';
import { overlayOf, type Overlay, type Said } from './overlay.ts';
import type { Dated, Mine } from './play.ts';
import type { Local } from './slice.ts';

/** What screens show of the to-dos that are here: with what waits done already. */

/** One to-do may take so many milliseconds; what goes on regardless is as good as broken here. */
const EACH = 100;
const each = <T>(work: () => T): T => budgeted(EACH, work);

/** What depends on these alone is worked out once for them. */
function once<Args extends readonly unknown[], T>(
  work: (...args: Args) => T,
): (...args: Args) => T {
  let last: { args: Args; made: T } | null = null;
  return (...args) => {
    if (last && last.args.every((arg, i) => arg === args[i])) return last.made;
    last = { args, made: work(...args) };
    return last.made;
  };
}

const MINUTE = 60_000;

/** A view that holds on one day until then. */
interface Seen {
  mine: Mine;
  day: Day;
  until: Instant;
  view: TodoView;
}

/** Looks at one store: what it has worked out it keeps. */
export class Looking {
  private readonly mineOf = once((settings: Settings, holidays: readonly LocalDate[]): Mine => ({
    planner: plannerOf(settings, holidays, spend),
    settings,
  }));
  private readonly saidOf = once(
    (todos: Record<string, TodoState>, undoable: Local['undoable']): Said => ({ todos, undoable }),
  );
  private readonly waitingOf = once((pending: Local['pending'], name: string | null): Dated[] =>
    pending.filter(({ by }) => by === name).map(({ action }) => action),
  );
  private readonly overlayFor = once(overlayOf);
  private readonly todosOf = once((said: Said, overlay: Overlay): TodoState[] => {
    const todos = Object.values(said.todos).filter(({ id }) => !overlay.changed.has(id));
    for (const state of overlay.changed.values()) if (state) todos.push(state);
    return todos;
  });
  private readonly views = new WeakMap<TodoState, Seen>();

  /** Null until it is known how the person’s days run. */
  mine({ settings, holidays }: Local): Mine | null {
    return settings && this.mineOf(settings, holidays);
  }

  said({ said, undoable }: Local): Said {
    return this.saidOf(said.entities, undoable);
  }

  overlay(local: Local): Overlay {
    const mine = this.mine(local);
    if (!mine) return NOTHING;
    return this.overlayFor(mine, this.said(local), this.waitingOf(local.pending, local.name));
  }

  /** All to-dos as they are with what waits. */
  todos(local: Local): readonly TodoState[] {
    return this.todosOf(this.said(local), this.overlay(local));
  }

  todo(local: Local, id: string): TodoState | null {
    const { changed } = this.overlay(local);
    return changed.has(id) ? changed.get(id)! : (local.said.entities[id] ?? null);
  }

  /** One to-do as it is shown; with what is wrong where it cannot be worked out. */
  view(local: Local, state: TodoState, now: Instant): TodoView {
    const mine = this.mine(local)!;
    const known = this.views.get(state);
    const day = mine.planner.clock.dayAt(now);
    if (known?.mine === mine && known.day === day && now < known.until) return known.view;
    let view: TodoView;
    try {
      view = each(() => viewOf(mine.planner, state, now));
    } catch (error) {
      view = brokenView(state, wrongOf(error));
    }
    // What is expected in hours moves with the hour.
    const isSoon = view.next?.kind === 'expected' && view.next.due.includes('T');
    const until = isSoon ? now + MINUTE : (state.changesAt ?? Infinity);
    this.views.set(state, { mine, day, until: Math.max(until, now + 1), view });
    return view;
  }

  today(local: Local, now: Instant): Agenda {
    return todayOf(this.mine(local)!.planner, this.todos(local), now, { each });
  }

  /** What will still be said today, in order. */
  reminders(local: Local, now: Instant): DayReminder[] {
    const { planner, settings } = this.mine(local)!;
    const { clock } = planner;
    const end = clock.startOf(clock.dayAt(now) + 1);
    const found: DayReminder[] = [];
    for (const todo of this.todos(local)) {
      if (todo.speaksAt === null || todo.speaksAt >= end) continue;
      try {
        found.push(...each(() => dayRemindersOf(planner, todo, settings, now)));
      } catch {
        // One that cannot be worked out says so where it is shown.
      }
    }
    return found.sort((a, b) => (a.at < b.at ? -1 : 1));
  }

  /** The places that to-dos belong to, in order. */
  places(local: Local): string[] {
    const all = this.todos(local).flatMap(({ details }) => details.place ?? []);
    return [...new Set(all)].sort();
  }
}

const NOTHING: Overlay = { changed: new Map(), unknown: new Set(), changes: new Map() };

const BROKEN = 'This to-do cannot be worked out. It can be ended, removed or written anew.';
const wrongOf = (error: unknown) =>
  error instanceof Error && error.message ? `${BROKEN} What is wrong: ${error.message}` : BROKEN;

import type { OwnState, PlaceState, TodoState } from '@back-again/contract';
import { budgeted, spend } from '@back-again/contract/going';
import {
  brokenView,
  dayRemindersOf,
  formatDay,
  hiddenBy,
  lacksOf,
  namesOf,
  plannerOf,
  present,
  todayOf,
  viewOf,
  type Agenda,
  type Day,
  type DayReminder,
  type Instant,
  type Lack,
  type LocalDate,
  type NamedPlace,
  type Settings,
  type TodoView,
} from '@back-again/core';
import { overlayOf, type Overlay, type Said } from './overlay.ts';
import type { Dated, Mine } from './play.ts';
import type { Local } from './slice.ts';
import { OWN, isTodo, stateAt, type Key, type State } from './world.ts';

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

/** A to-do that is not sorted yet, and what it lacks. */
export interface Unsorted {
  state: TodoState;
  lacks: readonly Lack[];
}

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
    (
      todos: Record<string, TodoState>,
      places: PlaceState[],
      own: OwnState,
      undoable: Local['undoable'],
    ): Said => ({ todos, places, own, undoable }),
  );
  private readonly waitingOf = once((pending: Local['pending'], name: string | null): Dated[] =>
    pending.filter(({ by }) => by === name).map(({ action }) => action),
  );
  private readonly overlayFor = once(overlayOf);
  private readonly todosOf = once((said: Said, overlay: Overlay): TodoState[] => {
    const todos = Object.values(said.todos).filter(({ id }) => !overlay.changed.has(id));
    for (const state of overlay.changed.values()) if (isTodo(state)) todos.push(state);
    return todos;
  });
  private readonly presentOf = once((places: readonly PlaceState[]): PlaceState[] =>
    present(places).sort((a, b) => a.order - b.order || (a.name < b.name ? -1 : 1)),
  );
  private readonly namesFor = once((places: readonly PlaceState[]) => namesOf(places));
  private readonly inSightOf = once(
    (todos: readonly TodoState[], places: readonly PlaceState[], focus: string | null) => {
      if (focus === null) return todos;
      const isHidden = hiddenBy(places, focus);
      return todos.filter(({ details }) => isHidden(details.place) !== 'elsewhere');
    },
  );
  private readonly unsortedOf = once(
    (todos: readonly TodoState[], places: readonly PlaceState[]): Unsorted[] => {
      const ids = new Set(places.map(({ id }) => id));
      return todos
        .filter(({ over }) => !over)
        .map((state) => ({
          state,
          lacks: lacksOf(state.progress.series, state.details, (id) => ids.has(id)),
        }))
        .filter(({ lacks }) => lacks.length)
        .sort((a, b) => b.state.made - a.state.made);
    },
  );
  private readonly views = new WeakMap<TodoState, Seen>();

  /** Null until it is known how the person’s days run. */
  mine({ settings, holidays }: Local): Mine | null {
    return settings && this.mineOf(settings, holidays);
  }

  said({ said, places, own, undoable }: Local): Said {
    return this.saidOf(said.entities, places, own, undoable);
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
    if (!changed.has(id)) return local.said.entities[id] ?? null;
    const state = changed.get(id)!;
    return isTodo(state) ? state : null;
  }

  /** Anything by its key, as it is with what waits. */
  at(local: Local, key: Key): State | null {
    const { changed } = this.overlay(local);
    return changed.has(key) ? changed.get(key)! : stateAt(this.said(local), key);
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

  /** Today; with all spheres in sight where that is asked for. */
  today(local: Local, now: Instant, isWhole = false): Agenda {
    const { above, focus } = this.own(local);
    const { planner } = this.mine(local)!;
    const today = formatDay(planner.clock.dayAt(now));
    const ofToday = above.filter(({ day }) => day === today);
    const places = this.places(local);
    return todayOf(planner, this.todos(local), now, {
      each,
      places,
      focus: isWhole ? null : focus,
      above: ofToday,
    });
  }

  /** What will still be said today, in order. */
  reminders(local: Local, now: Instant): DayReminder[] {
    const { planner, settings } = this.mine(local)!;
    const { clock } = planner;
    const end = clock.startOf(clock.dayAt(now) + 1);
    const found: DayReminder[] = [];
    const isHidden = hiddenBy(this.places(local), this.own(local).focus);
    for (const todo of this.todos(local)) {
      if (isHidden(todo.details.place)) continue;
      if (todo.speaksAt === null || todo.speaksAt >= end) continue;
      try {
        found.push(...each(() => dayRemindersOf(planner, todo, settings, now)));
      } catch {
        // One that cannot be worked out says so where it is shown.
      }
    }
    return found.sort((a, b) => (a.at < b.at ? -1 : 1));
  }

  /** The places that are there, in the person’s order. */
  places(local: Local): readonly PlaceState[] {
    return this.presentOf(this.overlay(local).places);
  }

  /** What each place is called beside all others. */
  names(local: Local): readonly NamedPlace[] {
    return this.namesFor(this.places(local));
  }

  /** The to-dos of the sphere in focus; all, where none is. */
  inSight(local: Local): readonly TodoState[] {
    return this.inSightOf(this.todos(local), this.places(local), this.own(local).focus);
  }

  /** What lacks a place or a date, the newest first. */
  unsorted(local: Local): readonly Unsorted[] {
    return this.unsortedOf(this.todos(local), this.places(local));
  }

  /** What belongs to the person; a sphere that is no more is not in focus. */
  own(local: Local): OwnState {
    const own = (this.overlay(local).changed.get(OWN) as OwnState | undefined) ?? local.own;
    const isHere = this.places(local).some(({ id }) => id === own.focus);
    return own.focus === null || isHere ? own : { ...own, focus: null };
  }
}

const NOTHING: Overlay = { changed: new Map(), unknown: new Set(), changes: new Map(), places: [] };

const BROKEN = 'This to-do cannot be worked out. It can be ended, removed or written anew.';
const wrongOf = (error: unknown) =>
  error instanceof Error && error.message ? `${BROKEN} What is wrong: ${error.message}` : BROKEN;

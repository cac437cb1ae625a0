import { formatDay, type LocalDate } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import { parseInstant, type Instant } from '../calendar/zone.ts';
import { CoreError } from '../errors.ts';
import { checkSeries } from '../definition/check.ts';
import { Played, bornOf, placed, type RehearsalStep } from '../series/life/rehearse.ts';
import { checkSettings, type Settings } from '../series/person/settings.ts';
import { plannerOf } from '../series/plan/planner.ts';
import type { KeptTodo } from './kept.ts';
import type { Place } from './places.ts';
import { putAbove, type Above } from './above.ts';
import { todayOf, type Agenda } from './today.ts';

/** To-dos with what was done to them, of which Today is asked. */
export interface TodayRehearsal {
  todos: {
    id: string;
    series: unknown;
    details?: KeptTodo['details'];
    /** When it was made; left out: so long ago that it comes before all others. */
    made?: string;
    steps?: (RehearsalStep | (Omit<RehearsalStep, 'do'> & { do: 'above' }))[];
  }[];
  places?: Place[];
  focus?: string;
  settings?: Partial<Settings>;
  /** Public holidays, as dates. */
  holidays?: LocalDate[];
  now: string;
}

/** Today as it is shown: by to-do and slot. */
export interface RehearsedToday extends Pick<Agenda, 'today' | 'elsewhere'> {
  sections: { id: string; rows: { todo: string; slot: LocalMoment }[] }[];
  soon: { todo: string; due: LocalMoment; kind: string }[];
}

interface Playing {
  id: string;
  made: Instant | null;
  details: KeptTodo['details'];
  played: Played;
}

/**
 * Plays out what was done to to-dos up to an instant, and gives Today as it is then.
 * @throws CoreError for a definition, place, setting, instant or step that is wrong, with its place
 */
export function rehearseToday(it: TodayRehearsal): RehearsedToday {
  const settings = checkSettings(it.settings);
  const planner = plannerOf(settings, it.holidays);
  const now = parseInstant(it.now, 'now');
  if (!Array.isArray(it.todos))
    throw new CoreError('today.todos', 'todos', 'The to-dos are a list.');
  const all = new Map<string, Playing>();
  const steps = it.todos.flatMap((todo, i) => {
    const where = `todos.${i}`;
    if (typeof todo.id !== 'string' || all.has(todo.id))
      throw new CoreError('today.id', `${where}.id`, 'Each to-do has an id of its own.');
    const own = placed(todo.steps as RehearsalStep[] | undefined, `${where}.steps`);
    const series = checkSeries(todo.series);
    const moments = [now, ...own.map(({ instant }) => instant)];
    all.set(todo.id, {
      id: todo.id,
      made: todo.made === undefined ? null : parseInstant(todo.made, `${where}.made`),
      details: todo.details,
      played: new Played(planner, bornOf(todo, series, planner, moments)),
    });
    return own.map((step) => ({ ...step, todo: todo.id }));
  });
  steps.sort((a, b) => a.instant - b.instant);

  const day = planner.clock.dayAt(now);
  let above: Above[] = [];
  /** The open times of a to-do at an instant. */
  const openAt = (todo: string, at: Instant) => {
    const { life } = all.get(todo)!.played;
    life.pass(at);
    return life.progress.open;
  };
  for (const step of steps) {
    if (step.instant > now) break;
    if ((step.do as string) !== 'above') {
      all.get(step.todo)!.played.take(step);
      continue;
    }
    const open = openAt(step.todo, step.instant);
    const time = step.slot === undefined ? open[0] : open.find(({ slot }) => slot === step.slot);
    if (!time || planner.clock.dayAt(step.instant) !== day) continue;
    const { slot } = time;
    const it = { day: formatDay(day), todo: step.todo, slot };
    const isOpen = (one: Above) =>
      openAt(one.todo, step.instant).some((other) => other.slot === one.slot);
    try {
      above = putAbove(above, it, isOpen);
    } catch (error) {
      // A fourth finds no room.
      if (!(error instanceof CoreError) || error.code !== 'above.full') throw error;
    }
  }
  const todos = [...all.values()].map(({ id, made, details, played }): KeptTodo => {
    played.life.pass(now);
    return { id, made, details, progress: played.life.progress };
  });
  const agenda = todayOf(planner, todos, now, {
    places: it.places ?? [],
    focus: it.focus ?? null,
    above,
  });
  return {
    today: agenda.today,
    sections: agenda.sections.map(({ id, rows }) => ({
      id,
      rows: rows.map(({ todo, slot }) => ({ todo, slot })),
    })),
    soon: agenda.soon.map(({ todo, due, kind }) => ({ todo, due, kind })),
    elsewhere: agenda.elsewhere,
  };
}

import {
  begin,
  definitionOf,
  spokenOf,
  speaksAt,
  standOf,
  timeView,
  viewOf,
  comingReminders,
  forecast,
  formatInstant,
  hasEnded,
  hasReminders,
  leftOf,
  newestRemindersIn,
  parseDay,
  pass,
  plannerOf,
  take,
  takeEarlier,
  todayOf,
  undo,
  type AgendaOptions,
  type Born,
  type Details,
  type Instant,
  type KeptTodo,
  type LocalDate,
  type NamedPlace,
  type Outcome,
  type Occurrence,
  type Planner,
  type Progress,
  type Series,
  type Settings,
  type Step,
  type Tail,
} from '@back-again/core';
import {
  entryText,
  feedEvents,
  settle,
  type ExchangedTime,
  type ExchangedTodo,
  type FeedTodo,
  type OutInput,
} from '@back-again/core/exchange';
import { insightOf, type InsightOf } from '@back-again/core/past';
import { say } from '@back-again/core/reading';
import { holidaysOf } from './regions.ts';
import { budgeted, spend } from '@back-again/contract/going';
import { FROM, TO, holidaysFor, knowHolidays } from './holidays.ts';

/**
 * All that the server asks of the core about one to-do, as pure functions of plain data: each can be
 * done here or in a worker.
 */

/** A to-do as it is kept, with the settings of its person. */
export interface Kept {
  id: string;
  made: Instant;
  details: Details;
  progress: Progress;
  settings: Settings;
}

/** What is kept beside the progress of a to-do for finding it. */
export interface Beside {
  /** When there is next something to say of it. */
  speaksAt: Instant | null;
  /** When it next changes by itself. */
  changesAt: Instant | null;
  nextDue: string | null;
  ended: boolean;
}

/** What followed for a to-do, and what is kept beside it. */
export interface Followed {
  outcome: Outcome;
  beside: Beside;
}

const planners = new WeakMap<Settings, Planner>();

/** The planner of a person, with the holidays of their region; the same for the same settings. */
export function plannerFor(settings: Settings): Planner {
  const planner = planners.get(settings) ?? plannerOf(settings, holidaysFor(settings), spend);
  planners.set(settings, planner);
  return planner;
}

const END = Date.UTC(9999, 11, 31);

function besideOf(planner: Planner, progress: Progress, settings: Settings): Beside {
  const { changesAt, nextDue } = standOf(planner, progress);
  // A moment that the calendar does not have never comes.
  const ever = (at: Instant | null) => (at !== null && at < END ? at : null);
  return {
    speaksAt: ever(speaksAt(planner, progress, settings)),
    changesAt: ever(changesAt),
    nextDue,
    ended: hasEnded(planner, progress),
  };
}

function followed({ settings }: Kept, outcome: Outcome): Followed {
  const beside = besideOf(plannerFor(settings), outcome.progress, settings);
  return { outcome, beside };
}

/** One of many to-dos may take so many milliseconds. */
const EACH = 40;
const MOST_AHEAD = 8;
const MOST_REMINDERS = 4;

export const TASKS = {
  /** The public holidays of a region. */
  holidays: ({ region }: { region: string }) => holidaysOf(region, FROM, TO),

  /** A to-do that is made now. */
  begin: ({ series, settings, now }: { series: Series; settings: Settings; now: Instant }) =>
    begin(plannerFor(settings), series, now),

  /** A to-do that comes in with its record. */
  settle: (it: { series: Series; settings: Settings; times: ExchangedTime[]; now: Instant }) =>
    settle(plannerFor(it.settings), it.series, it.times, it.now),

  /** A to-do as the entries of a calendar. */
  entryText: ({ input, todo }: { input: Omit<OutInput, 'todos'>; todo: ExchangedTodo }) =>
    entryText(input, todo),

  /** The times of a to-do as the events of a feed. */
  feedEvents: (it: {
    settings: Settings;
    todo: FeedTodo;
    span: Parameters<typeof feedEvents>[2];
  }) => feedEvents(plannerFor(it.settings), it.todo, it.span),

  /** Lets time pass; of what there is to say since `from` the newest, where it is asked for. */
  pass({ todo, to, from }: { todo: Kept; to: Instant; from: Instant | null }) {
    const planner = plannerFor(todo.settings);
    const done = followed(todo, pass(planner, todo.progress, to));
    const { progress } = done.outcome;
    const isSaid = from !== null && from < to && hasReminders(progress);
    const said = isSaid ? newestRemindersIn(planner, progress, todo.settings, from, to) : [];
    return { ...done, said };
  },

  take({ todo, step, past }: { todo: Kept; step: Step; past: Occurrence[] }) {
    return followed(todo, take(plannerFor(todo.settings), todo.progress, step, past));
  },

  /** Enters the first of these steps that finds its time. */
  takeEarlier(it: {
    todo: Kept;
    born: Born;
    tail: Tail;
    steps: Step[];
    now: Instant;
    letsGo: boolean;
  }) {
    const planner = plannerFor(it.todo.settings);
    let outcome: Outcome | null = null;
    for (const step of it.steps) {
      outcome = takeEarlier(planner, it.born, it.tail, step, it.now, it.letsGo);
      if (!outcome.lost.includes(step.key)) break;
    }
    return followed(it.todo, outcome!);
  },

  undo(it: { todo: Kept; born: Born; tail: Tail; now: Instant }) {
    return followed(it.todo, undo(plannerFor(it.todo.settings), it.born, it.tail, it.now));
  },

  beside: ({ todo }: { todo: Kept }) =>
    besideOf(plannerFor(todo.settings), todo.progress, todo.settings),

  view: ({ todo, now }: { todo: Kept; now: Instant }) =>
    viewOf(plannerFor(todo.settings), todo, now),

  times({ todo, times, now }: { todo: Kept; times: Occurrence[]; now: Instant }) {
    const planner = plannerFor(todo.settings);
    return times.map((time) => timeView(planner, todo.progress, time, now));
  },

  /** What the page of a to-do shows beside its view. */
  page({
    todo,
    today,
    now,
    places,
  }: {
    todo: Kept;
    today: LocalDate;
    now: Instant;
    places: NamedPlace[];
  }) {
    const { progress, settings } = todo;
    const planner = plannerFor(settings);
    const reminders = comingReminders(planner, progress, settings, now, MOST_REMINDERS);
    return {
      says: say(definitionOf(progress.series, todo.details), today, { ...settings, places }),
      ahead: forecast(planner, progress, now, parseDay('9999-12-31'), MOST_AHEAD),
      reminders: reminders.map(({ at, due }) => ({ at: formatInstant(at), due })),
      left: leftOf(planner, progress),
    };
  },

  /** Today of a person; a to-do that takes long has no row. */
  today({
    todos,
    settings,
    now,
    ...options
  }: { todos: KeptTodo[]; settings: Settings; now: Instant } & Omit<AgendaOptions, 'each'>) {
    const each = <T>(work: () => T) => budgeted(EACH, work);
    return todayOf(plannerFor(settings), todos, now, { ...options, each });
  },

  /** What a span of days says of one to-do. */
  insight: ({ settings, of }: { settings: Settings; of: InsightOf }) =>
    insightOf(plannerFor(settings).clock, of),

  /** How a time of which something was said stands. */
  spokenOf: (it: {
    todo: Kept;
    slot: string;
    due: string | null;
    ended: Occurrence | null;
    now: Instant;
  }) => spokenOf(plannerFor(it.todo.settings), { ...it, progress: it.todo.progress }),
} as const;

export type Tasks = typeof TASKS;
export type TaskName = keyof Tasks;
export type Given<K extends TaskName> = Parameters<Tasks[K]>[0];
export type Got<K extends TaskName> = ReturnType<Tasks[K]>;

/** Does one task, here; `holidays` are those of the person’s region, where they are not known here. */
export function doTask<K extends TaskName>(
  name: K,
  given: Given<K>,
  holidays?: { region: string; dates: readonly LocalDate[] },
): Got<K> {
  if (holidays) knowHolidays(holidays.region, holidays.dates);
  return (TASKS[name] as (given: Given<K>) => Got<K>)(given);
}

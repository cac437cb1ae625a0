import type { TimeView, TodoPage, TodoState, TodoView } from '@back-again/contract';
import {
  comingReminders,
  forecast,
  formatInstant,
  leftOf,
  parseDay,
  sayPlainly,
  standsAt,
  timeView,
  type Ahead,
  type Definition,
  type LocalDate,
} from '@back-again/core';
import type { Shown } from '../../data/todos.ts';

/** What the page of a to-do shows. */
export interface Page {
  today: LocalDate;
  todo: TodoView;
  /** The definition as one plain sentence. */
  says: string;
  /** The times to come, firm or expected. */
  ahead: Ahead[];
  /** The next reminders. */
  reminders: { at: string }[];
  /** How many times are still to come; null where that has no end. */
  left: number | null;
  /** Ended times, the last one first; null where they are not here. */
  record: TodoPage['record'] | null;
  totals: TodoPage['totals'] | null;
  /** What was done to it last; empty where that is not here. */
  deeds: TodoPage['deeds'];
}

const MOST_AHEAD = 8;
const MOST_REMINDERS = 4;

/** The page of a to-do that is here: its record from the server, with what was done here since. */
export function pageOf(shown: Shown, state: TodoState, kept: TodoPage | undefined): Page {
  const { planner, now, today } = shown;
  const { settings } = shown.person;
  const todo = shown.view(state);
  const nothing = { says: '', ahead: [], reminders: [], left: null };
  const record = kept ? recordOf(shown, state, kept.record) : null;
  const about = {
    today,
    todo,
    record,
    totals: kept && record ? totalsOf(kept, record) : null,
    deeds: kept?.deeds ?? [],
  };
  if (todo.wrong !== null) return { ...about, ...nothing };
  const { progress } = standsAt(planner, state, now);
  return {
    ...about,
    says: saysOf(shown, todo.series, kept),
    ahead: forecast(planner, progress, now, parseDay('9999-12-31'), MOST_AHEAD),
    reminders: comingReminders(planner, progress, settings, now, MOST_REMINDERS).map(({ at }) => ({
      at: formatInstant(at),
    })),
    left: leftOf(planner, progress),
  };
}

/** As the server says it, where that is of the same definition. */
function saysOf(
  { today, person, names }: Shown,
  series: Definition,
  kept: TodoPage | undefined,
): string {
  const isSame = kept && JSON.stringify(kept.todo.series) === JSON.stringify(series);
  return isSame ? kept.says : sayPlainly(series, today, { ...person.settings, places: names() });
}

/** What the server has of it, with what was ended and taken back here. */
function recordOf(shown: Shown, state: TodoState, kept: TodoPage['record']): TodoPage['record'] {
  const { planner, now } = shown;
  const { lately } = state;
  // What has ended with time alone is in the record of the server, and not open here either.
  const isBroken = shown.view(state).wrong !== null;
  const { progress } = isBroken ? state : standsAt(planner, state, now);
  const open = new Set(progress.open.map(({ number }) => number));
  const here = new Map(
    lately.map(({ time, action }) => [
      time.number,
      { ...timeView(planner, progress, time, now), action },
    ]),
  );
  const rest = kept.filter(({ number }) => !open.has(number) && number < progress.number);
  const known = new Set(rest.map(({ number }) => number));
  const fresh = [...here.values()].filter(({ number }) => !known.has(number));
  // By what it came, the server alone knows.
  const told = ({ via }: TodoPage['record'][number]) => (via ? { via } : {});
  const both = rest.map((time) => ({ ...(here.get(time.number) ?? time), ...told(time) }));
  return [...both, ...fresh].sort(lastFirst);
}

const lastFirst = (a: TimeView, b: TimeView) =>
  a.slot === b.slot ? b.number - a.number : a.slot < b.slot ? 1 : -1;

/** The totals of the whole record, with what differs from it here. */
function totalsOf(kept: TodoPage, record: TodoPage['record']): TodoPage['totals'] {
  const count = (all: TodoPage['record'], kind: keyof TodoPage['totals']) =>
    all.filter(({ status }) => status === kind).length;
  const of = (kind: keyof TodoPage['totals']) =>
    kept.totals[kind] + count(record, kind) - count(kept.record, kind);
  return { done: of('done'), skipped: of('skipped'), missed: of('missed') };
}

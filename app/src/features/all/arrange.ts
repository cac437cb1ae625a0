import type { PlaceState, TodoState, TodoView } from '@back-again/contract';
import {
  daysLate,
  hasWords,
  inTree,
  plainText,
  repeatText,
  within,
  type LocalDate,
  type Query,
} from '@back-again/core';
import type { Shown } from '../../data/todos.ts';
import { pausedUntil } from '../../ui/standing.ts';

export interface Group {
  title: string;
  /** The place that it is of. */
  place: string | null;
  todos: TodoView[];
}

/** Looks through some to-dos once, so that the first key of a search finds them ready. */
export function lookThrough(shown: Shown, states: readonly TodoState[]): void {
  const find = finder(shown, { words: [''], is: new Set(), repeat: null, place: null });
  for (const state of states) find(state);
}

/** Tells whether a to-do is what is looked for. */
export function finder(shown: Shown, query: Query): (state: TodoState) => boolean {
  const names = new Map(shown.names().map(({ id, name }) => [id, name]));
  const inside = query.place === null ? null : within(shown.places(), query.place);
  return (state) => {
    const { details } = state;
    const name = details.place === null ? undefined : names.get(details.place);
    if (!hasWords(details, name ?? '', query.words)) return false;
    if (inside && !(details.place !== null && inside.has(details.place))) return false;
    if (query.repeat === null && !query.is.size) return true;
    const view = shown.view(state);
    const { series } = view;
    const repeat = view.wrong === null ? plainText(repeatText(series, shown.person.settings)) : '';
    if (query.repeat !== null && !repeat.includes(query.repeat)) return false;
    const is: Record<string, () => boolean> = {
      late: () => view.open.some((time) => daysLate(time, shown.today, shown.person.settings) > 0),
      paused: () => !view.ended && pausedUntil(view, shown.today) !== undefined,
      ended: () => view.ended,
      important: () => details.importance === 'high',
      'without a place': () => name === undefined,
      'without a date': () => series.start === null,
    };
    return [...query.is].every((narrow) => is[narrow]!());
  };
}

const nextOf = ({ open, next }: TodoView) => open[0]?.due ?? next?.due ?? '9999';

const byNext = (a: TodoView, b: TodoView) =>
  `${nextOf(a)} ${a.createdAt}`.localeCompare(`${nextOf(b)} ${b.createdAt}`);

/** To-dos in groups, each by its next date: what comes back, one-offs, without a date, ended. */
export function byKind(all: readonly TodoView[], today: LocalDate): Group[] {
  const isPaused = (todo: TodoView) => !todo.ended && pausedUntil(todo, today) !== undefined;
  const isBroken = ({ wrong }: TodoView) => wrong !== null;
  const todos = all.filter((todo) => !isPaused(todo) && !isBroken(todo));
  const group = (title: string, has: (todo: TodoView) => boolean): Group => ({
    title,
    place: null,
    todos: todos.filter(has).sort(byNext),
  });
  const undated = ({ ended, series }: TodoView) => !ended && series.start === null;
  return [
    { title: 'Cannot be worked out', place: null, todos: all.filter(isBroken) },
    group('Comes back', ({ ended, series }) => !ended && series.repeat !== null),
    group('Once', (todo) => !todo.ended && todo.series.repeat === null && !undated(todo)),
    group('No date yet', undated),
    {
      title: 'Paused',
      place: null,
      todos: all.filter((todo) => isPaused(todo) && !isBroken(todo)),
    },
    group('Ended', ({ ended }) => ended),
  ].filter(({ todos: found }) => found.length);
}

/** To-dos by the place that they belong to, in the person’s order; then what has none, and what has ended. */
export function byPlace(all: readonly TodoView[], places: readonly PlaceState[]): Group[] {
  const isBroken = ({ wrong }: TodoView) => wrong !== null;
  const live = all.filter((todo) => !todo.ended && !isBroken(todo));
  const known = new Map(places.map((place) => [place.id, place]));
  const group = (title: string, place: string | null, todos: TodoView[]): Group => ({
    title,
    place,
    todos: todos.sort(byNext),
  });
  const titleOf = (place: PlaceState): string => {
    const holder = place.in === null ? undefined : known.get(place.in);
    return holder ? `${titleOf(holder)} · ${place.name}` : place.name;
  };
  return [
    group('Cannot be worked out', null, all.filter(isBroken)),
    ...inTree(places).map(({ place }) =>
      group(
        titleOf(place),
        place.id,
        live.filter(({ series }) => series.place === place.id),
      ),
    ),
    group(
      'Without a place',
      null,
      live.filter(({ series }) => series.place === undefined || !known.has(series.place)),
    ),
    group(
      'Ended',
      null,
      all.filter((todo) => todo.ended && !isBroken(todo)),
    ),
  ].filter(({ todos: found }) => found.length);
}

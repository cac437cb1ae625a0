import type { TodoView } from '@back-again/contract';
import { repeatText, type LocalDate, type Settings } from '@back-again/core';
import { pausedUntil } from '../../ui/standing.ts';

export interface Group {
  title: string;
  todos: TodoView[];
}

/** Whether a to-do has the searched words in its title, in how it repeats or in where it belongs. */
export function fits({ series, wrong }: TodoView, search: string, settings: Settings): boolean {
  const repeat = wrong === null ? repeatText(series, settings) : '';
  const text = `${series.title} ${repeat} ${series.place ?? ''}`.toLocaleLowerCase();
  return search
    .toLocaleLowerCase()
    .split(/\s+/u)
    .every((word) => text.includes(word));
}

const nextOf = ({ open, next }: TodoView) => open[0]?.due ?? next?.due ?? '9999';

/** To-dos in groups, each by its next date: what comes back, one-offs, without a date, ended. */
export function arrange(all: readonly TodoView[], today: LocalDate): Group[] {
  const isPaused = (todo: TodoView) => !todo.ended && pausedUntil(todo, today) !== undefined;
  const isBroken = ({ wrong }: TodoView) => wrong !== null;
  const todos = all.filter((todo) => !isPaused(todo) && !isBroken(todo));
  const group = (title: string, has: (todo: TodoView) => boolean): Group => ({
    title,
    todos: todos
      .filter(has)
      .sort((a, b) => `${nextOf(a)} ${a.createdAt}`.localeCompare(`${nextOf(b)} ${b.createdAt}`)),
  });
  const undated = ({ ended, series }: TodoView) => !ended && series.start === null;
  return [
    { title: 'Cannot be worked out', todos: all.filter(isBroken) },
    group('Comes back', ({ ended, series }) => !ended && series.repeat !== null),
    group('Once', (todo) => !todo.ended && todo.series.repeat === null && !undated(todo)),
    group('No date yet', undated),
    { title: 'Paused', todos: all.filter((todo) => isPaused(todo) && !isBroken(todo)) },
    group('Ended', ({ ended }) => ended),
  ].filter(({ todos: found }) => found.length);
}

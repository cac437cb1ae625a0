import type { TodoState } from '@back-again/contract';
import { checkSeries, type Details } from '@back-again/core';
import type { Candidate } from './looking.ts';

/** What would come in, held against what is there already. */

export type Standing =
  | { kind: 'new' }
  | { kind: 'same'; todo: string }
  | { kind: 'changed'; todo: string; what: string[] };

/** To-dos by what they are called where they came from, and by their own ids. */
export function byUid(todos: readonly TodoState[]): Map<string, TodoState> {
  const found = new Map(todos.map((todo) => [todo.id, todo]));
  for (const todo of todos) if (todo.details.came) found.set(todo.details.came.uid, todo);
  return found;
}

const WORDS: Partial<Record<keyof Details, string>> = {
  title: 'its name',
  note: 'its note',
  importance: 'how important it is',
  tags: 'its tags',
  steps: 'its steps',
  questions: 'its questions',
  takes: 'how long it takes',
};

/** Whether it is there, and what of it is other than there. */
export function standingOf(candidate: Candidate, there: ReadonlyMap<string, TodoState>): Standing {
  const todo = candidate.uid === null ? undefined : there.get(candidate.uid);
  if (!todo) return { kind: 'new' };
  const { series, details, times } = candidate;
  const what: string[] = [];
  const now = todo.progress.turns.at(-1)?.series ?? todo.progress.series;
  if (textOf(checkSeries(series)) !== textOf(checkSeries(now))) what.push('when it comes back');
  for (const [key, words] of Object.entries(WORDS) as [keyof Details, string][])
    if (textOf(details[key]) !== textOf(todo.details[key])) what.push(words);
  const isMoved = times.some(({ slot, status, due }) => {
    const open = todo.progress.open.find((it) => it.slot === slot);
    return (
      open && (status === 'done' || status === 'skipped' || (status === 'open' && due !== open.due))
    );
  });
  if (isMoved) what.push('what became of its times');
  return what.length ? { kind: 'changed', todo: todo.id, what } : { kind: 'same', todo: todo.id };
}

/** As text, whatever order its parts have. */
const textOf = (value: unknown): string =>
  JSON.stringify(value, (_key, it: unknown) =>
    typeof it === 'object' && it !== null && !Array.isArray(it)
      ? Object.fromEntries(Object.entries(it).sort(([a], [b]) => (a < b ? -1 : 1)))
      : it,
  );

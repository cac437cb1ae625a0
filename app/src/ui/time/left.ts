import { leftSteps, stepsOf, type Occurrence, type TodoView } from '@back-again/core';

interface OfTodo {
  todo: Pick<TodoView, 'series'>;
  time: Pick<Occurrence, 'filled'>;
}

/** The steps of a to-do, as they are counted. */
export const detailsOf = ({ todo: { series } }: Pick<OfTodo, 'todo'>) => ({
  steps: series.steps ?? [],
});

/**
 * How many steps of a time are left, and what its end button says: while some are, how many are done (“2 of 3”). It
 * is heard as its name and `spoken`.
 */
export function leftOf(it: OfTodo): { left: number; label: string; spoken: string } {
  const details = detailsOf(it);
  const left = leftSteps(details, it.time).length;
  if (!left) return { left, label: 'Done', spoken: '' };
  const all = stepsOf(details, it.time).length;
  const label = `${all - left} of ${all}`;
  return { left, label, spoken: `, ${label} steps` };
}

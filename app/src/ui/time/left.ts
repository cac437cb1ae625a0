import { leftSteps, stepsOf, type Occurrence, type TodoView } from '@back-again/core';

interface OfTodo {
  todo: Pick<TodoView, 'series'>;
  time: Pick<Occurrence, 'filled'>;
}

/** The steps of a to-do, as they are counted. */
export const detailsOf = ({ todo: { series } }: Pick<OfTodo, 'todo'>) => ({
  steps: series.steps ?? [],
});

/** How many steps of a time are left, and of how many they are done: “2 of 3”, null without steps. */
export function leftOf(it: OfTodo): { left: number; text: string | null } {
  const details = detailsOf(it);
  const all = stepsOf(details, it.time).length;
  const left = leftSteps(details, it.time).length;
  return { left, text: all ? `${all - left} of ${all}` : null };
}

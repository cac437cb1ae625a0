import type { LocalDate } from '@back-again/core';
import {
  Desk,
  type DayAhead,
  type DayInMonth,
  type DeskSettings,
  type LaidDay,
  type PlannedTodo,
  type Proposal,
} from '@back-again/core/planning';

/** What is said to the worker that forecasts, and what it answers. */
export type Told =
  | { kind: 'put'; mine: DeskSettings; todos: PlannedTodo[]; gone: string[] }
  | { kind: 'ask'; n: number; what: keyof Answers; from: LocalDate; to: LocalDate };

export interface Answers {
  days: DayAhead[];
  months: DayInMonth[];
  even: Proposal;
  lay: Record<LocalDate, LaidDay>;
}

export type Said = { n: number; answer: unknown } | { n: number; error: string };

/** Hears what is said to the worker; gives what it answers, where something was asked. */
export function hearer(): (told: Told) => Said | null {
  const desk = new Desk();
  return (told) => {
    if (told.kind === 'put') {
      desk.look(told.mine);
      desk.put(told.todos, told.gone);
      return null;
    }
    const { n, what, from, to } = told;
    try {
      return { n, answer: desk[what](from, to) };
    } catch (error) {
      return { n, error: error instanceof Error ? error.message : String(error) };
    }
  };
}

import type { LocalDate } from '@back-again/core';
import { startTransition, useEffect, useState } from 'react';
import type { Shown } from '../../data/todos.ts';
import type { Answers } from './desk.ts';
import { Forecaster, wireHere } from './forecaster.ts';

let here: Forecaster | null = null;

/** What is worked out of the to-dos that are shown, anew whenever one of them changes. */
export interface Forecast {
  forecaster: Forecaster;
  /** Grows with each change. */
  turn: number;
}

/** Keeps the worker in step with what is shown; with the to-dos of all spheres where that is asked for. */
export function useForecast(shown: Shown, isWhole: boolean): Forecast {
  const [forecaster] = useState(() => (here ??= new Forecaster(wireHere())));
  const [turn, setTurn] = useState(0);
  const todos = isWhole ? shown.all() : shown.inSight();
  const { settings, holidays } = shown.person;
  // Within a minute nothing comes that would not be heard of otherwise.
  const minute = Math.floor(shown.now / 60_000);
  useEffect(() => {
    forecaster.keep({ settings, holidays, now: minute * 60_000 }, todos);
    setTurn((n) => n + 1);
  }, [forecaster, todos, settings, holidays, minute]);
  return { forecaster, turn };
}

/** What the worker says of some days; what it said before while it works, null at first. */
export function useAnswer<K extends keyof Answers>(
  { forecaster, turn }: Forecast,
  what: K,
  from: LocalDate,
  to: LocalDate,
): Answers[K] | null {
  const [answer, setAnswer] = useState<{ of: string; is: Answers[K] } | null>(null);
  const of = `${what} ${from} ${to}`;
  useEffect(() => {
    let isWanted = true;
    if (turn)
      forecaster.ask(what, from, to).then(
        (is) => {
          if (isWanted) startTransition(() => setAnswer({ of: `${what} ${from} ${to}`, is }));
        },
        () => undefined,
      );
    return () => {
      isWanted = false;
    };
  }, [forecaster, turn, what, from, to]);
  return answer?.of === of ? answer.is : null;
}

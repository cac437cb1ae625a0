import type { TodoView } from '@back-again/contract';
import type { Series } from '@back-again/core';
import type { ArcState } from './ReturnArc.tsx';

/** How the arc of a to-do is drawn. */
export function arcKind(series: Series): 'fixed' | 'after' | 'once' {
  if (!series.repeat) return 'once';
  return series.repeat.by === 'completion' ? 'after' : 'fixed';
}

/** Where a to-do stands on its arc, by its oldest open time or the next one to come. */
export function arcOf(todo: TodoView, daysLate: number): ArcState {
  const time = todo.open[0];
  if (todo.quota !== null)
    return {
      at: 'posts',
      done: time?.tally ?? (todo.open.length ? 0 : todo.quota),
      of: todo.quota,
    };
  if (time && daysLate > 0) return { at: 'late', days: daysLate };
  const way = time ? time.way : todo.nextWay;
  if (way) return { at: 'way', share: way.gone / way.of };
  return { at: 'way', share: time ? 1 : 0 };
}

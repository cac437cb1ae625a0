import {
  hasEnded,
  speaksAt,
  standOf,
  type Ended,
  type Planner,
  type Progress,
  type Settings,
} from '@back-again/core';
import type { TodoState } from './views.ts';

/** A to-do with another progress, and what is known beside it. */
export function stateWith(
  planner: Planner,
  settings: Settings,
  before: Pick<TodoState, 'id' | 'made' | 'version' | 'details' | 'describedAt'>,
  { progress, lately }: { progress: Progress; lately: readonly Ended[] },
): TodoState {
  const { id, made, version, details, describedAt } = before;
  return {
    id,
    made,
    version,
    details,
    describedAt,
    progress,
    ...standOf(planner, progress),
    speaksAt: speaksAt(planner, progress, settings),
    over: hasEnded(planner, progress),
    lately: [...lately],
  };
}

import {
  CoreError,
  changedPreview,
  plannerOf,
  previewOf as newPreview,
  type Definition,
  type Instant,
  type LocalDate,
  type Preview,
  type Progress,
  type Settings,
} from '@back-again/core';
import { changeTo } from './edit.ts';

export type { Preview } from '@back-again/core';

/** A to-do that is changed: what it is, and where it stands. */
export interface Standing {
  series: Definition;
  progress: Progress;
}

/**
 * The next times of a definition, computed by the same machine that the server runs; of one that is changed
 * from where it stands. Null where it could not be kept so.
 */
export function previewOf(
  series: Definition,
  settings: Settings,
  now: Instant,
  holidays: readonly LocalDate[] = [],
  todo: Standing | null = null,
): Preview | null {
  const planner = plannerOf(settings, holidays);
  if (!todo) return newPreview(planner, settings, series, now);
  try {
    const { series: parts = null } = changeTo(series, todo.series);
    return changedPreview(planner, settings, todo.progress, parts, now);
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

import type { Series } from '../series/definition.ts';

/**
 * All that a person defines, as one sentence says it: when it comes back, and what it is. A part that
 * says nothing is absent.
 */
export type Definition = Series & {
  title: string;
  /** About how many minutes one time takes. */
  takes?: number;
  /** Where it belongs, by its name. */
  place?: string;
};

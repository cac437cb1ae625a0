/**
 * What a to-do is, beside when it comes back: the machine never sees it. A change of it holds at once for
 * all times that are open or to come.
 */
export interface Details {
  title: string;
  /** Where it belongs, by its name; null for nowhere yet. */
  place: string | null;
  /** About how many minutes one time takes; null where that is not said. */
  takes: number | null;
}

export const NO_DETAILS: Omit<Details, 'title'> = { place: null, takes: null };

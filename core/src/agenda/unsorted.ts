import type { Details } from '../definition/details.ts';
import type { Series } from '../series/definition/definition.ts';

/** What a to-do still lacks: where it belongs, or when it is to be done. */
export type Lack = 'place' | 'date';

/**
 * What a to-do lacks; nothing where it is sorted.
 * @param isThere whether there is a place of that id
 */
export function lacksOf(
  series: Series,
  { place, someday }: Pick<Details, 'place' | 'someday'>,
  isThere: (place: string) => boolean,
): Lack[] {
  const lacks: Lack[] = [];
  if (place === null || !isThere(place)) lacks.push('place');
  if (series.start === null && !someday) lacks.push('date');
  return lacks;
}

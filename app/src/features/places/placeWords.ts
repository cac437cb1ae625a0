import type { PlaceState } from '@back-again/contract';
import { HOLDERS, type PlaceKind } from '@back-again/core';

/** What is said of places. */

export const KINDS: readonly { value: PlaceKind; label: string }[] = [
  { value: 'sphere', label: 'a sphere' },
  { value: 'strand', label: 'a strand, which goes on' },
  { value: 'project', label: 'a project, which ends' },
];

/** The places that can hold one of a kind. */
export const holdersFor = (kind: PlaceKind, places: readonly PlaceState[]): PlaceState[] =>
  places.filter((place) => HOLDERS[kind].includes(place.kind));

/** How a place stands, where that is worth saying. */
export function stateText({ kind, state }: Pick<PlaceState, 'kind' | 'state'>): string {
  if (kind === 'sphere') return '';
  if (state === 'rests') return 'rests';
  if (state === 'planned') return 'planned';
  if (state === 'finished') return 'finished';
  return '';
}

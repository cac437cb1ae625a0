import {
  CoreError,
  NO_PLACE,
  checkAmong,
  checkPlaceParts,
  holdDeed,
  holdersIn,
  within,
  withState,
  type Deed,
  type Details,
  type FindHolder,
  type Instant,
  type KeptPlace,
  type LocalDate,
  type PlaceParts,
  type Series,
} from '@back-again/core';
import { noPlace } from './refusals.ts';
import type { Action, ActionOf } from './schemas.ts';

/** What follows from what is done to places, the same on both sides. */

export type PlaceAction = ActionOf<'place' | 'unplace' | 'rest' | 'finishProject'>;

export const isPlacing = (action: Action): action is PlaceAction =>
  ['place', 'unplace', 'rest', 'finishProject'].includes(action.do);

/** Whether to-dos may be held, or ended, by it. */
export const touchesTodos = (action: PlaceAction): boolean =>
  action.do !== 'place' || 'state' in action.parts || 'in' in action.parts;

/** A place before and after an action, with what the action says of it. */
export interface Placed {
  place: KeptPlace;
  parts: Partial<PlaceParts>;
  /** The place with all that it holds. */
  inside: ReadonlySet<string>;
  /** What holds what belongs to a place, before and after. */
  holderBefore: FindHolder;
  holderAfter: FindHolder;
}

/**
 * What an action says of a place.
 * @param places all of the person, those that are gone among them
 * @param at when it is done, on the day `today`
 * @throws CoreError `place.…`
 */
export function placing(
  action: PlaceAction,
  places: readonly KeptPlace[],
  at: Instant,
  today: LocalDate,
): Placed {
  const there = places.find(({ id }) => id === action.place) ?? null;
  const parts = partsOf(action, there, today);
  const place: KeptPlace = {
    ...(there ?? { ...NO_PLACE, kind: 'sphere', name: '', id: action.place, made: at }),
    ...parts,
  };
  const after = there ? places.map((it) => (it === there ? place : it)) : [...places, place];
  if (!place.gone && action.do === 'place') checkAmong(place, after);
  return {
    place,
    parts,
    inside: within(after, place.id),
    holderBefore: holdersIn(places),
    holderAfter: holdersIn(after),
  };
}

function partsOf(
  action: PlaceAction,
  there: KeptPlace | null,
  today: LocalDate,
): Partial<PlaceParts> {
  if (action.do === 'place' && !there) {
    const said = { ...NO_PLACE, ...checkPlaceParts(action.parts), gone: false };
    const { kind, name } = said as Partial<PlaceParts>;
    if (kind === undefined)
      throw new CoreError('place.kind', 'kind', 'Say what kind of place it is.');
    if (name === undefined) throw new CoreError('place.name', 'name', 'Say what it is called.');
    const made = { ...said, kind, name };
    return { ...made, ...withState({ ...made, id: action.place, made: 0 }, made.state, today) };
  }
  if (!there || there.gone) throw noPlace();
  switch (action.do) {
    case 'place': {
      const parts = checkPlaceParts(action.parts);
      if (parts.kind !== undefined && parts.kind !== there.kind)
        throw new CoreError('place.kind', 'kind', 'A place stays of its kind.');
      return parts.state === undefined
        ? parts
        : { ...parts, ...withState(there, parts.state, today) };
    }
    case 'unplace':
      return { gone: true };
    case 'rest':
      if (there.kind !== 'strand')
        throw new CoreError('place.rest', 'place', 'A strand alone rests.');
      return withState(there, action.rests ? 'rests' : 'on', today);
    case 'finishProject':
      if (there.kind !== 'project')
        throw new CoreError('place.finish', 'place', 'A project alone is finished.');
      return withState(there, 'finished', today);
  }
}

/** What follows for a to-do that has not ended; nothing for most. */
export interface Follows {
  deed: Deed | null;
  details: Partial<Details> | null;
}

/** What follows for a to-do from what was done to places. */
export function followsFrom(
  { place, inside, holderBefore, holderAfter }: Placed,
  action: PlaceAction,
  todo: { series: Series; place: string | null },
  today: LocalDate,
): Follows {
  const isInside = action.do === 'finishProject' && todo.place !== null && inside.has(todo.place);
  if (isInside && action.open === 'end') return { deed: { do: 'end' }, details: null };
  const moved = isInside && action.open === 'strand' ? { place: place.in } : null;
  const to = moved ? moved.place : todo.place;
  const deed = holdDeed(todo.series, holderBefore(todo.place), holderAfter(to), today);
  return { deed, details: moved };
}

/** The deed by which a to-do is held, or goes on, as it comes to belong elsewhere; null for none. */
export function heldBy(
  series: Series,
  places: readonly KeptPlace[],
  from: string | null,
  to: string | null,
  today: LocalDate,
): Deed | null {
  const holderOf = holdersIn(places);
  return holdDeed(series, holderOf(from), holderOf(to), today);
}

/** When a to-do comes back that is made in a place: held, where the place holds what belongs to it. */
export function seriesIn(
  series: Series,
  places: readonly KeptPlace[],
  place: string | null,
  today: LocalDate,
): Series {
  if (!heldBy(series, places, null, place, today)) return series;
  return { ...series, pauses: [...(series.pauses ?? []), { from: today, to: null }] };
}

/**
 * Refuses a place that there never was; one that was taken away meanwhile is known, and what belongs to
 * it is unsorted.
 * @throws CoreError `place.none`
 */
export function needPlace(
  places: readonly Pick<KeptPlace, 'id'>[],
  place: string | null | undefined,
): void {
  if (typeof place === 'string' && !places.some(({ id }) => id === place)) throw noPlace();
}

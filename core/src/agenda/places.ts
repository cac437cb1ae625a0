import { parseDay, type LocalDate } from '../calendar/day.ts';
import type { Instant } from '../calendar/zone.ts';
import { MOST_PLACE } from '../definition/parts.ts';
import { wordsIn } from '../definition/whatChecks.ts';
import { CoreError } from '../errors.ts';
import type { NamedPlace } from '../phrase/meaning/reading.ts';
import type { ChangeDeed } from '../series/deeds/deeds.ts';
import { textIn } from '../series/definition/checks.ts';
import type { Series } from '../series/definition/definition.ts';
import { pauseOn } from '../series/life/standing.ts';

export type PlaceKind = 'sphere' | 'strand' | 'project';

/** Where to-dos belong: a sphere holds strands and projects, a strand holds projects. */
export interface Place {
  id: string;
  name: string;
  kind: PlaceKind;
  /** The place that holds it; left out or null for a sphere. */
  in?: string | null;
  state?: 'on' | 'rests' | 'planned' | 'finished';
}

/** What a person says of a place. */
export interface PlaceParts {
  kind: PlaceKind;
  name: string;
  in: string | null;
  /** A strand goes on or rests; a project is planned, goes on, or is finished. */
  state: 'on' | 'rests' | 'planned' | 'finished';
  /** The first and the last day of a project. */
  from: LocalDate | null;
  to: LocalDate | null;
  note: string;
  /** Its place beside the others, lowest first. */
  order: number;
  /** Since which day what belongs to it is held; null while it is not. */
  heldSince: LocalDate | null;
  /** It was taken away, or is not made yet: what belongs to it is unsorted. */
  gone: boolean;
}

/** What is said of a place where nothing is said. */
export const NO_PLACE: Omit<PlaceParts, 'kind' | 'name'> = {
  in: null,
  state: 'on',
  from: null,
  to: null,
  note: '',
  order: 0,
  heldSince: null,
  gone: true,
};

const KINDS: readonly unknown[] = ['sphere', 'strand', 'project'];
export const MOST_PLACE_NOTE = 20_000;
const MOST_ORDER = 1e6;

/**
 * Checks some parts of a place as they come from outside.
 * @throws CoreError with the place of the part
 */
export function checkPlaceParts(given: unknown): Partial<PlaceParts> {
  if (typeof given !== 'object' || given === null || Array.isArray(given))
    throw new CoreError('place.form', 'parts', 'A place is an object with a name.');
  const found: Record<string, unknown> = {};
  for (const [key, value] of Object.entries(given)) found[key] = checkPart(key, value);
  return found;
}

function checkPart(key: string, value: unknown): unknown {
  const refuse = (words: string) => new CoreError(`place.${key}`, key, words);
  switch (key) {
    case 'name':
      return wordsIn(value, 'name', 'The name of a place', MOST_PLACE);
    case 'kind':
      if (!KINDS.includes(value)) throw refuse('A place is a sphere, a strand or a project.');
      return value;
    case 'in':
      if (value !== null && typeof value !== 'string') throw refuse('Say in which place it is.');
      return value;
    case 'state':
      if (value !== 'planned' && value !== 'on') throw refuse('A project is planned, or goes on.');
      return value;
    case 'from':
    case 'to':
      if (value !== null) parseDay(textIn(value, key), key);
      return value;
    case 'note':
      if (typeof value !== 'string' || value.length > MOST_PLACE_NOTE)
        throw refuse('A note has 20,000 characters at most.');
      return value.trim();
    case 'order':
      if (typeof value !== 'number' || !(Math.abs(value) <= MOST_ORDER))
        throw refuse('The order is a number.');
      return value;
    default:
      throw new CoreError('place.part', key, `A place has no part named “${key}”.`);
  }
}

/** A place as it is kept. */
export interface KeptPlace extends PlaceParts {
  id: string;
  made: Instant;
}

/** The places that are there, with all that hold them. */
export function present<P extends KeptPlace>(places: readonly P[]): P[] {
  const byId = new Map(places.map((place) => [place.id, place]));
  return places.filter(({ id }) => isThere(byId, id));
}

/** Which kinds can hold one of a kind. */
export const HOLDERS: Record<PlaceKind, readonly PlaceKind[]> = {
  sphere: [],
  strand: ['sphere'],
  project: ['sphere', 'strand'],
};

/** Whether a place, and every one that holds it, is there. */
export function isThere(places: ReadonlyMap<string, KeptPlace>, id: string | null): boolean {
  const met = new Set<string>();
  for (let at = id; at !== null;) {
    const place = places.get(at);
    if (!place || place.gone || met.has(at)) return false;
    met.add(at);
    at = place.in;
  }
  return id !== null;
}

/** Places, each behind the one that holds it, with how deep it lies. */
export function inTree<P extends Place>(places: readonly P[]): { place: P; depth: number }[] {
  const inside = (holder: string | null, depth: number): { place: P; depth: number }[] =>
    places
      .filter((place) => (place.in ?? null) === holder)
      .flatMap((place) => [{ place, depth }, ...inside(place.id, depth + 1)]);
  return inside(null, 0);
}

/** A place with all that it holds, at any depth. */
export function within(
  places: readonly Pick<Place, 'id' | 'in'>[],
  id: string,
): ReadonlySet<string> {
  const found = new Set([id]);
  for (let before = 0; before < found.size;) {
    before = found.size;
    for (const place of places) if (place.in && found.has(place.in)) found.add(place.id);
  }
  return found;
}

const sameName = (a: string, b: string) => a.toLocaleLowerCase('en') === b.toLocaleLowerCase('en');

/**
 * Checks a place among the others of its person.
 * @throws CoreError `place.holder` for one that cannot hold it, itself among them; `place.name` for a
 * name that stands beside itself
 */
export function checkAmong(place: KeptPlace, all: readonly KeptPlace[]): void {
  const byId = new Map(all.map((it) => [it.id, it]));
  const { kind, name } = place;
  if (kind !== 'project' && place.state === 'planned')
    throw new CoreError('place.state', 'state', 'A project alone is planned.');
  if (place.from !== null && place.to !== null && place.to < place.from)
    throw new CoreError('place.to', 'to', 'It ends before it begins.');
  const holder = place.in === null ? null : byId.get(place.in);
  if (holder === undefined || (place.in !== null && !isThere(byId, place.in)))
    throw new CoreError('place.holder', 'in', 'There is no such place any more.');
  if (place.in === place.id || (holder && within(all, place.id).has(holder.id)))
    throw new CoreError('place.holder', 'in', 'A place cannot be inside itself.');
  if (holder ? !HOLDERS[kind].includes(holder.kind) : kind !== 'sphere')
    throw new CoreError(
      'place.holder',
      'in',
      kind === 'sphere'
        ? 'A sphere is in no other place.'
        : `A ${kind} is in ${kind === 'strand' ? 'a sphere' : 'a sphere or a strand'}.`,
    );
  const beside = all.find(
    (it) => it.id !== place.id && !it.gone && it.in === place.in && sameName(it.name, name),
  );
  if (beside)
    throw new CoreError('place.name', 'name', `There is “${beside.name}” beside it already.`);
}

const holds = ({ kind, state }: Place) =>
  (kind === 'strand' && state === 'rests') || (kind === 'project' && state === 'planned');

/** Finds the place that holds what belongs to one: a strand that rests, a project still planned; null for none. */
export type FindHolder = (place: string | null) => KeptPlace | null;

export function holdersIn(places: readonly KeptPlace[]): FindHolder {
  const byId = new Map(places.map((place) => [place.id, place]));
  return (id) => {
    if (!isThere(byId, id)) return null;
    let found: KeptPlace | null = null;
    for (let place = byId.get(id!); place; place = place.in ? byId.get(place.in) : undefined)
      if (holds(place)) found = place;
    return found;
  };
}

/** What to do to a to-do that is held now and was not, or the other way round; null for nothing. */
export function holdDeed(
  series: Series,
  before: KeptPlace | null,
  after: KeptPlace | null,
  today: LocalDate,
): ChangeDeed | null {
  // A pause of the person’s own stays as it is.
  if (!before && after) return pauseOn(series, today) ? null : { do: 'pause', to: null };
  const last = series.pauses?.at(-1);
  if (!before || after || last?.to !== null) return null;
  return before.heldSince !== null && last.from >= before.heldSince ? { do: 'resume' } : null;
}

/** A place with another state, and since when it holds what belongs to it. */
export function withState(
  place: KeptPlace,
  state: PlaceParts['state'],
  today: LocalDate,
): Pick<PlaceParts, 'state' | 'heldSince'> {
  const isHolding = holds({ ...place, state });
  return { state, heldSince: isHolding ? (place.heldSince ?? today) : null };
}

/** What each place is called beside all others: by its name, with those of its holders where that is another’s too. */
export function namesOf(places: readonly Place[]): NamedPlace[] {
  const byId = new Map(places.map((place) => [place.id, place]));
  const holderOf = (place: Place) => (place.in ? byId.get(place.in) : undefined);
  const path = (place: Place, steps: number): string => {
    const holder = steps > 0 ? holderOf(place) : undefined;
    return holder ? `${path(holder, steps - 1)}: ${place.name}` : place.name;
  };
  return places.map((place) => {
    for (let steps = 0; ; steps++) {
      const name = path(place, steps);
      const isOwn = places.every((it) => it === place || !sameName(path(it, steps), name));
      if (isOwn || steps > 2) return { id: place.id, name };
    }
  });
}

/** Why what belongs to a place is not on Today: it rests or is not yet begun, or lies out of focus. */
type Hidden = 'rests' | 'elsewhere' | null;

/** Tells of what belongs to a place whether it is out of sight; without a place, by `null`. */
export function hiddenBy(
  places: readonly Place[],
  focus: string | null,
): (place: string | null) => Hidden {
  const byId = new Map(places.map((place) => [place.id, place]));
  const found = new Map<string | null, Hidden>();
  const work = (id: string | null): Hidden => {
    let isInFocus = focus === null;
    const met = new Set<string>();
    for (let place = id === null ? undefined : byId.get(id); place;) {
      if (place.id === focus) isInFocus = true;
      if (holds(place)) return 'rests';
      // A place that holds itself holds nothing else.
      if (met.has(place.id)) break;
      met.add(place.id);
      place = place.in ? byId.get(place.in) : undefined;
    }
    return isInFocus ? null : 'elsewhere';
  };
  return (place) => {
    const before = found.get(place);
    if (before !== undefined) return before;
    const made = work(place);
    found.set(place, made);
    return made;
  };
}

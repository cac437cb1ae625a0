/** Where to-dos belong: a sphere holds strands and projects, a strand holds projects. */
export interface Place {
  id: string;
  name: string;
  kind: 'sphere' | 'strand' | 'project';
  /** The place that holds it; left out or null for a sphere. */
  in?: string | null;
  state?: 'on' | 'rests' | 'planned' | 'finished';
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
      if (place.kind === 'strand' && place.state === 'rests') return 'rests';
      if (place.kind === 'project' && place.state === 'planned') return 'rests';
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

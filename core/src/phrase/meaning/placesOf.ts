import type { NamedPlace, ReadOptions } from './reading.ts';

/** The places of a person, each with its name: apart from what reads, so that who only says need not load that. @internal */
export const placesOf = ({ places = [] }: ReadOptions): NamedPlace[] =>
  places.map((it) => (typeof it === 'string' ? { id: it, name: it } : it));

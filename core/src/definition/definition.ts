import type { Series } from '../series/definition/definition.ts';
import type { Details } from './details.ts';

type Said = { [K in Exclude<keyof Details, 'title'>]?: NonNullable<Details[K]> };

/**
 * All that a person defines, as one sentence says it: when it comes back, and what it is. A part that
 * says nothing is absent. A place that the person does not have yet stands by its name.
 */
export type Definition = Series & { title: string } & Said;

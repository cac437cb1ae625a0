import { CoreError } from '../errors.ts';
import { checkBounds } from '../series/definition/bounds.ts';
import { checkMoments } from '../series/definition/checks.ts';
import type { Series } from '../series/definition/definition.ts';
import type { Definition } from './definition.ts';
import { NO_DETAILS, type Details } from './details.ts';
import { PARTS, partOf, type Draft, type Part } from './parts.ts';

type Given = Record<string, unknown>;

function objectIn(given: unknown, words: string): Given {
  if (typeof given !== 'object' || given === null || Array.isArray(given))
    throw new CoreError('series.form', 'series', words);
  return given as Given;
}

/** Checks these parts in order, each with those before it; what says nothing is left out. */
function checked(given: Given, parts: readonly Part[]): Draft {
  const made: Given = { start: null, repeat: null };
  const draft: Given = {};
  for (const part of parts) {
    if (given[part.key] === undefined && !part.isAlways) continue;
    const value = part.check(given[part.key], { ...made, ...draft } as Draft);
    if (value !== undefined) draft[part.key] = value;
  }
  return draft as Draft;
}

const partsOf = (half: Part['half']) => PARTS.filter((part) => part.half === half);

function refuseUnknown(given: Given, known: (key: string) => boolean): void {
  for (const key of Object.keys(given))
    if (!known(key)) throw new CoreError('series.part', key, `A to-do has no part named “${key}”.`);
}

/** Checks what the machine reads as a whole. */
function checkWhole(series: Draft): void {
  if (series.repeat?.by === 'quota')
    for (const { key, notWithQuota } of PARTS)
      if (notWithQuota && (series as Given)[key] !== undefined)
        throw new CoreError(`series.${key}`, key, notWithQuota);
  checkMoments(series);
  checkBounds(series as Series);
}

/**
 * Checks a definition as it comes from outside and gives it back, with nothing in it that says nothing.
 * @throws CoreError naming the part (`where`) and what is wrong with it. Nothing is guessed.
 */
export function checkDefinition(given: unknown): Definition {
  const it = objectIn(given, 'A to-do is an object with a title and a repeat.');
  refuseUnknown(it, (key) => partOf(key) !== undefined);
  const definition = checked(it, PARTS);
  checkWhole(definition);
  return definition as Definition;
}

/**
 * Checks when a to-do comes back, as it comes from outside, and gives it back; parts of what it is may
 * stand beside it and are passed by.
 * @throws CoreError as {@link checkDefinition} does
 */
export function checkSeries(given: unknown): Series {
  const it = objectIn(given, 'When a to-do comes back is an object with a start and a repeat.');
  refuseUnknown(it, (key) => partOf(key) !== undefined);
  const series = checked(it, partsOf('when'));
  checkWhole(series);
  return series as Series;
}

/**
 * Checks some parts of what a to-do is, as they come from outside: null takes one away.
 * @throws CoreError with the place of the part
 */
export function checkDetails(given: unknown): Partial<Details> {
  const it = objectIn(given, 'What a to-do is, is an object with a title.');
  refuseUnknown(it, (key) => partOf(key)?.half === 'what');
  const found: Given = {};
  for (const part of partsOf('what'))
    if (it[part.key] !== undefined)
      found[part.key] = part.check(it[part.key], NO_DRAFT) ?? nothingOf(part.key);
  return found as Partial<Details>;
}

const NO_DRAFT: Draft = { start: null, repeat: null };

/** What it is, without the parts that are set elsewhere and say nothing. */
export function detailsTold(details: Details): Details {
  const told = Object.entries(details).filter(([key, value]) => {
    const part = partOf(key);
    return !part?.isApart || isSaid(part, value);
  });
  return Object.fromEntries(told) as unknown as Details;
}

/** What stands for a part that says nothing. */
const nothingOf = (key: string): unknown =>
  (NO_DETAILS as unknown as Record<string, unknown>)[key] ?? null;

/** The half of a definition that the machine reads. */
export function whenOf(definition: Definition): Series {
  return halfOf(definition, 'when') as unknown as Series;
}

/** The half of a definition that says what it is, with null for what is not said. */
export function whatOf(definition: Definition): Details {
  return { ...NO_DETAILS, ...halfOf(definition, 'what') } as Details;
}

function halfOf(definition: Definition, half: Part['half']): Given {
  const given = definition as unknown as Given;
  const kept = partsOf(half).filter(({ key }) => given[key] !== undefined);
  return Object.fromEntries(kept.map(({ key }) => [key, given[key]]));
}

/** Whether a part says something. */
function isSaid({ key, isAlways }: Part, value: unknown): boolean {
  if (value === undefined || isAlways) return value !== undefined;
  return value !== null && JSON.stringify(value) !== JSON.stringify(nothingOf(key));
}

/** Both halves as one definition, in the order of the parts. */
export function definitionOf(series: Series, details: Details): Definition {
  const given = { ...series, ...details } as unknown as Given;
  const said = PARTS.filter((part) => isSaid(part, given[part.key]));
  return Object.fromEntries(said.map(({ key }) => [key, given[key]])) as unknown as Definition;
}

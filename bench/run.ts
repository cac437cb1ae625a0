import './fuzz.ts';
import './sentences.ts';
import { RULES, START, FAR, LIST, libraries, type Library } from './libraries.ts';

/**
 * How many times faster this engine is than reference libraries, in this one run: the first 200
 * dates of a rule as text, and the first date 40 years on. In two ways: with the rule made ready once,
 * outside the measure, as one does who keeps to-dos; and from the text of the rule each time, read,
 * computed and written.
 */

/** Nanoseconds for one run of `work`: the best of some rounds, each long enough to be measured. */
function cost(work: () => unknown): number {
  let times = 1;
  while (round(work, times) < ROUND) times *= 2;
  return Math.min(...Array.from({ length: 5 }, () => round(work, times) / times));
}

const ROUND = 8e6;
let sink: unknown;
function round(work: () => unknown, times: number): number {
  const from = process.hrtime.bigint();
  for (let i = 0; i < times; i++) sink = work();
  return Number(process.hrtime.bigint() - from);
}

const [ours, ...others] = libraries as [Library, ...Library[]];
const TITLES = { list: `First ${LIST} dates as text`, far: `First date after ${FAR}` } as const;
type Kind = keyof typeof TITLES;
const nearCosts = new Map<string, { near: number; far: number }>();

const WAYS = {
  prepared: 'made ready once',
  parsed: 'read, computed and written each time',
} as const;
type Way = keyof typeof WAYS;

/** One answer of a library, in one of the ways; null where it does not answer for the rule. */
function workOf(library: Library, way: Way, kind: Kind, rule: string): (() => unknown) | null {
  const prepared = library.prepare(rule);
  if (!prepared) return null;
  return way === 'prepared' ? prepared[kind] : () => library.prepare(rule)![kind]();
}

for (const [way, kind] of [
  ['prepared', 'list'],
  ['prepared', 'far'],
  ['parsed', 'list'],
  ['parsed', 'far'],
] as const) {
  const ratios: number[] = [];
  line(`\n${TITLES[kind]}, from ${START}, ${WAYS[way]}: times faster than`);
  row('', ...others.map(({ name }) => name), 'the fastest');
  for (const [name, rule] of RULES) {
    const mine = ours.prepare(rule)!;
    const took = cost(workOf(ours, way, kind, rule)!);
    if (kind === 'far' && way === 'prepared')
      nearCosts.set(name, { near: cost(mine.near), far: took });
    const against = others.map((other) =>
      ratioTo(other, way, kind, name, rule, mine[kind](), took),
    );
    const fastest = Math.min(...against.filter((ratio) => ratio !== null));
    ratios.push(fastest);
    row(name, ...[...against, fastest].map((ratio) => (ratio === null ? '–' : `${show(ratio)}×`)));
  }
  row('geometric mean', ...others.map(() => ''), `${show(mean(ratios))}×`);
}

line('\nOurs: a date 40 years on costs so many times the next one from the start');
const relations = [...nearCosts.values()].map(({ near, far }) => far / near);
row('geometric mean, the most', show(mean(relations)), show(Math.max(...relations)));
if (sink === undefined) process.exitCode = 1;

/** How many times longer another library takes, or null where it gives something else. */
function ratioTo(
  other: Library,
  way: Way,
  kind: Kind,
  name: string,
  rule: string,
  mine: string | string[],
  took: number,
): number | null {
  const prepared = other.prepare(rule);
  if (!prepared) return null;
  const [a, b] = [JSON.stringify(mine), JSON.stringify(prepared[kind]())];
  if (a === b) return cost(workOf(other, way, kind, rule)!) / took;
  const at = [...a].findIndex((char, i) => char !== b[i]);
  line(`  (${other.name} differs on “${name}”: ${a.slice(at, at + 16)} … ${b.slice(at, at + 16)})`);
  return null;
}

function mean(values: number[]): number {
  return Math.exp(values.reduce((sum, v) => sum + Math.log(v), 0) / values.length);
}

function show(ratio: number): string {
  return ratio >= 100 ? String(Math.round(ratio)) : ratio.toFixed(1);
}

function row(name: string, ...cells: string[]): void {
  line(name.padEnd(30) + cells.map((cell) => cell.padStart(16)).join(''));
}

function line(text: string): void {
  process.stdout.write(`${text}\n`);
}

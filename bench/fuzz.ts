import { CoreError, formatRule, parseRule } from '../core/src/index.ts';
import { fuzzedRule } from '../core/src/rule/check/fuzz.ts';
import { chance } from '../core/src/chance.ts';

/**
 * How the slowest of 100,000 fuzzed texts compares with the median of all, read by the parser of
 * rules: each text counts with the least of its rounds, so that a pause of the machine is no fault
 * of a text.
 */

const TEXTS = 100_000;
const ROUNDS = 7;

const of = chance(20270102);
const texts = Array.from({ length: TEXTS }, () => fuzzedRule(of));
const least = new Float64Array(TEXTS).fill(Infinity);
let read = 0;
for (let round = 0; round < ROUNDS; round++)
  for (let i = 0; i < TEXTS; i++) {
    const from = process.hrtime.bigint();
    try {
      parseRule(texts[i]!);
      if (round === 0) read++;
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
    }
    least[i] = Math.min(least[i]!, Number(process.hrtime.bigint() - from));
  }
for (const text of texts) {
  try {
    formatRule(parseRule(text));
  } catch (error) {
    if (!(error instanceof CoreError)) throw error;
  }
}

const sorted = [...least].sort((a, b) => a - b);
const median = sorted[TEXTS / 2]!;
const slowest = least.indexOf(sorted.at(-1)!);
process.stdout.write(
  `\nParser, ${TEXTS} fuzzed texts (${read} of them rules), no error but its own: ` +
    `the slowest takes ${(sorted.at(-1)! / median).toFixed(1)}× the median ` +
    `(${texts[slowest]!.length} characters), the 99.9th in a hundred ${(sorted[Math.floor(TEXTS * 0.999)]! / median).toFixed(1)}×\n`,
);

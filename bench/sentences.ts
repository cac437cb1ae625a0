import { plannerOf, type Settings } from '../core/src/index.ts';
import { read, say } from '../core/src/reading.ts';
import { fuzzedSentence } from '../core/src/phrase/check/fuzz.ts';
import { chance } from '../core/src/chance.ts';
import { previewOf } from '../app/src/features/editor/preview.ts';

/**
 * What typing costs, against the time of one frame (16 ms): 100,000 fuzzed texts read, and a
 * sentence of 300 characters read, said back and shown with its next times. Each counts with the
 * least of its rounds, so that a pause of the machine is no fault of a text.
 */

const FRAME = 16e6;
const TEXTS = 100_000;
const ROUNDS = 3;
const TODAY = '2027-01-02';

const frames = (nanoseconds: number) => `${(nanoseconds / FRAME).toFixed(3)} frames`;

const LONG =
  'Go round the boat and look at the bilge, the stern gland, the batteries and the ropes every 2 weeks on Tuesday and Saturday at 9 until 1 October except in August, if closed, the working day before, opens 2 days before, remind me 2 days before at 18:00, takes 45 minutes, belongs to Aboard, each one is owed';
const SETTINGS: Settings = { zone: 'Europe/London', dayStart: '00:00', weekStart: 'MO' };
const now = Date.parse('2027-01-02T10:00:00Z');
const steps: [name: string, work: () => unknown][] = [
  ['read', () => read(LONG, TODAY)],
  ['read and said', () => say(read(LONG, TODAY).series, TODAY)],
  ['read, said, next times', typing],
];
function typing() {
  const { series } = read(LONG, TODAY);
  return [say(series, TODAY), previewOf(series, SETTINGS, now)];
}
plannerOf(SETTINGS);
for (const [name, work] of steps) {
  for (let i = 0; i < 50; i++) work();
  const took = Array.from({ length: 300 }, () => {
    const from = process.hrtime.bigint();
    work();
    return Number(process.hrtime.bigint() - from);
  }).sort((a, b) => a - b);
  line(
    `${LONG.length} characters, ${name}: median ${frames(took[150]!)}, the 99th in a hundred ${frames(took[297]!)}`,
  );
}

const of = chance(20270102);
const texts = Array.from({ length: TEXTS }, () => fuzzedSentence(of));
const least = new Float64Array(TEXTS).fill(Infinity);
let repeating = 0;
let doubted = 0;
for (let round = 0; round < ROUNDS; round++)
  for (let i = 0; i < TEXTS; i++) {
    const from = process.hrtime.bigint();
    const { series, doubts } = read(texts[i]!, TODAY);
    least[i] = Math.min(least[i]!, Number(process.hrtime.bigint() - from));
    if (round > 0) continue;
    if (series.repeat) repeating++;
    if (doubts.length) doubted++;
  }
const sorted = [...least].sort((a, b) => a - b);
const slowest = texts[least.indexOf(sorted.at(-1)!)]!;
line(
  `\nSentences, ${TEXTS} fuzzed texts (${repeating} repeat, ${doubted} in doubt), none throws: ` +
    `the slowest ${frames(sorted.at(-1)!)} (${slowest.length} characters), ` +
    `the 99.9th in a hundred ${frames(sorted[Math.floor(TEXTS * 0.999)]!)}, ` +
    `the median ${frames(sorted[TEXTS / 2]!)}`,
);

function line(text: string): void {
  process.stdout.write(`${text}\n`);
}

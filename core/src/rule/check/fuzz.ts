import { randomRule } from './random.ts';

type Chance = (n: number) => number;

const WORDS = [
  'FREQ',
  'INTERVAL',
  'BYDAY',
  'BYMONTHDAY',
  'BYSETPOS',
  'UNTIL',
  'COUNT',
  '=',
  ';',
  ',',
  '-',
  '+',
  'MO',
  '1FR',
  'DAILY',
  'YEARLY',
  'SECONDLY',
  '0',
  '99',
  '-1',
  '20270101',
  'T',
  'Z',
  ' ',
  '\u0000',
  'é',
  'RSCALE',
  'SKIP',
  'BACKWARD',
];

/**
 * Text for a parser of rules to choke on: words of the grammar in any order, any characters, and
 * rules with some characters changed, left out, doubled or cut off.
 */
export function fuzzedRule(of: Chance): string {
  const kind = of(4);
  if (kind === 0) return Array.from({ length: of(30) }, () => WORDS[of(WORDS.length)]!).join('');
  if (kind === 1)
    return Array.from({ length: of(80) }, () => String.fromCharCode(of(of(2) ? 128 : 65536))).join(
      '',
    );
  let { rule } = randomRule(of);
  for (let edits = of(4); edits > 0; edits--) {
    const at = of(rule.length + 1);
    const middle = ['', rule.slice(at, at + 3).repeat(2), WORDS[of(WORDS.length)]!][of(3)]!;
    rule = rule.slice(0, at) + middle + rule.slice(at + of(4));
  }
  return of(10) ? rule : rule.slice(0, of(rule.length + 1));
}

import type { Definition } from '../../definition/definition.ts';
import { quoted } from '../grammar/tokens.ts';
import { MONTHS_BY_WORD, WEEKDAYS_BY_WORD } from '../grammar/words.ts';
import { remnantsOf, type Span } from './leftOver.ts';
import type { Choice, Doubt, PlainReading } from './reading.ts';

/**
 * What is left in the title beside what was understood, and could say when: nothing is read wrongly in
 * silence, so that it is asked about; and so are slips of the key.
 */

/** What is left over and could say when, as a doubt: it stays in the title, or is left out. */
export function remnantDoubt(
  { series, tokens, used, context }: Pick<PlainReading, 'series' | 'tokens' | 'used' | 'context'>,
  reread: (text: string) => Pick<PlainReading, 'series' | 'problems'>,
): Doubt | null {
  const spans = remnantsOf(tokens, used, context.text);
  if (!spans.length) return null;
  const { text } = context;
  const where = spans.map(({ from, to }) => text.slice(from, to)).join(', ');
  const clauses = used.map((it) => it.text).join(', ');
  const out = replaced(text, spans, () => '');
  const options = [
    { words: 'it is part of the name', text: `${quoted(series.title)}, ${clauses}` },
    {
      words: 'leave it out',
      text: out.replaceAll(/\s+([,.;])|\s{2,}/gu, (_all, sign: string) => sign ?? ' ').trim(),
    },
  ];
  const choices = options.flatMap((option, i): Choice[] => {
    const other = reread(option.text);
    if (other.problems.length) return [];
    const isSame = sameButTitle(other.series, series);
    if (!isSame || (i === 0 && other.series.title !== series.title)) return [];
    return [{ ...option, series: other.series }];
  });
  return {
    code: 'remnant',
    where,
    asks: 'This was not understood, and stays in the title.',
    choices,
  };
}

/** A day or a month with its capital. */
const inCapitals = (low: string) =>
  WEEKDAYS_BY_WORD.has(low) || MONTHS_BY_WORD.has(low)
    ? low.replace(/^./u, (first) => first.toUpperCase())
    : low;

/** “Water the basil evry day”: whether a word was meant that says when. */
export function slipDoubt(
  { series, tokens, used, context }: Pick<PlainReading, 'series' | 'tokens' | 'used' | 'context'>,
  reread: (text: string) => Pick<PlainReading, 'series' | 'problems'>,
): Doubt | null {
  const slips = tokens.filter(
    ({ typed, from }) => typed && used.some((it) => it.from <= from && from < it.to),
  );
  if (!slips.length) return null;
  const { text } = context;
  const corrected = replaced(text, slips, ({ low }) => inCapitals(low));
  const words = slips.map(({ low }) => inCapitals(low)).join(', ');
  const asName = reread(quoted(text));
  return {
    code: 'slip',
    where: slips.map(({ from, to }) => text.slice(from, to)).join(', '),
    asks: `Was “${words}” meant?`,
    choices: [
      { words, text: corrected, series },
      { words: 'it is part of the name', text: quoted(text), series: asName.series },
    ],
  };
}

/** A text with other words in the place of some of its stretches, which are in order. */
function replaced<S extends Span>(text: string, spans: readonly S[], by: (span: S) => string) {
  return spans.reduceRight((out, it) => out.slice(0, it.from) + by(it) + out.slice(it.to), text);
}

const sameButTitle = ({ title: _a, ...a }: Definition, { title: _b, ...b }: Definition) =>
  JSON.stringify(a) === JSON.stringify(b);

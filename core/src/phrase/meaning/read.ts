import { WEEKDAYS, parseDay, type LocalDate } from '../../calendar/day.ts';
import { openDaysFor } from '../../calendar/workdays.ts';
import { CoreError } from '../../errors.ts';
import { DEFAULT_WORKDAYS } from '../../series/person/settings.ts';
import { checkDefinition } from '../../definition/check.ts';
import { partOf } from '../../definition/parts.ts';
import type { Definition } from '../../definition/definition.ts';
import { assemble } from './assemble.ts';
import { remnantDoubt, slipDoubt } from './remnants.ts';
import { doubtsOf } from './doubts.ts';
import type { Context, Fact } from '../grammar/facts.ts';
import { Facts, begins, factsOf, scan, titleOf, type Matched } from './scan.ts';
import { tokensOf, type Token } from '../grammar/tokens.ts';
import { placesOf } from './placesOf.ts';
import type { PartKind, PlainReading, ReadOptions, Reading, Source } from './reading.ts';
import { ADVERBS } from '../grammar/words.ts';

/** The longest text that is read. */
export const MOST_TEXT = 1000;

/**
 * Reads an English sentence in free order; what is left over is the title. A quoted stretch is
 * never read as anything but title. It never throws: what is wrong comes in `problems`, what looks
 * like a clause but is none in `notUnderstood`, and what may mean something else too in `doubts`.
 *
 * @param today the person's date, `YYYY-MM-DD`: relative dates count from it, and what repeats
 * begins with its first date on or after it.
 * @example read('Weigh the hives every Friday', '2026-11-24').series.repeat
 * // { by: 'calendar', rule: 'FREQ=WEEKLY;BYDAY=FR' }
 */
export function read(text: string, today: LocalDate, options: ReadOptions = {}): Reading {
  const reading = readPlainly(text, today, options);
  const { facts, context } = reading;
  const reread = (other: string) => readPlainly(other, today, options);
  const others = reading.problems.length ? [] : doubtsOf(facts, reading.series, context, reread);
  // A weekday at the end of a title is asked about as such.
  const isAsked = reading.problems.length > 0 || others.some(({ code }) => code === 'titleDay');
  const remnant = isAsked ? null : remnantDoubt(reading, reread);
  const slip = reading.problems.length ? null : slipDoubt(reading, reread);
  const doubts = [...(slip ? [slip] : []), ...(remnant ? [remnant] : []), ...others];
  return {
    series: reading.series,
    notUnderstood: reading.notUnderstood,
    problems: reading.problems,
    doubts,
    sources: reading.sources,
    spare: reading.spare,
  };
}

const NO_HOLIDAYS: readonly LocalDate[] = [];

/** What a text says, with what of it is in doubt left aside. */
export function readPlainly(text: string, today: LocalDate, options: ReadOptions): PlainReading {
  const whole = text.slice(0, MOST_TEXT);
  const context: Context = {
    today: parseDay(today, 'today'),
    dateOrder: options.dateOrder ?? 'dmy',
    weekStart: WEEKDAYS.indexOf(options.weekStart ?? 'MO'),
    places: placesOf(options).map(({ id, name }) => ({
      id,
      name,
      words: tokensOf(name).map(({ low }) => low),
    })),
    text: whole,
    open: openDaysFor(options.workdays ?? DEFAULT_WORKDAYS, options.holidayDates ?? NO_HOLIDAYS),
    begins: (tokens, at) => begins(tokens, at, context),
    isBehind: () => false,
    factsOf: (words) => factsOf(words, context),
  };
  const { tokens, matched, doubtful } = scan(whole, context);
  const said = withoutWeak(withoutNames(matched, tokens));
  const { facts, used, left, assembled } = understood(said, context);
  const { series: untitled, problems, isDateOfRule } = assembled;
  const title = titleOf(whole, tokens, used);
  const kindOf = (it: Fact): PartKind | null => {
    if (it.fact === 'part of it') return partOf(it.part)!.kind;
    const { fact } = it;
    if (fact === 'date' && isDateOfRule) return 'repeat';
    // “on Friday” is the day of a one-off.
    return KINDS[fact] === 'repeat' && !untitled.repeat && fact !== 'once' ? 'start' : KINDS[fact];
  };
  const sourceOf = ({ facts: said, from, to, text: words }: Matched): Source[] => {
    const part = said.map(kindOf).find((it) => it !== null);
    return part ? [{ part, from, to, text: words }] : [];
  };
  if (text.length > MOST_TEXT)
    problems.push({
      code: 'text.long',
      where: 'text',
      message: 'A sentence has 1,000 characters at most.',
    });
  let series: Definition = { title, ...untitled };
  if (!problems.length && title) {
    try {
      series = checkDefinition(series);
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      problems.push({ code: error.code, where: error.where, message: error.message });
    }
  }
  const notUnderstood = [...left.map((it) => it.text), ...doubtful];
  return {
    series,
    notUnderstood,
    problems,
    sources: used.flatMap(sourceOf),
    spare: left.flatMap(sourceOf),
    facts,
    context,
    tokens,
    used,
  };
}

/**
 * “Weekly review every Friday”: an adverb before a word of the title is part of its name, where
 * another clause says how it comes back.
 */
function withoutNames(matched: readonly Matched[], tokens: readonly Token[]): readonly Matched[] {
  const isName = ({ text, from, to }: Matched) => {
    if (!ADVERBS.has(text.toLowerCase())) return false;
    const next = tokens.find((token) => token.from >= to);
    const isWord = next?.kind === 'word' && !matched.some((it) => it.from === next.from);
    return isWord && matched.some((it) => it.from !== from && it.facts.some(saysRepeat));
  };
  return matched.filter((it) => !isName(it));
}

/** “A letter from May” is a title; “feed the hens daily from May” is not. */
function withoutWeak(matched: readonly Matched[]): readonly Matched[] {
  const isWeak = ({ facts }: Matched) => facts.some((it) => it.fact === 'start' && it.isWeak);
  const isRepeat = (it: Fact) => saysRepeat(it) || it.fact === 'quota';
  return matched.some(({ facts }) => facts.some(isRepeat))
    ? matched
    : matched.filter((it) => !isWeak(it));
}

const WHOLE_REPEATS: ReadonlySet<Fact['fact']> = new Set([
  'every',
  'after',
  'workday',
  'everyWorkdays',
  'rule',
]);
const saysRepeat = (fact: Fact) =>
  WHOLE_REPEATS.has(fact.fact) || ('repeats' in fact && fact.repeats);

/** The clauses that make a definition together; those that do not go with the others stay in the title. */
function understood(matched: readonly Matched[], context: Context) {
  const left: Matched[] = [];
  let used = matched;
  for (;;) {
    const facts = new Facts(used);
    const assembled = assemble(facts, context);
    if (!facts.left.size) return { facts, used, left, assembled };
    left.push(...facts.left);
    used = used.filter((it) => !facts.left.has(it));
  }
}

/** Which part of the definition each fact is read into. */
const KINDS: Record<Exclude<Fact['fact'], 'part of it'>, PartKind | null> = {
  every: 'repeat',
  weekdays: 'repeat',
  notOn: 'repeat',
  monthDays: 'repeat',
  positions: 'repeat',
  ofSet: 'repeat',
  months: 'repeat',
  quota: 'repeat',
  workday: 'repeat',
  everyWorkdays: 'repeat',
  dates: 'repeat',
  except: 'repeat',
  extra: 'repeat',
  exceptAt: 'repeat',
  extraAt: 'repeat',
  onto: 'repeat',
  ontoRule: 'repeat',
  after: 'repeat',
  fixed: 'repeat',
  rule: 'repeat',
  once: 'repeat',
  closed: 'closed',
  date: 'start',
  start: 'start',
  counted: 'start',
  lastDone: 'start',
  undated: 'start',
  range: 'ends',
  until: 'ends',
  times: 'ends',
  within: 'ends',
  at: 'at',
  part: 'at',
  opens: 'opens',
  waits: 'late',
  lapses: 'late',
  owes: 'late',
  remind: 'remind',
  pause: 'pauses',
  vague: null,
  filler: null,
};

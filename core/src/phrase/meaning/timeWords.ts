import { words } from '../grammar/numbers.ts';
import type { Token } from '../grammar/tokens.ts';
import {
  ADVERBS,
  MONTHS_BY_WORD,
  NUMBERS_BY_WORD,
  ORDINALS_BY_WORD,
  SEASONS,
  UNITS_BY_WORD,
  WEEKDAYS_BY_WORD,
} from '../grammar/words.ts';

/** Which words that are left over could say when, and which are torn pieces of a clause. */

export const setOf = (text: string) => new Set(text.split(' '));

/** Words that say when wherever they stand. */
const ALWAYS = setOf(
  'every each today tomorrow tonight noon midday midnight weekend weekends weekday weekdays workday workdays fortnight fortnightly until till except unless christmas easter nightly biweekly bi-weekly bimonthly semi-annually',
);
/** Words that say when where they begin what is left behind a clause. */
export const BEHIND = setOf(
  'but or if before after about around roughly not skip skipping without only apart other than most some at least twice once thrice morning mornings evening evenings night nights afternoon afternoons when since early late first second third last next unless whenever whether maybe possibly preferably instead otherwise time during while within ish am pm hours hour minutes past to quarter half through thru starting ending beginning from by of other working',
);
/** Words that are left when a clause was torn. */
export const TORN = setOf(
  'of every each from until till and or but a an before after by th st nd rd most least early late about around roughly only not either eod cob b4 ish on at in by to through every each past quarter half the for also next other',
);
/** Months that are words of their own as well. */
const AMBIGUOUS_MONTHS = setOf('may march mar dec jan');
const BESIDE_MONTHS = setOf('in from until till to of by and since through');
const NUMBER_UNITS = setOf('am pm hrs hr x times time');
const BESIDE_SEASONS = setOf('every each in this next all');
const TIME = /^(\d{1,2}([:.]\d\d)?(am|pm|h)|\d{3,4}(am|pm))$/u;

/** What is asked of the program, where it was not understood. */
const ASKED = [
  'remind|notify|ping|nag|alert|tell me',
  'let me know',
  'show|start it',
  "once|when|after it|it's|has been?",
];
/** Words that tie a to-do to something else that happens. */
export const TIED = setOf('before after during while when whenever once unless if');
const NO_TIE = setOf('look looks looking looked named ask asking run running see');
const DAYS_OF = setOf('day morning evening night afternoon weekend');
const OF_UNIT = setOf('a an half per / last next this first second third fourth');
const PARTS = setOf('mornings evenings afternoons nights lunchtimes');

const ARTICLES = setOf('the my your his her our their this that all whole');
const BEFORE_NUMBER = setOf('at by until till from for in every each on most least');
export const LINKS = setOf('and then or');
export const JOINTS = setOf('and then');
export const ENDS = setOf('of the on in at before after and or not to a an half from by around');

const TIES = setOf('for most in about of');

/** “for 6 apart weeks”, “in weeks”: a length of time, torn; “Plan the week” and “Day care” are names. */
function isTornUnit(all: readonly Token[], i: number, isBehind: boolean): boolean {
  const { low } = all[i]!;
  const before = all[i - 1];
  const behind = all[i + 1]?.low;
  if (!UNITS_BY_WORD.has(low)) return false;
  const isCounting = all[i + 1]?.kind === 'number';
  const isLoose = behind === undefined || isCounting || low.endsWith('s') || ENDS.has(behind);
  if (i === 0) return isBehind && isLoose;
  if (isCounting) return true;
  // “on the day of the month”
  const isOfUnit = behind === 'of' && UNITS_BY_WORD.has(all[i + 3]?.low ?? '');
  const isApart = before!.to + 1 < all[i]!.from;
  if (ARTICLES.has(before!.low) && !isOfUnit && !isApart) return false;
  // “Bin day” is a name.
  if (low.endsWith('s') || TIES.has(before!.low)) return true;
  if (behind === undefined) return low !== 'day';
  return ENDS.has(behind) || /^(for|working|then)$/u.test(behind) || UNITS_BY_WORD.has(behind);
}

/** Words of clauses that no title has but in its beginning: “twice a on week”, “takes 20 at minutes”. */
const TORN_WORDS = setOf(
  'twice thrice remind reminder missed apart least holidays past starting done pm am afterwards nearest christmas easter',
);
/** Words of clauses that a name may have, but not before its own first word: “daily Sort the post”. */
const TORN_FIRST = setOf(
  'twice daily weekly monthly yearly not but around before after last first half except until only or from at most least every starting takes missed show closed weekday weekdays hour hours day days week weeks month months year minutes morning evening noon',
);

/** The words before the one that a name begins with, as its capital tells, where they say when. */
export function tornLead(left: readonly Token[], name: Token | undefined): Token[] | null {
  const [first, second] = left;
  const isLoose =
    (second?.low === 'the' && isTimeWord(first!.low)) ||
    (second?.low === 'a' && first!.low === 'twice') ||
    (second?.low === 'then' && TIED.has(first!.low)) ||
    (/^(on|and|then)$/u.test(second?.low ?? '') && isDayWord(first!.low)) ||
    (second !== undefined && second === name && WEEKDAYS_BY_WORD.has(first!.low));
  if (isLoose) return [first!];
  const lead = left.filter(({ from }) => name !== undefined && from < name.from);
  // “write to Elsie”: only its first word tells, or a day among them.
  const says = ({ low }: Token, i: number) =>
    isDayWord(low) ||
    (i === 0 && (TORN_FIRST.has(low) || BEHIND.has(low))) ||
    // “a week Feed Nala”, “for an half Feed …”
    (i > 0 && (UNITS_BY_WORD.has(low) || low === 'half'));
  return lead.length && lead.length < 9 && lead.some(says) ? lead : null;
}

export const isDayWord = (low: string) =>
  WEEKDAYS_BY_WORD.has(low) || MONTHS_BY_WORD.has(low) || SEASONS.has(low);

const ABOUT = setOf('a an about around roughly some half');
const AFTER_NOT = setOf('in on at then and from until by since to of');

function isTornWord(all: readonly Token[], i: number, isBehind: boolean): boolean {
  const { low } = all[i]!;
  const behind = all[i + 1]?.low ?? '';
  if ((i > 0 || isBehind) && TORN_WORDS.has(low)) return true;
  if (/^(around|about|roughly)$/u.test(low) && all[i + 1]?.kind === 'number') return true;
  if (low === 'but' && behind === 'not' && i > 0) return true;
  const isLength = all[i + 1]?.kind === 'number' || UNITS_BY_WORD.has(behind) || ABOUT.has(behind);
  if (
    low === 'takes' &&
    (i > 0 || isBehind || all[i + 1]?.kind === 'number') &&
    (isLength || !behind)
  )
    return true;
  if (low === 'working' && (behind === 'of' || all[i - 1]?.low === 'next')) return true;
  if (low === 'half' && /^(the|an)$/u.test(behind) && UNITS_BY_WORD.has(all[i + 2]?.low ?? ''))
    return true;
  const isOdd = all[i + 1]?.kind === 'number' || /^(on|in)$/u.test(all[i - 1]?.low ?? '');
  if (low === 'times' && isOdd) return true;
  if (ORDINALS_BY_WORD.has(low) && i > 0 && all[i + 1]?.kind === 'number') return true;
  if (low === 'times' && (isBehind || LINKS.has(all[i - 1]?.low ?? ''))) return true;
  if (
    low === 'half' &&
    (behind === 'past' || NUMBERS_BY_WORD.has(behind) || all[i - 1]?.low === 'for')
  )
    return true;
  if (i > 0 && low === 'working' && (behind === 'day' || behind === 'days' || !behind)) return true;
  if (
    i > 0 &&
    low === 'last' &&
    (UNITS_BY_WORD.has(behind) || /^(working|the|on|of|next)$/u.test(behind))
  )
    return true;
  return i > 0 && /^(not|only|except|but)$/u.test(low) && (!behind || AFTER_NOT.has(behind));
}

/** Whether a token says when, for who looks at it and its neighbours. */
export function saysWhen(
  all: readonly Token[],
  i: number,
  isBehind: boolean,
  behindSign: ReadonlySet<Token>,
): boolean {
  const { kind, low, ordinal } = all[i]!;
  const [before, behind] = [all[i - 1]?.low ?? '', all[i + 1]?.low ?? ''];
  if (kind === 'quote' || kind === 'sign') return false;
  if (kind === 'date' || kind === 'time' || TIME.test(low)) return true;
  if (ASKED.some((pattern) => words(all, i, pattern) !== null)) return true;
  if (low === 'half' && all[i + 1]?.kind === 'number') return true;
  // “after the first frost”, “before breakfast”, “during opening hours”; “Look after Joan” is a name.
  if (TIED.has(low) && i > 0 && i < all.length - 1 && !NO_TIE.has(before)) return true;
  if (/^(on|in)$/u.test(low) && /^an?$/u.test(behind) && DAYS_OF.has(all[i + 3]?.low ?? ''))
    return true;
  if (kind === 'number' && behind === 'to' && i === all.length - 2) return true;
  // “Weekly review every Friday”: at the beginning it is part of the name.
  if (ALWAYS.has(low) || (ADVERBS.has(low) && (i > 0 || isBehind))) return true;
  if (WEEKDAYS_BY_WORD.has(low))
    return (
      !['sun', 'sat', 'wed'].includes(low) ||
      i === all.length - 1 ||
      JOINTS.has(behind) ||
      all[i + 1]?.kind === 'number'
    );
  const isNumber = kind === 'number' || NUMBERS_BY_WORD.has(low);
  if (
    isNumber &&
    (UNITS_BY_WORD.has(behind) || NUMBER_UNITS.has(behind) || MONTHS_BY_WORD.has(behind))
  )
    return true;
  if (isNumber && PARTS.has(behind)) return true;
  const isEnd = !behind || JOINTS.has(behind);
  if (UNITS_BY_WORD.has(low) && i > (isBehind || isEnd ? 0 : 1) && OF_UNIT.has(before)) return true;
  if (isTornUnit(all, i, isBehind)) return true;
  if (isTornWord(all, i, isBehind)) return true;
  if (i > 0 && low === 'working' && all[i + 1] && behindSign.has(all[i + 1]!)) return true;
  if (isNumber && (ordinal || MONTHS_BY_WORD.has(before))) return true;
  if (kind === 'number' && (BEFORE_NUMBER.has(before) || behind === 'at')) return true;
  if (kind === 'number' && LINKS.has(before) && all[i - 2]?.kind !== 'number') return true;
  if (isNumber && PARTS.has(`${behind}s`)) return true;
  // “Parents evening” is a name.
  const isPartAtEnd =
    isBehind &&
    i > 0 &&
    all.slice(i + 1).every((it) => JOINTS.has(it.low)) &&
    !ARTICLES.has(before);
  if (PARTS.has(`${low}s`) && (isPartAtEnd || /^(in|on|every|each)$/u.test(before))) return true;
  if (ORDINALS_BY_WORD.has(low) && i > 0 && i === all.length - 1) return true;
  // “8 20”, but not “1/2”
  const isNext = all[i + 1]?.kind === 'number' && !behindSign.has(all[i + 1]!);
  if (kind === 'number' && i > 0 && isNext) return true;
  if (kind === 'number' && behind === 'to' && all[i + 2]?.kind === 'number') return true;
  if (kind === 'number' && before === 'to' && all[i - 2]?.low === 'from') return true;
  if (kind === 'number' && i === 0 && isBehind) return true;
  if (ORDINALS_BY_WORD.has(low) && (UNITS_BY_WORD.has(behind) || WEEKDAYS_BY_WORD.has(behind)))
    return true;
  if (SEASONS.has(low)) return i > 0 || isBehind || BESIDE_SEASONS.has(before);
  if (PARTS.has(low) || low.endsWith('-ish') || (low === 'time' && before === 'some')) return i > 0;
  if (!MONTHS_BY_WORD.has(low)) return false;
  if (!AMBIGUOUS_MONTHS.has(low)) return low.length > 3 || BESIDE_MONTHS.has(before);
  return (
    BESIDE_MONTHS.has(before) || all[i - 1]?.kind === 'number' || all[i + 1]?.kind === 'number'
  );
}

/**
 * Where nothing was understood: “Plan the weekend”, “A place in the sun”, “Letter from May”, “The last
 * day”, “24 h pump”, “Version 2.10”.
 */
export function isOfName(all: readonly Token[], i: number): boolean {
  const { kind, low } = all[i]!;
  const before = all[i - 1]?.low;
  const behind = all[i + 1]?.low;
  if ((low === 'last' && behind === 'working') || low === 'twice') return false;
  if (UNITS_BY_WORD.has(low) && all[i + 1]?.kind === 'number') return false;
  const isApart = i > 0 && all[i - 1]!.to + 1 < all[i]!.from;
  if ((before === 'the' && behind !== 'of' && !isApart) || low === 'the' || i === 0) return true;
  if (before === 'last' || low === 'last') return all[0]!.low === 'the';
  if (kind === 'time') return low.includes('.') && !['at', 'by', '@'].includes(before ?? '');
  return (
    AMBIGUOUS_MONTHS.has(low) &&
    !all.some((token) => MONTHS_BY_WORD.has(token.low) && token.low !== low)
  );
}

export const isTimeWord = (low: string) =>
  isDayWord(low) ||
  UNITS_BY_WORD.has(low) ||
  ORDINALS_BY_WORD.has(low) ||
  PARTS.has(`${low}s`) ||
  /^(weekdays?|other|most|last|times)$/u.test(low);

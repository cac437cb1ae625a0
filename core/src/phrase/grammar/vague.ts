import { formatTime } from '../../calendar/time.ts';
import type { Clause, Fact } from './facts.ts';
import { beginning } from './lines.ts';
import type { Token } from './tokens.ts';
import {
  MONTHS_BY_WORD,
  MONTH_NAMES,
  NUMBERS_BY_WORD,
  PARTS_OF_DAY,
  SEASONS,
  WEEKDAYS_BY_WORD,
  WEEKDAY_NAMES,
} from './words.ts';

/**
 * What people say without saying exactly when: “most Sundays”, “every 3 to 4 days”, “in spring”. It is
 * read as the first of several exact ways to say it, and asked about.
 */
interface Vague {
  /** The words that it can begin with. */
  starts: string;
  /** What it looks like, at its beginning; case is of no matter. */
  looks: RegExp;
  asks: string;
  /** The exact ways, the first is taken; null where it is none after all. */
  means: (said: RegExpExecArray) => readonly string[] | null;
}

const alternatives = (words: Iterable<string>) =>
  [...words].sort((a, b) => b.length - a.length).join('|');
const MONTH = alternatives(MONTHS_BY_WORD.keys());
const DAY = alternatives(WEEKDAYS_BY_WORD.keys());
const PART = 'mornings?|afternoons?|evenings?|nights?';
const NUMBER = 'one|two|three|four|five|six|seven|eight|nine|ten|\\d{1,3}';
const at = (pattern: string) => new RegExp(`^(?:${pattern})(?![\\p{L}\\p{N}])`, 'iu');

const monthName = (word: string) => MONTH_NAMES[MONTHS_BY_WORD.get(word.toLowerCase())! - 1]!;
const dayName = (word: string) => WEEKDAY_NAMES[WEEKDAYS_BY_WORD.get(word.toLowerCase())!]!;
const partName = (word: string) => word.toLowerCase().replace(/s$/u, '');

const seasonMonths = (word: string) =>
  SEASONS.get(word.toLowerCase())!.map((n) => MONTH_NAMES[n - 1]!);
/** The hour for which a part of the day is taken. */
const hourOf = (part: string) => formatTime(PARTS_OF_DAY.get(part.toLowerCase())!);

/** “most Sundays” is taken for each of them; else so often, or so many times a week. */
function mostOf(word: string, times: number): string[] {
  const low = word.toLowerCase();
  if (WEEKDAYS_BY_WORD.has(low)) return [`every ${dayName(low)}`, `every other ${dayName(low)}`];
  return [`every ${low === 'days' ? 'day' : partName(low)}`, `${times} times a week`];
}

const HOW_EXACT = 'That is not exact. What is meant?';

const VAGUE: readonly Vague[] = [
  {
    starts: 'most some many',
    looks: at(`(most|some|many) (${DAY}|${PART}|days|weekdays|weekends)`),
    asks: HOW_EXACT,
    means: ([, , word]) => {
      const low = word!.toLowerCase();
      if (low === 'weekends') return ['every Saturday and Sunday', 'every Saturday'];
      return mostOf(low, low === 'weekdays' ? 3 : 4);
    },
  },
  {
    starts: 'on',
    looks: at(`on (most|some) (${DAY}|${PART}|days|weekdays)`),
    asks: HOW_EXACT,
    means: ([, , word]) => mostOf(word!, 4),
  },
  {
    starts: 'every each',
    looks: at(
      `(?:every|each) (${NUMBER}) ?(?:to|or|-|–) ?(${NUMBER}) (days?|weeks?|months?|years?|hours?)`,
    ),
    asks: HOW_EXACT,
    means: ([, from, to, unit]) => [`every ${from} ${unit}`, `every ${to} ${unit}`],
  },
  {
    starts: 'every each',
    looks: at(`((?:every|each) (?:(?:${NUMBER}|other) )?(?:days?|weeks?|months?|years?)) or so`),
    asks: HOW_EXACT,
    means: ([, exact]) => [exact!, `${exact!.replace(/^(every|each) /iu, '')} after done`],
  },
  {
    starts: 'every each',
    looks: at('(?:every|each) (?:few|couple of) (days|weeks|months)'),
    asks: HOW_EXACT,
    means: ([, unit]) => [`every 3 ${unit}`, `every 2 ${unit}`, `every 4 ${unit}`],
  },
  {
    starts: 'every now from once',
    looks: at(
      'every so often|every now and (?:then|again)|now and (?:then|again)|from time to time|once in a while',
    ),
    asks: HOW_EXACT,
    means: () => ['every month', 'every 2 weeks', 'every 3 months'],
  },
  {
    starts: 'every each',
    looks: at(
      `(?:every|each) (morning|evening|night|afternoon) and (?:every )?(morning|evening|night|afternoon)`,
    ),
    asks: 'At which hours?',
    means: ([, a, b]) => [`every day at ${hourOf(a!)} and ${hourOf(b!)}`, 'twice a day'],
  },
  {
    starts: 'morning',
    looks: at('morning (?:and|&) (night|evening)'),
    asks: 'At which hours, and each day?',
    means: ([, b]) => [`every day at 08:00 and ${hourOf(b!)}`, 'twice a day'],
  },
  {
    starts: 'biweekly bi-weekly bimonthly bi-monthly semi-annually',
    looks: at('(bi-?weekly|bi-?monthly|semi-annually)'),
    asks: 'Every second one, or twice in each?',
    means: ([, word]) => {
      const low = word!.toLowerCase();
      if (low.endsWith('weekly')) return ['every 2 weeks', 'twice a week'];
      return low.endsWith('monthly')
        ? ['every 2 months', 'twice a month']
        : ['every 6 months', 'every 2 years'];
    },
  },
  {
    starts: NUMBER.replace('\\d{1,3}', '#').split('|').join(' '),
    looks: at(
      `(${NUMBER}) (?:mornings|evenings|nights|afternoons|days) (?:a|per|each|every) (week|month)`,
    ),
    asks: 'Which of them does not matter?',
    means: ([, n, per]) => [
      `${n} times a ${per}`,
      ...(per!.toLowerCase() === 'week' ? ['every day'] : []),
    ],
  },
  {
    starts: 'early late at in by towards',
    looks: at('(?:in the |at the )?(early|late) (?:in )?(?:each|every|in the|of the) month'),
    asks: HOW_EXACT,
    means: ([, when]) =>
      when!.toLowerCase() === 'early'
        ? ['on the 3rd of each month', 'on the 1st of each month', 'on the 5th of each month']
        : ['on the 25th of each month', 'on the last day of each month'],
  },
  {
    starts: 'by until till from on in at around about mid mid-month middle the',
    looks: at(
      `(by |until |till |from |on |in |at |around |about )?(?:the )?(?:middle of|mid[- ]?) ?(${MONTH})`,
    ),
    asks: HOW_EXACT,
    means: ([, lead, month]) =>
      ['15', '10', '20'].map((day) => `${exactLead(lead)} ${day} ${monthName(month!)}`),
  },
  {
    starts: 'in by early late until till from',
    looks: at(`(in |by |until |till |from )?(early|late) (${MONTH})`),
    asks: HOW_EXACT,
    means: ([, lead, when, month]) =>
      (when!.toLowerCase() === 'early' ? ['1', '5'] : ['25', '20']).map(
        (day) => `${exactLead(lead)} ${day} ${monthName(month!)}`,
      ),
  },
  {
    starts: 'sometime some at any around about',
    looks: at(`(?:sometime|some time|at some point|any time|around|about) (?:in )?(${MONTH})`),
    asks: HOW_EXACT,
    means: ([, month]) => [`by the end of ${monthName(month!)}`, `on 1 ${monthName(month!)}`],
  },
  {
    starts: 'in by',
    looks: at(`(?:in|by) the (first|second|third|last) week of (${MONTH})`),
    asks: HOW_EXACT,
    means: ([, nth, month]) => {
      const name = monthName(month!);
      if (nth!.toLowerCase() === 'last') return [`by the end of ${name}`, `on 25 ${name}`];
      const day = { first: 7, second: 14, third: 21 }[nth!.toLowerCase() as 'first'];
      return [`by ${day} ${name}`, `on ${day - 6} ${name}`];
    },
  },
  {
    starts: 'in about around',
    looks: at(`(?:in )?(?:about|around|roughly) (an?|${NUMBER}) (days?|weeks?|months?)(?: time)?`),
    asks: HOW_EXACT,
    means: (said) =>
      said[0].toLowerCase().startsWith('in')
        ? [`in ${said[1]} ${said[2]}`, 'with no date yet']
        : null,
  },
  {
    starts: 'asap as',
    looks: at('asap|as soon as possible'),
    asks: 'By when?',
    means: () => ['today', 'tomorrow', 'with no date yet'],
  },
  {
    starts: 'first',
    looks: at('first thing'),
    asks: 'At which hour?',
    means: () => ['at 08:00', 'at 07:00', 'at 09:00'],
  },
  {
    starts: 'half at',
    looks: at(
      '(?:at )?half (1[0-2]|[1-9]|one|two|three|four|five|six|seven|eight|nine|ten|eleven|twelve)',
    ),
    asks: 'Half past it, or half before?',
    means: ([, hour]) => [`at half past ${hour}`, `at ${hourBefore(hour!)}:30`],
  },
  {
    starts: 'every each in',
    looks: at(
      '(?:every|each|in) (spring|summer|autumn|winter)(?: and (?:in )?(spring|summer|autumn|winter))?',
    ),
    asks: 'When in it?',
    means: ([said, one, two]) => {
      const months = seasonMonths(one!);
      if (two) {
        const others = seasonMonths(two);
        return [0, 1].map((i) => `on the 1st of ${months[i]!} and ${others[i]!}`);
      }
      return said.toLowerCase().startsWith('in')
        ? [
            `on 1 ${months[0]!}`,
            `on 1 ${months[1]!}`,
            `in ${months[0]!}, ${months[1]!} and ${months[2]!}`,
          ]
        : [`every year on 1 ${months[0]!}`, `every year on 1 ${months[1]!}`];
    },
  },
  {
    starts: 'in during',
    looks: at('(?:in|during) (?:the )?(spring|summer|autumn|winter)'),
    asks: 'In which months?',
    means: ([, one]) => {
      const [a, b, c] = seasonMonths(one!);
      return [`in ${a}, ${b} and ${c}`, `in ${a} and ${b}`];
    },
  },
  {
    starts: 'but and if',
    looks: at(
      '(?:(?:but|and) )?(?:if (?:it|that) (?:falls|lands|is) (?:on|at) (?:a|the) weekend,? (?:then )?(?:on )?the (monday after|next monday|following monday|friday before|previous friday))',
    ),
    asks: 'On a weekend alone, or on holidays as well?',
    means: ([, day]) => {
      const where = /after|next|following/iu.test(day!) ? 'after' : 'before';
      return [`if closed, the working day ${where}`, 'if closed, that day all the same'];
    },
  },
  {
    starts: 'skip skipping',
    looks: at('skip(?:ping)?,? (?:the )?weekends'),
    asks: 'Left out, or moved to the day after?',
    means: () => ['if closed, not at all', 'if closed, the working day after'],
  },
  {
    starts: 'nag remind',
    looks: at(
      `(?:nag|remind) me every (a? ?quarter of an hour|half an hour|hour|(?:${NUMBER}) (?:minutes?|mins?|hours?)) until (?:it's|it is|its|i have|i've)? ?(?:done|it)`,
    ),
    asks: 'How often at most?',
    means: ([, span]) => {
      const every = /quarter/iu.test(span!)
        ? '15 minutes'
        : /half/iu.test(span!)
          ? '30 minutes'
          : span!;
      return [4, 12].map(
        (n) => `remind me at the due moment and again every ${every} up to ${n} times`,
      );
    },
  },
];

function exactLead(lead: string | undefined): string {
  const low = lead?.trim().toLowerCase() ?? '';
  return ['by', 'until', 'till', 'from'].includes(low) ? low : 'on';
}

function hourBefore(word: string): number {
  const hour = NUMBERS_BY_WORD.get(word.toLowerCase()) ?? Number(word);
  return hour === 1 ? 12 : hour - 1;
}

/** One of the vague ways as a clause: the facts of what it is taken for, and what to ask. */
const clauseOf = ({ starts, looks, asks, means }: Vague): Clause =>
  beginning(starts, (tokens, first, context) => {
    const said = looks.exec(context.text.slice(tokens[first]!.from));
    const choices = said && means(said);
    const next = said && endOf(tokens, first, said[0].length);
    if (!choices || next === null) return null;
    const facts = context.factsOf(choices[0]!);
    return facts && { facts: [...facts, { fact: 'vague', asks, choices } as Fact], next: next! };
  });

/** The token behind a stretch of so many characters; null where it ends within one. */
function endOf(tokens: readonly Token[], first: number, length: number): number | null {
  const end = tokens[first]!.from + length;
  let i = first;
  while (tokens[i] && tokens[i]!.to <= end) i++;
  return !tokens[i] || tokens[i]!.from >= end ? i : null;
}

export const VAGUE_CLAUSES: readonly Clause[] = VAGUE.map(clauseOf);

/** “Sat or Sun”, “wed/thu”: each of them, or one. */
export function eitherOf(text: string, names: readonly string[]): string[] | null {
  const isOr = /\bor\b/iu.test(text);
  const isStroke = names.length === 2 && /^(?:on )?\p{Ll}+\/\p{Ll}+$/u.test(text);
  if (!isOr && !isStroke) return null;
  const both = `${names.slice(0, -1).join(', ')} and ${names.at(-1)!}`;
  return [
    `every ${both}`,
    ...names.map((name) => `on ${name}`),
    ...names.map((name) => `every ${name}`),
  ];
}

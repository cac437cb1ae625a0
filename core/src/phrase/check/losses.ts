import type { chance } from '../../chance.ts';
import { tokensOf, type Token } from '../grammar/tokens.ts';

/**
 * Sentences put together of a title and clauses, joined, torn and shuffled at random: whatever comes out,
 * a definition may not say less than its sentence unless that is asked about.
 */

type Chance = ReturnType<typeof chance>;

const TITLES = [
  'Water the basil',
  'Weigh the hives',
  'Ring the harbour master',
  'Sharpen the shears',
  'Sort the post',
  'Grease the winch',
  'Practise the cello',
  'Descale the kettle',
  'Bins out',
  'Feed Nala',
];

const REPEATS = [
  'every day',
  'every Friday',
  'on Mondays',
  'each month',
  'every 3 weeks',
  'every other Tuesday',
  'on the 5th of each month',
  'on the last Friday of the month',
  'daily',
  'weekly',
  'twice a week',
  '3 weeks after done',
  '10 days after I finish it',
  'every working day',
  'on the last working day of the month',
  'every weekday',
  'every year on 12 June',
  'mon wed fri',
  'tomorrow',
  'on Saturday',
  'on 14 August',
  'in 3 weeks',
  'every morning',
  'every second Sunday',
];

const OTHERS = [
  'at 9',
  'at 18:30',
  'in the morning',
  'at 8 and 20',
  'at noon',
  '7am',
  'at half past nine',
  'until 28 September',
  'for 6 weeks',
  '10 times',
  'until Christmas',
  'from 3 July',
  'starting next Monday',
  'from September',
  'except in August',
  'but not on Sundays',
  'except on 14 July',
  'not on bank holidays',
  'apart from Wednesday',
  'remind me a day before',
  'remind me 2 hours before',
  'let me know the evening before',
  'takes 20 minutes',
  'for half an hour',
  'or the next working day if closed',
  'show it 3 days before',
  'last done 10 May',
  'and also on 3 July',
  'most Sundays',
  'unless it rains',
  'if dry',
  'before lunch',
  'asap',
  'or Saturday',
  'but only in summer',
  'around noon',
  'after the rain',
  'from 3 to 5 pm',
  'in spring',
  'at least twice a month',
  'every 2 to 3 days',
  'not in July',
  'by Friday',
  'missed if not done',
];

const JOINTS = [' ', ' ', ' ', ', ', ' and ', ' then ', ' – '];

/** A sentence, and the words of its title. */
export interface Torn {
  text: string;
  title: readonly string[];
}

export function tornSentence(of: Chance): Torn {
  const one = <T>(items: readonly T[]): T => items[of(items.length)]!;
  const title = one(TITLES);
  const parts = [one(REPEATS), ...Array.from({ length: of(4) }, () => one(OTHERS))];
  if (of(6) === 0) parts.push(one(REPEATS));
  for (let i = parts.length - 1; i > 0; i--) {
    const k = of(i + 1);
    [parts[i], parts[k]] = [parts[k]!, parts[i]!];
  }
  // Most people say first what it is.
  parts.splice(of(3) === 0 ? of(parts.length + 1) : 0, 0, title);
  let text = parts.reduce((all, part) => all + one(JOINTS) + part);
  const words = () => text.split(' ');
  const kind = of(4);
  for (let n = kind === 0 ? 0 : 1 + of(2); n > 0; n--) {
    const all = words();
    const at = of(all.length);
    if (kind === 1) all.splice(at, 1);
    else if (kind === 2 && all.length > 1) {
      const other = of(all.length);
      [all[at], all[other]] = [all[other]!, all[at]!];
    } else if (kind === 3)
      all.splice(at, 0, one(one([REPEATS, OTHERS]) as string[]).split(' ')[0]!);
    text = all.join(' ');
  }
  return { text, title: title.toLowerCase().split(' ') };
}

/** Words of clauses that say nothing about when by themselves. */
const PLAIN = new Set(
  'the a an and me it is i so to of let know rains dry lunch rain show if on in at by for out then possible finish but or from most other closed bank last also apart not christmas'.split(
    ' ',
  ),
);
const SAYING = new Set(
  [...REPEATS, ...OTHERS]
    .flatMap((text) => tokensOf(text).map(({ low }) => low))
    .filter((low) => !PLAIN.has(low)),
);

/** Words that a name may have between its own: “Water the 10 basil”, “Bins not out”. */
const OF_NAMES =
  /^(\d+|not|from|last|after|before|around|second|times|next|half|apart|takes|most|other|or|on|but|also|then|least)$/u;

/** The words of a title that say when and are not the title's own. */
export function leftIn(title: string, own: readonly string[]): string[] {
  const tokens = tokensOf(title);
  const isOwn = (i: number) => own.includes(tokens[i]?.low ?? '');
  return tokens
    .filter(({ low }, i) => {
      if (!SAYING.has(low) || isOwn(i)) return false;
      const isEnd = i === tokens.length - 1 || /^(then|and)$/u.test(tokens[i + 1]!.low);
      const isLast = isEnd && /^(\d+|last|second|times|next)$/u.test(low);
      const isPair =
        /^\d+$/u.test(low) && tokens[i - 1]?.low === 'and' && tokens[i - 2]?.kind === 'number';
      const isOf = (it: Token | undefined) =>
        it !== undefined && it.kind !== 'number' && SAYING.has(it.low);
      // “Bed 10”: a number beside nothing that says when, and “morning cello”.
      if (/^\d+$/u.test(low) && !isOf(tokens[i - 1]) && !isOf(tokens[i + 1])) return false;
      if (/^(morning|evening|working|wed|day|second)$/u.test(low) && isOwn(i + 1)) return false;
      if (i === 0 || /^(takes|around|next|times)$/u.test(low)) return false;
      // “Parents evening”, “bin day”
      if (/^(morning|evening|day)$/u.test(low)) return false;
      // “Sort the day”
      if (isPair || (tokens[i - 1]?.low === 'the' && tokens[i + 1]?.low !== 'of')) return false;
      return !(OF_NAMES.test(low) && isOwn(i - 1) && (isOwn(i + 1) || isLast));
    })
    .map(({ low }) => low);
}

/** Whether a word carries what is said: a number, a day, a month, a “not”. */
const CARRIES =
  /^(\d.*|mon|wed|fri|monday|mondays|tuesday|wednesday|friday|saturday|sunday|sundays|june|july|august|september|may|christmas|not|except|until|twice|other|last|noon|half|morning|evening|second|days|weekday|working|hours|minutes|remind|asap|most|unless|before|spring|summer)$/u;

/** The sentence with each of its carrying words taken out in turn. */
export function withoutEach({ text, title }: Torn): { word: string; text: string }[] {
  const tokens = tokensOf(text);
  return tokens
    .filter(({ low, kind }, i) => {
      if (!CARRIES.test(low) || title.includes(low)) return false;
      // “from 3 July” may give the same first date as “from July”, and “but not on Sundays” agrees
      // with “every Friday”.
      const isDay =
        kind === 'number' &&
        (/^(july|september|august|june)$/u.test(tokens[i - 1]?.low ?? '') ||
          /^(july|september|august|june)$/u.test(tokens[i + 1]?.low ?? ''));
      if (low === 'until' || /(\b14 August\b).*\1/u.test(text)) return false;
      if (text.includes('weekday') && /^(mon|wed|fri|friday|mondays)$/u.test(low)) return false;
      const stem = low.slice(0, 3);
      const again = text.toLowerCase().split(` ${stem}`).length > 2;
      if (again || (kind === 'word' && tokens[i + 1]?.kind === 'number' && /day$/u.test(low)))
        return false;
      if (/day$/u.test(low) && text.includes('apart')) return false;
      if (low === 'last' && /^(done|finish)$/u.test(tokens[i + 1]?.low ?? '')) return false;
      if (/but except|fri before/iu.test(text)) return false;
      if (low === 'mondays' && text.includes('mon ')) return false;
      const agrees = low === 'not' && /sundays/iu.test(text);
      return !isDay && !agrees && !(/^(mon|wed|fri|friday)$/u.test(low) && /mon|wed/u.test(text));
    })
    .map(({ from, to, low }) => ({
      word: low,
      text: `${text.slice(0, from)}${text.slice(to)}`.replaceAll('  ', ' '),
    }));
}

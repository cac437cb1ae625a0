import { parseSpan } from '../calendar/span.ts';
import { codes, date, dayAndMonth, monthList, weekday } from './dates.ts';
import type { Clause, Fact } from './facts.ts';
import { beginning } from './lines.ts';
import { span, words } from './numbers.ts';
import { isTimeNext, partOfDay, time, withPart } from './times.ts';
import type { Token } from './tokens.ts';
import { PLURAL_WEEKDAYS } from './words.ts';

/** What people leave out when they type in a hurry, and what they put in when they speak. */

/** “mon wed fri”: several days in a row repeat without more words. */
const weekdayRun: Clause = (tokens, at) => {
  const days: number[] = [];
  let next = at;
  for (let it = weekday(tokens, next); it; it = weekday(tokens, next)) {
    days.push(it.value);
    next = it.next;
  }
  if (days.length < 2 || new Set(days).size < days.length) return null;
  const fact: Fact = { fact: 'weekdays', days: codes(days), n: 1, repeats: true };
  return withPart([fact], tokens, next);
};

/** “thu 9.30am”, “friday noon”, “24 june 10.20”: a day with its hour, without a word before it. */
const dayWithHour: Clause = (tokens, at, context) => {
  if (PLURAL_WEEKDAYS.has(tokens[at]!.low)) return null;
  const day = weekday(tokens, at) ? date(tokens, at, context) : dayAndMonth(tokens, at);
  if (!day) return null;
  const clock = time(tokens, words(tokens, day.next, 'at|@') ?? day.next);
  if (!clock || clock.value.bare || clock.value.minute < 0) return null;
  // “Sunday 10:00-16:00” has a length as well.
  if (words(tokens, clock.next, 'to|until|till|-|–') !== null) return null;
  // “1 January at 13:00 and 18:00” has more than one hour.
  if (isTimeNext(tokens, clock.next)) return null;
  return {
    facts: [
      { fact: 'date', date: day.value },
      { fact: 'at', minutes: [clock.value.minute] },
    ],
    next: clock.next,
  };
};

/** Whether a text ends there, or a sign stands. */
const isEnd = (tokens: readonly Token[], at: number) => !tokens[at] || tokens[at].kind === 'sign';

/** “, 30 minutes”, “, about an hour and a half”, “allow 40 min”: how long it takes. */
const bareLength: Clause = (tokens, at, context) => {
  const allow = words(tokens, at, 'allow|allowing');
  const about = words(tokens, allow ?? at, 'about|around|roughly|approx|~');
  const isSaid = allow !== null || (about !== null && context.isBehind(at));
  if (!isSaid && tokens[at - 1]?.low !== ',') return null;
  const from = about ?? allow ?? at;
  const read = span(tokens, from);
  if (!read || !isEnd(tokens, read.next)) return null;
  const { months, days, minutes } = parseSpan(read.value);
  if (months || days || minutes < 1 || minutes > 6000) return null;
  return { facts: [{ fact: 'part of it', part: 'takes', value: minutes }], next: read.next };
};

/** What is said before it is said what is to be done. */
const OPENINGS = [
  'okay|ok|right|well|so',
  'and then',
  'please',
  'could|can you please? put down|note that',
  'put down that',
  'i|we need|have|want|got|ought to',
  "i've got to",
  "i would|'d like to",
  "i'd like to",
  'i|we should|must',
  'please? remind|ping|notify me to',
  "don't let me forget to",
] as const;

/** “okay so …”, “I need to …”, “remind me to …”: no part of the title, at the beginning or behind a clause. */
const opening: Clause = (tokens, at, context) => {
  if (at !== 0 && !context.isBehind(at)) return null;
  let next = at;
  for (;;) {
    const more = OPENINGS.map((pattern) => words(tokens, next, pattern))
      .filter((it) => it !== null)
      .sort((a, b) => b - a)[0];
    if (more === undefined) break;
    next = more;
  }
  // A word alone may be the title: “Right”, “So”.
  const isAlone = next - at === 1 && !/^(okay|ok|please)$/u.test(tokens[at]!.low);
  return next === at || next >= tokens.length || isAlone
    ? null
    : { facts: [{ fact: 'filler' }], next };
};

/** “… please” at the very end. */
const please: Clause = (tokens, at) =>
  at > 0 && tokens[at]!.low === 'please' && isEnd(tokens, at + 1)
    ? { facts: [{ fact: 'filler' }], next: at + 1 }
    : null;

/** “except July”, “but not July and August”. */
const exceptMonths: Clause = (tokens, at) => {
  const from =
    words(tokens, at, 'except|excluding not? in?') ??
    words(tokens, at, 'but not in?') ??
    words(tokens, at, 'apart from in?');
  const read = from === null ? null : monthList(tokens, from);
  if (!read || tokens[read.next]?.kind === 'number') return null;
  const all = Array.from({ length: 12 }, (_, i) => i + 1);
  const chosen = all.filter((n) => !read.value.includes(n));
  return chosen.length ? { facts: [{ fact: 'months', months: chosen }], next: read.next } : null;
};

/** “weds night”: a day with its part, without a word before it, at the end. */
const dayWithPart: Clause = (tokens, at, context) => {
  const named = weekday(tokens, at);
  if (!named || PLURAL_WEEKDAYS.has(tokens[at]!.low)) return null;
  const part = partOfDay(tokens, named.next);
  const day = date(tokens, at, context);
  if (!part || part.value.plural || !day || !isEnd(tokens, part.next)) return null;
  return {
    facts: [
      { fact: 'date', date: day.value },
      { fact: 'part', minute: part.value.minute },
    ],
    next: part.next,
  };
};

export const PLAIN_SPEECH: readonly Clause[] = [
  weekdayRun,
  dayWithHour,
  dayWithPart,
  beginning('about around roughly approx ~ allow allowing an a half one two three #', bareLength),
  beginning(
    "okay ok right well so and please could can put i we i've i'd remind ping notify don't",
    opening,
  ),
  beginning('please', please),
  beginning('except excluding but apart', exceptMonths),
];

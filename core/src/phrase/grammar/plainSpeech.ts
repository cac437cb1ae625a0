import { codes, date, dayAndMonth, monthList, otherMonths, shortDate, weekday } from './dates.ts';
import type { Clause, Context, Fact } from './facts.ts';
import { beginning } from './lines.ts';
import { clockMinutes, span, words } from './numbers.ts';
import { isTimeNext, openHour, partOfDay, time, withPart } from './times.ts';
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
      { fact: 'at', minutes: [clock.value.minute], ...openHour(clock.value) },
    ],
    next: clock.next,
  };
};

/** “18/6”: a day and month where the one number can be no month. */
const bareShortDate: Clause = (tokens, at, context) => {
  const read = at > 0 ? shortDate(tokens, at, context.dateOrder) : null;
  if (
    !read ||
    read.value.or ||
    read.value.kind === 'impossible' ||
    !isFree(tokens, read.next, context)
  )
    return null;
  return { facts: [{ fact: 'date', date: read.value }], next: read.next };
};

const PRONOUNS = new Set('i you he she it we they who the that cat dog'.split(' '));

/** “borrow tent sat”, “call the yard tues”: a short weekday at the end, or before another clause. */
const shortWeekday: Clause = (tokens, at, context) => {
  const { low } = tokens[at]!;
  const isShort = weekday(tokens, at) && low.length < 6 && !PLURAL_WEEKDAYS.has(low);
  if (!isShort || at === 0 || PRONOUNS.has(tokens[at - 1]!.low)) return null;
  if (tokens[at - 1]!.kind === 'sign' && tokens[at - 1]!.low !== ',') return null;
  if (!isFree(tokens, at + 1, context)) return null;
  const day = date(tokens, at, context);
  return day && { facts: [{ fact: 'date', date: day.value }], next: day.next };
};

/** Whether a text ends there, or goes on with another clause. */
const isFree = (tokens: readonly Token[], at: number, context: Context) =>
  isEnd(tokens, at) || context.begins(tokens, at);

/** Whether a text ends there, or a sign stands. */
const isEnd = (tokens: readonly Token[], at: number) => !tokens[at] || tokens[at].kind === 'sign';

/** “, 30 minutes”, “, about an hour and a half”, “allow 40 min”: how long it takes. */
const bareLength: Clause = (tokens, at, context) => {
  const allow = words(tokens, at, 'allow|allowing');
  const about = words(tokens, allow ?? at, 'about|around|roughly|approx|~');
  const isSaid = allow !== null || context.isBehind(at);
  // “walk 30 min every day”
  const free = at > 1 && tokens[at - 1]!.kind === 'word' ? span(tokens, at) : null;
  const isMiddle = free && tokens[free.next] && context.begins(tokens, free.next);
  if (!isSaid && !isMiddle && tokens[at - 1]?.low !== ',') return null;
  const from = about ?? allow ?? at;
  const read = span(tokens, from);
  if (!read || !(isEnd(tokens, read.next) || context.begins(tokens, read.next))) return null;
  const minutes = clockMinutes(read.value);
  if (minutes === null || minutes > 6000) return null;
  return { facts: [{ fact: 'part of it', part: 'takes', value: minutes }], next: read.next };
};

/** What is said before it is said what is to be done. */
const OPENINGS = [
  'um|er|erm|uh|oh|hey|hi|hm|hmm|okay|ok|right|well|so|alright|yes|yeah',
  'now|then|right then',
  'and also|then|so?',
  'also',
  'please',
  'could|can|would|will you please? just?',
  'put|note|write|jot down that?',
  'put in|down that',
  'note that',
  'i|we really|also|still|just? need|have|want|got|ought to also?',
  "i've|we've got to",
  'i|we have got to',
  "i|we would|'d like to",
  "i'd|we'd like to",
  'i|we should|must really|also|always?',
  'i|we should|must remember to',
  'please? remind|ping|notify|tell me to',
  "i|we want|need|have|would|i'd like? to? be reminded to",
  'make sure that? i|we',
  "don't let me forget to",
  "don't forget to",
  'remember to',
] as const;

/** “remind me every Friday to …”: what is said of the day stands between. */
const remindMe: Clause = (tokens, at, context) => {
  if (at !== 0 && !context.isBehind(at)) return null;
  const next =
    words(tokens, at, 'remind|ping|notify|tell me') ??
    words(tokens, at, "i|we|i'd want|need|would|like like? to? be reminded");
  if (next === null || !context.begins(tokens, next)) return null;
  const isToDo = tokens.some(({ low }, i) => i > next + 1 && low === 'to' && isVerbal(tokens, i));
  const isFirst = at === 0 || tokens.slice(0, at).every(({ low }) => FILLERS.has(low));
  return isToDo && isFirst ? { facts: [{ fact: 'filler' }], next } : null;
};

const FILLERS = new Set(
  'um er erm uh oh hey okay ok right well so please could can would will you just then and also'.split(
    ' ',
  ),
);

/** Whether a “to” goes before what is to be done, not before an hour or a day. */
const isVerbal = (tokens: readonly Token[], at: number) => {
  const next = tokens[at + 1];
  return next?.kind === 'word' && time(tokens, at + 1) === null && !weekday(tokens, at + 1);
};

/** The “to” of “remind me every Friday to …”. */
const toDo: Clause = (tokens, at, context) =>
  context.isBehind(at) &&
  isVerbal(tokens, at) &&
  tokens.slice(0, at).some(({ low }, i) => (low === 'me' && i < 12) || /remind/u.test(low))
    ? { facts: [{ fact: 'filler' }], next: at + 1 }
    : null;

const ALONE = new Set(['so', 'well', 'right', 'then', 'and']);

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
  const isSound = /^(okay|ok|please|um|er|erm|uh|oh|hey|hm|hmm|alright)$/u.test(tokens[at]!.low);
  // In a long sentence it is how one begins to speak.
  const isAlone =
    next - at === 1 && !isSound && (at > 0 || tokens.length < 9 || !ALONE.has(tokens[at]!.low));
  return next === at || next >= tokens.length || isAlone
    ? null
    : { facts: [{ fact: 'filler' }], next };
};

/** “vitamins everyday”: behind the title it is how often. */
const everyday: Clause = (tokens, at, context) =>
  (at > 0 && isFree(tokens, at + 1, context)) || (at === 0 && context.begins(tokens, 1))
    ? { facts: [{ fact: 'every', n: 1, unit: 'day' }], next: at + 1 }
    : null;

/** “every morning 8.45”: behind a clause a number with a point is an hour. */
const pointHour: Clause = (tokens, at, context) => {
  if (tokens[at]!.kind !== 'time' || !context.isBehind(at)) return null;
  const read = time(tokens, at);
  if (!read || read.value.minute < 0 || !isFree(tokens, read.next, context)) return null;
  const { minute } = read.value;
  return { facts: [{ fact: 'at', minutes: [minute], ...openHour(read.value) }], next: read.next };
};

/** “… please” at the very end. */
const please: Clause = (tokens, at) =>
  at > 0 && tokens[at]!.low === 'please' && isEnd(tokens, at + 1)
    ? { facts: [{ fact: 'filler' }], next: at + 1 }
    : null;

/** “except July”, “but not July and August”. */
const exceptMonths: Clause = (tokens, at) => {
  const from =
    words(tokens, at, 'except|excluding for? in?') ??
    words(tokens, at, 'but not in?') ??
    words(tokens, at, 'apart from in?');
  const read = from === null ? null : monthList(tokens, from);
  if (!read || tokens[read.next]?.kind === 'number') return null;
  const chosen = otherMonths(read.value);
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
    "um er erm uh oh hey hi hm hmm alright yes yeah now then okay ok right well so and also please could can would will you put note write jot i we i've we've i'd we'd remind ping notify tell make don't remember",
    opening,
  ),
  beginning('please', please),
  beginning('remind ping notify tell i we', remindMe),
  beginning('to', toDo),
  beginning('everyday', everyday),
  bareShortDate,
  shortWeekday,
  beginning('#', pointHour),
  beginning('except excluding but apart', exceptMonths),
];

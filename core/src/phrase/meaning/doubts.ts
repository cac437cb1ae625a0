import {
  WEEKDAYS,
  dateOf,
  dayOf,
  daysInMonth,
  formatDay,
  weekdayIndex,
  type Day,
} from '../../calendar/day.ts';
import { formatTime } from '../../calendar/time.ts';
import type { Definition } from '../../definition/definition.ts';
import { inPart } from './assemble.ts';
import { resolve, weekdayFrom } from '../grammar/dates.ts';
import type { Context, Fact, FactOf, OtherDate, WrittenDate } from '../grammar/facts.ts';
import type { Choice, Doubt, DoubtCode, PlainReading } from './reading.ts';
import { timesAYear } from './rules.ts';
import type { Facts, Matched } from './scan.ts';
import { ENGLISH } from '../speech/english.ts';
import { dayName } from '../speech/ruleWords.ts';
import { dateIn, monthNames, needsYear } from '../speech/speech.ts';
import { quoted } from '../grammar/tokens.ts';
import { eitherOf } from '../grammar/vague.ts';
import { PLURAL_WEEKDAYS, WEEKDAYS_BY_WORD, ordinalText } from '../grammar/words.ts';

/** A doubt before its choices were read. */
interface Open {
  code: DoubtCode;
  asks: string;
  from: number;
  to: number;
  /** The words of each choice; the first is what was taken. */
  choices: string[];
  /** Whether the choices differ in what is title. */
  isOfTitle?: boolean;
}

type Look = (facts: Facts, series: Definition, context: Context) => Open | null;

/** “most Sundays”, “every 3 to 4 days”: what it is taken for, and what it may be as well. */
const vague: Look = (facts) => {
  const fact = facts.get('vague');
  const it = facts.clause('vague');
  if (!fact || !it) return null;
  return { ...open('vague', it, fact.asks, [...fact.choices]), isOfTitle: true };
};

/** “Sat or Sun”, “wed/thu”. */
const either: Look = (facts, { repeat }) => {
  const fact = facts.get('weekdays');
  const it = facts.clause('weekdays');
  if (!fact || !it || !repeat || fact.days.length < 2 || fact.n > 1 || facts.has('every'))
    return null;
  if (/^every|^each/iu.test(it.text) && !/\bor\b/iu.test(it.text)) return null;
  const names = fact.days.map((day) => dayName(day, ENGLISH));
  const choices = eitherOf(it.text, names);
  return choices && open('either', it, 'Each of them, or one?', choices);
};

/** “from 10 November”, said in the middle of it: of this year, or of the next. */
const yearGone: Look = (facts, _series, { today }) => {
  for (const kind of ['start', 'date', 'counted'] as const) {
    const date = facts.get(kind)?.date;
    const it = facts.clause(kind);
    if (date?.kind !== 'yearless' || !it || /\b(every|each|year|annually)/iu.test(it.text))
      continue;
    if (facts.has('every') && facts.get('every')!.unit === 'year') continue;
    const next = resolve(date, today);
    const { year, month, day } = dateOf(next);
    const last = daysInMonth(year - 1, month) < day ? next : dayOf(year - 1, month, day);
    if (next === last || today - last > MOST_GONE) continue;
    const lead = LEAD.exec(it.text)?.[0] ?? 'on';
    const words = [next, last].map((it_) =>
      dateIn(ENGLISH, formatDay(it_), { weekday: false, year: true }),
    );
    return open('yearGone', it, 'That day has gone by this year. Which one?', [
      `${lead} ${words[0]!}`,
      `${lead} ${words[1]!}`,
    ]);
  }
  return null;
};

/** How long ago a day without its year may be, for it to be meant perhaps. */
const MOST_GONE = 45;
const LEAD =
  /^(on|by|due|until|till|from|starting|counted from|except on|except|but not on|and also on)\b/iu;

/** “weekly from April to October”: once, or each year. */
const eachSeason: Look = (facts, { repeat }, { today }) => {
  const fact = facts.get('range');
  const it = facts.clause('range');
  if (!fact || !it || !repeat || !('rule' in repeat) || facts.has('months')) return null;
  const { from, to } = fact;
  if (from.kind !== 'month' || to.kind !== 'month' || from.year || to.year) return null;
  const n = ((to.month - from.month + 12) % 12) + 1;
  const names = Array.from(
    { length: n },
    (_, i) => monthNames(ENGLISH)[(from.month - 1 + i) % 12]!,
  );
  const first = resolve(from, today);
  const words = [first, resolve(to, first, true)].map((day) =>
    dateIn(ENGLISH, formatDay(day), { weekday: false, year: true }),
  );
  return open('eachYear', it, 'Once, or each year?', [
    `from ${words[0]!} until ${words[1]!}`,
    `in ${ENGLISH.list(names)}`,
  ]);
};

/** “first Monday in July”: once, or every year. */
const onceOrYearly: Look = (facts, { repeat, start }) => {
  const fact = facts.get('positions');
  const it = facts.clause('positions');
  if (!fact || !it || !repeat || start === null || fact.months?.length !== 1) return null;
  if (facts.has('every') || /\b(every|each|year|yearly|annually)\b/iu.test(it.text)) return null;
  const [{ ordinal, weekday: day }] = fact.days as [(typeof fact.days)[number]];
  if (fact.days.length > 1 || !ENGLISH.isPlace(ordinal!)) return null;
  const named = { nth: [ordinal!], names: [dayName(day, ENGLISH)] };
  const of = { n: 1, named: [monthNames(ENGLISH)[fact.months[0]! - 1]!], inMonths: '' };
  return open('eachYear', it, 'Once, or every year?', [
    `every year ${ENGLISH.positions([named], of)}`,
    `on ${dateIn(ENGLISH, start, { weekday: true, year: true })}`,
  ]);
};

/**
 * What in a sentence may be meant in another way as well, in the order in which it is asked. A
 * choice that could not be kept is not offered.
 */
export function doubtsOf(
  facts: Facts,
  series: Definition,
  context: Context,
  reread: (text: string) => Pick<PlainReading, 'series' | 'problems'>,
): Doubt[] {
  const doubts: Doubt[] = [];
  for (const look of LOOKS) {
    const open = look(facts, series, context);
    if (!open) continue;
    const { code, asks, from, to } = open;
    const choices = open.choices.flatMap((words, i): Choice[] => {
      const [before, behind] = [context.text.slice(0, from), context.text.slice(to)];
      // With a comma where the words would be read together with those before them.
      const texts = [before + words + behind, `${before.trimEnd()}, ${words}${behind}`];
      if (i === 0) return [{ words, text: texts[0]!, series }];
      for (const text of texts) {
        const other = reread(text);
        const isSound =
          !other.problems.length && (open.isOfTitle || other.series.title === series.title);
        if (isSound) return [{ words, text, series: other.series }];
      }
      return [];
    });
    if (choices.length > 1 || code === 'vague')
      doubts.push({ code, where: context.text.slice(from, to), asks, choices });
  }
  return doubts;
}

function open(
  code: DoubtCode,
  { from, to }: { from: number; to: number },
  asks: string,
  choices: string[],
): Open {
  return { code, from, to, asks, choices };
}

/** The first weekday that is named in a text, as its index from Monday. */
function weekdayIn(text: string): number | undefined {
  const words = text.toLowerCase().match(/\p{L}+/gu) ?? [];
  return words.map((word) => WEEKDAYS_BY_WORD.get(word)).find((day) => day !== undefined);
}

/** “every 40 days”: by the calendar, or from the day on which it is finished. */
const fixedOrAfter: Look = (facts, { repeat, at, closedDays }) => {
  const perYear = timesAYear(facts);
  const every: FactOf<'every'> | undefined = perYear
    ? { fact: 'every', n: 12 / perYear, unit: 'month' }
    : facts.get('every');
  const it = facts.clause(perYear ? 'quota' : 'every');
  if (!every || !it || facts.has('fixed') || !repeat || !('rule' in repeat)) return null;
  // “Wednesday 11am, weekly” is on that day.
  const date =
    facts
      .clause('date')
      ?.text.toLowerCase()
      .match(/\p{L}+/gu) ?? [];
  if (every.unit === 'week' && date.some((word) => WEEKDAYS_BY_WORD.has(word))) return null;
  const isPlain = /^FREQ=(DAILY|WEEKLY|MONTHLY|YEARLY)(;INTERVAL=\d+)?$/u.test(repeat.rule);
  const isDaily = every.unit === 'day' && every.n === 1;
  if (!isPlain || isDaily || it.facts.length > 1 || (at?.length ?? 0) > 1 || closedDays === 'drop')
    return null;
  return open('fixedOrAfter', it, 'Counted by the calendar, or from the day you finish it?', [
    `${perYear ? ENGLISH.every(every.n, every.unit) : it.text} by the calendar`,
    `${ENGLISH.count(every.n, every.unit)} after done`,
  ]);
};

/** Where the day of hours that are told off begins: a dose each six hours is not at midnight first. */
const FIRST_HOUR = 8;

/** “every 6 hours”: from when it was done, or at the same hours each day. */
const hours: Look = (facts, { repeat }) => {
  const every = facts.get('every');
  const it = facts.clause('every');
  if (every?.unit !== 'hour' || !it || repeat?.by !== 'completion') return null;
  const { n } = every;
  if (n < 2 || n > 12 || 24 % n) return null;
  const times = Array.from({ length: 24 / n }, (_, i) => (FIRST_HOUR + i * n) % 24)
    .sort((a, b) => a - b)
    .map((hour) => formatTime(hour * 60));
  return open('hours', it, 'Counted from when you finish it, or at set hours?', [
    `${ENGLISH.count(n, 'hour')} after done`,
    `every day at ${ENGLISH.list(times)}`,
  ]);
};

const DATED = ['date', 'start', 'until', 'counted'] as const;

/** A date of the sentence that may be another one. */
const otherDate =
  (why: OtherDate['why'], asks: string): Look =>
  (facts, _series, { today }) => {
    const date = DATED.map((kind) => facts.get(kind)?.date).find((it) => it?.or?.why === why);
    if (!date?.or) return null;
    const words = [date, date.or.date].map((it) => dateWords(it, today));
    return open(why, date.or, asks, words);
  };

function dateWords(date: WrittenDate, today: Day): string {
  if (date.kind === 'yearless') return `${date.day} ${monthNames(ENGLISH)[date.month - 1]!}`;
  return date.kind === 'day' ? dayWords(date.day, today) : '';
}

function dayWords(day: Day, today: Day): string {
  const date = formatDay(day);
  return dateIn(ENGLISH, date, { weekday: true, year: needsYear(date, formatDay(today)) });
}

/** “until September”: to its end, or to its beginning. */
const untilMonth: Look = (facts) => {
  const until = facts.get('until');
  const it = facts.clause('until');
  if (until?.date.kind !== 'month' || !it) return null;
  const { month } = until.date;
  // “from May until September” is through it.
  if (facts.get('start')?.date.kind === 'month') return null;
  const name = (n: number) => monthNames(ENGLISH)[(n + 11) % 12]!;
  return open('untilMonth', it, `With ${name(month)}, or without it?`, [
    `until the end of ${name(month)}`,
    `until the end of ${name(month - 1)}`,
  ]);
};

const EACH_MONTH = { n: 1, named: [], inMonths: '' };

/** “the 5th”, “the first Saturday”: of this month, or of each. */
const dayOfMonth: Look = (facts, { repeat, start }) => {
  if (repeat || start === null) return null;
  const monthDays = facts.get('monthDays');
  const positions = facts.get('positions');
  const date = facts.get('date')?.date;
  const day = monthDays?.days[0] ?? (date?.kind === 'dayOfMonth' ? date.day : undefined);
  const it = facts.clause(positions ? 'positions' : monthDays ? 'monthDays' : 'date');
  if (!it || (day === undefined && !positions)) return null;
  const only = dateIn(ENGLISH, start, { weekday: true });
  const lead = it.text.toLowerCase().startsWith('by ') ? 'by' : 'on';
  if (positions) {
    const groups = positions.days.map(({ ordinal, weekday }) => ({
      nth: [ordinal!],
      names: [dayName(weekday, ENGLISH)],
    }));
    if (!groups.every(({ nth }) => ENGLISH.isPlace(nth[0]!))) return null;
    return open('dayOfMonth', it, 'Once, or in each month?', [
      `on ${only}`,
      ENGLISH.positions(groups, EACH_MONTH),
    ]);
  }
  return open('dayOfMonth', it, 'Once, or in each month?', [
    `${lead} ${only}`,
    ENGLISH.monthDays([day!], EACH_MONTH, null),
  ]);
};

/** “at 3”: in the night, or in the afternoon. */
const hour: Look = (facts) => {
  const at = facts.get('at');
  const it = facts.clause('at');
  // “every morning at six” says which.
  if (!at?.bareHour || !it || (facts.has('part') && !isOfNight(facts, at.minutes[0]!))) return null;
  const [minute] = at.minutes as [number];
  return open('hour', it, 'Before noon, or after?', [
    `at ${formatTime(minute)}`,
    `at ${formatTime(minute + 720)}`,
  ]);
};

/** “at night at two”: in the night, or late in the evening. */
const isOfNight = (facts: Facts, minute: number) =>
  facts.get('part')!.minute >= 21 * 60 && inPart(minute, facts) === minute;

const REPEATS: readonly Fact['fact'][] = ['every', 'weekdays', 'monthDays', 'positions', 'ofSet'];

/** “from 3 to 8 August” with no more said: on each day, or once in that time. */
const range: Look = (facts, { start, ends }, { today }) => {
  const it = facts.clause('range');
  if (!it || !start || !ends || !('on' in ends) || REPEATS.some((kind) => facts.has(kind)))
    return null;
  const fact = facts.get('range')!;
  if (fact.from.kind === 'impossible' || fact.to.kind === 'impossible') return null;
  const from = resolve(fact.from, today);
  const days = resolve(fact.to, from, true) - from;
  if (days < 1) return null;
  return open('range', it, 'On each of these days, or once?', [
    `every day ${it.text}`,
    `by ${dayWords(from + days, today)}, opens ${ENGLISH.count(days, 'day')} before`,
  ]);
};

/** “every third Monday”: in each third week, or of each month. */
const everyNth: Look = (facts) => {
  const fact = facts.get('weekdays');
  const it = facts.clause('weekdays');
  if (!fact?.nth || !it || fact.nth < 2 || !ENGLISH.isPlace(fact.nth) || facts.has('every'))
    return null;
  const names = fact.days.map((day) => dayName(day, ENGLISH));
  const part = partBehind(it);
  return open('everyNth', it, 'Counted in weeks, or in each month?', [
    `${ENGLISH.weeksOn(fact.nth, names)}${part}`,
    `${ENGLISH.positions([{ nth: [fact.nth], names }], EACH_MONTH)}${part}`,
  ]);
};

/** The part of the day that a clause says beside its day. */
function partBehind({ facts, text }: Matched): string {
  if (facts.length < 2) return '';
  const part = text.split(/\s+/u).at(-1)!.toLowerCase().replace(/s$/u, '');
  return part === 'night' ? ' at night' : ` in the ${part}`;
}

const LAST_WORD = /^(.*\S)\s+(\p{Lu}\p{L}+)[.\s]*$/su;

/** “Do the laundry Saturday”: a day, or part of the title. */
const titleDay: Look = (_facts, { title, start, repeat }, { today, text }) => {
  const [, before, word] = LAST_WORD.exec(text) ?? [];
  const index = word === undefined ? undefined : WEEKDAYS_BY_WORD.get(word.toLowerCase());
  const isPlain = !repeat && start === null && title === text.replace(/[.\s]+$/u, '');
  if (index === undefined || !isPlain || PLURAL_WEEKDAYS.has(word!.toLowerCase())) return null;
  const whole = { from: 0, to: text.length };
  const day = dayWords(weekdayFrom(today, index), today);
  const asks = `Is “${word}” a day, or part of the title?`;
  return {
    ...open('titleDay', whole, asks, [quoted(title), `${before} on ${day}`]),
    isOfTitle: true,
  };
};

/** “Friday 13 May 2027”, which is a Thursday. */
const otherDay: Look = (facts, _series, { today }) => {
  for (const kind of [...DATED, 'dates', 'except', 'extra'] as const) {
    const it = facts.clause(kind);
    const fact = it && facts.get(kind)!;
    const date = fact && ('date' in fact ? fact.date : fact.dates.length === 1 && fact.dates[0]);
    if (!date || (date.kind !== 'yearless' && date.kind !== 'day')) continue;
    const index = weekdayIn(it.text);
    if (index === undefined || !/\d/u.test(it.text)) continue;
    const day = resolve(date, today, kind === 'until');
    if (weekdayIndex(day) === index) continue;
    const near = [-3, -2, -1, 1, 2, 3].map((n) => day + n).find((d) => weekdayIndex(d) === index)!;
    const lead = LEAD.exec(it.text)?.[0] ?? 'on';
    return open(
      'otherDay',
      it,
      `That is a ${dayName(WEEKDAYS[weekdayIndex(day)]!, ENGLISH)}. Which day?`,
      [`${lead} ${dayWords(day, today)}`, `${lead} ${dayWords(near, today)}`],
    );
  }
  return null;
};

/** “on 1 March and 1 September”: once each, or every year. */
const eachYear: Look = (facts, { repeat }, { today }) => {
  const dates = facts.get('dates')?.dates;
  const it = facts.clause('dates');
  if (!dates || !it || repeat?.by !== 'dates' || dates.length > 4) return null;
  const days = dates.flatMap((date) => (date.kind === 'yearless' ? [date] : []));
  const isOneDay = new Set(days.map(({ day }) => day)).size === 1;
  if (days.length < dates.length || !isOneDay || days.length < 2) return null;
  const names = days.map((date) => monthNames(ENGLISH)[date.month - 1]!);
  const once = days.map((date) =>
    dateIn(ENGLISH, formatDay(resolve(date, today)), { weekday: false, year: true }),
  );
  return open('eachYear', it, 'Once each, or every year?', [
    `on ${ENGLISH.list(once)}`,
    `on the ${ordinalText(days[0]!.day)} of ${ENGLISH.list(names)}`,
  ]);
};

const LOOKS: readonly Look[] = [
  vague,
  either,
  otherDay,
  yearGone,
  eachSeason,
  onceOrYearly,
  eachYear,
  titleDay,
  dayOfMonth,
  // “next Friday” on a Thursday: tomorrow, or in the week after.
  otherDate('nextDay', 'Which one?'),
  // “5/12/2027”: the 5th of December, or the 12th of May.
  otherDate('dateOrder', 'Which date?'),
  everyNth,
  range,
  untilMonth,
  hour,
  hours,
  fixedOrAfter,
];

import { createInterface } from 'node:readline';
import {
  CoreError,
  DEFAULT_SETTINGS,
  parseDay,
  parseMoment,
  parseRule,
  partOf,
  whatOf,
  whenOf,
  stampOf,
  stampsOf,
  WEEKDAYS,
  namesOf,
  type Place,
  type Settings,
  type Stamp,
} from './index.ts';
import { rehearse, rehearseToday } from './rehearsal.ts';
import { fromIcal, toIcal, type InInput, type OutInput } from './exchange.ts';
import { insight, type InsightInput } from './past.ts';
import { evenOut, layOut, type EvenInput, type LayInput } from './planning.ts';
import { read, say, type NamedPlace, type SayOptions } from './reading.ts';
import { ENGLISH } from './phrase/speech/english.ts';
import { GERMAN } from './phrase/speech/german.ts';

/** One JSON object a line in, one a line out; a bad line answers with its error and the rest go on. */
const commands: Record<string, (line: Record<string, unknown>) => unknown> = {
  dates({ rule, start, after, until, limit = 30 }) {
    const from = stampIn(start, 'start', '00:00');
    const to = until === undefined ? Infinity : stampIn(until, 'until', '23:59:59');
    const past = after === undefined ? from - 1 : stampIn(after, 'after', '23:59:59');
    if (typeof limit !== 'number' || !Number.isInteger(limit) || limit < 0 || limit > MOST)
      throw new CoreError('line.form', 'limit', 'It is a whole number from 0 to 100,000.');
    return stampsOf(parseRule(text(rule, 'rule')), from).texts(past, to, limit);
  },
  'from-ical': (line) => fromIcal(line as unknown as InInput),
  'to-ical': (line) => toIcal(line as unknown as OutInput),
  insight: (line) => insight(line as unknown as InsightInput),
  even: (line) => evenOut(line as unknown as EvenInput),
  lay: (line) => layOut(line as unknown as LayInput),
  today: (line) => rehearseToday(line as unknown as Parameters<typeof rehearseToday>[0]),
  rehearse: (line) => rehearse(line as unknown as Parameters<typeof rehearse>[0]),
  read({ text: sentence, today, settings, dateOrder, places, language }) {
    const day = text(today, 'today');
    parseDay(day, 'today');
    const { weekStart = DEFAULT_SETTINGS.weekStart, workdays } = (settings ??
      {}) as Partial<Settings>;
    const options: SayOptions = {
      weekStart: oneOf(WEEKDAYS, weekStart, 'settings.weekStart'),
      dateOrder: oneOf(DATE_ORDERS, dateOrder ?? 'dmy', 'dateOrder'),
      ...(Array.isArray(workdays)
        ? { workdays: workdays.map((day) => oneOf(WEEKDAYS, day, 'settings.workdays')) }
        : {}),
      places: places === undefined ? [] : placesIn(places, 'places'),
      speech: SPEECHES[oneOf(LANGUAGES, language ?? 'en', 'language')],
    };
    const reading = read(text(sentence, 'text'), day, options);
    const { series: definition, notUnderstood, problems, doubts } = reading;
    const problem = problems[0];
    if (problem) throw new CoreError(problem.code, problem.where, problem.message);
    const { title } = definition;
    const details = Object.entries(whatOf(definition)).filter(([key]) => !partOf(key)?.isApart);
    return {
      series: { title, ...whenOf(definition) },
      // No sentence says what is set elsewhere.
      details: Object.fromEntries(details),
      says: say(definition, day, options),
      notUnderstood,
      ...(doubts.length ? { doubts } : {}),
    };
  },
};

const MOST = 100_000;
const DATE_ORDERS = ['dmy', 'mdy', 'ymd'] as const;
const LANGUAGES = ['en', 'de'] as const;
const SPEECHES = { en: ENGLISH, de: GERMAN };

function oneOf<T>(values: readonly T[], value: unknown, where: string): T {
  if ((values as readonly unknown[]).includes(value)) return value as T;
  throw new CoreError('line.form', where, `It is one of ${values.join(', ')}.`);
}

/** Places by their names alone, or as the command `today` has them. */
function placesIn(value: unknown, where: string): (string | NamedPlace)[] {
  if (!Array.isArray(value)) throw new CoreError('line.form', where, 'It is a list of places.');
  const names = value.every((it) => typeof it === 'string');
  if (names) return value as string[];
  const places = value.map((it: unknown, i): Place => {
    const { id, name } = (it ?? {}) as Partial<Place>;
    return {
      ...(it as Place),
      id: text(id, `${where}.${i}.id`),
      name: text(name, `${where}.${i}.name`),
    };
  });
  return namesOf(places);
}

/** A date, or a date and time, as a stamp; a date alone stands for this time of its day. */
function stampIn(value: unknown, where: string, time: string): Stamp {
  const written = text(value, where);
  const { minute } = parseMoment(written, where);
  return stampOf(minute === null ? `${written}T${time}` : written);
}

function text(value: unknown, where: string): string {
  if (typeof value !== 'string')
    throw new CoreError('line.form', where, `“${where}” must be given as text.`);
  return value;
}

function answer(command: (line: Record<string, unknown>) => unknown, line: string): unknown {
  try {
    return command(JSON.parse(line) as Record<string, unknown>);
  } catch (error) {
    if (error instanceof CoreError) return { error: `${error.where}: ${error.message}` };
    if (error instanceof SyntaxError) return { error: 'This line is not JSON.' };
    return { error: `This line could not be computed: ${(error as Error).message}` };
  }
}

const command = commands[process.argv[2] ?? ''];
if (!command) {
  process.stderr.write(`Say which: ${Object.keys(commands).join(', ')}.\n`);
  process.exitCode = 2;
} else {
  for await (const line of createInterface({ input: process.stdin, crlfDelay: Infinity }))
    if (line.trim()) process.stdout.write(`${JSON.stringify(answer(command, line))}\n`);
}

import { createInterface } from 'node:readline';
import {
  CoreError,
  DEFAULT_SETTINGS,
  formatMoment,
  parseDay,
  parseMoment,
  parseRule,
  read,
  rehearse,
  say,
  datesOf,
  LAST_DAY,
  type Settings,
} from './index.ts';

/** One JSON object a line in, one a line out; a bad line answers with its error and the rest go on. */
const commands: Record<string, (line: Record<string, unknown>) => unknown> = {
  dates({ rule, start, after, until, limit = 30 }) {
    const first = parseMoment(text(start, 'start'), 'start');
    const stop = until === undefined ? LAST_DAY : parseMoment(text(until, 'until'), 'until').day;
    const from = after === undefined ? null : parseMoment(text(after, 'after'), 'after');
    // A slot later on the day of `after` is still to come.
    const later = from && (from.minute ?? 0) < (first.minute ?? 0) ? from.day - 1 : from?.day;
    const days = datesOf(parseRule(text(rule, 'rule')), first.day).list(
      later ?? first.day - 1,
      stop,
      Number(limit),
    );
    return days
      .map((day) => formatMoment({ day, minute: first.minute ?? 0 }))
      .filter(
        (moment) =>
          until === undefined ||
          !text(until, 'until').includes('T') ||
          moment <= text(until, 'until'),
      );
  },
  rehearse: (line) => rehearse(line as unknown as Parameters<typeof rehearse>[0]),
  read({ text: sentence, today, settings }) {
    const day = text(today, 'today');
    parseDay(day, 'today');
    const { weekStart = DEFAULT_SETTINGS.weekStart } = (settings ?? {}) as Partial<Settings>;
    const { series, notUnderstood, problems } = read(text(sentence, 'text'), day, { weekStart });
    const problem = problems[0];
    if (problem) throw new CoreError(problem.code, problem.where, problem.message);
    return { series, says: say(series, day), notUnderstood };
  },
};

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

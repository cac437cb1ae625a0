import {
  formatDay,
  parseDay,
  shortDate,
  spanText,
  type LocalDate,
  type Question,
  type Span,
} from '@back-again/core';
import type { AnswerFigures, Insight, Interval, Spread } from '@back-again/core/past';
import type { Counts, PastRow, TrailTime } from '@back-again/contract/past';
import { days, minutesText, MONTHS } from '../../ui/dates.ts';
import { numberText } from '../../ui/time/numbers.ts';

/** What really happened, in words: each picture stands under the sentence that it shows. */

export const capital = (text: string) => text.charAt(0).toLocaleUpperCase('en') + text.slice(1);
const some = (n: number, word: string) => `${n || 'none'} ${word}`;

/** “6 done, 1 skipped, none missed” */
export const countsText = ({ done, skipped, missed }: Counts): string =>
  [some(done, 'done'), ...(skipped ? [`${skipped} skipped`] : []), some(missed, 'missed')].join(
    ', ',
  );

/** “2 h 10, of them 40 min estimated”; empty where nothing took any. */
export function tookText({ minutes, estimated }: { minutes: number; estimated: number }): string {
  if (!minutes) return '';
  if (estimated === minutes) return `${minutesText(minutes)}, all estimated`;
  return estimated
    ? `${minutesText(minutes)}, of them ${minutesText(estimated)} estimated`
    : minutesText(minutes);
}

/** “6 done, 1 skipped, none missed. 2 h 10, of them 40 min estimated.” */
export function summaryText(it: Counts & { minutes: number; estimated: number }): string {
  if (!it.done && !it.skipped && !it.missed && !it.minutes) return 'Nothing ended then.';
  const took = tookText(it);
  return `${countsText(it)}.${took ? ` ${took}.` : ''}`;
}

/** “3 days late”, “on its day”, “1 day early” */
export const lateText = (late: number): string =>
  late === 0 ? 'on its day' : `${days(Math.abs(late))} ${late > 0 ? 'late' : 'early'}`;

function latenessText({ usual, least, greatest }: Spread): string {
  if (least === greatest) return `always ${lateText(usual)}`;
  if (least >= 0) return `usually ${lateText(usual)}, ${days(greatest)} at most`;
  return `usually ${lateText(usual)}, from ${lateText(least)} to ${lateText(greatest)}`;
}

/** How far apart the times are meant to be: “21 days”, “3 weeks”, “day”. */
export const intervalText = ({ days: n, inWeeks }: Interval): string =>
  everyText(inWeeks ? `P${n / 7}W` : `P${n}D`);
/** A span as it stands behind “every”: “21 days”, “week”. */
export const everyText = (span: Span): string => spanText(span).replace(/^1 /u, '');

/** How far apart they really were, beside what was meant. */
function apartText(usual: number, meant: Interval | null): string {
  if (!meant) return usual ? `usually ${days(usual)} apart` : 'usually several on a day';
  if (usual === meant.days) return `really about every ${intervalText(meant)}, as it is meant`;
  const really = everyText(
    meant.inWeeks && usual && usual % 7 === 0 ? `P${usual / 7}W` : `P${usual}D`,
  );
  return `really about every ${really}, not every ${intervalText(meant)}`;
}

/** So many gaps there have to be before something is said of them. */
const LEAST_GAPS = 2;

/** “Done 9 of 10 times. Usually 3 days late, and really about every 24 days, not 21.” */
export function insightText(it: Insight, meant: Interval | null): string {
  const { done, missed, skipped, kept, lateness, gaps } = it;
  if (!done && !missed && !skipped) return 'Nothing of it ended in this span.';
  const all = done + missed;
  const skips = skipped ? ` ${skipped === 1 ? 'One was' : `${skipped} were`} skipped.` : '';
  const rate =
    kept === null ? '' : `Done ${done} of ${all} ${all === 1 ? 'time' : 'times'}, ${kept} %.`;
  const late = lateness ? latenessText(lateness) : null;
  const apart = gaps && gaps.last.length >= LEAST_GAPS ? apartText(gaps.usual, meant) : null;
  const how = [late, apart].filter((part) => part !== null).join(', and ');
  return `${rate}${skips}${how ? ` ${capital(how)}.` : ''}`.trim();
}

/** “4 in a row, 7 at most” */
export const rowText = ({ now, most }: Insight['inARow']): string =>
  most > now ? `${now} in a row, ${most} at most` : `${now} in a row`;

/** A number with its unit, as an answer. */
export function amountText(question: Question, n: number): string {
  const text = numberText(n);
  if (question.kind === 'scale') return `${text} of ${question.to}`;
  if (question.kind === 'minutes') return minutesText(n);
  return question.kind === 'number' && question.unit ? `${text} ${question.unit}` : text;
}

const COUNTED: Record<string, string> = { true: 'yes', false: 'no' };

/** What the answers to a question came to. */
export function answersText(question: Question, it: AnswerFigures): string {
  if (it.counts)
    return Object.entries(it.counts)
      .sort(([, a], [, b]) => b - a)
      .map(([value, n]) => `${COUNTED[value] ?? value} ${n === 1 ? 'once' : `${n} times`}`)
      .join(', ');
  if (it.usual === undefined) return it.of === 1 ? 'one answer' : `${it.of} answers`;
  const at = (n: number) => amountText(question, n);
  const usual =
    it.least === it.greatest
      ? `always ${at(it.usual)}`
      : `usually ${at(it.usual)}, from ${numberText(it.least!)} to ${numberText(it.greatest!)}`;
  return it.sum === undefined || it.of === 1 ? usual : `${usual}; ${at(it.sum)} in all`;
}

const monthOf = (date: LocalDate) => MONTHS[Number(date.slice(5, 7)) - 1]!;

/** How each of some times ended: done on its day or before, done late, skipped, missed. */
export type Ending = 'kept' | 'late' | 'skipped' | 'missed';
export function endingOf({ status, dueOn, doneOn }: TrailTime): Ending {
  if (status !== 'done') return status;
  return doneOn! > dueOn ? 'late' : 'kept';
}

/** “10 times from May to November: 6 kept, 3 late, 1 missed.” */
export function trailText(trail: readonly TrailTime[]): string {
  const [first, last] = [trail[0], trail.at(-1)];
  if (!first || !last) return '';
  const count = (ending: Ending) => trail.filter((time) => endingOf(time) === ending).length;
  const parts = (['kept', 'late', 'skipped', 'missed'] as const)
    .filter((ending) => count(ending))
    .map((ending) => `${count(ending)} ${ending === 'kept' ? 'on the day or before' : ending}`);
  const [a, b] = [monthOf(first.dueOn), monthOf(last.doneOn ?? last.dueOn)];
  const span =
    a === b && first.dueOn.slice(0, 4) === last.dueOn.slice(0, 4) ? `in ${a}` : `from ${a} to ${b}`;
  const n = trail.length === 1 ? 'One time' : `The last ${trail.length} times`;
  return `${n}, ${span}: ${parts.join(', ')}.`;
}

/** What a row of the trail’s table says. */
export function trailRow(time: TrailTime, today: LocalDate): [string, string] {
  const { status, dueOn, doneOn } = time;
  if (status !== 'done') return [shortDate(dueOn, today), status];
  return [shortDate(dueOn, today), `done ${lateText(parseDay(doneOn!) - parseDay(dueOn))}`];
}

/** What became of a past time, in a few words without its answers. */
export function endedText({ status, late, due, tally, quota }: PastRow): string {
  if (tally !== null)
    return status === 'done'
      ? `${tally} of ${quota ?? tally}`
      : `${status}, ${tally} of ${quota ?? tally}`;
  if (status !== 'done') return status;
  return due === null || !late ? 'done' : `done ${lateText(late)}`;
}

/** A day with the weekday written out and the year where it is another: “Sun 22 November”. */
export function dayText(date: LocalDate, today: LocalDate): string {
  const short = shortDate(date, date);
  const year = date.slice(0, 4) === today.slice(0, 4) ? '' : ` ${date.slice(0, 4)}`;
  return `${short.slice(0, 3)} ${Number(date.slice(8))} ${monthOf(date)}${year}`;
}

/** A date as an address has it; null where it is none. */
export function dayIn(text: string | undefined): LocalDate | null {
  if (text === undefined) return null;
  try {
    return formatDay(parseDay(text));
  } catch {
    return null;
  }
}

export const dayAfter = (date: LocalDate, n: number): LocalDate => formatDay(parseDay(date) + n);

import type { LocalMoment } from '../calendar/time.ts';
import { parseInstant, type Instant } from '../calendar/zone.ts';
import type { Answer, Filled, StepText } from '../definition/details.ts';
import { MOST_OF_TIME, checkFile, type KeptFile } from '../definition/files.ts';
import { MOST_QUESTIONS, MOST_STEPS, checkStep } from '../definition/whatChecks.ts';
import { CoreError } from '../errors.ts';
import { copyOf, movedOpens, noLater, occurrenceOf } from './advance.ts';
import { changeDeed, type ChangeDeed } from './changes.ts';
import { comingAt, withSlot } from './coming.ts';
import { countDone, countFrom } from './counting.ts';
import { movedSlot, moveTime, putMove, settled, standOn, type Move } from './moves.ts';
import type { Course, Occurrence, Progress } from './progress.ts';
import type { Planner } from './slots.ts';

/** Answers by their questions, and the minutes that it really took; null takes one away. */
export interface WrittenDown {
  answers?: Record<string, Answer | null>;
  spent?: number | null;
}

/** What a person does with one time of a to-do. Without `slot` it is the earliest open one. */
export type TimeDeed =
  /** With so many times a period, one tally. */
  | ({ do: 'done' | 'tally' | 'skip'; slot?: LocalMoment } & WrittenDown)
  /** For this time only: the day to do it, with an hour perhaps, the due moment, or both. */
  | ({ do: 'move'; slot?: LocalMoment } & Move)
  /** How much of it is done, 0 to 99 in a hundred. */
  | { do: 'part'; slot?: LocalMoment; part: number }
  /** What the person writes down with it; empty takes it away. Ended times have one too. */
  | { do: 'note'; slot?: LocalMoment; note: string }
  /** Ticks a step of it, or takes the tick away. */
  | { do: 'tick'; slot?: LocalMoment; step: string; on: boolean }
  /** A step of this time alone; without words it is taken away. */
  | { do: 'addStep'; slot?: LocalMoment; step: StepText }
  /** What is written down with it: later than it was done, perhaps. */
  | ({ do: 'answer'; slot?: LocalMoment } & WrittenDown)
  /** A file that belongs to it from here on. */
  | { do: 'file'; slot?: LocalMoment; file: KeptFile }
  /** Lets go of a file, by its id. */
  | { do: 'unfile'; slot?: LocalMoment; file: string }
  /** Says nothing of an open time, or of one to come, until this instant (ISO 8601), and then once (R17). */
  | { do: 'later'; slot?: LocalMoment; to: string };

/** What a person does with one time of a to-do, or with the to-do itself. */
export type Deed = TimeDeed | ChangeDeed;

/** What came of a deed: the course, and the time it was done to; `before` is that time as it was. */
export interface Deeded extends Course {
  /** Null where it was done to the to-do itself. */
  time: Occurrence | null;
  before: Occurrence | null;
  /** The numbers of open times that are no more. */
  gone: number[];
}

export const MOST_NOTE = 2000;

/**
 * Does a deed at `at`, to a to-do that has been advanced to then. `past` are ended times that the
 * deed may mean: a missed one can still be marked as done (R6). Gives null where no time is found.
 * @throws CoreError for a part, note, date or definition that is wrong
 */
export function deed(
  planner: Planner,
  progress: Progress,
  it: Deed,
  at: Instant,
  past: readonly Occurrence[] = [],
): Deeded | null {
  const now = copyOf(progress);
  switch (it.do) {
    case 'done':
    case 'skip':
    case 'tally':
    case 'move':
    case 'part':
    case 'note':
    case 'tick':
    case 'addStep':
    case 'answer':
    case 'file':
    case 'unfile':
    case 'later':
      return timeDeed(planner, now, it, at, past);
    default:
      return changeDeed(planner, now, it, at);
  }
}

function timeDeed(
  planner: Planner,
  now: Progress,
  it: TimeDeed,
  at: Instant,
  past: readonly Occurrence[],
): Deeded | null {
  const { quota } = planner(now.series);
  if (quota && (it.do === 'done' || it.do === 'tally')) return tally(planner, now, it, at, past);
  if (it.do === 'tally') return null;
  const open = it.slot === undefined ? now.open[0] : now.open.find((time) => time.slot === it.slot);
  if (open) {
    const before = { ...open };
    if (it.do === 'done' || it.do === 'skip') {
      close(planner, now, open, it.do, at);
      fill(now, open, it);
      now.open = now.open.filter((time) => time !== open);
      return { progress: now, ended: [open], time: open, before, gone: [] };
    }
    if (it.do === 'move') {
      moveTime(planner, open, it);
      open.moved = true;
      noLater(now, open.slot);
      if (open.due !== null && planner(now.series).byCalendar)
        standOn(now, { slot: open.slot, due: open.due });
    }
    if (it.do === 'later') putOff(now, open.slot, it.to, at);
    if (it.do === 'part') setPart(open, it.part);
    fill(now, open, it);
    return { progress: now, ended: [], time: open, before, gone: [] };
  }
  if (it.slot === undefined) return null;
  if (it.do === 'later') {
    if (!comingAt(planner, now, it.slot)) return null;
    putOff(now, it.slot, it.to, at);
    return { progress: now, ended: [], time: null, before: null, gone: [] };
  }
  if (it.do === 'move') return moveAhead(planner, now, it.slot, it);
  const ended = past.findLast((time) => time.slot === it.slot);
  if (FILLS.includes(it.do) && ended) {
    const time = { ...ended };
    fill(now, time, it);
    return { progress: now, ended: [time], time, before: ended, gone: [] };
  }
  const missed = past.findLast((time) => time.slot === it.slot && time.status === 'missed');
  if (it.do === 'done' && missed) return filled(finishMissed(planner, now, missed, at), it);
  return it.do === 'done' || it.do === 'skip'
    ? filled(finishAhead(planner, now, it.slot, it.do, at), it)
    : null;
}

const LONGEST_LATER = 366 * 86_400_000;

function putOff(now: Progress, slot: LocalMoment, to: string, at: Instant): void {
  const until = parseInstant(to, 'to');
  if (until <= at || until > at + LONGEST_LATER)
    throw new CoreError('later.range', 'to', 'A reminder is put off by a year at most.');
  noLater(now, slot);
  now.later = [...(now.later ?? []), { slot, to: until }];
}

function setPart(time: Occurrence, part: number): void {
  if (!Number.isInteger(part) || part < 0 || part > 99)
    throw new CoreError('part.range', 'part', 'A part is 0 to 99 in a hundred; all of it is done.');
  if (part === 0) delete time.part;
  else time.part = part;
}

function setNote(time: Occurrence, note: string): void {
  const text = note.trim();
  if (text.length > MOST_NOTE)
    throw new CoreError('note.long', 'note', 'A note has 2,000 characters at most.');
  if (text) time.note = text;
  else delete time.note;
}

/** What is done to ended times too: it changes nothing but what stands with them. */
export const FILLS: readonly Deed['do'][] = ['note', 'tick', 'addStep', 'answer', 'file', 'unfile'];

/** Writes down with a time what a deed says. */
function fill(now: Progress, time: Occurrence, it: TimeDeed): void {
  if (it.do === 'note') setNote(time, it.note);
  if (it.do === 'tick') setTick(time, it);
  if (it.do === 'addStep') setStep(time, it.step);
  if (it.do === 'file') addFile(time, it.file);
  if (it.do === 'unfile')
    setFilled(time, { files: (time.filled?.files ?? []).filter(({ id }) => id !== it.file) });
  if (it.do === 'answer' || it.do === 'done' || it.do === 'tally') {
    setAnswers(time, it);
    remember(now, time);
  }
}

function filled(deeded: Deeded | null, it: TimeDeed): Deeded | null {
  if (deeded?.time) fill(deeded.progress, deeded.time, it);
  return deeded;
}

/** What stands with a time, with some of it anew; nothing is kept of what is empty. */
function setFilled(time: Occurrence, parts: Filled): void {
  const said = Object.entries({ ...time.filled, ...parts }).filter(
    ([, value]) => value !== undefined && (typeof value !== 'object' || Object.keys(value).length),
  );
  if (said.length) time.filled = Object.fromEntries(said) as Filled;
  else delete time.filled;
}

function setTick(time: Occurrence, { step, on }: { step: string; on: boolean }): void {
  const others = (time.filled?.ticks ?? []).filter((id) => id !== step);
  if (others.length >= 2 * MOST_STEPS)
    throw new CoreError('tick.many', 'step', 'There are not so many steps.');
  setFilled(time, { ticks: on ? [...others, step] : others });
}

function addFile(time: Occurrence, file: KeptFile): void {
  const others = (time.filled?.files ?? []).filter(({ id }) => id !== file.id);
  if (others.length >= MOST_OF_TIME)
    throw new CoreError('file.many', 'file', `One time has ${MOST_OF_TIME} files at most.`);
  setFilled(time, { files: [...others, checkFile(file)] });
}

function setStep(time: Occurrence, { id, text }: StepText): void {
  const added = time.filled?.added ?? [];
  const others = added.filter((step) => step.id !== id);
  if (!text.trim()) return setFilled(time, { added: others });
  const step = checkStep({ id, text }, 'step');
  if (others.length >= MOST_STEPS)
    throw new CoreError('step.many', 'step', `There are ${MOST_STEPS} steps at most.`);
  const isThere = added.some((it) => it.id === id);
  setFilled(time, {
    added: isThere ? added.map((it) => (it.id === id ? step : it)) : [...added, step],
  });
}

function setAnswers(time: Occurrence, { answers = {}, spent }: WrittenDown): void {
  const said = Object.entries({ ...time.filled?.answers, ...answers }).filter(
    ([, answer]) => answer !== null,
  );
  if (said.length > MOST_ANSWERS)
    throw new CoreError('answer.many', 'answers', 'There are not so many questions.');
  setFilled(time, {
    answers: Object.fromEntries(said) as Record<string, Answer>,
    ...(spent === undefined ? {} : { spent: spent ?? undefined }),
  } as Filled);
}

/** Keeps what was written down with the last two times: one stands beside the fields of the other. */
function remember(now: Progress, { number, filled: { answers, spent } = {} }: Occurrence): void {
  const others = (now.written ?? []).filter((it) => it.number !== number);
  const said = answers !== undefined || spent !== undefined;
  const it = {
    number,
    ...(answers ? { answers } : {}),
    ...(spent === undefined ? {} : { spent }),
  };
  const all = [...others, ...(said ? [it] : [])].sort((a, b) => a.number - b.number).slice(-2);
  if (all.length) now.written = all;
  else delete now.written;
}

const MOST_ANSWERS = 4 * MOST_QUESTIONS;

/** One of so many times a period (R15). Without a slot it goes to the current period. */
function tally(
  planner: Planner,
  now: Progress,
  it: TimeDeed,
  at: Instant,
  past: readonly Occurrence[],
): Deeded | null {
  const { clock } = planner;
  const quota = planner(now.series).quota!;
  const slot = it.slot ?? quota.slotOn(clock.dayAt(at));
  const open = now.open.find((time) => time.slot === slot);
  const before = open
    ? { ...open }
    : past.findLast((time) => time.slot === slot && time.status !== 'skipped');
  if (!before) return null;
  const time = open ?? { ...before };
  fill(now, time, it);
  time.tally = (time.tally ?? 0) + 1;
  now.lastDone = Math.max(now.lastDone ?? at, at);
  if (time.status !== 'done' && time.tally >= quota.times) {
    time.status = 'done';
    time.closedAt = at;
    settled(time);
    now.done += 1;
    noLater(now, time.slot);
    now.open = now.open.filter((other) => other !== time);
  }
  const ended = time.status === 'open' ? [] : [time];
  return { progress: now, ended, time, before, gone: [] };
}

function close(
  planner: Planner,
  now: Progress,
  time: Occurrence,
  how: 'done' | 'skip',
  at: Instant,
): void {
  time.status = how === 'done' ? 'done' : 'skipped';
  noLater(now, time.slot);
  time.closedAt = at;
  settled(time);
  if (how === 'done') countDone(planner, now, time, at);
  countFrom(planner, now, time, how, at);
}

/** A missed time that was done after all: only its outcome changes. */
function finishMissed(planner: Planner, now: Progress, missed: Occurrence, at: Instant): Deeded {
  const time: Occurrence = { ...missed, status: 'done', closedAt: at };
  countDone(planner, now, time, at);
  return { progress: now, ended: [time], time, before: missed, gone: [] };
}

/** Moves a slot that has not opened (R9): it keeps its name and stays to come. */
function moveAhead(planner: Planner, now: Progress, slot: LocalMoment, to: Move): Deeded | null {
  const next = comingAt(planner, now, slot);
  if (!next) return null;
  putMove(now, movedSlot(planner, next, to));
  noLater(now, slot);
  // Where it was it has gone by, and counts.
  const isOwn = planner(now.series).byCalendar && !next.moved;
  if (isOwn) now.ahead = withSlot(now.ahead, slot);
  return { progress: now, ended: [], time: null, before: null, gone: [] };
}

/** Finishes or skips a slot that has not opened: it closes that slot alone. */
function finishAhead(
  planner: Planner,
  now: Progress,
  slot: LocalMoment,
  how: 'done' | 'skip',
  at: Instant,
): Deeded | null {
  const next = comingAt(planner, now, slot);
  if (!next) return null;
  const time = occurrenceOf(planner, now, next, null);
  close(planner, now, time, how, at);
  if (next.moved) movedOpens(planner, now, next);
  else if (planner(now.series).byCalendar) now.ahead = withSlot(now.ahead, slot);
  return { progress: now, ended: [time], time, before: null, gone: [] };
}

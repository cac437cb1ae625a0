import { formatDay } from '../calendar/day.ts';
import { parseMoment, type LocalMoment } from '../calendar/time.ts';
import { parseInstant, type Instant } from '../calendar/zone.ts';
import { CoreError } from '../errors.ts';
import { copyOf, noLater, occurrenceOf } from './advance.ts';
import { changeDeed, type ChangeDeed } from './changes.ts';
import { comingAt, withSlot } from './coming.ts';
import { countDone, countFrom } from './counting.ts';
import type { Course, Occurrence, Progress } from './progress.ts';
import type { Planner } from './slots.ts';

/** What a person does with one time of a to-do. Without `slot` it is the earliest open one. */
export type TimeDeed =
  /** With so many times a period, one tally. */
  | { do: 'done' | 'tally' | 'skip'; slot?: LocalMoment }
  /** For this time only: the day to do it, with an hour perhaps, the due moment, or both. */
  | { do: 'move'; slot?: LocalMoment; plan?: LocalMoment; due?: LocalMoment }
  /** How much of it is done, 0 to 99 in a hundred. */
  | { do: 'part'; slot?: LocalMoment; part: number }
  /** What the person writes down with it; empty takes it away. Ended times have one too. */
  | { do: 'note'; slot?: LocalMoment; note: string }
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
      now.open = now.open.filter((time) => time !== open);
      return { progress: now, ended: [open], time: open, before, gone: [] };
    }
    if (it.do === 'move') {
      move(planner, open, it);
      noLater(now, open.slot);
    }
    if (it.do === 'later') putOff(now, open.slot, it.to, at);
    if (it.do === 'part') setPart(open, it.part);
    if (it.do === 'note') setNote(open, it.note);
    return { progress: now, ended: [], time: open, before, gone: [] };
  }
  if (it.slot === undefined) return null;
  if (it.do === 'later') {
    if (!comingAt(planner, now, it.slot)) return null;
    putOff(now, it.slot, it.to, at);
    return { progress: now, ended: [], time: null, before: null, gone: [] };
  }
  const ended = past.findLast((time) => time.slot === it.slot);
  if (it.do === 'note' && ended) {
    const time = { ...ended };
    setNote(time, it.note);
    return { progress: now, ended: [time], time, before: ended, gone: [] };
  }
  const missed = past.findLast((time) => time.slot === it.slot && time.status === 'missed');
  if (it.do === 'done' && missed) return finishMissed(planner, now, missed, at);
  return it.do === 'done' || it.do === 'skip'
    ? finishAhead(planner, now, it.slot, it.do, at)
    : null;
}

/** Moves a time (R9): `due` alone takes the plan along unless that had been moved by itself. */
function move(
  planner: Planner,
  time: Occurrence,
  to: { plan?: LocalMoment; due?: LocalMoment },
): void {
  if (to.due !== undefined) {
    const due = planner.clock.shown(to.due);
    parseMoment(due, 'due');
    time.due = due;
    delete time.planAt;
    if (to.plan === undefined && time.planBy !== 'person')
      time.plan = formatDay(planner.clock.dayOfMoment(due));
  }
  if (to.plan !== undefined) {
    const { minute } = parseMoment(to.plan, 'plan');
    const planned = planner.clock.shown(to.plan);
    time.plan = formatDay(planner.clock.dayOfMoment(planned));
    if (minute === null) delete time.planAt;
    else time.planAt = planned;
    time.planBy = 'person';
  }
  time.moved = true;
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
  time.tally = (time.tally ?? 0) + 1;
  now.lastDone = Math.max(now.lastDone ?? at, at);
  if (time.status !== 'done' && time.tally >= quota.times) {
    time.status = 'done';
    time.closedAt = at;
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
  if (how === 'done') countDone(planner, now, time, at);
  countFrom(planner, now, time, how, at);
}

/** A missed time that was done after all: only its outcome changes. */
function finishMissed(planner: Planner, now: Progress, missed: Occurrence, at: Instant): Deeded {
  const time: Occurrence = { ...missed, status: 'done', closedAt: at };
  countDone(planner, now, time, at);
  return { progress: now, ended: [time], time, before: missed, gone: [] };
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
  if (planner(now.series).byCalendar) now.ahead = withSlot(now.ahead, slot);
  return { progress: now, ended: [time], time, before: null, gone: [] };
}

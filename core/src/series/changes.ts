import { formatDay, parseDay, type LocalDate } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { CoreError } from '../errors.ts';
import type { Deeded } from './actions.ts';
import { checkSeries } from '../definition/check.ts';
import { PARTS } from '../definition/parts.ts';
import { comingAt, upcoming, withSlot, yieldsMoved } from './coming.ts';
import { countFrom } from './counting.ts';
import type { Series } from './definition.ts';
import { keepMoves, settled, takeMove } from './moves.ts';
import { resumed, withPause } from './pauses.ts';
import type { Occurrence, Progress } from './progress.ts';
import { justBefore, type Planner } from './slots.ts';

/** What a person does with a to-do itself. */
export type ChangeDeed =
  /** Nothing comes from a day on, default today, until it is resumed or up to a day (R12). */
  | { do: 'pause'; from?: LocalDate; to?: LocalDate | null }
  | { do: 'resume' }
  /** From this time on, with these parts of the definition (R13); default the earliest open one. */
  | { do: 'change'; slot?: LocalMoment; series: Partial<Series> }
  /** Ends the to-do: what is open is skipped. With `slot`, that time and what follows are no more. */
  | { do: 'end'; slot?: LocalMoment }
  /** An ended to-do comes back, from today on. */
  | { do: 'reopen' }
  /** This time is no more, as if it had never been to come. */
  | { do: 'drop'; slot?: LocalMoment };

/** Does one of these to a copy of the progress; null where there is no such time. @internal */
export function changeDeed(
  planner: Planner,
  now: Progress,
  it: ChangeDeed,
  at: Instant,
): Deeded | null {
  switch (it.do) {
    case 'pause':
      return pause(planner, now, it, at);
    case 'resume':
      return resume(planner, now, at);
    case 'change':
      return change(planner, now, it, at);
    case 'end':
      return it.slot === undefined ? endNow(now, at) : endFrom(now, it.slot);
    case 'reopen':
      return reopen(planner, now, at);
    case 'drop':
      return drop(planner, now, it.slot, at);
  }
}

const changed = (progress: Progress, gone: readonly Occurrence[] = []): Deeded => ({
  progress,
  ended: [],
  time: null,
  before: null,
  gone: gone.map(({ number }) => number),
});

/** The definition in force and those to come, each with other pauses. */
function withPauses(now: Progress, make: (series: Series) => Series['pauses']): void {
  const set = (series: Series): Series => {
    const { pauses: _pauses, ...rest } = series;
    const pauses = make(series);
    return pauses?.length ? { ...rest, pauses } : rest;
  };
  now.series = set(now.series);
  now.turns = now.turns.map((turn) => ({ ...turn, series: set(turn.series) }));
}

function pause(
  planner: Planner,
  now: Progress,
  { from, to = null }: { from?: LocalDate; to?: LocalDate | null },
  at: Instant,
): Deeded {
  const today = formatDay(planner.clock.dayAt(at));
  const first = from ?? today;
  parseDay(first, 'from');
  // It holds from the day on which it is set, not before.
  const begins = first < today ? today : first;
  if (to !== null && parseDay(to, 'to') < parseDay(begins))
    throw new CoreError('pauses.order', 'to', `A pause cannot end on ${to}, before ${begins}.`);
  withPauses(now, ({ pauses }) => withPause(pauses, { from: begins, to }, today));
  return changed(now);
}

function resume(planner: Planner, now: Progress, at: Instant): Deeded | null {
  const today = planner.clock.dayAt(at);
  const last = now.series.pauses?.at(-1);
  if (!last || (last.to !== null && parseDay(last.to) < today)) return null;
  withPauses(now, ({ pauses }) => resumed(pauses, today));
  return changed(now);
}

const comesAlike = (a: Series, b: Series) =>
  PARTS.filter(({ isTiming }) => isTiming).every(({ key }) => {
    const part = key as keyof Series;
    return JSON.stringify(a[part]) === JSON.stringify(b[part]);
  });

/** Parts put in the place of others; null and undefined take one away. */
function merged(series: Series, parts: Partial<Series>): Series {
  const both: Record<string, unknown> = { ...series, ...parts };
  for (const key of Object.keys(both))
    if (both[key] === undefined || (both[key] === null && key !== 'start' && key !== 'repeat'))
      delete both[key];
  return checkSeries(both);
}

function change(
  planner: Planner,
  now: Progress,
  { slot, series: parts }: { slot?: LocalMoment; series: Partial<Series> },
  at: Instant,
): Deeded | null {
  const next = upcoming(planner, now);
  const from = slot ?? now.open[0]?.slot ?? next?.slot ?? null;
  const isOpen = now.open.some((time) => time.slot === from);
  if (slot !== undefined && !isOpen && !comingAt(planner, now, slot)) return null;
  const stage = from === null ? -1 : now.turns.findLastIndex((turn) => turn.from <= from);
  const before = stage < 0 ? now.series : now.turns[stage]!.series;
  const after = merged(before, parts);
  if (comesAlike(before, after)) {
    if (stage < 0) now.series = after;
    now.turns = now.turns.map((turn, i) =>
      i < stage ? turn : { ...turn, series: i === stage ? after : merged(turn.series, parts) },
    );
    if (from !== null) keepYielded(planner, now, from);
    return changed(now);
  }
  if (from === null) {
    now.series = after;
    now.turns = [];
    return changed(now);
  }
  const isCalendar = planner(before).byCalendar;
  const becomesCalendar = planner(after).byCalendar;
  const isLater = isCalendar && !isOpen && next !== null && next.slot < from;
  if (isLater && becomesCalendar) {
    const since = wholeDay(planner, before, from);
    now.turns = [...now.turns.filter((turn) => turn.from < since), { from: since, series: after }];
    keepYielded(planner, now, since);
    return changed(now);
  }
  if (isLater)
    throw new CoreError(
      'change.far',
      'slot',
      'It can change to that kind from this time or the next one on, not from a later one.',
    );
  const hadOpen = now.open.length > 0;
  const gone = isCalendar ? takeBack(planner, now, from) : uncount(now, from);
  now.series = after;
  now.turns = [];
  if (becomesCalendar) {
    const cursor = justBefore(wholeDay(planner, before, gone[0]?.slot ?? from));
    if (gone.length || now.passed === null || cursor > now.passed) now.passed = cursor;
    if (gone.length) now.opened = null;
  } else if (isCalendar) now.base = baseAfter(planner, now, { from, hadOpen }, at);
  keepYielded(planner, now, from);
  return changed(now, gone);
}

/** Of the slots to come that were moved, keeps those that the repeat yields now under the same name (R13). */
function keepYielded(planner: Planner, now: Progress, from: LocalMoment): void {
  if (!now.moved) return;
  if (!planner(now.series).byCalendar) {
    // What would be to come if nobody had moved it.
    const { moved: _moved, ...unmoved } = now;
    const next = upcoming(planner, unmoved);
    keepMoves(now, ({ slot }) => slot === next?.slot);
    return;
  }
  for (const { slot } of now.moved)
    if (now.passed === null || slot > now.passed) now.ahead = withSlot(now.ahead, slot);
  const gone = keepMoves(now, ({ slot }) => slot < from || yieldsMoved(planner, now, slot));
  now.ahead = now.ahead.filter((slot) => !gone.includes(slot));
}

/** The day of a slot where it is the first of that day: then the day is changed as a whole. */
function wholeDay(planner: Planner, series: Series, slot: LocalMoment): LocalMoment {
  const day = slot.slice(0, 10);
  return planner(series).slotBefore(slot)?.startsWith(day) ? slot : day;
}

const isTouched = (time: Occurrence) =>
  time.moved || time.part !== undefined || time.note !== undefined || Boolean(time.tally);

/**
 * Takes out the open times from a slot on that nobody touched, as though they had not opened: the
 * last ones, back to one that has ended or was touched.
 */
function takeBack(planner: Planner, now: Progress, from: LocalMoment): Occurrence[] {
  const plan = planner(now.series);
  const free = new Map(
    now.open
      .filter((time) => time.slot >= from && !isTouched(time))
      .map((time) => [time.slot, time]),
  );
  const moved = new Set((now.moved ?? []).map(({ slot }) => slot).filter((slot) => slot >= from));
  const gone: Occurrence[] = [];
  // Those to come that were moved have gone by where they were, and count.
  let counted = 0;
  for (let slot = now.passed; slot !== null; slot = plan.slotBefore(slot)) {
    const time = free.get(slot);
    if (!time && !moved.has(slot)) break;
    counted++;
    if (!time) continue;
    gone.unshift(time);
    now.count -= counted;
    counted = 0;
  }
  // Opened before earlier ones: not counted yet.
  for (const slot of now.ahead) if (free.has(slot)) gone.push(free.get(slot)!);
  now.ahead = now.ahead.filter((slot) => !free.has(slot));
  now.open = now.open.filter((time) => !gone.includes(time));
  return gone;
}

/** Takes out the open time of an after-I-finish repeat or a one-off, to be counted anew. */
function uncount(now: Progress, from: LocalMoment): Occurrence[] {
  const gone = now.open.filter((time) => time.slot >= from && !isTouched(time));
  if (gone.length && now.base) now.base = { ...now.base, used: false };
  now.open = now.open.filter((time) => !gone.includes(time));
  return gone;
}

/** After a repeat by the calendar: counted from when it was last done, or first on that slot. */
function baseAfter(
  planner: Planner,
  now: Progress,
  { from, hadOpen }: { from: LocalMoment; hadOpen: boolean },
  at: Instant,
): Progress['base'] {
  const used = now.open.length > 0;
  const { lastDone } = now;
  // Where nothing was open, the first is due on the slot from which it changes (R9).
  if (lastDone !== null && hadOpen)
    return {
      from: { day: planner.clock.dayAt(lastDone), instant: lastDone },
      previous: null,
      at,
      used,
    };
  return { from: null, previous: null, on: from.slice(0, 10), at, used };
}

/** Ends the to-do: what is open ends as skipped, nothing more comes. */
function endNow(now: Progress, at: Instant): Deeded {
  keepMoves(now, () => false);
  const ended = now.open.map((time): Occurrence => ({ ...time, status: 'skipped', closedAt: at }));
  ended.forEach(settled);
  now.open = [];
  now.stop = '';
  return { ...changed(now), ended };
}

/** A time and what follows are no more. */
function endFrom(now: Progress, slot: LocalMoment): Deeded {
  const gone = now.open.filter((time) => time.slot >= slot);
  keepMoves(now, (move) => move.slot < slot);
  now.open = now.open.filter((time) => time.slot < slot);
  now.stop = now.stop !== null && now.stop < slot ? now.stop : slot;
  return changed(now, gone);
}

function reopen(planner: Planner, now: Progress, at: Instant): Deeded | null {
  const today = planner.clock.dayAt(at);
  const { byCalendar, series } = planner(now.series);
  const wasOnce = series.repeat === null && !byCalendar && !now.open.length;
  if (now.stop === null && !wasOnce) return null;
  now.stop = null;
  if (byCalendar) {
    // What would have come meanwhile does not come.
    const cursor = formatDay(today - 1);
    if (now.passed === null || cursor > now.passed) now.passed = cursor;
  } else if (!now.open.length)
    now.base = {
      from: null,
      previous: now.base?.previous ?? null,
      ...(series.start === null ? {} : { on: formatDay(today) }),
      at,
      used: false,
    };
  return changed(now);
}

/** A time is no more: by the calendar as if its date had been left out, else as if skipped. */
function drop(
  planner: Planner,
  now: Progress,
  slot: LocalMoment | undefined,
  at: Instant,
): Deeded | null {
  const { byCalendar } = planner(now.series);
  const open = slot === undefined ? now.open[0] : now.open.find((time) => time.slot === slot);
  const next = open ? null : slot === undefined ? null : comingAt(planner, now, slot);
  const time = open ?? next;
  if (!time) return null;
  now.open = now.open.filter((other) => other !== open);
  takeMove(now, time.slot);
  if (!byCalendar) countFrom(planner, now, time, 'skip', at);
  else if (next && now.passed !== null && next.slot <= now.passed) now.count--;
  else if (next) {
    now.ahead = now.ahead.filter((other) => other !== next.slot);
    now.out = withSlot(now.out, next.slot);
  } else if (now.ahead.includes(time.slot)) {
    now.ahead = now.ahead.filter((other) => other !== time.slot);
    now.out = withSlot(now.out, time.slot);
  } else now.count--;
  return changed(now, open ? [open] : []);
}

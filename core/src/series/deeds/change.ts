import type { LocalMoment } from '../../calendar/time.ts';
import { checkSeries } from '../../definition/check.ts';
import { PARTS } from '../../definition/parts.ts';
import type { Instant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import type { Series } from '../definition/definition.ts';
import type { Occurrence, Progress } from '../life/progress.ts';
import { comingAt, upcoming, withSlot, yieldsMoved } from '../plan/coming.ts';
import { justBefore } from '../plan/edges.ts';
import { isSlotted, type Planner, type SlottedPlan } from '../plan/plan.ts';
import { changed, type Doing } from './deeds.ts';
import { keepMoves } from './moves.ts';

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

/** Another definition from a slot on (R13). */
export const change: Doing<'change'> = ({ slot, series: parts }, { planner, now, at }) => {
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
  const isCalendar = isSlotted(planner(before));
  const becomesCalendar = isSlotted(planner(after));
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
  const current = planner(now.series);
  const gone = isCalendar && isSlotted(current) ? takeBack(current, now, from) : uncount(now, from);
  now.series = after;
  now.turns = [];
  if (becomesCalendar) {
    const cursor = justBefore(wholeDay(planner, before, gone[0]?.slot ?? from));
    if (gone.length || now.passed === null || cursor > now.passed) now.passed = cursor;
    if (gone.length) now.opened = null;
  } else if (isCalendar) now.base = baseAfter(planner, now, { from, hadOpen }, at);
  keepYielded(planner, now, from);
  return changed(now, gone);
};

/** Of the slots to come that were moved, keeps those that the repeat yields now under the same name (R13). */
function keepYielded(planner: Planner, now: Progress, from: LocalMoment): void {
  if (!now.moved) return;
  if (!isSlotted(planner(now.series))) {
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
  const plan = planner(series);
  return isSlotted(plan) && plan.slotBefore(slot)?.startsWith(day) ? slot : day;
}

const isTouched = (time: Occurrence) =>
  time.moved || time.part !== undefined || time.note !== undefined || Boolean(time.tally);

/**
 * Takes out the open times from a slot on that nobody touched, as though they had not opened: the
 * last ones, back to one that has ended or was touched.
 */
function takeBack(plan: SlottedPlan, now: Progress, from: LocalMoment): Occurrence[] {
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

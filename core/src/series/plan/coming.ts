import type { LocalMoment } from '../../calendar/time.ts';
import type { Series } from '../definition/definition.ts';
import { amongMoved, movedPending, openingOf, plannedOf } from '../deeds/moves.ts';
import { placeIn } from '../life/openTimes.ts';
import type { MovedSlot, Pending, Progress } from '../life/progress.ts';
import { justBefore } from './edges.ts';
import {
  isSlotted,
  type CalendarSlot,
  type Plan,
  type Planner,
  type SlottedPlan,
  type CountedPlan,
} from './plan.ts';

/** What is still to come of a to-do: slots in order, without what went by, was taken out or paused. */

interface Found {
  slot: CalendarSlot;
  plan: SlottedPlan;
}

/** The first slot after `after`, by the definition that holds from there on (R13). */
function rawAfter(planner: Planner, progress: Progress, after: LocalMoment | null): Found | null {
  let from = after;
  let series = progress.series;
  for (let i = 0; ; i++) {
    const plan = planner(series);
    const turn = progress.turns[i];
    const slot = isSlotted(plan) ? plan.slotAfter(from) : null;
    if (slot && isSlotted(plan) && (!turn || slot.slot < turn.from)) return { slot, plan };
    if (!turn) return null;
    series = turn.series;
    const start = justBefore(turn.from);
    if (from === null || start > from) from = start;
  }
}

/** Whether so many times end a to-do, now or from a later time on (R11). */
function isCounted({ series, turns }: Progress): boolean {
  const counts = ({ ends }: Series) => Boolean(ends && 'after' in ends);
  return counts(series) || turns.some((turn) => counts(turn.series));
}

/**
 * The slots that the calendar yields from where a to-do stands, in order: `gone` are those that were
 * finished ahead, opened already, or were moved, and they count.
 * @param waits whether pauses without an end hold what lies in them; without, they are passed over
 */
function* yielded(
  planner: Planner,
  progress: Progress,
  waits = true,
): Generator<Found & { gone: boolean }> {
  const { stop } = progress;
  const ahead = new Set(progress.ahead);
  const out = new Set(progress.out);
  let used = progress.count;
  let after = progress.passed;
  for (;;) {
    planner.spend();
    const found = rawAfter(planner, progress, after);
    if (!found || (stop !== null && found.slot.slot >= stop)) return;
    const { slot, plan } = found;
    after = slot.slot;
    const gone = ahead.has(slot.slot);
    if (!gone) {
      if (out.has(slot.slot)) continue;
      const pause = plan.pauseOf(slot);
      if (pause && pause.to !== Infinity) {
        after = pastPause(plan.pastPause(pause), after, progress);
        continue;
      }
      if (pause && waits) return;
    }
    const { ends } = plan.series;
    if (ends && 'after' in ends && used >= ends.after) return;
    used++;
    yield { ...found, gone };
  }
}

/** The slots that will come by the calendar where they are, in order: not those that were moved. */
function* coming(planner: Planner, progress: Progress, waits = true): Generator<Found> {
  for (const { slot, plan, gone } of yielded(planner, progress, waits))
    if (!gone) yield { slot: amongMoved(planner, plan, progress, slot), plan };
}

/** The slots of the calendar that will come where the person moved them, in order of their slots. */
export function movedTimes(
  planner: Planner,
  progress: Progress,
): (Pending & { due: LocalMoment })[] {
  if (!progress.moved || !isSlotted(planner(progress.series))) return [];
  return progress.moved.flatMap((moved) => {
    const plan = planInForce(planner, progress, moved.slot);
    return isSlotted(plan) ? [movedPending(planner, plan, progress, moved)] : [];
  });
}

/** The definition that holds for a slot (R13). */
function planInForce(planner: Planner, { series, turns }: Progress, slot: LocalMoment): Plan {
  return planner(turns.findLast(({ from }) => slot >= from)?.series ?? series);
}

/**
 * Whether the calendar yields the slot of a move where a to-do stands now, within its ends and count,
 * pauses aside (R13). The move is taken to be in place.
 */
export function yieldsMoved(planner: Planner, progress: Progress, slot: LocalMoment): boolean {
  if (progress.stop !== null && slot >= progress.stop) return false;
  if (rawAfter(planner, progress, justBefore(slot))?.slot.slot !== slot) return false;
  if (!isCounted(progress) || (progress.passed !== null && slot <= progress.passed)) return true;
  for (const { slot: next, gone } of yielded(planner, progress, false)) {
    if (next.slot === slot) return gone;
    if (next.slot > slot) return false;
  }
  return false;
}

/**
 * From where to go on inside a pause: nothing of it is gone through but its end, what was done ahead,
 * and where another definition begins.
 */
function pastPause(end: LocalMoment, after: LocalMoment, { ahead, turns }: Progress): LocalMoment {
  const stops = [ahead.find((slot) => slot > after), turns.find(({ from }) => from > after)?.from];
  const to = stops.reduce<LocalMoment>((least, stop) => {
    const before = stop === undefined ? least : justBefore(stop);
    return endOf(before) < endOf(least) ? before : least;
  }, end);
  return to > after ? to : after;
}

/** A date alone, from which to go on, stands for its end. */
const endOf = (moment: LocalMoment) => (moment.length === 10 ? `${moment}T24` : moment);

function firstOf(planner: Planner, progress: Progress, waits = true): Pending | 'held' | null {
  const plan = planner(progress.series);
  if (!isSlotted(plan)) return pendingOf(planner, plan, progress);
  const [moved] = movedTimes(planner, progress);
  for (const { slot } of coming(planner, progress, waits))
    return moved && moved.slot < slot.slot ? moved : slot;
  return moved ?? null;
}

/** What comes of a one-off, or after the one before was finished, where the person moved it perhaps. */
function pendingOf(
  planner: Planner,
  plan: CountedPlan,
  progress: Progress,
): Pending | 'held' | null {
  const { base, stop } = progress;
  const natural = base && plan.counted(base, progress.done);
  if (!natural) return null;
  const move = progress.moved?.[0];
  if (natural === 'held' && !move?.setDue) return 'held';
  const slot = natural === 'held' ? move!.slot : natural.slot;
  if (stop !== null && slot >= stop) return null;
  if (!move || move.slot !== slot) return natural;
  const due = move.setDue || natural === 'held' ? plan.countedOn(base, move.due) : natural;
  if (due === 'held' || due.due === null) return due === 'held' ? due : natural;
  return {
    slot,
    due: due.due,
    ...openingOf(planner, movedTo(planner, move, due.due), due.opensAt),
  };
}

/** A move as it holds with another due day: a plan that came with the due day goes along. */
function movedTo(planner: Planner, move: MovedSlot, due: LocalMoment): MovedSlot {
  if (due === move.due) return move;
  const { plan } = plannedOf(planner, { due, moved: { ...move, byDue: 0 } });
  return { ...move, due, plan: plan! };
}

/** The next time that has not opened, in the order of the slots, or null. */
export function upcoming(planner: Planner, progress: Progress): Pending | null {
  const next = firstOf(planner, progress);
  return next === 'held' ? null : next;
}

/** Whether anything will come once a pause without an end is over: such a pause is no end (R11). */
export function willCome(planner: Planner, progress: Progress): boolean {
  return firstOf(planner, progress, false) !== null;
}

/** What opens next of a to-do, as it goes on by opening one after another and in no other way. */
export interface Openings {
  /** The time that opens next, or null. */
  next(): Pending | null;
  /** Goes on: that time has opened. Gives whether none to come was before it. */
  open(slot: LocalMoment): boolean;
}

/**
 * The next time that opens is the next slot, but where the first time of a later day opens long
 * before, it is that one, though others before it are still to open at their own times (R5). Those
 * that lead a day open in their order, and so do the others.
 */
export function openingsOf(planner: Planner, now: Progress): Openings {
  const plan = planner(now.series);
  if (!isSlotted(plan)) return { next: () => upcoming(planner, now), open: () => true };
  const own = ownOpenings(planner, plan, now);
  const moved = movedTimes(planner, now).sort(inOpening);
  if (!moved.length) return own;
  return {
    next() {
      const next = own.next();
      return moved[0] && (!next || inOpening(moved[0], next) < 0) ? moved[0] : next;
    },
    open(slot) {
      const place = moved.findIndex((it) => it.slot === slot);
      if (place < 0) return own.open(slot);
      moved.splice(place, 1);
      return false;
    },
  };
}

/** In the order in which they open, those at one instant in that of their slots. */
const inOpening = (a: Pending, b: Pending) =>
  a.opensAt - b.opensAt || (a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : 0);

/** What opens next of the slots that are where the calendar yields them. */
function ownOpenings(planner: Planner, plan: SlottedPlan, now: Progress): Openings {
  const { several, opensEarly } = plan;
  const crossed = opensEarly && (several || now.moved !== undefined || now.onto !== undefined);
  const all = peekable(coming(planner, now));
  if (!crossed)
    return {
      next: () => all.first()?.slot ?? null,
      open() {
        all.skip();
        return true;
      },
    };
  const leads = peekable(coming(planner, now), ({ slot }) => slot.leads);
  const opened = new Set<LocalMoment>();
  const firstLeft = (slots: Peekable) => {
    while (opened.has(slots.first()?.slot.slot ?? '')) slots.skip();
    return slots.first()?.slot ?? null;
  };
  return {
    next() {
      const [slot, lead] = [firstLeft(all), firstLeft(leads)];
      return slot && lead && lead.opensAt < slot.opensAt ? lead : slot;
    },
    open(slot) {
      const isFirst = firstLeft(all)?.slot === slot;
      opened.add(slot);
      return isFirst;
    },
  };
}

interface Peekable {
  first(): Found | null;
  skip(): void;
}

function peekable(all: Generator<Found>, fits: (it: Found) => boolean = () => true): Peekable {
  let met: Found | null | undefined;
  return {
    first() {
      if (met !== undefined) return met;
      for (;;) {
        const { value, done } = all.next();
        if (done) return (met = null);
        if (fits(value)) return (met = value);
      }
    },
    skip: () => void (met = undefined),
  };
}

/** The time that opens next, or null. */
export function nextOpening(planner: Planner, progress: Progress): Pending | null {
  return openingsOf(planner, progress).next();
}

/** The times to come by the calendar where it yields them, in order; beside {@link movedTimes}. */
export function* comingTimes(planner: Planner, progress: Progress): Generator<CalendarSlot> {
  for (const { slot } of coming(planner, progress)) yield slot;
}

/** A time to come by its slot, or null where none of that name will come. */
export function comingAt(planner: Planner, progress: Progress, slot: LocalMoment): Pending | null {
  if (!isSlotted(planner(progress.series))) {
    const next = upcoming(planner, progress);
    return next?.slot === slot ? next : null;
  }
  const moved = movedTimes(planner, progress).find((it) => it.slot === slot);
  if (moved) return moved;
  if (progress.passed !== null && slot <= progress.passed) return null;
  // Looked up first, so that a day far off that is none is not walked to.
  const found = rawAfter(planner, progress, justBefore(slot));
  if (found?.slot.slot !== slot) return null;
  if (!isCounted(progress))
    return isFree(progress, found) ? amongMoved(planner, found.plan, progress, found.slot) : null;
  for (const { slot: next } of coming(planner, progress)) {
    if (next.slot === slot) return next;
    if (next.slot > slot) return null;
  }
  return null;
}

/** Whether a slot that was not passed will come: without a count, nothing before it matters. */
function isFree({ ahead, out, stop }: Progress, { slot, plan }: Found): boolean {
  if (ahead.includes(slot.slot) || out.includes(slot.slot)) return false;
  if (stop !== null && slot.slot >= stop) return false;
  return plan.pauseOf(slot) === null;
}

/**
 * Marks a slot as gone by as it opens, with those before it.
 * @param isFirst whether none to come is before it: else it alone has gone by, ahead of others
 */
export function goBy(now: Progress, slot: LocalMoment, isFirst: boolean): void {
  if (!isFirst) {
    now.ahead = withSlot(now.ahead, slot);
    return;
  }
  const isLeft = (other: LocalMoment) => other > slot;
  const ahead =
    now.ahead[0] === undefined || isLeft(now.ahead[0]) ? now.ahead : now.ahead.filter(isLeft);
  now.count += 1 + now.ahead.length - ahead.length;
  now.passed = slot;
  now.ahead = ahead;
  if (now.out[0] !== undefined && !isLeft(now.out[0])) now.out = now.out.filter(isLeft);
  while (now.turns[0] && slot >= now.turns[0].from) {
    now.series = now.turns[0].series;
    now.turns = now.turns.slice(1);
  }
}

/** A list of slots in order with one more in it, once. */
export function withSlot(slots: readonly LocalMoment[], slot: LocalMoment): LocalMoment[] {
  const place = placeIn(slots, (other) => other < slot);
  if (slots[place] === slot) return [...slots];
  return [...slots.slice(0, place), slot, ...slots.slice(place)];
}

import { formatDay, parseDay, type Day, type LocalDate } from '../../calendar/day.ts';
import { parseMoment, type LocalMoment } from '../../calendar/time.ts';
import type { Instant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import type { MovedSlot, Occurrence, Pending, Progress } from '../life/progress.ts';
import type { CalendarSlot, Planner, SlottedPlan } from '../plan/plan.ts';

/** Slots that a person moved, before they opened and after (R9). */

/** What a move gives: the day to do it, with an hour perhaps, the due moment, or both. */
export interface Move {
  plan?: LocalMoment;
  due?: LocalMoment;
  /** So many times a period: the days for which its missing ones are planned, in order. */
  days?: LocalDate[];
  /** It was proposed, and taken over: what the person moved by hand stays where it is (evening out). */
  proposed?: boolean;
}

type Movable = Pick<
  Occurrence,
  'due' | 'plan' | 'planAt' | 'planBy' | 'withDue' | 'meant' | 'slot' | 'days' | 'proposed'
>;

/** Of one period, so many days at most. */
const MOST_DAYS = 31;

/**
 * Moves a time, in place: `due` alone takes the plan along unless that had been moved by itself.
 * @throws CoreError `date.…`, `time.…` with `due` or `plan` as its place
 */
export function moveTime({ clock }: Planner, time: Movable, to: Move): void {
  const planOn = (plan: LocalDate, by: 'due' | 'person') => {
    time.plan = plan;
    time.planBy = by;
    delete time.planAt;
    delete time.withDue;
    delete time.meant;
  };
  if (to.due !== undefined) {
    parseMoment(to.due, 'due');
    const due = clock.shown(to.due);
    time.due = due;
    delete time.planAt;
    const isOwn = time.planBy === 'person' && !time.withDue;
    if (to.plan === undefined && !isOwn) planOn(formatDay(clock.dayOfMoment(due)), 'due');
  }
  if (to.plan !== undefined) {
    const { minute } = parseMoment(to.plan, 'plan');
    const planned = clock.shown(to.plan);
    planOn(formatDay(clock.dayOfMoment(planned)), 'person');
    if (minute !== null) time.planAt = planned;
    if (to.due !== undefined) time.withDue = true;
  }
  if (to.days !== undefined) {
    if (to.days.length > MOST_DAYS)
      throw new CoreError('days.many', 'days', 'A period has 31 days at most.');
    time.days = [...new Set(to.days.map((day) => formatDay(parseDay(day, 'days'))))].sort();
  }
  if (to.proposed) time.proposed = true;
  else delete time.proposed;
}

/** What matters of an open time alone: what has ended keeps none of it. */
export function settled(time: Occurrence): void {
  delete time.withDue;
  delete time.meant;
  delete time.days;
  delete time.proposed;
  delete time.wouldOpen;
}

/** A slot to come as it is once it is moved. */
export function movedSlot(planner: Planner, of: Pending, to: Move): MovedSlot {
  const { due, plan, planBy } = plannedOf(planner, of);
  const time: Movable = { slot: of.slot, due, plan, planBy, ...of.moved };
  moveTime(planner, time, to);
  const { slot, planAt, withDue, days, proposed } = time;
  return {
    slot,
    due: time.due!,
    plan: time.plan!,
    planBy: time.planBy as MovedSlot['planBy'],
    ...(planAt === undefined ? {} : { planAt }),
    ...(withDue ? { withDue } : {}),
    ...(days ? { days } : {}),
    ...(proposed ? { proposed } : {}),
    ...(to.due !== undefined || of.moved?.setDue ? { setDue: true } : {}),
  };
}

/** For which day one that has not opened is planned. */
export function plannedOf(
  { clock }: Planner,
  { due, moved }: Pick<Pending, 'due' | 'moved'>,
): { due: LocalMoment | null; plan: LocalDate | null; planBy: 'due' | 'person' } {
  if (moved)
    return { due, plan: moved.planBy === 'due' ? dayOf(due) : moved.plan, planBy: moved.planBy };
  return { due, plan: dayOf(due), planBy: 'due' };

  function dayOf(moment: LocalMoment | null) {
    return moment === null ? null : formatDay(clock.dayOfMoment(moment));
  }
}

/** Moved ones stand among the others of their days by when they are due, open or still to come. */
const standing = ({ moved = [], onto = [] }: Progress) => [...moved, ...onto];

const comesFirst = (
  a: { slot: LocalMoment; due: LocalMoment },
  b: { slot: LocalMoment; due: LocalMoment },
) => a.due < b.due || (a.due === b.due && a.slot < b.slot);

/** Whether a time by the calendar is the first of those that are due on its day (R5, R9). */
function isFirstOfDay(
  planner: Planner,
  plan: SlottedPlan,
  progress: Progress,
  it: { slot: LocalMoment; due: LocalMoment },
): boolean {
  const { clock } = planner;
  const moves = standing(progress);
  const day = clock.dayOfMoment(it.due);
  const others = [
    ...plan.dueOn(day).filter(({ slot }) => !moves.some((move) => move.slot === slot)),
    ...moves.filter(({ due }) => clock.dayOfMoment(due) === day),
  ];
  return !others.some((other) => other.slot !== it.slot && comesFirst(other, it));
}

/** A slot of the calendar as it stands among moved ones. */
export function amongMoved(
  planner: Planner,
  plan: SlottedPlan,
  progress: Progress,
  slot: CalendarSlot,
): CalendarSlot {
  if (!progress.moved?.length && !progress.onto?.length) return slot;
  if (plan.kind === 'quota') return slot;
  const leads = isFirstOfDay(planner, plan, progress, slot);
  return leads === slot.leads
    ? slot
    : { ...slot, leads, opensAt: plan.opening(slot.slot, slot.due, leads) };
}

/** A moved slot of the calendar as it is to come: it opens by its due day, or with an earlier planned day. */
export function movedPending(
  planner: Planner,
  plan: SlottedPlan,
  progress: Progress,
  moved: MovedSlot,
): Pending & { due: LocalMoment } {
  const { slot, due } = moved;
  const leads = isFirstOfDay(planner, plan, progress, moved);
  const byDue = plan.opening(slot, due, leads);
  return { slot, due, ...openingOf(planner, moved, byDue) };
}

/** When a moved one opens that would by its due day at `byDue`: a planned day before that day opens it. */
export function openingOf(
  { clock }: Planner,
  moved: MovedSlot,
  byDue: Instant,
): Pick<Pending, 'opensAt'> & Required<Pick<Pending, 'moved'>> {
  const planned = parseDay(moved.plan);
  const isEarly = moved.planBy === 'person' && planned < clock.dayAt(byDue);
  return { opensAt: isEarly ? clock.startOf(planned) : byDue, moved: { ...moved, byDue } };
}

/** Keeps a move of a slot to come in place of an earlier one. */
export function putMove(now: Progress, move: MovedSlot): void {
  const others = (now.moved ?? []).filter(({ slot }) => slot !== move.slot);
  now.moved = [...others, move].sort((a, b) => (a.slot < b.slot ? -1 : 1));
}

/** Lets go of the move of a slot, as its time opens, ends or is no more. */
export function takeMove(now: Progress, slot: LocalMoment): void {
  keepMoves(now, (it) => it.slot !== slot);
}

/** Lets go of the moves that do not fit; gives their slots. */
export function keepMoves(now: Progress, fits: (move: MovedSlot) => boolean): LocalMoment[] {
  const all = now.moved ?? [];
  const kept = all.filter(fits);
  if (kept.length) now.moved = kept;
  else delete now.moved;
  return all.filter((move) => !kept.includes(move)).map(({ slot }) => slot);
}

/** A moved one stands among the times of its day even when it has opened, or is done. */
export function standOn(now: Progress, { slot, due }: Pick<MovedSlot, 'slot' | 'due'>): void {
  now.onto = [...(now.onto ?? []).filter((it) => it.slot !== slot), { slot, due }];
}

/** After so many days nothing that is still to come stands beside one that was moved. */
const LONG_GONE = 60;

/** Forgets where moved ones stood, once all days that this could matter for are over. */
export function forgetMoved({ clock }: Planner, now: Progress, today: Day): void {
  if (!now.onto) return;
  const last = ({ slot, due }: { slot: LocalMoment; due: LocalMoment }) =>
    Math.max(clock.dayOfMoment(due), parseMoment(slot).day) + LONG_GONE;
  const left = now.onto.filter((it) => last(it) >= today);
  if (left.length) now.onto = left;
  else delete now.onto;
}

import { formatDay, parseDay, type Day } from '../calendar/day.ts';
import type { LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { datesOf } from '../rule/expand.ts';
import { parseRule } from '../rule/parse.ts';
import type { Rule } from '../rule/rule.ts';
import { beginLongAgo } from '../series/life/begin.ts';
import { countFrom } from '../series/deeds/counting.ts';
import { ruleOf, type Series } from '../series/definition/definition.ts';
import {
  isSlotted,
  type CalendarSlot,
  type Planner,
  type SlottedPlan,
} from '../series/plan/plan.ts';

/** Which times of a to-do are written: those of a rule by the rule, others one by one. */

/** So many at most are looked ahead. */
export const MOST = 100;
const LAST: LocalMoment = '9999-12-30';

/** Two years on. */
export const horizonOf = (today: Day): Day => today + 731;

/** Whether a slot really comes: in no pause, and within the count of what ends it. */
function comes(plan: SlottedPlan, slot: CalendarSlot): boolean {
  const { ends } = plan.series;
  if (plan.pauseOf(slot)) return false;
  return !(ends && 'after' in ends) || plan.countTo(slot.slot) <= ends.after;
}

/** The slots that come from a day on, up to another, so many at most. */
export function slotsFrom(plan: SlottedPlan, from: Day, to: Day, most = MOST): CalendarSlot[] {
  const found: CalendarSlot[] = [];
  let at = plan.slotAfter(formatDay(from - 1));
  // A date alone stands for its end.
  while (at && found.length < most && parseDay(at.slot.slice(0, 10)) <= to) {
    if (comes(plan, at)) found.push(at);
    at = plan.slotAfter(at.slot);
  }
  return found;
}

const isEndless = ({ pauses = [] }: Series) => pauses.some(({ to }) => to === null);

/** The last slot that comes; null where there is none, `endless` where there is no last one. */
export function lastSlot(plan: SlottedPlan, rule: Rule | null): LocalMoment | null | 'endless' {
  const { series } = plan;
  const isListed = series.repeat === null || series.repeat.by === 'dates';
  const isFinite = isListed || series.ends || rule?.count || rule?.until || isEndless(series);
  if (!isFinite) return 'endless';
  const { ends } = series;
  let slot = plan.slotBefore(LAST);
  if (ends && 'after' in ends) {
    // Halved until the last one that counts is found.
    const first = parseDay(series.start!);
    let [low, high] = [first - 1, slot === null ? first : dayIn(slot)];
    while (low < high) {
      const middle = Math.ceil((low + high) / 2);
      if (plan.countTo(`${formatDay(middle)}`) <= ends.after) low = middle;
      else high = middle - 1;
    }
    slot = plan.slotBefore(formatDay(low + 1));
    while (slot !== null && plan.countTo(slot) > ends.after) slot = plan.slotBefore(slot);
    for (;;) {
      const next: CalendarSlot | null = plan.slotAfter(slot);
      if (!next || plan.countTo(next.slot) > ends.after) break;
      slot = next.slot;
    }
  }
  while (slot !== null) {
    const found: CalendarSlot | null = slotAt(plan, slot);
    const pause = found && plan.pauseOf(found);
    if (!pause) return slot;
    slot = plan.slotBefore(formatDay(pause.from));
  }
  return null;
}

const dayIn = (slot: LocalMoment) => parseDay(slot.slice(0, 10));

/** A slot by its name; null where the definition does not yield it. */
export function slotAt(plan: SlottedPlan, slot: LocalMoment): CalendarSlot | null {
  const day = formatDay(dayIn(slot) - 1);
  let at = plan.slotAfter(day);
  while (at && at.slot < slot) at = plan.slotAfter(at.slot);
  return at?.slot === slot ? at : null;
}

/** The dates of a rule alone, from its start to a day. */
export function rawDates(rule: Rule, start: Day, to: Day): Day[] {
  return datesOf(rule, start).list(start - 1, to, 20_000);
}

/** The rule of a definition, read; null for none. */
export function ruleIn(series: Series): Rule | null {
  const text = ruleOf(series);
  return text === null ? null : parseRule(text);
}

/** After I finish: the slot and due of what comes, from the last time that was done or skipped. */
export function nextCounted(
  planner: Planner,
  series: Series,
  last: { status: string; due: LocalMoment | null; closedAt: Instant } | null,
  done: number,
  now: Instant,
): { slot: LocalMoment; due: LocalMoment | null } | null {
  const progress = beginLongAgo(series, now);
  const { status, closedAt } = last ?? {};
  if (last && closedAt !== undefined)
    countFrom(planner, progress, last, status === 'skipped' ? 'skip' : 'done', closedAt);
  const plan = planner(series);
  const next = isSlotted(plan) ? null : plan.counted(progress.base!, done);
  return next === 'held' || next === null ? null : next;
}

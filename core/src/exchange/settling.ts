import { parseMoment, type LocalMoment } from '../calendar/time.ts';
import { formatDay } from '../calendar/day.ts';
import { formatInstant, parseInstant, type Instant } from '../calendar/zone.ts';
import type { Filled } from '../definition/details.ts';
import { CoreError } from '../errors.ts';
import { MOST_NOTE } from '../series/deeds/fill.ts';
import { deed } from '../series/deeds/deed.ts';
import type { Deed } from '../series/deeds/deeds.ts';
import { advance } from '../series/life/advance.ts';
import { begin, beginLongAgo } from '../series/life/begin.ts';
import { countFrom } from '../series/deeds/counting.ts';
import type { Series } from '../series/definition/definition.ts';
import { standOn } from '../series/deeds/moves.ts';
import type { Occurrence, Progress } from '../series/life/progress.ts';
import { isSlotted, type Planner } from '../series/plan/plan.ts';
import type { ExchangedTime } from './exchanged.ts';

/** A to-do with a record that comes in: as it stands when it comes to be here. */
export interface Settled {
  /** As it begins here: what comes is counted on from its record. */
  begun: Progress;
  /** Its ended times, numbered from 1. */
  ended: Occurrence[];
  /** Slots of open times that could not be found: nothing of them is kept. */
  lost: LocalMoment[];
}

/**
 * Makes a to-do of a definition and the times that it had elsewhere: those that ended are its record, and
 * what comes next is what would come had it been here all along.
 * @throws CoreError `exchange.time` for a time that is none
 */
export function settle(
  planner: Planner,
  series: Series,
  times: readonly ExchangedTime[],
  at: Instant,
): Settled {
  const ended = endedOf(planner, times, at);
  const finished = ended.filter(({ status }) => status !== 'missed');
  const now = startOf(planner, series, ended, at);
  if (isSlotted(planner(series))) keepMoved(planner, now, times, at);
  const n = ended.length;
  now.open = now.open.map((time) => ({ ...time, number: time.number + n }));
  now.number += n;
  const done = ended.filter(({ status }) => status === 'done');
  now.done = done.length;
  const moments = done.map(({ closedAt }) => closedAt!);
  now.lastDone = moments.length ? Math.max(...moments) : null;
  now.lateness = done
    .toSorted((a, b) => a.closedAt! - b.closedAt!)
    .filter(({ due }) => due !== null)
    .slice(-5)
    .map((it) => planner.clock.dayAt(it.closedAt!) - planner.clock.dayOfMoment(it.due!));
  const written = finished.flatMap(({ number, filled }) =>
    filled?.answers || filled?.spent !== undefined ? [{ number, ...pick(filled) }] : [],
  );
  if (written.length) now.written = written.slice(-2);
  const { progress, lost } = asOpen(planner, now, times, at);
  // What is entered for before it came is done to it as it begins here.
  return { begun: { ...progress, through: null }, ended, lost };
}

const pick = ({ answers, spent }: Filled) => ({
  ...(answers ? { answers } : {}),
  ...(spent === undefined ? {} : { spent }),
});

function filledOf(time: ExchangedTime): Filled | undefined {
  const { ticks, steps, answers, spent, kept } = time;
  const filled: Filled = {
    ...(ticks?.length ? { ticks } : {}),
    ...(steps?.length ? { added: steps } : {}),
    ...(answers && Object.keys(answers).length ? { answers } : {}),
    ...(spent === undefined ? {} : { spent }),
    ...(kept?.length ? { kept } : {}),
  };
  return Object.keys(filled).length ? filled : undefined;
}

/** The times that have ended, in the order of their slots, each once. */
function endedOf(planner: Planner, times: readonly ExchangedTime[], at: Instant): Occurrence[] {
  const found = times
    .filter(({ status }) => status !== 'open')
    .toSorted((a, b) => (a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : 0));
  return found.map((time, i): Occurrence => {
    const { slot, due, plan, status, part, tally, note } = time;
    const due_ = due ?? null;
    const closed = Math.min(at, closedOf(planner, time, at));
    const filled = filledOf(time);
    return {
      number: i + 1,
      slot,
      due: due_,
      plan: plan ?? (due_ === null ? null : formatDay(planner.clock.dayOfMoment(due_))),
      planBy: 'due',
      moved: due_ !== null && due_.slice(0, 10) !== slot.slice(0, 10),
      status,
      openedAt: null,
      closedAt: closed,
      rolled: 0,
      ...(part ? { part } : {}),
      ...(tally ? { tally } : {}),
      ...(note ? { note: note.slice(0, MOST_NOTE) } : {}),
      ...(filled ? { filled } : {}),
    };
  });
}

/** When it ended: as it says, else when it was due. */
function closedOf({ clock }: Planner, { closedAt, due }: ExchangedTime, at: Instant): Instant {
  if (closedAt) return parseInstant(closedAt, 'closedAt');
  return due ? clock.instantOf(due) : at;
}

/** How it stands beside its record: what has ended neither opens nor comes again. */
function startOf(
  planner: Planner,
  series: Series,
  ended: readonly Occurrence[],
  at: Instant,
): Progress {
  const isEnded = new Set(ended.map(({ slot }) => slot));
  const plan = planner(series);
  if (!ended.length) return begin(planner, series, at);
  if (isSlotted(plan)) {
    const now = begin(planner, series, at);
    now.open = now.open.filter(({ slot }) => !isEnded.has(slot));
    const ahead = [...isEnded].filter((slot) => now.passed === null || slot > now.passed);
    now.ahead = [...new Set([...now.ahead, ...ahead])].sort();
    return now;
  }
  const now = beginLongAgo(series, at);
  if (series.repeat === null) return { ...now, base: { ...now.base!, used: true } };
  const last = ended
    .filter(({ status }) => status !== 'missed')
    .toSorted((a, b) => a.closedAt! - b.closedAt!)
    .at(-1);
  if (!last) return begin(planner, series, at);
  countFrom(planner, now, last, last.status === 'done' ? 'done' : 'skip', last.closedAt!);
  return now;
}

/** Open times that were moved are kept where a newer one ends those of before (R5): they are open at once. */
function keepMoved(
  planner: Planner,
  now: Progress,
  times: readonly ExchangedTime[],
  at: Instant,
): void {
  const { clock } = planner;
  const today = clock.dayAt(at);
  for (const { slot, number, due, plan, status } of times) {
    const isMoved = due !== null && due !== slot;
    if (status !== 'open' || !isMoved || planner(now.series).kind === 'quota') continue;
    if (number === undefined && clock.dayOfMoment(slot) >= today) continue;
    now.open = now.open.filter((it) => it.slot !== slot);
    const dueDay = formatDay(clock.dayOfMoment(due));
    now.open.push({
      number: now.number++,
      slot,
      due,
      plan: plan ?? dueDay,
      planBy: plan && plan !== dueDay ? 'person' : 'due',
      moved: true,
      status: 'open',
      openedAt: at,
      closedAt: null,
      rolled: 0,
    });
    if (now.passed === null || slot > now.passed) now.ahead = [...now.ahead, slot].sort();
    standOn(now, { slot, due });
  }
  now.open = now.open.sort((a, b) => (a.slot < b.slot ? -1 : 1));
}

/** What was written down with times that are open, done to them as they open here. */
function asOpen(
  planner: Planner,
  now: Progress,
  times: readonly ExchangedTime[],
  at: Instant,
): { progress: Progress; lost: LocalMoment[] } {
  const open = times.filter(({ status }) => status === 'open');
  if (!open.length) return { progress: now, lost: [] };
  let { progress } = advance(planner, now, at);
  const lost: LocalMoment[] = [];
  for (const time of open) {
    let isFound = false;
    for (const it of deedsOf(planner, progress, time)) {
      try {
        const done = deed(planner, progress, it, at);
        if (!done) continue;
        progress = done.progress;
        isFound = true;
      } catch (error) {
        if (!(error instanceof CoreError)) throw error;
      }
    }
    const isThere = progress.open.some(({ slot }) => slot === time.slot);
    if (!isFound && !isThere) lost.push(time.slot);
    const kept = progress.open.find(({ slot }) => slot === time.slot);
    if (kept && time.kept?.length) kept.filled = { ...kept.filled, kept: time.kept };
  }
  return { progress, lost };
}

function deedsOf(planner: Planner, progress: Progress, time: ExchangedTime): Deed[] {
  const { slot, due, plan, part, tally, note, ticks = [], steps = [], answers, spent } = time;
  const there = progress.open.find((it) => it.slot === slot);
  const dueThere = there ? there.due : slot;
  const dayOf = (moment: LocalMoment) => formatDay(planner.clock.dayOfMoment(moment));
  const to = {
    ...(due && due !== dueThere ? { due } : {}),
    ...(plan && plan !== (due ? dayOf(due) : null) ? { plan } : {}),
  };
  // A date that has passed already is no plan any more: it rolls as all do.
  if (to.plan && due && parseMoment(to.plan).day < parseMoment(due).day && !to.due) delete to.plan;
  const written = { ...(answers ? { answers } : {}), ...(spent === undefined ? {} : { spent }) };
  return [
    ...(Object.keys(to).length ? [{ do: 'move' as const, slot, ...to }] : []),
    ...Array.from({ length: tally ?? 0 }, () => ({ do: 'tally' as const, slot })),
    ...(part ? [{ do: 'part' as const, slot, part }] : []),
    ...(note ? [{ do: 'note' as const, slot, note: note.slice(0, MOST_NOTE) }] : []),
    ...steps.map((step) => ({ do: 'addStep' as const, slot, step })),
    ...ticks.map((step) => ({ do: 'tick' as const, slot, step, on: true })),
    ...(Object.keys(written).length ? [{ do: 'answer' as const, slot, ...written }] : []),
  ];
}

/** The times of a to-do as they are told: those that ended, those that are open, and moved ones to come. */
export function timesTold(progress: Progress, ended: readonly Occurrence[]): ExchangedTime[] {
  const instant = (at: Instant | null) => (at === null ? {} : { closedAt: formatInstant(at) });
  const told = (time: Occurrence): ExchangedTime => {
    const { number, slot, due, plan, status, closedAt, part, tally, note, filled = {} } = time;
    const { ticks, added, answers, spent, kept } = filled;
    return {
      slot,
      number,
      due,
      ...(plan === null || plan === due?.slice(0, 10) ? {} : { plan }),
      status,
      ...instant(closedAt),
      ...(part === undefined ? {} : { part }),
      ...(tally === undefined ? {} : { tally }),
      ...(note === undefined ? {} : { note }),
      ...(ticks?.length ? { ticks } : {}),
      ...(added?.length ? { steps: added } : {}),
      ...(answers ? { answers } : {}),
      ...(spent === undefined ? {} : { spent }),
      ...(kept?.length ? { kept: kept as NonNullable<ExchangedTime['kept']> } : {}),
    };
  };
  const moved = (progress.moved ?? []).map(({ slot, due, plan }): ExchangedTime => ({
    slot,
    due,
    ...(plan === due.slice(0, 10) ? {} : { plan }),
    status: 'open',
  }));
  return [...ended.map(told), ...progress.open.map(told), ...moved];
}

/** When a to-do comes back, as it is told: as it will be in force, and ended where the person ended it. */
export function seriesTold({ series, turns, stop, done }: Progress): Series {
  const last = turns.at(-1)?.series ?? series;
  if (stop === null || last.repeat === null) return last;
  if (last.repeat.by === 'completion') return { ...last, ends: { after: Math.max(1, done) } };
  const before = formatDay(parseMoment(stop.slice(0, 10)).day - 1);
  const on = last.start !== null && before < last.start ? last.start : before;
  return { ...last, ends: { on } };
}

import { formatDay, parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import { parseMoment, type LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import { forecast, type Ahead } from '../series/plan/forecast.ts';
import { UNDATED, type Occurrence, type Progress } from '../series/life/progress.ts';
import { isSlotted, type Planner } from '../series/plan/plan.ts';
import { pauseOn } from '../series/life/standing.ts';
import { MOST_ABOVE } from './above.ts';
import { standsAt, type KeptTodo } from './kept.ts';
import { hiddenBy, type Place } from './places.ts';

/** Today, for a person: its sections in order, and what is back soon. */

export const SECTIONS = [
  'above',
  'late',
  'morning',
  'afternoon',
  'evening',
  'anytime',
  'period',
  'early',
] as const;
export type SectionId = (typeof SECTIONS)[number];

/** One row: a time that is open, or one that opens later today. */
export interface AgendaRow {
  todo: string;
  slot: LocalMoment;
  due: LocalMoment | null;
  plan: LocalDate | null;
  /** The time as it is open; null where it opens later today. */
  time: Occurrence | null;
}

export interface AgendaSection {
  id: SectionId;
  rows: AgendaRow[];
}

/** A to-do without a row that is back within a week. */
export interface SoonRow extends Ahead {
  todo: string;
}

export interface Agenda {
  today: LocalDate;
  /** Without empty ones. */
  sections: AgendaSection[];
  soon: SoonRow[];
  /** How many late times lie outside of the sphere in focus. */
  elsewhere: number;
}

export interface AgendaOptions {
  places?: readonly Place[];
  /** The sphere in focus; left out: none. */
  focus?: string | null;
  /** Times put above all for this day, in order. */
  above?: readonly { todo: string; slot: LocalMoment }[];
  /** Does the work on one to-do: what it throws leaves that one out. */
  each?: <T>(work: () => T) => T;
}

const SOON_DAYS = 7;
const MOST_SOON = 12;
/** Midday and the beginning of the evening, in minutes. */
const [NOON, EVENING] = [720, 1020];

/** What a to-do has on one day. */
interface OfDay {
  rows: (AgendaRow & { section: SectionId })[];
  soon: Ahead | null;
}

/** Where nothing of a to-do has changed, its part of the day need not be worked out again. */
const known = new WeakMap<KeptTodo, { planner: Planner; day: Day; until: Instant; part: OfDay }>();

/**
 * Today for the person of this planner at an instant. A to-do that cannot be worked out has no row.
 * The cost of a to-do that stands as before is that of looking it up.
 */
export function todayOf(
  planner: Planner,
  todos: Iterable<KeptTodo>,
  now: Instant,
  { places = [], focus = null, above = [], each = (work) => work() }: AgendaOptions = {},
): Agenda {
  const day = planner.clock.dayAt(now);
  const isHidden = hiddenBy(places, focus);
  const sections = new Map<SectionId, Ordered[]>(SECTIONS.map((id) => [id, []]));
  const soon: (SoonRow & { made: Instant | null })[] = [];
  const first: { row: AgendaRow; place: number }[] = [];
  let elsewhere = 0;
  for (const todo of todos) {
    const hidden = isHidden(todo.details?.place ?? null);
    if (hidden === 'rests') continue;
    const { rows, soon: next } = partOf(planner, todo, { day, now, each });
    if (hidden === 'elsewhere') {
      elsewhere += rows.filter(({ section }) => section === 'late').length;
      continue;
    }
    for (const { section, ...row } of rows) {
      const place = row.time ? above.findIndex((it) => isOf(it, row)) : -1;
      if (place < 0) sections.get(section)!.push({ row, todo, key: keyOf(row) });
      else first.push({ row, place });
    }
    if (next) soon.push({ todo: todo.id, made: todo.made, ...next });
  }
  return {
    today: formatDay(day),
    sections: SECTIONS.map((id) => ({
      id,
      rows: id === 'above' ? inPlace(first) : inOrder(sections.get(id)!),
    })).filter(({ rows }) => rows.length),
    soon: soon
      .sort((a, b) => byText(a.due, b.due) || byMade(a, b) || byText(a.todo, b.todo))
      .slice(0, MOST_SOON)
      .map(({ made: _made, ...row }) => row),
    elsewhere,
  };
}

const isOf = (it: { todo: string; slot: LocalMoment }, row: AgendaRow) =>
  it.todo === row.todo && it.slot === row.slot;
const inPlace = (rows: { row: AgendaRow; place: number }[]) =>
  rows
    .sort((a, b) => a.place - b.place)
    .slice(0, MOST_ABOVE)
    .map(({ row }) => row);

interface Ordered {
  row: AgendaRow;
  todo: KeptTodo;
  key: string;
}

const WEIGHT = { high: 0, normal: 1, low: 2 };
const weightOf = ({ details }: KeptTodo) => WEIGHT[details?.importance ?? 'normal'];

/** The moment of a row: a day without an hour sorts before its hours, none at all last. */
const keyOf = ({ due, time }: AgendaRow) => time?.planAt ?? due ?? '~';

function inOrder(rows: Ordered[]): AgendaRow[] {
  return rows
    .sort(
      (a, b) =>
        weightOf(a.todo) - weightOf(b.todo) ||
        byText(a.key, b.key) ||
        byMade(a.todo, b.todo) ||
        byText(a.todo.id, b.todo.id) ||
        byText(a.row.slot, b.row.slot),
    )
    .map(({ row }) => row);
}

const byText = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);
const byMade = (a: { made: Instant | null }, b: { made: Instant | null }) =>
  (a.made ?? -Infinity) === (b.made ?? -Infinity)
    ? 0
    : (a.made ?? -Infinity) < (b.made ?? -Infinity)
      ? -1
      : 1;

function partOf(
  planner: Planner,
  todo: KeptTodo,
  { day, now, each }: { day: Day; now: Instant; each: <T>(work: () => T) => T },
): OfDay {
  const before = known.get(todo);
  if (before?.planner === planner && before.day === day && now < before.until) return before.part;
  try {
    const { part, until } = each(() => worked(planner, todo, day, now));
    known.set(todo, { planner, day, until, part });
    return part;
  } catch {
    return NOTHING;
  }
}

const NOTHING: OfDay = { rows: [], soon: null };

function worked(
  planner: Planner,
  todo: KeptTodo,
  day: Day,
  now: Instant,
): { part: OfDay; until: Instant } {
  const { clock } = planner;
  const { progress, changesAt, nextDue } = standsAt(planner, todo, now);
  const { series } = progress;
  const isQuota = series.repeat?.by === 'quota';
  const today = formatDay(day);
  // A quota's period that a pause only cuts stays in sight (R12).
  const isHeld = !isQuota && pauseOn(series, today) !== undefined;
  const rows: OfDay['rows'] = [];
  for (const time of isHeld ? [] : progress.open) {
    const section = sectionOf(planner, time, isQuota, day);
    if (!section) continue;
    const { slot, due, plan } = time;
    rows.push({ todo: todo.id, slot, due, plan, time, section });
  }
  const isToday = (due: LocalMoment | null) => due !== null && clock.dayOfMoment(due) === day;
  if (isToday(nextDue))
    for (const { slot, due } of laterToday(planner, progress, now))
      rows.push({
        todo: todo.id,
        slot,
        due,
        plan: today,
        time: null,
        section: isQuota ? 'period' : partOfDay(planner, due),
      });
  const expects = nextDue === null && progress.open.length > 0;
  const soon = rows.length ? null : soonOf(planner, progress, { day, now, nextDue, expects });
  // An expected one is counted from now; all else stays as it is.
  const until = expects && !rows.length ? now : (changesAt ?? Infinity);
  return { part: { rows, soon }, until };
}

/** In which section a time is that is open; null where it has no date. */
function sectionOf(
  planner: Planner,
  { due, plan, planAt, planBy }: Occurrence,
  isQuota: boolean,
  day: Day,
): SectionId | null {
  if (plan === null) return null;
  const planned = parseDay(plan);
  const isPlaced = planBy === 'person' && planned >= day;
  if (due !== null && planner.clock.dayOfMoment(due) < day && !isPlaced) return 'late';
  if (isQuota) return 'period';
  if (planned > day) return 'early';
  const isDue = due !== null && planner.clock.dayOfMoment(due) <= day;
  return partOfDay(planner, planAt ?? (isDue ? due : plan));
}

/** The part of a day at which a moment is; an hour before the start of the day is of its evening. */
export function partOfDay(
  { clock }: Planner,
  moment: LocalMoment,
): 'morning' | 'afternoon' | 'evening' | 'anytime' {
  const { day, minute } = parseMoment(moment);
  if (minute === null) return 'anytime';
  if (clock.dayOfMoment(moment) < day) return 'evening';
  return minute < NOON ? 'morning' : minute < EVENING ? 'afternoon' : 'evening';
}

/**
 * The times that open later on the day of `now`: further ones of the day, and the one that comes where
 * nothing is open. What depends on when another is done is none of them.
 */
export function laterToday(planner: Planner, progress: Progress, now: Instant): Ahead[] {
  const { clock } = planner;
  const day = clock.dayAt(now);
  const byCalendar = isSlotted(planner(progress.series));
  if (!byCalendar && progress.open.length) return [];
  const limit = byCalendar ? undefined : 1;
  return forecast(planner, progress, now, day, limit).filter(
    ({ due, slot }) => clock.dayOfMoment(due) === day && slot !== UNDATED,
  );
}

function soonOf(
  planner: Planner,
  progress: Progress,
  it: { day: Day; now: Instant; nextDue: LocalMoment | null; expects: boolean },
): Ahead | null {
  const { clock } = planner;
  const isSoon = (due: LocalMoment) => {
    const day = clock.dayOfMoment(due);
    return day > it.day && day <= it.day + SOON_DAYS;
  };
  if (it.nextDue === null && !it.expects) return null;
  if (it.nextDue !== null && !isSoon(it.nextDue)) return null;
  const [first] = forecast(planner, progress, it.now, it.day + SOON_DAYS, 1);
  return first && isSoon(first.due) ? first : null;
}

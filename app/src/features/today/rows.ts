import type { EndedRow, LaterRow, TimeView, TodayView, TodoView } from '@back-again/contract';
import { daysLate, parseMoment, repeatText, type LocalDate, type Settings } from '@back-again/core';
import { days, momentText, minutesText } from '../../ui/dates.ts';
import { pausedUntil } from '../../ui/standing.ts';

export type SectionId =
  'late' | 'morning' | 'afternoon' | 'evening' | 'anytime' | 'period' | 'early';

/** One row of Today: a time that is open, or one that ended today and stays where it was. */
export interface Row {
  key: string;
  todo: TodoView;
  time: TimeView;
  /** The action that ended it, for its Undo. */
  action: string | null;
  /** It is still to open, later today. */
  later: boolean;
}

export interface Section {
  id: SectionId;
  title: string;
  rows: Row[];
}

const TITLES: Record<SectionId, string> = {
  late: 'Late',
  morning: 'Morning',
  afternoon: 'Afternoon',
  evening: 'Evening',
  anytime: 'No set time',
  period: 'On any day',
  early: 'Can be done already',
};
const ORDER = Object.keys(TITLES) as SectionId[];

/** Where rows stay that were finished while the screen was open, by their keys. */
export type Held = Readonly<Record<string, SectionId>>;

const keyOf = (todo: TodoView, time: TimeView) => `${todo.id} ${time.number}`;

function partOfDay(time: TimeView): SectionId {
  const minute = time.due === null ? null : parseMoment(time.due).minute;
  if (minute === null) return 'anytime';
  return minute < 720 ? 'morning' : minute < 1020 ? 'afternoon' : 'evening';
}

function sectionOf(row: Row, today: LocalDate, settings: Settings): SectionId | null {
  const { time, todo } = row;
  if (todo.quota !== null) return 'period';
  if (time.status !== 'open') return partOfDay(time);
  // What is held in a pause is out of the way.
  if (pausedUntil(todo, today) !== undefined) return null;
  if (time.plan === null) return null;
  if (time.plan > today) return 'early';
  const placed = time.planBy === 'person' && time.plan === today;
  if (daysLate(time, today, settings) > 0) return placed ? 'anytime' : 'late';
  return partOfDay(time);
}

/** Today by sections, without empty ones. Finished rows stay in the section that `held` names. */
export function sectionsOf(view: TodayView, held: Held, settings: Settings): Section[] {
  const rows: Row[] = [
    ...view.open.flatMap((todo) =>
      todo.open.map((time) => ({
        key: keyOf(todo, time),
        todo,
        time,
        action: null,
        later: false,
      })),
    ),
    ...view.later.map((row) => laterRow(row, view.today)),
    ...view.ended.map(({ todo, time, action }: EndedRow) => ({
      key: keyOf(todo, time),
      todo,
      time,
      action,
      later: false,
    })),
  ];
  const sections = new Map<SectionId, Row[]>();
  for (const row of rows) {
    const id = held[row.key] ?? sectionOf(row, view.today, settings);
    if (id) sections.set(id, [...(sections.get(id) ?? []), row]);
  }
  return ORDER.filter((id) => sections.has(id)).map((id) => ({
    id,
    title: TITLES[id],
    rows: sections.get(id)!.sort(inOrder),
  }));
}

/** A time that has no number yet, as one that can be done. */
function laterRow({ todo, ahead: { slot, due } }: LaterRow, today: LocalDate): Row {
  const time: TimeView = {
    number: 0,
    slot,
    due,
    plan: today,
    planBy: 'due',
    status: 'open',
    openedAt: null,
    closedAt: null,
    rolled: 0,
    part: null,
    tally: null,
    note: null,
    way: null,
    later: null,
  };
  return { key: `${todo.id} at ${slot}`, todo, time, action: null, later: true };
}

/** By due moment, then in the order in which the to-dos were made: the same before and after finishing. */
function inOrder(a: Row, b: Row): number {
  const [x, y] = [
    `${a.time.due} ${a.todo.createdAt} ${a.key}`,
    `${b.time.due} ${b.todo.createdAt} ${b.key}`,
  ];
  return x < y ? -1 : 1;
}

/** What a row is called: its title, with its time of day where the to-do has several. */
export function nameOf({ todo: { series }, time }: Pick<Row, 'todo' | 'time'>): string {
  const at = time.due !== null && (series.at?.length ?? 0) > 1 ? time.due.slice(11) : '';
  return at ? `${series.title}, ${at}` : series.title;
}

/** What a row says under its title: first what decides, then how it repeats. */
export function lineOf(
  row: Row,
  today: LocalDate,
  settings: Settings,
): { lead: string | null; rest: string; late: boolean } {
  const { todo, time } = row;
  const late = todo.quota === null ? daysLate(time, today, settings) : 0;
  // The row stands for one time of day: the others are rows of their own.
  const { at = [] } = todo.series;
  const { takes } = todo.series;
  const repeats = repeatText({ ...todo.series, at: at.slice(0, 1) }, settings);
  const repeat = takes === undefined ? repeats : `${minutesText(takes)} · ${repeats}`;
  const part = time.part === null ? '' : ` · ${time.part} % done`;
  if (todo.quota !== null) {
    const until = time.due === null ? '' : ` · until ${momentText(time.due, today, true)}`;
    return { lead: `${time.tally ?? 0} of ${todo.quota}`, rest: repeat + until, late: false };
  }
  if (late) return { lead: `${days(late)} late`, rest: repeat + part, late: true };
  const minute = time.due === null ? null : parseMoment(time.due).minute;
  if (minute !== null) return { lead: time.due!.slice(11), rest: repeat + part, late: false };
  if (time.plan !== null && time.plan > today)
    return { lead: `for ${momentText(time.plan, today, true)}`, rest: repeat + part, late: false };
  const { way } = time;
  const after = todo.series.repeat?.by === 'completion';
  const lead = after && way ? `day ${way.gone} of ${way.of}` : null;
  return { lead, rest: repeat + part, late: false };
}

/** What a finished row answers in place: when it is back again. */
export function answerOf({ todo, time }: Pick<Row, 'todo' | 'time'>, today: LocalDate): string {
  if (todo.quota !== null && time.status !== 'skipped')
    return `${time.tally ?? todo.open[0]?.tally ?? 0} of ${todo.quota} done`;
  const skipped = time.status === 'skipped' ? 'Skipped. ' : '';
  if (todo.open[0]?.due) return `${skipped}Back again ${momentText(todo.open[0].due, today, true)}`;
  if (todo.next) return `${skipped}Back again ${momentText(todo.next.due, today)}`;
  if (todo.series.repeat) return `${skipped}That was the last time`;
  return skipped ? 'Skipped' : 'Done';
}

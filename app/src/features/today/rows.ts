import {
  SECTIONS,
  daysLate,
  habitDay,
  hiddenBy,
  isSameAbove,
  formatDay,
  parseDay,
  parseMoment,
  partOfDay,
  repeatText,
  timeView,
  type AgendaRow,
  type LocalDate,
  type SectionId,
  type Settings,
  type TimeView,
  type TodoView,
} from '@back-again/core';
import type { Shown } from '../../data/todos.ts';
import { days, momentText, minutesText } from '../../ui/dates.ts';

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

/** Whether two rows show the same. What has ended is worked out anew each time, and is the same by what is in it. */
export const isSameRow = (a: Row, b: Row): boolean =>
  a.key === b.key &&
  a.todo === b.todo &&
  a.action === b.action &&
  a.later === b.later &&
  (a.time === b.time || JSON.stringify(a.time) === JSON.stringify(b.time));

export interface Section {
  id: SectionId;
  title: string;
  rows: Row[];
}

const TITLES: Record<SectionId, string> = {
  above: 'Above all today',
  late: 'Late',
  morning: 'Morning',
  afternoon: 'Afternoon',
  evening: 'Evening',
  anytime: 'No set time',
  period: 'On any day',
  early: 'Can be done already',
};

/** Where rows stay that were finished while the screen was open, by their keys. */
export type Held = Readonly<Record<string, SectionId>>;

const keyOf = (todo: string, slot: string) => `${todo} ${slot}`;

/**
 * Today by sections, as the core gives it. What was ended today stays where it was: in the section
 * that `held` names, else in that of its hour.
 */
export function sectionsOf(shown: Shown, held: Held): Section[] {
  const { planner, today } = shown;
  const sections = new Map<SectionId, Row[]>(SECTIONS.map((id) => [id, []]));
  const keys = new Set<string>();
  const put = (id: SectionId, row: Row) => {
    // Two that count from when one was done may have one slot.
    const key = keys.has(row.key) ? `${row.key} ${row.time.number}` : row.key;
    keys.add(key);
    sections.get(held[key] ?? id)!.push({ ...row, key });
  };
  for (const { id, rows } of shown.agenda().sections)
    for (const row of rows) put(id, openRow(shown, row));
  const day = planner.clock.dayAt(shown.now);
  const { focus, above } = shown.own();
  const isHidden = hiddenBy(shown.places(), focus);
  const isAbove = (todo: string, slot: string) =>
    above.some((it) => isSameAbove(it, { day: today, todo, slot }));
  const sectionOf = (todo: TodoView, { slot, due }: TimeView): SectionId => {
    if (isAbove(todo.id, slot)) return 'above';
    return todo.quota !== null ? 'period' : partOfDay(planner, due ?? today);
  };
  for (const state of shown.all())
    for (const { time, action, at } of state.lately) {
      if (planner.clock.dayAt(at) !== day || isHidden(state.details.place)) continue;
      const todo = shown.view(state);
      const ended = timeView(planner, state.progress, time, shown.now);
      const key = keyOf(state.id, time.slot);
      put(sectionOf(todo, ended), {
        key,
        todo,
        time: ended,
        action,
        later: false,
      });
    }
  return SECTIONS.map((id) => ({ id, title: TITLES[id], rows: sections.get(id)! }))
    .filter(({ rows }) => rows.length)
    .map((section) => ({ ...section, rows: withEnded(section.rows) }));
}

function openRow(shown: Shown, { todo: id, slot, due, plan, time }: AgendaRow): Row {
  const todo = shown.viewOf(id)!;
  const open = time && todo.open.find((it) => it.number === time.number);
  const later: TimeView = {
    number: 0,
    slot,
    due,
    plan,
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
  return {
    key: keyOf(id, slot),
    todo,
    time: open ?? later,
    action: null,
    later: time === null,
  };
}

/** What was above all the day before, and is still open. */
export function leftAbove(shown: Shown): { todo: string; slot: string; title: string }[] {
  const { above } = shown.own();
  const yesterday = formatDay(parseDay(shown.today) - 1);
  const isToday = (todo: string, slot: string) =>
    above.some((it) => isSameAbove(it, { day: shown.today, todo, slot }));
  return above.flatMap(({ day, todo, slot }) => {
    const view = day === yesterday && !isToday(todo, slot) ? shown.viewOf(todo) : null;
    const isOpen = view?.open.some((time) => time.slot === slot);
    return view && isOpen ? [{ todo, slot, title: view.series.title }] : [];
  });
}

/** The late rows of other spheres. */
export function elsewhereOf(shown: Shown): Row[] {
  const here = new Set(
    shown.agenda().sections.flatMap(({ rows }) => rows.map(({ todo, slot }) => keyOf(todo, slot))),
  );
  const late = shown.agenda(true).sections.find(({ id }) => id === 'late');
  return (late?.rows ?? []).map((row) => openRow(shown, row)).filter(({ key }) => !here.has(key));
}

/** Open rows are in order: ended ones take the place among them that they had. */
function withEnded(rows: readonly Row[]): Row[] {
  const isOpen = ({ time }: Row) => time.status === 'open';
  const found = rows.filter(isOpen);
  const orderOf = ({ time, todo, key }: Row) => `${time.due ?? '~'} ${todo.createdAt} ${key}`;
  for (const row of rows.filter((it) => !isOpen(it))) {
    const at = found.findIndex((other) => orderOf(other) > orderOf(row));
    found.splice(at < 0 ? found.length : at, 0, row);
  }
  return found;
}

/** Whether finishing it asks something. */
export const asksOf = ({ todo: { series } }: Pick<Row, 'todo'>): boolean =>
  (series.questions?.length ?? 0) > 0;

/** What a row is called: its title, with its time of day where the to-do has several. */
export function nameOf({ todo: { series }, time }: Pick<Row, 'todo' | 'time'>): string {
  const at = time.due !== null && (series.at?.length ?? 0) > 1 ? time.due.slice(11) : '';
  return at ? `${series.title}, ${at}` : series.title;
}

const IMPORTANCE = { high: 'important', normal: '', low: 'less important' };

/** A habit that is being taken up, with how far that is. */
function takingUpText({ series }: TodoView, today: LocalDate): string {
  if (!series.takingUp) return '';
  const at = habitDay(series, today);
  return at ? `taking up, day ${at.day} of ${at.of}` : 'taking up';
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
  const repeat = [
    takes === undefined ? '' : minutesText(takes),
    repeats,
    takingUpText(todo, today),
    IMPORTANCE[todo.series.importance ?? 'normal'],
  ]
    .filter(Boolean)
    .join(' · ');
  const part = time.part === null ? '' : ` · ${time.part} % done`;
  if (todo.quota !== null) {
    const until = time.due === null ? '' : ` · until ${momentText(time.due, today, true)}`;
    return { lead: `${time.tally ?? 0} of ${todo.quota}`, rest: repeat + until, late: false };
  }
  // What was put off looks put off: the day that was chosen leads, and when it was due stands behind.
  if (time.plan !== null && time.plan > today) {
    const due = late ? ` · was due ${momentText(time.due!.slice(0, 10), today, true)}` : '';
    return {
      lead: `for ${momentText(time.plan, today, true)}`,
      rest: repeat + due + part,
      late: false,
    };
  }
  if (late) return { lead: `${days(late)} late`, rest: repeat + part, late: true };
  const minute = time.due === null ? null : parseMoment(time.due).minute;
  if (minute !== null) {
    const lead = minute === 0 ? 'since the day began' : time.due!.slice(11);
    return { lead, rest: repeat + part, late: false };
  }
  const { way } = time;
  const after = todo.series.repeat?.by === 'completion';
  const lead = after && way ? `${way.gone} of ${days(way.of)} gone` : null;
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

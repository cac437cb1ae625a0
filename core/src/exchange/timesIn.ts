import { formatInstant } from '../calendar/zone.ts';
import { UNDATED } from '../series/life/progress.ts';
import type { LocalMoment } from '../calendar/time.ts';
import {
  dueOf,
  isAsWritten,
  keptOf,
  numberOf,
  oursIn,
  propertyOf,
  textOf,
  type Context,
  type Entry,
  type Ours,
} from './entry.ts';
import type { ExchangedTime } from './exchanged.ts';

/** Single times of an entry, as we wrote them or as their properties say. */
export function timesIn(
  context: Context,
  main: Entry,
  overrides: readonly Entry[],
): ExchangedTime[] {
  return overrides.flatMap((entry): ExchangedTime[] => {
    const ours = oursIn(entry.component);
    const kept = keptOf(entry.component);
    const withKept = (time: ExchangedTime) => (kept.length ? { ...time, kept } : time);
    if (ours && isAsWritten(entry.component, ours)) return ours.time ? [withKept(ours.time)] : [];
    return [withKept(timeIn(context, main, entry, ours?.time))];
  });
}

/** The slot that an override is of. */
export function slotOf({ zones }: Context, { component }: Entry): LocalMoment {
  const id = propertyOf(component, 'recurrence-id')!;
  return zones.local(id, String(id[3])).moment;
}

/** A time by its properties; what they cannot say is as we wrote it. */
function timeIn(
  context: Context,
  main: Entry,
  entry: Entry,
  ours: ExchangedTime | undefined,
): ExchangedTime {
  const { component } = entry;
  const slot = slotOf(context, entry);
  const due = dueOf(context, component) ?? slot;
  const details = { ...ours?.details, ...otherwise(main, entry) };
  return {
    ...ours,
    slot: ours?.slot ?? slot,
    due,
    ...stateIn(context, component),
    ...(Object.keys(details).length ? { details } : {}),
  };
}

/** What a time is called and is, where that is other than its to-do. */
function otherwise(main: Entry, { component }: Entry): ExchangedTime['details'] {
  const other = (name: string) => {
    const text = textOf(component, name)?.trim();
    return text && text !== textOf(main.component, name)?.trim() ? text : null;
  };
  const [title, note] = [other('summary'), other('description')];
  return { ...(title ? { title } : {}), ...(note ? { note } : {}) };
}

/** How it ended, by STATUS and COMPLETED. */
function stateIn(
  { zones }: Context,
  component: Entry['component'],
): Pick<ExchangedTime, 'status'> & Partial<ExchangedTime> {
  const status = textOf(component, 'status')?.toUpperCase() ?? '';
  const completed = propertyOf(component, 'completed');
  const comments = component[1].filter(([name]) => name === 'comment').map((it) => String(it[3]));
  const part = numberOf(component, 'percent-complete');
  const note = comments.length ? { note: comments.join('\n') } : {};
  const isMissed = textOf(component, 'x-back-again-status') === 'MISSED';
  const moments = [
    completed,
    propertyOf(component, 'last-modified'),
    propertyOf(component, 'due') ?? propertyOf(component, 'dtstart'),
  ];
  const at = moments.find((it) => it !== undefined);
  const closed = at ? { closedAt: formatInstant(zones.instant(at, String(at[3]))) } : {};
  if (status === 'COMPLETED' || completed) return { status: 'done', ...closed, ...note };
  if (status === 'CANCELLED') return { status: 'skipped', ...closed, ...note };
  if (isMissed) return { status: 'missed', ...closed, ...note };
  return { status: 'open', ...note, ...(part && part < 100 ? { part } : {}) };
}

/** A one-off carries its time itself; null where nothing of it stands out. */
export function onceTimeIn(
  context: Context,
  { component }: Entry,
  due: LocalMoment | null,
  ours: Ours | null,
): ExchangedTime | null {
  const before = ours?.times?.at(-1);
  const isJournal = component[0] === 'vjournal';
  const state = stateIn(context, component);
  const time: ExchangedTime = {
    ...before,
    slot: before?.slot ?? due ?? UNDATED,
    due,
    ...state,
    ...(isJournal && due
      ? { status: 'done', closedAt: formatInstant(context.clock.instantOf(due)) }
      : {}),
  };
  const isPlain = time.status === 'open' && !time.note && !time.part;
  return isPlain && !ours?.times ? null : time;
}

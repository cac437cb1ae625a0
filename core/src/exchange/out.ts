import { formatDay, parseDay, type Day, type LocalDate } from '../calendar/day.ts';
import { parseMoment, type LocalMoment } from '../calendar/time.ts';
import { formatInstant, parseInstant, type Instant } from '../calendar/zone.ts';
import { checkDetails, checkSeries, detailsTold } from '../definition/check.ts';
import { NO_DETAILS, type Details } from '../definition/details.ts';
import { CoreError } from '../errors.ts';
import type { Series } from '../series/definition/definition.ts';
import { UNDATED } from '../series/life/progress.ts';
import { checkSettings, type Settings } from '../series/person/settings.ts';
import { plannerOf } from '../series/plan/planner.ts';
import { isSlotted, type Plan, type Planner, type SlottedPlan } from '../series/plan/plan.ts';
import { alarmsOf } from './alarms.ts';
import { alarmsHash, whenHash } from './entry.ts';
import type { ExchangedTime, ExchangedTodo } from './exchanged.ts';
import { hashOf } from './hash.ts';
import {
  instantProperty,
  momentsProperty,
  rawProperty,
  textProperty,
  written,
  writtenEntry,
  type Component,
  type Property,
} from './jcal.ts';
import { parsedEntry } from './reading.ts';
import { firstOf, recurOf, withoutSkip, writtenOut } from './rules.ts';
import {
  MOST,
  horizonOf,
  lastSlot,
  nextCounted,
  rawDates,
  ruleIn,
  slotAt,
  slotsFrom,
} from './slots.ts';
import { zoneComponent } from './zoneText.ts';

/** To-dos as iCalendar (RFC 5545), one VTODO each, with those of their times that stand out. */

export interface OutInput {
  todos: { id: string; series: unknown; details?: unknown; times?: ExchangedTime[] }[];
  settings?: Partial<Settings> & { email?: string };
  holidays?: LocalDate[];
  places?: { id: string; name: string; in?: string | null }[];
  /** ISO 8601. */
  now: string;
}

interface Context {
  planner: Planner;
  settings: Settings & { email?: string };
  places: ReadonlyMap<string, string>;
  now: Instant;
  today: Day;
}

/**
 * Writes to-dos as one calendar.
 * @throws CoreError `exchange.none` for no to-do; what is wrong with one, with its place
 */
export function toIcal(input: OutInput): { ical: string } {
  const { todos } = input;
  if (!Array.isArray(todos) || !todos.length)
    throw new CoreError('exchange.none', 'todos', 'There is no to-do to write.');
  const context = contextOf(input);
  const entries = todos.flatMap((todo, i) => {
    try {
      return entriesOf(context, todoIn(todo));
    } catch (error) {
      if (!(error instanceof CoreError)) throw error;
      throw new CoreError(error.code, `todos.${i}.${error.where}`, error.message);
    }
  });
  return { ical: written(calendarOf(context, entries)) };
}

/** One to-do as the entries of a calendar that is put together elsewhere. @throws CoreError as {@link toIcal} does */
export function entryText(input: Omit<OutInput, 'todos'>, todo: OutInput['todos'][number]): string {
  return entriesOf(contextOf(input), todoIn(todo)).map(writtenEntry).join('');
}

/** What stands before the entries of a calendar and behind them, with their zone from a year on. */
export function aroundEntries(
  settings: Pick<Settings, 'zone'>,
  years: { from: number; to: number },
  more: readonly Property[] = [],
): { head: string; foot: string } {
  const zone =
    settings.zone === 'UTC'
      ? ''
      : writtenEntry(zoneComponent(settings.zone, Date.UTC(years.from, 0), Date.UTC(years.to, 0)));
  const empty = written(['vcalendar', [...HEAD, ...more], []]);
  const foot = 'END:VCALENDAR\r\n';
  return { head: empty.slice(0, -foot.length) + zone, foot };
}

const HEAD: Property[] = [
  textProperty('version', '2.0'),
  textProperty('prodid', '-//Back Again//Back Again 1//EN'),
];

function contextOf(input: Omit<OutInput, 'todos'>): Context {
  const { places = [], holidays = [] } = input;
  const { email, ...rest } = input.settings ?? {};
  const settings = { ...checkSettings(rest), ...(email === undefined ? {} : { email }) };
  const planner = plannerOf(settings, holidays);
  const now = parseInstant(input.now, 'now');
  return {
    planner,
    settings,
    places: new Map(places.map(({ id, name }) => [id, name])),
    now,
    today: planner.clock.dayAt(now),
  };
}

function todoIn(given: OutInput['todos'][number]): ExchangedTodo & { details: Details } {
  const { id, series, details, ...rest } = given as ExchangedTodo;
  if (typeof id !== 'string' || !id) throw new CoreError('exchange.id', 'id', 'A to-do has an id.');
  return {
    ...rest,
    id,
    series: checkSeries(series),
    details: detailsTold({
      ...NO_DETAILS,
      title: 'Without a title',
      ...(details === undefined ? {} : checkDetails(details)),
    } as Details),
  };
}

function calendarOf({ settings }: Context, entries: readonly Component[]): Component {
  const text = JSON.stringify(entries);
  const years = text.match(/"\d{4}-\d\d-\d\dT/gu)?.map((it) => Number(it.slice(1, 5)));
  const isZoned = text.includes('"tzid"');
  const span = years ? [Math.min(...years), Math.max(...years)] : [2000, 2000];
  const zone = isZoned
    ? [zoneComponent(settings.zone, Date.UTC(span[0]!, 0), Date.UTC(span[1]! + 1, 0))]
    : [];
  return ['vcalendar', HEAD, [...zone, ...entries]];
}

/** One VTODO for each time of day, each with the times that stand out. */
function entriesOf(context: Context, todo: ExchangedTodo & { details: Details }): Component[] {
  const { series } = todo;
  if (series.repeat === null && (series.at?.length ?? 0) <= 1) return [onceOf(context, todo)];
  const lanes = series.repeat?.by === 'completion' ? [null] : (series.at ?? [null]);
  return lanes.flatMap((at, i) => laneOf(context, todo, { at, isFirst: i === 0 }));
}

interface Lane {
  at: string | null;
  isFirst: boolean;
}

const uidOf = (id: string, { at, isFirst }: Lane) =>
  isFirst ? id : `${id}-${at!.replace(':', '')}`;

/** What other programs keep with it, without what is said otherwise since. */
function stillKept(kept: readonly Property[] = [], { importance, place }: Details): Property[] {
  return kept.filter(([name, , , value]) => {
    if (name === 'categories') return place === null;
    if (name !== 'priority') return true;
    const n = Number(value);
    return importance === (n >= 1 && n <= 4 ? 'high' : n >= 6 ? 'low' : 'normal');
  });
}

/** What an entry says of the to-do itself. */
function aboutOf(
  { places, now }: Context,
  todo: ExchangedTodo,
  uid: string,
  details: Details,
  kept: readonly Property[],
): Property[] {
  const { created, changed, version } = todo;
  const { title, note, steps, tags, place, importance, takes } = details;
  const description = [
    ...(note ? [note] : []),
    ...(steps.length ? [steps.map(({ text }) => `- [ ] ${text}`).join('\n')] : []),
  ].join('\n\n');
  const placeName = place === null ? undefined : places.get(place);
  return [
    textProperty('uid', uid),
    instantProperty('dtstamp', now),
    textProperty('summary', title),
    ...(description
      ? [textProperty('description', steps.length && !note ? `\n${description}` : description)]
      : []),
    ...(created === undefined
      ? []
      : [instantProperty('created', parseInstant(created, 'created'))]),
    ...(changed === undefined
      ? []
      : [instantProperty('last-modified', parseInstant(changed, 'changed'))]),
    ...(version === undefined ? [] : [rawProperty('sequence', 'integer', version)]),
    ...(importance === 'normal' || kept.some(([name]) => name === 'priority')
      ? []
      : [rawProperty('priority', 'integer', importance === 'high' ? 1 : 9)]),
    ...(tags.length ? [textProperty('categories', tags)] : []),
    ...(placeName === undefined
      ? []
      : [textProperty('categories', placeName, { 'x-back-again-place': 'TRUE' })]),
    ...(takes === null ? [] : [rawProperty('estimated-duration', 'unknown', `PT${takes}M`)]),
  ];
}

/** How a time ended, or how far it is. */
function stateOf(time: ExchangedTime, of: number | null): Property[] {
  const { status, closedAt, part, tally, note } = time;
  const per = of !== null && tally ? Math.min(100, Math.floor((100 * tally) / of)) : part;
  const properties: Property[] = [
    textProperty(
      'status',
      status === 'done' ? 'COMPLETED' : status === 'skipped' ? 'CANCELLED' : 'NEEDS-ACTION',
    ),
  ];
  if (status === 'done' && closedAt)
    properties.push(instantProperty('completed', parseInstant(closedAt, 'closedAt')));
  if (status === 'missed') properties.push(rawProperty('x-back-again-status', 'unknown', 'MISSED'));
  if (per) properties.push(rawProperty('percent-complete', 'integer', per));
  if (note) properties.push(textProperty('comment', note));
  return properties;
}

/** A one-off carries its time itself. */
function onceOf(context: Context, todo: ExchangedTodo & { details: Details }): Component {
  const { settings } = context;
  const { series, details, times = [] } = todo;
  const time = times.at(-1);
  const kept = [...stillKept(todo.kept, details), ...(time?.kept ?? [])];
  const start =
    series.start === null
      ? null
      : series.at?.[0]
        ? `${series.start}T${series.at[0]}`
        : series.start;
  const due = time ? time.due : start;
  const entry: Component = [
    'vtodo',
    [
      ...aboutOf(context, todo, todo.id, details, kept),
      ...(due === null ? [] : [momentsProperty('due', [due], settings.zone)]),
      ...(time ? stateOf(time, null) : [textProperty('status', 'NEEDS-ACTION')]),
      ...kept,
    ],
    due === null || (time && time.status !== 'open')
      ? []
      : alarmsOf(series, details.title, due, settings),
  ];
  return withOurs(entry, { series, details, ...(times.length ? { times } : {}) });
}

/** Adds what only we can read: the whole as JSON, with a hash of what stands beside it. */
function withOurs(entry: Component, of: object): Component {
  const [name, properties, inside] = entry;
  // As it is read: what a reader makes of the text is what counts.
  const read = parsedEntry(entry);
  const isTime = entry[1].some(([name]) => name === 'recurrence-id');
  const parts = isTime ? {} : { when: whenHash(read), alarms: alarmsHash(read) };
  const hashes = { hash: hashOf(read), ...parts };
  const ours = textProperty('x-back-again', asciiJson({ ...of, ...hashes }));
  return [name, [...properties, ours], inside];
}

/** JSON without control characters: what text cannot hold is escaped in it. */
const asciiJson = (value: unknown) =>
  JSON.stringify(value).replaceAll(
    /[\u007F-\u009F\u2028\u2029]/gu,
    (it) => `\\u${it.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );

/** What a lane of a repeating to-do consists of. */
interface SlotSet {
  dtstart: LocalMoment | null;
  /** Of so many times a period: the last day of the first one. */
  due?: LocalMoment;
  rrule?: Property;
  rdates: LocalMoment[];
  exdates: LocalMoment[];
  /** Slots whose due day is another (R4), and of periods of other lengths. */
  dues: Map<LocalMoment, LocalMoment>;
  has(slot: LocalMoment): boolean;
}

function laneOf(
  context: Context,
  todo: ExchangedTodo & { details: Details },
  lane: Lane,
): Component[] {
  const { settings, planner } = context;
  const { series, details, times = [] } = todo;
  const kept = lane.isFirst ? stillKept(todo.kept, details) : [];
  const plan = planner(series);
  const set = !isSlotted(plan)
    ? countedSet(context, todo)
    : ruleIn(series)
      ? ruleSet(context, plan, times, lane)
      : listedSet(context, plan, times, lane);
  const zone = settings.zone;
  const uid = uidOf(todo.id, lane);
  const isOwn = (slot: LocalMoment) =>
    set.dtstart !== null &&
    slot.length === set.dtstart.length &&
    (lane.at === null || slot.endsWith(`T${lane.at}`));
  const own = times.filter(({ slot }) => isOwn(slot) && set.has(slot));
  const ended = isOver(plan, times);
  const alarms =
    set.dtstart === null
      ? []
      : alarmsOf(series, details.title, nextDue(context, plan, set), settings);
  const quota = series.repeat?.by === 'quota' ? series.repeat.times : null;
  const main: Component = [
    'vtodo',
    [
      ...aboutOf(context, todo, uid, details, kept),
      ...(set.dtstart === null
        ? []
        : [
            momentsProperty('dtstart', [set.dtstart], zone),
            momentsProperty('due', [set.due ?? set.dtstart], zone),
          ]),
      ...(set.rrule ? [set.rrule] : []),
      ...(set.rdates.length ? [momentsProperty('rdate', set.rdates, zone)] : []),
      ...(set.exdates.length ? [momentsProperty('exdate', set.exdates, zone)] : []),
      textProperty('status', ended ? 'COMPLETED' : 'NEEDS-ACTION'),
      ...(lane.isFirst ? [] : [siblingOf(todo.id)]),
      ...kept,
    ],
    alarms,
  ];
  // What has no place in the set stands with the definition alone.
  const apart = lane.isFirst
    ? times.filter((time) => !isWritten(series, set, time.slot, lane))
    : [];
  const ours = lane.isFirst
    ? {
        series,
        details,
        ...(apart.length ? { times: apart } : {}),
        ...(ended ? { over: true } : {}),
      }
    : { of: todo.id };
  const overrides = own
    .filter((time) => !isAsDefined(time, set))
    .map((time) => overrideOf(context, todo, { uid, quota }, time, { time }));
  const moved = [...set.dues]
    .filter(([slot]) => !own.some((time) => time.slot === slot))
    .map(([slot, due]): Component => {
      const time = { slot, due, status: 'open' } as const;
      return overrideOf(context, todo, { uid, quota }, time, { by: 'definition' });
    });
  return [withOurs(main, ours), ...overrides, ...moved];
}

const siblingOf = (id: string): Property => textProperty('related-to', id, { reltype: 'SIBLING' });

/** Whether a time is written by one of the lanes. */
function isWritten(series: Series, set: SlotSet, slot: LocalMoment, lane: Lane): boolean {
  if (set.dtstart === null || slot.length !== set.dtstart.length) return false;
  const at = series.repeat?.by === 'completion' ? undefined : series.at;
  if (!at || at.length < 2)
    return lane.at !== null && !slot.endsWith(`T${lane.at}`) ? false : set.has(slot);
  return at.some((time) => slot.endsWith(`T${time}`));
}

/** An open time that is as the definition says may be left out. */
const isAsDefined = (time: ExchangedTime, set: SlotSet) =>
  time.status === 'open' &&
  time.due === (set.dues.get(time.slot) ?? time.slot) &&
  set.due === undefined &&
  !time.note &&
  !time.part &&
  !time.tally &&
  !time.ticks?.length &&
  !time.steps?.length &&
  !Object.keys(time.answers ?? {}).length &&
  time.spent === undefined &&
  !time.kept?.length &&
  !Object.keys(time.details ?? {}).length &&
  (time.plan === undefined || time.plan === null || time.due?.startsWith(time.plan) === true);

interface Of {
  uid: string;
  quota: number | null;
}

/** One time that stands out: the whole of it, as it was then, with what only we can read. */
function overrideOf(
  context: Context,
  todo: ExchangedTodo & { details: Details },
  { uid, quota }: Of,
  time: ExchangedTime,
  ours: object,
): Component {
  const { settings } = context;
  const details = { ...todo.details, ...time.details };
  const { kept = [] } = time;
  const entry: Component = [
    'vtodo',
    [
      ...aboutOf(context, todo, uid, details, kept),
      momentsProperty('recurrence-id', [time.slot], settings.zone),
      ...(time.due === null
        ? []
        : [
            momentsProperty('dtstart', [quota === null ? time.due : time.slot], settings.zone),
            momentsProperty('due', [time.due], settings.zone),
          ]),
      ...stateOf(time, quota),
      ...kept,
    ],
    time.status === 'open' && time.due !== null
      ? alarmsOf(todo.series, details.title, time.due, settings)
      : [],
  ];
  return withOurs(entry, ours);
}

function isOver(plan: Plan, times: readonly ExchangedTime[]): boolean {
  if (!isSlotted(plan)) {
    const { ends } = plan.series;
    const done = times.filter(({ status }) => status === 'done').length;
    return Boolean(ends && 'after' in ends && done >= ends.after);
  }
  const last = lastSlot(plan, ruleIn(plan.series));
  if (last === 'endless') return false;
  if (last === null) return true;
  return times.some(({ slot, status }) => slot === last && status !== 'open');
}

/** When the next time of a lane is due, from today on: reminders are counted from it. */
function nextDue({ today }: Context, plan: Plan, set: SlotSet): LocalMoment {
  const from = formatDay(today);
  if (isSlotted(plan)) {
    const [next] = slotsFrom(plan, today, today + 4000, 1);
    if (next) {
      const time = set.dtstart!.slice(10);
      return `${next.due.slice(0, 10)}${time}`;
    }
  }
  const all = [set.dtstart!, ...set.rdates];
  return all.filter((it) => it >= from).sort()[0] ?? all.at(-1)!;
}

const onLane = (day: Day, at: string | null): LocalMoment =>
  at === null ? formatDay(day) : `${formatDay(day)}T${at}`;

function ruleSet(
  context: Context,
  plan: SlottedPlan,
  times: readonly ExchangedTime[],
  lane: Lane,
): SlotSet {
  const { today, planner } = context;
  const { series } = plan;
  const { at } = lane;
  const rule = ruleIn(series)!;
  const { except = [], extra = [] } = series.repeat as { except?: string[]; extra?: string[] };
  const start = parseDay(series.start!);
  const first = firstOf(rule, start);
  const laneOnly = (all: readonly string[]) =>
    all.flatMap((it): LocalMoment[] => {
      if (it.length === 10) return [onLane(parseDay(it), at)];
      return at !== null && it.endsWith(`T${at}`) ? [it] : [];
    });
  const extras = laneOnly(extra);
  if (first === null) return listOf(extras);
  const { rule: plain, needsScale } = withoutSkip(writtenOut(rule, start));
  const last = lastSlot(plan, rule);
  const isAlone =
    (series.at?.length ?? 0) <= 1 &&
    !extra.length &&
    !except.length &&
    !series.ends &&
    !series.pauses?.length &&
    (series.closedDays ?? 'keep') === 'keep';
  const keepsCount = rule.count !== null && isAlone;
  const horizon = horizonOf(today);
  const raw = rawDates({ ...rule, until: rule.until }, start, horizon).map((day) =>
    onLane(day, at),
  );
  const until = keepsCount || last === 'endless' ? null : lastOfLane(plan, last, at);
  const excepted = new Set(laneOnly(except));
  const out: LocalMoment[] = [...excepted].filter((slot) => !extras.includes(slot));
  const dues = new Map<LocalMoment, LocalMoment>();
  const isEdited = series.pauses?.length || (series.closedDays ?? 'keep') !== 'keep';
  if (isEdited) {
    for (const slot of raw) {
      if (excepted.has(slot) || (until !== null && slot > until)) continue;
      const found = slotAt(plan, slot);
      const isAhead = slot >= formatDay(today);
      if (!found || plan.pauseOf(found)) out.push(slot);
      else if (isAhead && dues.size < MOST && planner.clock.shown(slot) !== found.due)
        dues.set(slot, found.due);
    }
  }
  const inRule = new Set(raw);
  const gone = times
    .map(({ slot }) => slot)
    .filter((slot) => isSlotOf(slot, at) && !inRule.has(slot) && !extras.includes(slot));
  const bounded = { ...plain, count: keepsCount ? rule.count : null, until: null };
  const recur = recurOf(bounded, needsScale);
  if (until !== null) recur.until = at === null ? until : utcText(planner.clock.instantOf(until));
  const dtstart = onLane(first, at);
  const isEmpty = until !== null && until < dtstart;
  return {
    dtstart,
    ...(isEmpty ? {} : { rrule: ['rrule', {}, 'recur', recur] as Property }),
    rdates: unique([...extras, ...gone].filter((slot) => slot !== dtstart)),
    exdates: unique(isEmpty ? [...out, dtstart] : out),
    dues,
    has: (slot) =>
      (inRule.has(slot) && !out.includes(slot)) || extras.includes(slot) || gone.includes(slot),
  };
}

const isSlotOf = (slot: LocalMoment, at: string | null) =>
  at === null ? slot.length === 10 : slot.endsWith(`T${at}`);
const unique = (all: readonly LocalMoment[]) => [...new Set(all)].sort();
const utcText = (at: Instant) => `${formatInstant(at).slice(0, 19)}Z`;

/** The last slot of a lane, where the last of all is known. */
function lastOfLane(
  plan: SlottedPlan,
  last: LocalMoment | null,
  at: string | null,
): LocalMoment | null {
  let slot = last;
  for (let i = 0; slot !== null && !isSlotOf(slot, at) && i < 30; i++) slot = plan.slotBefore(slot);
  return slot ?? '0001-01-01';
}

/** Dates one by one. */
function listOf(slots: readonly LocalMoment[], dues = new Map<string, string>()): SlotSet {
  const [dtstart = null, ...rdates] = unique(slots);
  const all = new Set(slots);
  return { dtstart, rdates, exdates: [], dues, has: (slot) => all.has(slot) };
}

/** Working days, picked dates, so many a period: each slot by itself (two years, 100 at most). */
function listedSet(
  context: Context,
  plan: SlottedPlan,
  times: readonly ExchangedTime[],
  lane: Lane,
): SlotSet {
  const { today } = context;
  const { at } = lane;
  const isOwn = (slot: LocalMoment) => isSlotOf(slot, at);
  const before = times.map(({ slot }) => slot).filter((slot) => isOwn(slot));
  const ahead = slotsFrom(plan, today, horizonOf(today), 4 * MOST).filter(({ slot }) =>
    isOwn(slot),
  );
  const known = unique(before);
  const found = ahead
    .filter(({ slot }) => !known.includes(slot))
    .slice(0, Math.max(0, MOST - known.length));
  const slots = unique([...known, ...found.map(({ slot }) => slot)]);
  const dues = new Map<LocalMoment, LocalMoment>();
  const set = listOf(slots, dues);
  if (set.dtstart === null) return set;
  if (plan.kind === 'quota') {
    const dueOf = (slot: LocalMoment) =>
      times.find((time) => time.slot === slot)?.due ?? slotAt(plan, slot)?.due ?? slot;
    set.due = dueOf(set.dtstart);
    const length = parseDay(set.due) - parseDay(set.dtstart);
    for (const { slot, due } of found)
      if (parseDay(due) - parseDay(slot) !== length) dues.set(slot, due);
    return set;
  }
  for (const { slot, due } of found)
    if (due !== slot && parseMoment(due).day !== parseMoment(slot).day) dues.set(slot, due);
  return set;
}

/** After I finish: those that ended, and the next one. */
function countedSet({ planner, now }: Context, { series, times = [] }: ExchangedTodo): SlotSet {
  const ended = times.filter(({ status }) => status !== 'open');
  const open = times.find(({ status }) => status === 'open');
  const finished = ended.filter(
    ({ status, closedAt }) => (status === 'done' || status === 'skipped') && closedAt,
  );
  const last = finished.toSorted((a, b) => (a.closedAt! < b.closedAt! ? -1 : 1)).at(-1);
  const next =
    open ??
    nextCounted(
      planner,
      series,
      last ? { ...last, closedAt: parseInstant(last.closedAt!, 'closedAt') } : null,
      ended.filter(({ status }) => status === 'done').length,
      now,
    );
  const dues = new Map<LocalMoment, LocalMoment>();
  const slots = ended.map(({ slot }) => slot).filter((slot) => slot !== UNDATED);
  if (next) {
    // Of two with one slot the later goes out under its due.
    const name = slots.includes(next.slot) ? (next.due ?? next.slot) : next.slot;
    slots.push(name);
    // One that is there says itself where it was moved.
    if (next !== open && next.due !== null && next.due !== name && next.due.length === name.length)
      dues.set(name, next.due);
  }
  const length = (next?.slot ?? slots.at(-1) ?? '').length;
  return { ...listOf(slots.filter((slot) => slot.length === length)), dues };
}

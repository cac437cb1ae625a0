import type { Action, ActionAnswer, TodoView } from '@back-again/contract';
import {
  isSlotted,
  DEFAULT_SETTINGS,
  addToDay,
  clockOf,
  formatDay,
  parseMoment,
  parseSpan,
  viewOf,
  whatOf,
  whenOf,
  type Day,
  type Instant,
  type LocalMoment,
  type PlaceParts,
  type PersonalClock,
  type Settings,
  type Span,
} from '@back-again/core';
import { read } from '@back-again/core/reading';
import { plannerFor } from '../compute/tasks.ts';
import { act } from '../machine/act.ts';
import type { Database } from '../db/database.ts';
import { addUser, removeUser, renameUser, userNamed } from '../account/users.ts';
import { beginFile, takePiece } from '../files/kept.ts';
import { sayUntilNow, type Linked } from './said.ts';
import { randomFrom, type Random } from './random.ts';
import { DEMO_PLACES } from './places.ts';
import { DEMO_BUNDLES } from './bundles.ts';
import { scenario, type Habit, type Story } from './scenario.ts';

/** The demo’s sign-in: for trying the program on one’s own machine. */
export const DEMO = { name: 'demo@example.org', password: 'comes back again' } as const;
const LOADING = 'demo-loading@example.org';
const SEED = 20261124;
const AFTER = 20 * 60_000;
const SETTINGS: Settings = {
  ...DEFAULT_SETTINGS,
  zone: 'Europe/London',
  dayStart: '04:00',
  remindAt: '08:30',
  quiet: { from: '22:00', to: '07:00' },
  channels: ['email'],
  overview: '07:30',
  holds: { MO: 60, TU: 60, WE: 60, TH: 60, FR: 60, SA: 60, SU: 120 },
  up: { from: '06:30', to: '22:30' },
};

/**
 * Makes the demo account with six months of history, relative to `now`, through the same actions
 * that a person takes; gives whether it was made. Where there is one already nothing happens. It
 * gets its name last: one that was cut short is made anew.
 */
export async function loadDemo(db: Database, now: Instant, linked: Linked): Promise<boolean> {
  if (await userNamed(db, DEMO.name)) return false;
  const leftOver = await userNamed(db, LOADING);
  if (leftOver) await removeUser(db, leftOver.id);
  const random = randomFrom(SEED);
  const clock = clockOf(SETTINGS);
  const user = await addUser(db, {
    name: LOADING,
    password: DEMO.password,
    settings: SETTINGS,
    // Today's overview is still to be said.
    now: clock.startOf(clock.dayAt(now)) - 1,
  });
  const life: Life = { db, userId: user.id, clock, now, random, places: new Map() };
  await makePlaces(life);
  for (const story of scenario(clock.dayAt(now))) await live(life, story);
  await restPlaces(life);
  for (const has of DEMO_BUNDLES)
    await done(life, moment(clock, clock.dayAt(now) - 20, '18:00'), {
      do: 'bundle',
      id: random.uuid(),
      bundle: random.uuid(),
      has,
    });
  await sayUntilNow(db, user.id, now, linked);
  await renameUser(db, user.id, DEMO.name);
  return true;
}

interface Life {
  db: Database;
  userId: string;
  clock: PersonalClock;
  now: Instant;
  random: Random;
  /** The ids of the places by their names. */
  places: Map<string, string>;
}

/** Half a year ago it was settled what belongs where. */
async function makePlaces({ places, ...life }: Life): Promise<void> {
  const today = life.clock.dayAt(life.now);
  const at = moment(life.clock, today - 190, '18:00');
  for (const [order, it] of DEMO_PLACES.entries()) {
    const place = life.random.uuid();
    places.set(it.name, place);
    const [from, to] = it.days ?? [];
    const parts: Partial<PlaceParts> = {
      kind: it.kind,
      name: it.name,
      in: it.in === undefined ? null : places.get(it.in)!,
      order,
      note: it.note ?? '',
      ...(it.isPlanned ? { state: 'planned' } : {}),
      ...(from === undefined ? {} : { from: formatDay(today + from) }),
      ...(to === undefined ? {} : { to: formatDay(today + to) }),
    };
    await done(life, at, { do: 'place', id: life.random.uuid(), place, parts });
  }
}

/** What rests began to rest a month ago. */
async function restPlaces({ places, ...life }: Life): Promise<void> {
  const at = moment(life.clock, life.clock.dayAt(life.now) - 30, '18:00');
  for (const { name, rests } of DEMO_PLACES)
    if (rests)
      await done(life, at, {
        do: 'rest',
        id: life.random.uuid(),
        place: places.get(name)!,
        rests,
      });
}

/** Lives through one to-do, from the day on which it was written until now. */
async function live(life: Life, story: Story): Promise<void> {
  const { clock, random, now } = life;
  const { habit } = story;
  const today = clock.dayAt(now);
  const last = story.lastDone ?? today - 1;
  const reading = read(story.sentence, formatDay(story.written), SETTINGS);
  const every = reading.series.repeat?.by === 'completion' ? reading.series.repeat.every : null;
  const dones = every && habit ? donesUntil(last, story.written, every, habit, random) : [];
  const series = dones[0] ? { ...reading.series, start: formatDay(dones[0].due) } : reading.series;
  const written = moment(clock, dones[0]?.due ?? story.written, '07:30');
  let todo = await does(life, written, {
    do: 'create',
    id: random.uuid(),
    todo: random.uuid(),
    series: whenOf(series),
    details: {
      ...whatOf(series),
      place: story.place === undefined ? null : life.places.get(story.place)!,
      note: story.note ?? '',
      looksBack: story.looksBack ?? false,
    },
  });
  let count = 0;
  const plan = plannerFor(SETTINGS)(series);
  const dueNext = () => todo.open[0]?.slot ?? todo.next?.slot;
  /** At its habit’s time of day; where a day has several, soon after each. */
  const doneAt = (slot: LocalMoment, day: Day) =>
    (series.at?.length ?? 0) > 1 ? clock.instantOf(slot) + AFTER : moment(clock, day, habit!.at);
  const finish = async (slot: LocalMoment, at: Instant, how: 'done' | 'skip' = 'done') => {
    const answers = how === 'done' ? story.answers?.(count++, random) : undefined;
    const spent = how === 'done' ? spentOf(reading.series.takes, random) : undefined;
    const written = { ...(answers ? { answers } : {}), ...(spent === undefined ? {} : { spent }) };
    const action = { id: random.uuid(), todo: todo.id, slot };
    todo = await does(
      life,
      at,
      how === 'done' ? { do: how, ...action, ...written } : { do: how, ...action },
    );
  };

  for (const { day } of dones) await finish(dueNext()!, moment(clock, day, habit!.at));
  if (habit && !every)
    for (;;) {
      const slot = dueNext();
      if (slot === undefined || parseMoment(slot).day > last) break;
      const { how, late } = choose(random, habit);
      const after = how === 'miss' && isSlotted(plan) ? plan.slotAfter(slot)?.slot : undefined;
      if (how === 'miss' && after !== undefined && parseMoment(after).day <= last) {
        // The next one is done instead; this one ends as missed by itself.
        await finish(after, doneAt(after, parseMoment(after).day));
        continue;
      }
      const day = Math.min(parseMoment(slot).day + late, last);
      await finish(slot, doneAt(slot, day), how === 'skip' ? 'skip' : 'done');
    }
  for (const days of story.tallies ?? []) {
    const at = moment(clock, today - days, '17:15');
    todo = await does(life, at, { do: 'tally', id: random.uuid(), todo: todo.id });
  }
  for (const { on, to } of story.moved ?? [])
    todo = await does(life, moment(clock, on, '19:05'), {
      do: 'move',
      id: random.uuid(),
      todo: todo.id,
      slot: dueNext()!,
      plan: formatDay(to),
    });
  if (story.pausedFrom !== undefined)
    todo = await does(life, moment(clock, story.pausedFrom, '09:00'), {
      do: 'pause',
      id: random.uuid(),
      todos: [todo.id],
    });
  const steps = todo.series.steps ?? [];
  for (const { id } of steps.slice(0, story.started ?? 0)) {
    const at = moment(clock, today - 1, '19:40');
    todo = await does(life, at, {
      do: 'tick',
      id: random.uuid(),
      todo: todo.id,
      step: id,
      on: true,
    });
  }
  const slot = dueNext();
  const early = moment(clock, today, '08:05');
  if (story.doneToday && slot && parseMoment(slot).day === today && early <= now)
    await finish(slot, early);
  if (story.file && slot !== undefined) await attach(life, todo.id, slot, story.file);
}

/** The minutes that a time really took, in fives, where the person wrote them down: six times of ten. */
function spentOf(takes: number | undefined | null, random: Random): number | undefined {
  if (!takes || random.below(10) >= 6) return undefined;
  return Math.max(5, Math.round((takes * (75 + random.below(70))) / 500) * 5);
}

/** This morning a file was attached to a time. */
async function attach(
  life: Life,
  todo: string,
  slot: LocalMoment,
  { name, type, content }: NonNullable<Story['file']>,
): Promise<void> {
  const { db, userId, clock, now, random } = life;
  const at = Math.min(now, moment(clock, clock.dayAt(now), '08:10'));
  const bytes = content();
  const file = { id: random.uuid(), name, type, size: bytes.length };
  const { pieces, pieceBytes } = await beginFile(db, userId, at, { ...file, sum: null });
  for (let n = 0; n < pieces; n++)
    await takePiece(db, userId, file.id, n, bytes.subarray(n * pieceBytes, (n + 1) * pieceBytes));
  await done(life, at, { do: 'file', id: random.uuid(), todo, slot, file });
}

/** When an after-I-finish one was due and done, oldest first, so that it was last done on `last`. */
function donesUntil(last: Day, written: Day, every: Span, habit: Habit, random: Random) {
  const span = parseSpan(every);
  const days = { ...span, days: span.days + Math.floor(span.minutes / 1440) };
  const found: { due: Day; day: Day }[] = [];
  for (let day = last; ;) {
    const due = day - habit.late[random.below(habit.late.length)]!;
    if (due < written) return found;
    found.unshift({ due, day });
    day = addToDay(due, days, -1);
  }
}

function choose(random: Random, habit: Habit): { how: 'done' | 'skip' | 'miss'; late: number } {
  const of100 = random.below(100);
  const late = habit.late[random.below(habit.late.length)]!;
  const { misses = 0, skips = 0 } = habit;
  if (of100 < misses) return { how: 'miss', late: 0 };
  return { how: of100 < misses + skips ? 'skip' : 'done', late };
}

function moment(clock: PersonalClock, day: Day, at: string): Instant {
  return clock.instantOf(`${formatDay(day)}T${at}`);
}

function done(
  { db, userId }: Pick<Life, 'db' | 'userId'>,
  at: Instant,
  action: Action,
): Promise<ActionAnswer> {
  return act(db, { userId, settings: SETTINGS }, () => at, action);
}

/** Takes an action at a moment of the past, and gives the to-do as it stood then. */
async function does(life: Life, at: Instant, action: Action): Promise<TodoView> {
  const { todos } = await done(life, at, action);
  return viewOf(plannerFor(SETTINGS), todos[0]!, at);
}

import { randomUUID } from 'node:crypto';
import { setTimeout as wait } from 'node:timers/promises';
import type { ActionAnswer, ChangesView, TodoState } from '@back-again/contract';
import {
  DEFAULT_SETTINGS,
  formatDay,
  formatInstant,
  parseDay,
  plannerOf,
  whenOf,
  type Deed,
  type Instant,
  type Occurrence,
  type Series,
} from '@back-again/core';
import { Life } from '@back-again/core/rehearsal';
import { read } from '@back-again/core/reading';
import type { Database } from '../db/database.ts';
import type { ActionRow, StepRow } from '../db/models.ts';
import { randomFrom, type Random } from '../demo/random.ts';
import { Client, halvesOf, type Answer } from './harness.ts';

// People who do one thing after another, at random, whatever becomes of the servers; and the core alone, which goes
// through what was kept of it and has to come to the same.

const SENTENCES = [
  'Check the bilge every day',
  'Feed the hens every day at 8, 13 and 20',
  'Check the ropes every Tuesday and Friday, each one is owed',
  'Grease the stern gland 5 days after done',
  'Look at the gauge 9 hours after done',
  'Swim at the weir 3 times a week',
  'Clean the panels every week opens 3 days before',
];
const HOUR = 3_600_000;
/** What is not answered for so long, in milliseconds, is not going to be: nothing stays away longer. */
const MOST_PATIENCE = 60_000;
/** What says that somebody is away or busy just now: then it is asked again. */
const AWAY = [429, 502, 503, 504];

interface Doing {
  todo: string;
  deed: Deed | null;
  of: string | null;
}

/** One of them. */
export class Acting {
  /** What was answered, in its order. */
  readonly answered: { id: string; version: number }[] = [];
  /** What was answered to their second window, in its order. */
  readonly beside: { id: string; version: number }[] = [];
  /** How long each took until it was answered, in milliseconds. */
  readonly took: number[] = [];
  /** How long each look at what is new took, in milliseconds. */
  readonly looked: number[] = [];
  /** What a look did not show although it was answered, and what was refused without a reason. */
  readonly wrong: string[] = [];
  /** What was refused for what it is: nothing is changed by it. */
  refused = 0;
  readonly sent = new Map<string, Doing>();
  readonly todos = new Map<string, { series: Series; state: TodoState | null }>();
  private readonly random: Random;
  private client: Client | null = null;
  /** Those of its actions that can be taken back. */
  private readonly done: string[] = [];
  /** Whom it asks, one after the other: each may be gone at any moment; those that come back stand in their place. */
  servers: readonly { url: string }[];
  private readonly now: () => Instant;

  /**
   * @param now the time that the servers have
   */
  constructor(servers: readonly { url: string }[], seed: number, now: () => Instant) {
    this.servers = servers;
    this.random = randomFrom(seed);
    this.now = now;
  }

  /**
   * Makes an account, and so many to-dos.
   * @param more further to-dos, as sentences
   */
  async begin(today: string, todos = 3, more: readonly string[] = []): Promise<void> {
    this.client = await new Client(this.servers[0]!.url).register();
    for (let i = 0; i < todos; i++) {
      const todo = randomUUID();
      const sentence = SENTENCES[this.random.below(SENTENCES.length)]!;
      const { series } = read(sentence, today);
      this.todos.set(todo, { series: whenOf(series), state: null });
      await this.until({ do: 'create', todo, ...halvesOf(series) });
    }
    const made = more.map((sentence) => ({
      todo: randomUUID(),
      ...halvesOf(read(sentence, today).series),
    }));
    for (let i = 0; i < made.length; i += 50)
      await this.until({ do: 'createAll', made: made.slice(i, i + 50) });
  }

  /** Is told by e-mail too. */
  async byEmail(): Promise<void> {
    const { body } = await this.client!.send<{ settings: object }>('GET', '/session');
    await this.client!.send('PUT', '/settings', { ...body.settings, channels: ['email'] });
  }

  /** Does one thing, until it is answered. */
  async act(): Promise<void> {
    const ids = [...this.todos.keys()];
    const todo = ids[this.random.below(ids.length)]!;
    const { state } = this.todos.get(todo)!;
    if (this.done.length && this.random.below(7) === 0) {
      const [of] = this.done.splice(this.random.below(this.done.length), 1);
      await this.until({ do: 'undo', of });
      return;
    }
    if (this.random.below(12) === 0) {
      const title = `Look at it, ${this.random.below(1000)}`;
      await this.until({ do: 'describe', todos: [todo], details: { title } });
      return;
    }
    const deed = this.anyDeed(state);
    const id = await this.until({ ...deed, todo });
    if (id !== null && this.sent.get(id)!.deed) this.done.push(id);
    if (this.done.length > 30) this.done.shift();
  }

  /**
   * Does one thing after another, and looks now and then.
   * @param looks of so many deeds one is followed by a look; 0: none is
   */
  async actUntil(isOver: () => boolean, looks = 0): Promise<void> {
    while (!isOver()) {
      await this.act();
      if (looks && this.random.below(looks) === 0) await this.lookForNew();
    }
  }

  /** Names things anew in a second window, at the same time as all else is done. */
  async actBeside(isOver: () => boolean): Promise<void> {
    const todos = [...this.todos.keys()];
    for (let n = 0; !isOver(); n++) {
      const id = randomUUID();
      const details = { title: `From the other window, ${n}` };
      const action = { do: 'describe', id, todos: [todos[n % todos.length]], details };
      this.sent.set(id, { todo: '', of: null, deed: null });
      const { status, body } = await this.asked<ActionAnswer>('POST', '/actions', action);
      if (status === 200) this.beside.push({ id, version: body.version });
      else this.wrong.push(`another name was refused with ${status}`);
    }
  }

  /** Looks at what is new, as a window does that was away: all that was answered is in it, whichever server is asked. */
  async lookForNew(): Promise<void> {
    const { version = 0 } = this.answered.at(-1) ?? {};
    const since = Math.max(0, version - this.random.below(20));
    const from = Date.now();
    const { body } = await this.asked<ChangesView>('GET', `/changes?since=${since}`);
    this.looked.push(Date.now() - from);
    if (body.version < version) this.wrong.push(`a look has ${body.version} after ${version}`);
  }

  private anyDeed(state: TodoState | null): Deed {
    const { random } = this;
    const now = this.now();
    const today = formatDay(Math.floor(now / (24 * HOUR)));
    const day = (n: number) => formatDay(parseDay(today) + random.below(n));
    const open = (state?.progress.open ?? []).map((it) => it.slot);
    const slots = [...open, ...open, day(5)];
    const slot = { slot: slots[random.below(slots.length)]! };
    const deeds: Deed[] = [
      { do: 'done', ...slot },
      { do: 'done' },
      { do: 'done' },
      { do: 'skip', ...slot },
      { do: 'tally', ...slot },
      { do: 'move', ...slot, plan: day(5) },
      { do: 'move', ...slot, due: day(5) },
      { do: 'part', ...slot, part: random.below(100) },
      { do: 'note', ...slot, note: `Heavy ${random.below(9)}` },
      { do: 'later', ...slot, to: formatInstant(now + (2 + random.below(40)) * HOUR) },
    ];
    return deeds[random.below(deeds.length)]!;
  }

  /** Does something, with one id, until it is answered; gives that, or null where it was refused for what it is. */
  private async until(action: object): Promise<string | null> {
    const id = randomUUID();
    const { todo = '', of = null, ...deed } = action as { do: string; todo?: string; of?: string };
    const isDeed = todo !== '' && deed.do !== 'create';
    this.sent.set(id, { todo, of, deed: isDeed ? (deed as Deed) : null });
    const from = Date.now();
    const { status, body } = await this.asked<ActionAnswer>('POST', '/actions', { id, ...action });
    if (status !== 200) {
      if (status === 401) throw new Error('The session is gone.');
      this.refused++;
      return null;
    }
    this.took.push(Date.now() - from);
    this.answered.push({ id, version: body.version });
    for (const it of body.todos) {
      const known = this.todos.get(it.id);
      if (known) known.state = it;
    }
    return id;
  }

  /**
   * Asks one server after the other, until one answers.
   * @throws Error where none does for a minute, or where one answers with a fault of its own
   */
  private async asked<T>(method: string, path: string, body?: object): Promise<Answer<T>> {
    const end = Date.now() + MOST_PATIENCE;
    for (let n = 0; Date.now() < end; n++) {
      const { url } = this.servers[(this.answered.length + n) % this.servers.length]!;
      try {
        const answer = await this.client!.beside(url).send<T>(method, path, body);
        if (answer.status < 500 && answer.status !== 429) return answer;
        if (!AWAY.includes(answer.status)) throw new Error(`${path} answered ${answer.status}.`);
      } catch (error) {
        // A server that is gone: fetch says so by a TypeError, and half an answer is none.
        if (!['TypeError', 'SyntaxError'].includes((error as Error).name)) throw error;
      }
      await wait(100);
    }
    throw new Error(`${path} was not answered for a minute.`);
  }

  /** Lets the servers bring each of its to-dos up to now. */
  async look(): Promise<void> {
    for (const todo of this.todos.keys())
      await this.client!.beside(this.servers[0]!.url).page(todo);
  }
}

export interface Fault {
  person: number;
  what: string;
}

type Brief = Pick<Occurrence, 'number' | 'slot' | 'due' | 'plan' | 'status' | 'rolled'> & {
  tally?: number | null;
  part?: number | null;
};
/** A time in one line, to be compared. */
export const briefOf = ({ number, slot, due, plan, status, rolled, tally, part }: Brief) =>
  [number, slot, due, plan, status, rolled, tally ?? '-', part ?? '-'].join(' ');

/**
 * Holds what was kept against what was answered, and against the core alone: each answered action is there once, in
 * the order in which it was answered, and none that was not; nobody was told of a fault; and each to-do stands as the core alone computes it
 * from the kept actions, each at the moment of its step.
 */
export async function faultsOf(db: Database, people: readonly Acting[]): Promise<Fault[]> {
  const faults: Fault[] = [];
  for (const [person, acting] of people.entries()) {
    const say = (what: string) => faults.push({ person, what });
    for (const what of acting.wrong) say(what);
    const [todo] = acting.todos.keys();
    const row = await db.series.findOne({ where: { id: todo! } });
    const { userId } = row!;
    const kept = (await db.actions.findAll({ where: { userId }, order: [['version', 'ASC']] })).map(
      (it) => it.get() as ActionRow,
    );
    const user = await db.users.findByPk(userId);
    const ids = kept.map(({ id }) => id);
    if (new Set(ids).size !== ids.length) say('an action is there twice');
    const there = new Set(ids);
    for (const order of [acting.answered, acting.beside].map((all) => all.map(({ id }) => id))) {
      const ofThese = new Set(order);
      if (order.some((id) => !there.has(id))) say('an answered action was lost');
      if (ids.filter((id) => ofThese.has(id)).join() !== order.join()) say('their order is broken');
      for (const id of order) there.delete(id);
    }
    if (there.size) say('an action is there that was never answered');
    if (kept.at(-1)?.version !== user!.version) say('the version is not that of the last action');
    const steps = (await db.steps.findAll({ where: { userId, kind: 'deed' } })).map(
      (it) => it.get() as StepRow,
    );
    for (const [id, { series }] of acting.todos)
      await holdTodo(db, acting, { id, series, kept, steps }, say);
  }
  return faults;
}

async function holdTodo(
  db: Database,
  acting: Acting,
  { id, series, kept, steps }: { id: string; series: Series; kept: ActionRow[]; steps: StepRow[] },
  say: (what: string) => void,
): Promise<void> {
  const row = (await db.series.findOne({ where: { id } }))!;
  const planner = plannerOf({ ...DEFAULT_SETTINGS, zone: 'UTC' });
  const at = (row.createdAt as Date).getTime();
  const life = new Life(planner, { series, at });
  life.pass(at);
  const mine = new Map(steps.filter((it) => it.seriesId === id).map((it) => [it.actionSeq, it]));
  let last: Instant = at;
  for (const action of kept) {
    const { deed, of, todo } = acting.sent.get(action.id) ?? { deed: null, of: null, todo: '' };
    const step = mine.get(action.seq);
    if (of !== null && mine.has(kept.find((it) => it.id === of)?.seq ?? -1)) {
      last = Math.max(last, action.at.getTime());
      life.pass(last);
      life.undo(of, last);
    }
    if (!deed || todo !== id) continue;
    if (!step) return void say(`a ${deed.do} has no step`);
    last = Math.max(last, step.at.getTime());
    life.pass(step.at.getTime());
    if (!life.do({ key: action.id, at: step.at.getTime(), deed }))
      return void say(`the core finds nothing for a ${deed.do} of ${id}`);
  }
  life.pass(Math.max(last, row.progress.through ?? last));
  const there = (await db.occurrences.findAll({ where: { seriesId: id } })).map(briefOf).sort();
  const wanted = life.times.map(briefOf).sort();
  if (there.join('\n') !== wanted.join('\n'))
    say(
      `${row.title} is kept otherwise than the core has it: ${there.filter((it) => !wanted.includes(it)).join('; ')} for ${wanted.filter((it) => !there.includes(it)).join('; ')}`,
    );
}

/** A share of sorted figures. */
export const percentile = (sorted: readonly number[], share: number): number =>
  sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;

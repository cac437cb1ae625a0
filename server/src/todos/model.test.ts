import { randomUUID } from 'node:crypto';
import type { Action, TodoPage } from '@back-again/contract';
import {
  CoreError,
  DEFAULT_SETTINGS,
  formatDay,
  formatInstant,
  parseDay,
  parseInstant,
  plannerOf,
  whenOf,
  type Deed,
  type Instant,
  type Series,
} from '@back-again/core';
import { Life } from '@back-again/core/rehearsal';
import { read } from '@back-again/core/reading';
import { openDatabase } from '../db/database.ts';
import { randomFrom, type Random } from '../demo/random.ts';
import { briefOf } from '../testing/acting.ts';
import { Client, freshDatabase, halvesOf } from '../testing/harness.ts';
import { spawnServer } from '../testing/process.ts';

// The server, driven by random actions from two clients and killed at random moments, is held against
// the core alone: its answers and what it keeps must be what the core computes.

const BORN = parseInstant('2027-06-01T10:00:00Z');
const HOUR = 3600_000;
const SENTENCES = [
  'Check the bilge every day',
  'Feed the hens every day at 8, 13 and 20',
  'Check the bilge every Tuesday and Friday, each one is owed',
  'Grease the stern gland 5 days after done',
  'Look at the gauge 9 hours after done',
  'Swim at the weir 3 times a week',
  'Read the meter every 3 days, missed 1 day after it is due',
  'Change the mite board 4 days after done, missed 2 days after it is due',
  'Clean the panels every week opens 3 days before',
  'Feed the bees every 2 days 6 times',
];

/** One to-do as the core alone computes it. */
class Model {
  readonly planner = plannerOf(DEFAULT_SETTINGS);
  readonly life: Life;

  constructor(series: Series, at: Instant) {
    this.life = new Life(this.planner, { series, at });
    this.pass(at);
  }

  /** What the server would answer: null for done, else the code. */
  do(key: string, deed: Deed, at: Instant): string | null {
    this.pass(at);
    return codeOf(() => (this.life.do({ key, at, deed }) ? null : 'time.none'));
  }

  undo(key: string, at: Instant): string | null {
    this.pass(at);
    return codeOf(() => {
      this.life.undo(key, at);
      return null;
    });
  }

  pass(until: Instant): void {
    this.life.pass(until);
  }

  get progress() {
    return this.life.progress;
  }

  get times() {
    return this.life.times;
  }

  get brief(): string[] {
    return this.times.map(briefOf).sort();
  }
}

function codeOf(work: () => string | null): string | null {
  try {
    return work();
  } catch (error) {
    if (error instanceof CoreError) return error.code;
    throw error;
  }
}

/** Something that a person might do to such a to-do now. */
function anyDeed(random: Random, model: Model, today: string): Deed {
  const slots = [
    ...model.progress.open.map(({ slot }) => slot),
    ...[...model.times]
      .sort((a, b) => a.number - b.number)
      .slice(-3)
      .map(({ slot }) => slot),
    formatDay(parseDay(today) + random.below(6)),
  ];
  const slot = random.below(3) ? { slot: slots[random.below(slots.length)]! } : {};
  const later = formatDay(parseDay(today) + random.below(5));
  const deeds: Deed[] = [
    { do: 'done', ...slot },
    { do: 'done' },
    { do: 'done' },
    { do: 'skip', ...slot },
    { do: 'tally', ...slot },
    { do: 'move', ...slot, plan: later },
    { do: 'move', ...slot, due: later },
    { do: 'part', ...slot, part: random.below(100) },
    { do: 'pause', to: later },
    { do: 'pause' },
    { do: 'resume' },
    { do: 'resume' },
    { do: 'drop', ...slot },
    {
      do: 'change',
      ...slot,
      series: { repeat: { by: 'calendar', rule: 'FREQ=DAILY;INTERVAL=2' } },
    },
    { do: 'change', series: { owe: 'every' } },
    { do: 'end' },
    { do: 'reopen' },
    { do: 'reopen' },
  ];
  return deeds[random.below(deeds.length)]!;
}

/** Each kill costs a start of the server, which takes seconds on a busy machine. */
const LIMIT = 300_000;
/** A few in each run; LIVES names how many in a long one. */
const SEEDS = Array.from({ length: Number(process.env.LIVES ?? 1) }, (_, i) => i + 1);

test.each(SEEDS)(
  'random lives from seed %i are what the core alone gives',
  async (seed) => {
    const url = await freshDatabase();
    const db = openDatabase(url);
    let server = await spawnServer(url, { at: BORN });
    const random = randomFrom(seed);
    let clients = [await new Client(server.url).register()];
    clients.push(clients[0]!.beside(server.url));
    const models = new Map<string, Model>();
    for (const sentence of SENTENCES) {
      const { series } = read(sentence, '2027-06-01');
      const todo = randomUUID();
      const made = await clients[0]!.act({
        do: 'create',
        id: randomUUID(),
        todo,
        ...halvesOf(series),
      });
      expect(made.status).toBe(200);
      models.set(todo, new Model(whenOf(series), BORN));
    }
    const todos = [...models.keys()];
    const done: { todo: string; action: string }[] = [];
    let now = BORN;
    let refused = 0;
    let kills = 0;
    try {
      for (let i = 0; i < 220; i++) {
        now += random.below(9) * HOUR;
        const client = clients[random.below(2)]!;
        await client.clock(formatInstant(now));
        const id = randomUUID();
        if (done.length && random.below(6) === 0) {
          const [it] = done.splice(random.below(done.length), 1);
          const code = models.get(it!.todo)!.undo(it!.action, now);
          await answers(client, { do: 'undo', id, of: it!.action }, code);
          if (code) done.push(it!);
        } else {
          const todo = todos[random.below(todos.length)]!;
          const model = models.get(todo)!;
          model.pass(now);
          const deed = anyDeed(random, model, formatDay(model.planner.clock.dayAt(now)));
          const code = model.do(id, deed, now);
          if (code) refused++;
          else done.push({ todo, action: id });
          const several = deed.do === 'pause' || deed.do === 'resume';
          const of = several ? { todos: [todo] } : { todo };
          await answers(client, { ...deed, id, ...of } as Action, several ? null : code);
        }
        if (i % 20 === 19) await compare();
      }
      await compare();
      expect(refused).toBeGreaterThan(10);
      expect(refused).toBeLessThan(180);
      expect(kills).toBeGreaterThan(2);
    } finally {
      await server.kill();
      await db.close();
    }

    async function answers(client: Client, action: Action, code: string | null): Promise<void> {
      const answer = random.below(25) ? await client.act(action) : await cutOff(client, action);
      const got = answer.status === 200 ? null : answer.body.error.code;
      expect([action, got]).toEqual([action, code]);
      // Sent again, as after an answer that was lost: nothing more happens.
      if (random.below(5) === 0) expect((await clients[0]!.act(action)).status).toBe(answer.status);
    }

    /** The server dies somewhere in the action; started anew, it is sent the same action once more. */
    async function cutOff(client: Client, action: Action) {
      const lost = client.act(action).catch(() => null);
      for (let i = random.below(400); i > 0; i--) await new Promise(setImmediate);
      await server.kill();
      await lost;
      kills++;
      server = await spawnServer(url, { at: now });
      clients = clients.map((one) => one.beside(server.url));
      return clients[0]!.act(action);
    }

    async function compare(): Promise<void> {
      for (const [todo, model] of models) {
        model.pass(now);
        const page: TodoPage = await clients[1]!.page(todo);
        const kept = await db.occurrences.findAll({ where: { seriesId: todo } });
        const moment = formatInstant(now);
        expect([moment, kept.map(briefOf).sort()]).toEqual([moment, model.brief]);
        expect(page.todo.open.map(briefOf)).toEqual(model.progress.open.map(briefOf));
        expect(whenOf(page.todo.series)).toEqual(model.progress.series);
      }
    }
  },
  LIMIT,
);

import { randomBytes, randomUUID } from 'node:crypto';
import type {
  Action,
  ActionAnswer,
  ApiError,
  ChangesView,
  FileView,
  TodoPage,
  TodoState,
  TodoView,
} from '@back-again/contract';
import {
  brokenView,
  dayRemindersOf,
  laterToday,
  parseInstant,
  plannerOf,
  standsAt,
  timeView,
  todayOf,
  viewOf,
  whatOf,
  whenOf,
  type Ahead,
  type Definition,
  type Instant,
  type LocalDate,
  type Planner,
  type Settings,
  type TimeView,
} from '@back-again/core';
import { read } from '@back-again/core/reading';
import type { Config } from '../config.ts';
import { wrongOf } from '../machine/todo.ts';
import { startServer, type Running } from '../server.ts';
import { openDatabase } from '../db/database.ts';

/** Makes an empty database of its own for a test file, and gives its URL. */
export async function freshDatabase(): Promise<string> {
  const url = new URL(process.env.TEST_DATABASE_URL!);
  const name = `test_${randomBytes(6).toString('hex')}`;
  const admin = openDatabase(url.href);
  await admin.sequelize.query(`CREATE DATABASE ${name} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`);
  await admin.close();
  url.pathname = `/${name}`;
  return url.href;
}

export const testConfig = (databaseUrl: string, more: Partial<Config> = {}): Config => ({
  databaseUrl,
  host: '127.0.0.1',
  port: 0,
  publicUrl: null,
  sessionSecret: 'for tests alone',
  secure: false,
  proxy: ['loopback'],
  web: null,
  testClock: true,
  compareClocks: false,
  testNow: null,
  testShift: 0,
  signInTries: 1000,
  standInTakes: 0,
  mail: null,
  operatorKey: null,
  text: null,
  push: null,
  demo: false,
  log: 'silent',
  ...more,
});

/** A server on a database of its own, standing at a given time. */
export async function startTestServer(
  at = '2027-06-01T10:00:00Z',
  more: Partial<Config> = {},
): Promise<Running> {
  const running = await startServer(testConfig(await freshDatabase(), more));
  running.now.set(parseInstant(at));
  return running;
}

export interface Answer<T> {
  status: number;
  body: T & ApiError;
  headers: Headers;
}

/** A definition as an action gives it: when, and what. */
export const halvesOf = (definition: Definition) => ({
  series: whenOf(definition),
  details: whatOf(definition),
});

/** A client with a session of its own. */
export class Client {
  private cookie = '';
  readonly base: string;

  constructor(base: string) {
    this.base = base;
  }

  /** What it sends as its cookies. */
  get cookies(): string {
    return this.cookie;
  }

  /** Another client with the same session, on a server on the same database. */
  beside(base: string): Client {
    const client = new Client(base);
    client.cookie = this.cookie;
    return client;
  }

  async send<T = unknown>(
    method: string,
    path: string,
    body?: unknown,
    headers: Record<string, string> = {},
  ): Promise<Answer<T>> {
    const response = await fetch(`${this.base}/api${path}`, {
      method,
      headers: {
        'Content-Type': 'application/json',
        Origin: this.base,
        ...(this.cookie ? { Cookie: this.cookie } : {}),
        ...headers,
      },
      ...(body === undefined
        ? {}
        : { body: typeof body === 'string' ? body : JSON.stringify(body) }),
    });
    const cookie = response.headers.get('set-cookie');
    if (cookie) this.cookie = cookie.split(';')[0]!;
    const text = await response.text();
    return {
      status: response.status,
      headers: response.headers,
      body: (text ? JSON.parse(text) : {}) as T & ApiError,
    };
  }

  /** Sends a piece of a file. */
  async sendPiece<T = FileView>(
    file: string,
    n: number | string,
    bytes: Uint8Array<ArrayBuffer>,
  ): Promise<{ status: number; body: T & ApiError }> {
    const response = await fetch(`${this.base}/api/files/${file}/${n}`, {
      method: 'PUT',
      headers: {
        'Content-Type': 'application/octet-stream',
        Origin: this.base,
        Cookie: this.cookie,
      },
      body: bytes,
    });
    return { status: response.status, body: (await response.json()) as T & ApiError };
  }

  async register(zone = 'UTC', name = `${randomUUID()}@example.org`): Promise<this> {
    const { status } = await this.send('POST', '/accounts', {
      name,
      password: 'a long password',
      zone,
    });
    if (status !== 201) throw new Error(`registering answered ${status}`);
    return this;
  }

  /** Does something; the answer’s to-dos are given as they are shown. */
  async act(action: Action): Promise<Answer<Shown>> {
    const { body, ...rest } = await this.send<ActionAnswer>('POST', '/actions', action);
    if (rest.status !== 200) return { ...rest, body: body as unknown as Shown & ApiError };
    const { planner } = await this.known();
    const now = parseInstant(body.now);
    const todos = body.todos.map((todo) => shown(planner, todo, now));
    return { ...rest, body: { ...body, todos } };
  }

  /** Keeps what a sentence says, read as on 2027-06-01, and gives the to-do's id. */
  async write(sentence: string, today = '2027-06-01'): Promise<string> {
    const todo = randomUUID();
    const { series: said } = read(sentence, today);
    const { place, ...rest } = said;
    const series = place === undefined ? rest : { ...rest, place: await this.placeNamed(place) };
    const { status, body } = await this.act({
      do: 'create',
      id: randomUUID(),
      todo,
      ...halvesOf(series),
    });
    if (status !== 200)
      throw new Error(`keeping “${sentence}” answered ${status}: ${body.error.message}`);
    return todo;
  }

  /** The sphere of that name, which is made where there is none. */
  async placeNamed(name: string): Promise<string> {
    const { places = [] } = await this.changes();
    const there = places.find((it) => it.name === name && !it.gone);
    if (there) return there.id;
    const place = randomUUID();
    const parts = { kind: 'sphere', name } as const;
    const { status } = await this.act({ do: 'place', id: randomUUID(), place, parts });
    if (status !== 200) throw new Error(`making “${name}” answered ${status}`);
    return place;
  }

  /** All that there is of the person, in pages. */
  async changes(since = 0): Promise<ChangesView> {
    const ask = (after: string | null) =>
      this.send<ChangesView>('GET', `/changes?since=${since}${after ? `&after=${after}` : ''}`);
    const { body } = await ask(null);
    const all = { ...body };
    for (let next = body.next; next;) {
      const { body: page } = await ask(next);
      all.todos = [...all.todos, ...page.todos];
      next = page.next;
    }
    return all;
  }

  /** The person’s settings, asked for once until they are changed. */
  private async known(): Promise<{ planner: Planner; settings: Settings }> {
    const { body } = await this.send<ChangesView>('GET', '/changes?since=0');
    return { planner: plannerOf(body.settings!, body.holidays), settings: body.settings! };
  }

  /** What a device of the person shows of all their to-dos. */
  async todos(): Promise<{ now: string; today: LocalDate; todos: TodoView[] }> {
    const { now, settings, holidays, todos } = await this.changes();
    const planner = plannerOf(settings!, holidays);
    const at = parseInstant(now);
    todos.sort((a, b) => a.made - b.made || (a.id < b.id ? -1 : 1));
    const { today } = todayOf(planner, [], at);
    return { now, today, todos: todos.map((todo) => shown(planner, todo, at)) };
  }

  /** What a device of the person shows for today. */
  async today(): Promise<ShownToday> {
    const { now, settings, holidays, todos } = await this.changes();
    const planner = plannerOf(settings!, holidays);
    const at = parseInstant(now);
    todos.sort((a, b) => a.made - b.made || (a.id < b.id ? -1 : 1));
    const views = todos.map((todo) => shown(planner, todo, at));
    const viewFor = (id: string) => views.find((view) => view.id === id)!;
    const agenda = todayOf(planner, todos, at);
    const day = planner.clock.dayAt(at);
    const sound = todos.filter((_, i) => views[i]!.wrong === null);
    return {
      now,
      today: agenda.today,
      open: views.filter(({ open }) => open.length),
      ended: todos.flatMap(({ id, lately, progress }) =>
        lately
          .filter((it) => planner.clock.dayAt(it.at) === day)
          .map(({ time, action }) => ({
            todo: viewFor(id),
            time: timeView(planner, progress, time, at),
            action,
          })),
      ),
      later: sound.flatMap((todo) =>
        laterToday(planner, standsAt(planner, todo, at).progress, at).map((ahead) => ({
          todo: viewFor(todo.id),
          ahead,
        })),
      ),
      soon: agenda.soon.map(({ todo }) => viewFor(todo)),
      reminders: sound
        .flatMap((todo) => dayRemindersOf(planner, todo, settings!, at))
        .sort((a, b) => (a.at < b.at ? -1 : 1)),
    };
  }

  async page(todo: string): Promise<TodoPage> {
    return (await this.send<TodoPage>('GET', `/todos/${todo}`)).body;
  }

  async clock(now: string): Promise<void> {
    await this.send('PUT', '/test/clock', { now });
  }
}

/** An answer with its to-dos as they are shown. */
export type Shown = Omit<ActionAnswer, 'todos'> & { todos: TodoView[] };

export interface ShownToday {
  now: string;
  today: LocalDate;
  open: TodoView[];
  ended: { todo: TodoView; time: TimeView; action: string }[];
  later: { todo: TodoView; ahead: Ahead }[];
  soon: TodoView[];
  reminders: { at: string; due: string; title: string }[];
}

function shown(planner: Planner, todo: TodoState, now: Instant): TodoView {
  try {
    return viewOf(planner, todo, now);
  } catch (error) {
    return brokenView(todo, wrongOf(error));
  }
}

import { randomBytes, randomUUID } from 'node:crypto';
import type {
  Action,
  ActionAnswer,
  ApiError,
  TodayView,
  TodoPage,
  TodosView,
} from '@back-again/contract';
import { parseInstant } from '@back-again/core';
import { read } from '@back-again/core/reading';
import type { Config } from '../config.ts';
import { startServer, type Running } from '../server.ts';
import { openDatabase } from '../store/database.ts';

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

  async register(zone = 'UTC'): Promise<this> {
    const name = `${randomUUID()}@example.org`;
    const { status } = await this.send('POST', '/accounts', {
      name,
      password: 'a long password',
      zone,
    });
    if (status !== 201) throw new Error(`registering answered ${status}`);
    return this;
  }

  act(action: Action): Promise<Answer<ActionAnswer>> {
    return this.send('POST', '/actions', action);
  }

  /** Keeps what a sentence says, read as on 2027-06-01, and gives the to-do's id. */
  async write(sentence: string, today = '2027-06-01'): Promise<string> {
    const todo = randomUUID();
    const { series } = read(sentence, today);
    const { status, body } = await this.act({ do: 'create', id: randomUUID(), todo, series });
    if (status !== 200)
      throw new Error(`keeping “${sentence}” answered ${status}: ${body.error.message}`);
    return todo;
  }

  async today(): Promise<TodayView> {
    return (await this.send<TodayView>('GET', '/today')).body;
  }

  async todos(): Promise<TodosView> {
    return (await this.send<TodosView>('GET', '/todos')).body;
  }

  async page(todo: string): Promise<TodoPage> {
    return (await this.send<TodoPage>('GET', `/todos/${todo}`)).body;
  }

  async clock(now: string): Promise<void> {
    await this.send('PUT', '/test/clock', { now });
  }
}

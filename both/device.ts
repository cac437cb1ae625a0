import type { ActionAnswer } from '@back-again/contract';
import { advance, sinceYesterday, type Instant, type Planner } from '@back-again/core';
import { makeAsk, type Answered, type Ask } from '../app/src/data/ask.ts';
import { makeKept, type Kept } from '../app/src/data/local/kept.ts';
import type { Change } from '../app/src/data/local/overlay.ts';
import { Looking } from '../app/src/data/local/shown.ts';
import type { Local } from '../app/src/data/local/slice.ts';
import type { Dated } from '../app/src/data/local/play.ts';
import { newStore } from '../app/src/data/testing.ts';
import { OWN, isTodo, placeKey, type State } from '../app/src/data/local/world.ts';
import { Sync } from '../app/src/data/sync.ts';
import type { Client } from '../server/src/testing/harness.ts';

/** What a device does with a request: it goes through, or is lost on the way there or back. */
export type Line = 'open' | 'none' | 'lost there' | 'lost back';

/** What the app showed before an answer came, held against that answer. */
export interface Compared {
  action: Dated;
  shown: readonly Change[];
  answer: ActionAnswer | null;
  /** Why it was refused. */
  error: string | null;
}

/** The app of one person on one device, without its screens. */
export class Device {
  store = newStore();
  looking = new Looking();
  sync: Sync;
  line: () => Line = () => 'open';
  readonly kept: Kept;
  private readonly sent = new Set<string>();
  private readonly real: Ask;
  private readonly name: string;
  private readonly check: (device: Device, it: Compared) => void;

  constructor(
    client: Client,
    name: string,
    database: string,
    check: (device: Device, it: Compared) => void = () => undefined,
  ) {
    this.name = name;
    this.check = check;
    this.real = makeAsk(client.base, () => ({ Origin: client.base, Cookie: client.cookies }));
    this.kept = makeKept(database);
    this.sync = this.makeSync();
  }

  get local(): Local {
    return this.store.getState().local;
  }

  private makeSync(): Sync {
    const ask: Ask = (asked) => this.ask(asked);
    return new Sync({ store: this.store, kept: this.kept, ask });
  }

  /** Closes the app and opens it again: what it knows is what the device has kept. */
  async reopen(): Promise<void> {
    this.sync.end();
    this.store = newStore();
    this.looking = new Looking();
    this.sync = this.makeSync();
    await this.begin();
  }

  async begin(): Promise<void> {
    await this.sync.begin(this.name);
    // The test says when something is tried again.
    this.sync.end();
  }

  private async versionNow(): Promise<number> {
    const answered = await this.real({ url: '/changes?since=999999999' });
    return 'data' in answered ? (answered.data as { version: number }).version : -1;
  }

  private async ask(asked: Parameters<Ask>[0]): Promise<Answered> {
    const line = this.line();
    const lost: Answered = { error: { status: 'FETCH_ERROR' } };
    if (line === 'none' || line === 'lost there') return lost;
    if (asked.url !== '/actions') return line === 'lost back' ? lost : this.real(asked);
    const action = asked.body as Dated;
    const { local: before } = this.store.getState();
    const overlay = this.looking.overlay(before);
    const changes = overlay.changes.get(action.id) ?? [];
    const answered = await this.real(asked);
    const answer = 'data' in answered ? (answered.data as ActionAnswer) : null;
    // Sent again, it is answered with how things stand. Where someone else did something in between, or the server alone knows, nothing was said here.
    const version = answer ? answer.version - 1 : await this.versionNow();
    const isNext = version === before.version;
    const first = before.pending[0]?.action.id === action.id && !this.sent.has(action.id);
    this.sent.add(action.id);
    if (isNext && first && (changes.length || !overlay.unknown.size) && line === 'open')
      this.check(this, { action, shown: changes, answer, error: codeOf(answered) });
    return line === 'lost back' ? lost : answered;
  }
}

const codeOf = (answered: Answered) =>
  'error' in answered ? JSON.stringify(answered.error.data) : null;

/** Something at an instant, as text: all that decides what is shown of it. */
export function asText(planner: Planner, state: State | null, now: Instant): string {
  if (state === null || ('gone' in state && state.gone)) return 'no more';
  if (!isTodo(state)) {
    // When something was last said matters where it is said, and is not shown.
    const { version: _version, ...rest } = state;
    return JSON.stringify(sorted({ ...rest, describedAt: 0, focusAt: 0 }));
  }
  const { through: _through, ...progress } = advance(planner, state.progress, now).progress;
  const lately = sinceYesterday(state.lately, planner.clock, now)
    .map(({ time, action, at }) => ({ time, action, at }))
    .sort((a, b) => a.at - b.at || a.time.number - b.time.number);
  const { id, made, details } = state;
  return JSON.stringify(sorted({ id, made, details, progress, lately }));
}

/** All that an answer tells of, as text. */
export function textsOf(
  planner: Planner,
  { todos, removed, places = [], own }: Pick<ActionAnswer, 'todos' | 'removed' | 'places' | 'own'>,
  now: Instant,
): Map<string, string> {
  const all: [string, State | null][] = [
    ...todos.map((state): [string, State] => [state.id, state]),
    ...removed.map((id): [string, null] => [id, null]),
    ...places.map((state): [string, State] => [placeKey(state.id), state]),
    ...(own ? ([[OWN, own]] as [string, State][]) : []),
  ];
  return new Map(all.map(([key, state]) => [key, asText(planner, state, now)]));
}

function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (typeof value !== 'object' || value === null) return value;
  const entries = Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1));
  return Object.fromEntries(entries.map(([key, it]) => [key, sorted(it)]));
}

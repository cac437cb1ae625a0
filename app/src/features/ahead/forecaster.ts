import type { TodoState } from '@back-again/contract';
import type { LocalDate } from '@back-again/core';
import type { DeskSettings, PlannedTodo } from '@back-again/core/planning';
import { hearer, type Answers, type Said, type Told } from './desk.ts';

/** What hears the forecaster: a worker, or the same code here where there are none. */
export interface Wire {
  postMessage(told: Told): void;
  onmessage: ((event: MessageEvent<Said>) => void) | null;
}

/** So many to-dos are handed over at once, so that no frame is missed over them. */
const AT_ONCE = 100;

/** Keeps the worker in step with the to-dos here, and asks it for days. */
export class Forecaster {
  private readonly wire: Wire;
  private readonly pause: () => Promise<void>;
  private sent = new Map<string, TodoState>();
  private asked = new Map<number, { done(answer: never): void; failed(error: Error): void }>();
  private n = 0;
  private feeding: Promise<void> = Promise.resolve();

  constructor(wire: Wire, pause: () => Promise<void> = nextTurn) {
    this.wire = wire;
    this.pause = pause;
    wire.onmessage = ({ data }) => this.hear(data);
  }

  /** Hands over what changed since the last time, in pieces. */
  keep(mine: DeskSettings, todos: readonly TodoState[]): void {
    const now = new Map(todos.map((todo) => [todo.id, todo]));
    const changed = todos.filter((todo) => this.sent.get(todo.id) !== todo);
    const gone = [...this.sent.keys()].filter((id) => !now.has(id));
    this.sent = now;
    this.feeding = this.feeding.then(async () => {
      for (let i = 0; i === 0 || i < changed.length; i += AT_ONCE) {
        if (i) await this.pause();
        const some = changed.slice(i, i + AT_ONCE).map(plannedOf);
        this.wire.postMessage({ kind: 'put', mine, todos: some, gone: i ? [] : gone });
      }
    });
  }

  /** @throws Error where it cannot be worked out */
  async ask<K extends keyof Answers>(what: K, from: LocalDate, to: LocalDate): Promise<Answers[K]> {
    await this.feeding;
    const n = ++this.n;
    return new Promise((done, failed) => {
      this.asked.set(n, { done, failed });
      this.wire.postMessage({ kind: 'ask', n, what, from, to });
    });
  }

  private hear(said: Said): void {
    const waits = this.asked.get(said.n);
    this.asked.delete(said.n);
    if ('error' in said) waits?.failed(new Error(said.error));
    else waits?.done(said.answer as never);
  }
}

const nextTurn = () => new Promise<void>((done) => setTimeout(done, 0));

/** Of a to-do, what matters for planning. */
function plannedOf({
  id,
  made,
  progress,
  changesAt,
  nextDue,
  details,
  lately,
}: TodoState): PlannedTodo {
  const { takes, window, slack, importance, place } = details;
  return {
    id,
    made,
    progress,
    changesAt,
    nextDue,
    details: { takes, window, slack, importance, place },
    lately,
  };
}

/** The worker, where there are any; else the same code, in this thread. */
export function wireHere(): Wire {
  if (typeof Worker !== 'undefined') return new Worker('/ahead.worker.js') as unknown as Wire;
  const hear = hearer();
  const wire: Wire = {
    onmessage: null,
    postMessage(told) {
      const said = hear(told);
      if (said) setTimeout(() => wire.onmessage?.({ data: said } as MessageEvent<Said>), 0);
    },
  };
  return wire;
}

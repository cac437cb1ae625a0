import type { ActionAnswer, ChangesView, FileView } from '@back-again/contract';
import type { KeptFile } from '@back-again/core';
import { newId } from './ids.ts';
import { errorOf, type Ask, type Answered } from './ask.ts';
import type { Bytes, Kept, News } from './local/kept.ts';
import { local, type Local, type LocalPart, type Pending } from './local/slice.ts';
import { NO_OWN } from './local/world.ts';
import { aheadBy, startTime } from './local/time.ts';

/**
 * Keeps what is here in step with the server: asks for what has changed, sends what waits, in order and
 * each with its own id, so that it happens once. It knows nothing of screens.
 */

/** What a refusal of this very action is answered with; anything else may come right by itself. */
const REFUSED: unknown[] = [400, 403, 404, 409, 413, 415, 422];
const AGAIN = 3000;

export interface Room {
  getState(): { local: Local };
  dispatch(action: { type: string }): unknown;
}

/** What windows of one browser tell each other. */
export type Told =
  | { kind: 'waits'; it: Pending }
  | { kind: 'dropped'; id: string }
  | { kind: 'answered'; answer: ActionAnswer; by: string }
  | { kind: 'refused'; id: string; by: string }
  | { kind: 'heard'; view: ChangesView & { isFirst: boolean }; by: string }
  | { kind: 'left' };

export interface Given {
  store: Room;
  kept: Kept;
  ask: Ask;
  /** Tells the other windows of this browser. */
  tell?: (told: Told) => void;
  /** Lets one window at a time do something. */
  alone?: (work: () => Promise<void>) => Promise<void>;
  /** The session has run out, or the server says that nobody is signed in. */
  onNobody?: () => void;
  /** To-dos changed that were not changed here. */
  onChanges?: () => void;
  /** The server has heard of something, from here or from elsewhere: what it says of the record is other. */
  onRecord?: () => void;
}

export class Sync {
  private readonly given: Required<Given>;
  private turn: Promise<void> | null = null;
  /** Who is signed in, as far as is known here; what is here may still be of who was here before. */
  private who: string | null = null;
  private reading: Promise<void> = Promise.resolve();
  /** How many are on their way to the device just now. */
  private adding = 0;
  /** Whether what has changed is asked for in the next turn. */
  private wanted = false;
  /** The last version that was heard of. */
  private known = 0;
  /** What was taken back before it was sent, as far as is known here. */
  private readonly dropped = new Set<string>();
  private timer: ReturnType<typeof setInterval> | undefined;

  constructor(given: Given) {
    this.given = {
      tell: () => undefined,
      alone: (work) => work(),
      onNobody: () => undefined,
      onChanges: () => undefined,
      onRecord: () => undefined,
      ...given,
    };
  }

  private get local(): Local {
    return this.given.store.getState().local;
  }

  /** Whose to-dos are here, where that is who is signed in: only then is anything sent or asked for. */
  private get mine(): string | null {
    const { name } = this.local;
    return name === this.who ? name : null;
  }

  private do(action: { type: string }): void {
    this.given.store.dispatch(action);
  }

  /** Reads what this device keeps of a person; of who was here last, where none is named. */
  read(name?: string): Promise<void> {
    // One after another: what is asked for last is what is here in the end.
    this.reading = this.reading.then(() => this.readNow(name));
    return this.reading;
  }

  private async readNow(name?: string): Promise<void> {
    const { kept } = this.given;
    let keeping = this.local.keeping;
    kept.onKeeping((now) => {
      keeping = now;
      this.do(local.actions.keeps(now));
    });
    const who = name ?? (await kept.last());
    if (who === null) {
      this.do(local.actions.left());
      this.do(local.actions.keeps(keeping));
      return;
    }
    const { part, todos, pending, aside } = await kept.read(who);
    const mine: LocalPart = part ?? {
      name: who,
      version: 0,
      heardAt: null,
      settings: null,
      holidays: [],
      undoable: [],
      places: [],
      own: NO_OWN,
    };
    const { aheadBy: ahead } = mine;
    if (typeof ahead === 'number') startTime(ahead);
    this.do(local.actions.read({ part: mine, todos, pending, aside, keeping }));
  }

  /** Begins: what is here belongs to who is signed in. */
  async begin(name: string): Promise<void> {
    this.who = name;
    await this.reading;
    if (!this.local.isRead || this.local.name !== name) await this.read(name);
    if (this.who !== name) return;
    clearInterval(this.timer);
    this.timer = setInterval(() => void this.send(), AGAIN);
    await this.refresh();
  }

  end(): void {
    clearInterval(this.timer);
  }

  /** Puts an action behind those that wait, and sends it. */
  async add(it: Pending): Promise<void> {
    this.do(local.actions.waits(it));
    this.given.tell({ kind: 'waits', it });
    this.adding++;
    try {
      await this.given.kept.wait(it);
    } finally {
      this.adding--;
    }
    await this.send();
  }

  /** A window that slept may not have heard of what others kept and sent: it reads that from the device. */
  async wake(): Promise<void> {
    if (this.local.keeping === 'kept' && this.local.isRead && !this.adding && !this.turn) {
      const pending = await this.given.kept.pending();
      if (!this.adding && !this.turn && this.local.keeping === 'kept')
        this.do(local.actions.shared(pending));
    }
    await this.refresh();
  }

  /** Takes one away that was never sent. */
  async drop(id: string): Promise<void> {
    const it = this.local.pending.find(({ action }) => action.id === id)?.action;
    this.dropped.add(id);
    this.do(local.actions.dropped(id));
    this.given.tell({ kind: 'dropped', id });
    await this.given.kept.settle([id]);
    if (it?.do === 'file') await this.given.kept.forgetBytes(it.file.id);
  }

  /** What is heard from another window. */
  hear(told: Told): void {
    if ('by' in told && told.by !== this.local.name) return;
    switch (told.kind) {
      case 'waits':
        return this.do(local.actions.waits(told.it));
      case 'dropped':
        return this.do(local.actions.dropped(told.id));
      case 'answered':
        this.do(local.actions.answered(told.answer));
        this.given.onRecord();
        return this.takeBack(told.answer);
      case 'refused':
        return this.do(local.actions.refused({ id: told.id, refusal: null }));
      case 'heard':
        this.do(local.actions.heard(told.view));
        return this.given.onRecord();
      case 'left':
        this.given.onNobody();
    }
  }

  /** Another window was sending what was taken back here: that is sent behind it. */
  private takeBack({ action, now }: ActionAnswer): void {
    const { name } = this.local;
    if (!this.dropped.delete(action.id) || name === null) return;
    void this.add({ by: name, action: { do: 'undo', id: newId(), of: action.id, at: now } });
  }

  /** Something of this person has changed, and leads to a version. */
  async news(version: number): Promise<void> {
    this.known = Math.max(this.known, version);
    // What is being sent leads there perhaps.
    await this.turn;
    if (this.local.version < this.known) await this.refresh();
  }

  /** Sends what waits, and asks for what has changed since what is here. */
  refresh(): Promise<void> {
    this.wanted = true;
    return this.work();
  }

  /** Sends what waits. */
  send(): Promise<void> {
    return this.next() ? this.work() : Promise.resolve();
  }

  /**
   * One window at a time sends, and asks after that: what the server has taken already is never shown
   * as still to come.
   */
  private work(): Promise<void> {
    this.turn ??= this.given
      .alone(async () => {
        do {
          const isSent = await this.sendAll();
          if (!this.wanted || !isSent) break;
          this.wanted = false;
          await this.fetchChanges();
        } while (this.wanted || this.next());
      })
      .finally(() => {
        this.turn = null;
      });
    return this.turn;
  }

  private async fetchChanges(): Promise<void> {
    const { ask, tell } = this.given;
    const { mine: name } = this;
    const { version: since } = this.local;
    if (name === null) return;
    let after: string | null = null;
    let version: number | undefined;
    do {
      const rest: string = after === null ? '' : `&after=${after}`;
      const answered: Answered = await ask({ url: `/changes?since=${since}${rest}`, by: name });
      if ('error' in answered) return this.failed(answered.error);
      if (this.local.name !== name) return;
      const data = answered.data as ChangesView;
      // What changes while pages are fetched is asked for the next time.
      version ??= data.version as number;
      const view: ChangesView & { isFirst: boolean } = {
        ...data,
        version,
        isFirst: after === null,
      };
      this.do(local.actions.heard(view));
      tell({ kind: 'heard', view, by: name });
      await this.keep({
        changed: view.todos,
        removed: view.removed,
        all: view.all && view.isFirst,
      });
      if (view.todos.length || view.removed.length) this.given.onChanges();
      if (view.version !== since) this.given.onRecord();
      after = view.next;
    } while (after !== null);
  }

  private failed({ status, data }: { status: unknown; data?: unknown }): void {
    if (errorOf({ status, data }).code === 'session.none') this.given.onNobody();
    else this.do(local.actions.connected(false));
  }

  private keep(news: News): Promise<void> {
    const { name, version, heardAt, settings, holidays, undoable, places, own } = this.local;
    const mine = { name, version, heardAt, settings, holidays, undoable, places, own };
    return this.given.kept.keep({ ...mine, aheadBy: aheadBy() }, news);
  }

  private next(): Pending | undefined {
    const { mine } = this;
    return this.local.pending.find(({ by }) => by === mine);
  }

  /** Sends what waits of this person, one after another; gives whether none is left that may have been taken. */
  private async sendAll(): Promise<boolean> {
    const { ask, kept, tell } = this.given;
    for (let it = this.next(); it; it = this.next()) {
      const { action, by } = it;
      this.do(local.actions.tried(action.id));
      if (!it.tried) void kept.tried(action.id);
      const failedFile = action.do === 'file' ? await this.sendFile(action.file, by) : null;
      const answered =
        failedFile ?? (await ask({ url: '/actions', method: 'POST', body: action, by }));
      if ('data' in answered && isAnswer(answered.data)) {
        const answer = answered.data;
        const { version } = this.local;
        this.do(local.actions.answered(answer));
        tell({ kind: 'answered', answer, by });
        this.given.onRecord();
        const { todos: changed, removed } = answer;
        await this.keep({ changed, removed, settled: action.id });
        if (action.do === 'file') await kept.forgetBytes(action.file.id);
        if (answer.version > version + 1) this.wanted = true;
        continue;
      }
      const { error } =
        'error' in answered ? answered : { error: { status: 'PARSING_ERROR' as const } };
      if (!REFUSED.includes(error.status) || !isOfServer(error.data)) {
        this.failed(error);
        return false;
      }
      await this.refuse(it, errorOf(error));
      // It stands otherwise than it was shown here.
      this.wanted = true;
    }
    return true;
  }

  /** Sends what is in a file, where it is here; gives why that failed, null where it did not. */
  private async sendFile({ id, name, type, size }: KeptFile, by: string): Promise<Answered | null> {
    const { ask, kept } = this.given;
    const held = await kept.bytes(id);
    if (!held) return null;
    const said = { id, name, type, size, sum: held.sum };
    const begun = await ask({ url: '/files', method: 'POST', body: said, by });
    if ('error' in begun) return begun;
    const { pieces, pieceBytes, there, done } = begun.data as FileView;
    for (let n = 0; n < pieces && !done; n++) {
      if (there.includes(n)) continue;
      const bytes = held.bytes.slice(n * pieceBytes, (n + 1) * pieceBytes);
      const answered = await ask({ url: `/files/${id}/${n}`, method: 'PUT', bytes, by });
      if ('error' in answered) return answered;
    }
    return null;
  }

  /** Keeps what is in a file of this person on this device until it is sent. */
  holdFile(id: string, bytes: Uint8Array<ArrayBuffer>, sum: string | null): Promise<void> {
    return this.given.kept.keepBytes(id, { by: this.local.name ?? '', bytes, sum });
  }

  /** What is in a file that waits here; null for one that does not. */
  heldFile(id: string): Promise<Bytes | null> {
    return this.given.kept.bytes(id);
  }

  private async refuse({ action, by }: Pending, said: ReturnType<typeof errorOf>): Promise<void> {
    const { kept, tell } = this.given;
    const { message, code, where } = said;
    const refusal = { title: this.titleOf(action), words: message, of: { action, code, where } };
    const undos = this.local.pending
      .filter((other) => other.action.do === 'undo' && other.action.of === action.id)
      .map((other) => other.action.id);
    this.do(local.actions.refused({ id: action.id, refusal }));
    tell({ kind: 'refused', id: action.id, by });
    await kept.settle([action.id, ...undos]);
    if (action.do === 'file') await kept.forgetBytes(action.file.id);
  }

  private titleOf(action: Pending['action']): string | null {
    if (action.do === 'create') return action.details.title;
    if ('place' in action && action.place !== null)
      return this.local.places.find(({ id }) => id === action.place)?.name ?? null;
    const id = 'todo' in action ? action.todo : null;
    return id === null ? null : (this.local.said.entities[id]?.details.title ?? null);
  }

  /** Nobody is signed in here any more: nothing of them stays. */
  async leave(): Promise<void> {
    const { name } = this.local;
    this.end();
    this.who = null;
    this.do(local.actions.left());
    if (name !== null) await this.given.kept.forget(name);
    this.given.tell({ kind: 'left' });
  }
}

const isAnswer = (data: unknown): data is ActionAnswer =>
  typeof (data as Partial<ActionAnswer> | undefined)?.version === 'number';
/** A page of something between is no word of the server. */
const isOfServer = (data: unknown) =>
  typeof (data as { error?: { code?: unknown } } | undefined)?.error?.code === 'string';

import type { Response } from 'express';
import { Op } from 'sequelize';
import type { Log } from '../log.ts';
import type { Database } from '../db/database.ts';

/** How often another server's changes are looked for: a second window hears of them within a second. */
const LOOK = 400;
/** So many notices are looked at again each time. */
const LOOKED_AT_AGAIN = 1000;
/** A line now and then keeps the way open through proxies. */
const BEAT = 20_000;
/** So many windows of one person are told; of more the one that has listened longest is let go. */
const MOST_WINDOWS = 10;

/** A window that wants to hear at once when something of its person changed. */
interface Window {
  response: Response;
  session: string;
}

/** Windows that want to hear at once when something of their person changed. */
export interface Live {
  /** Keeps this answer open and writes to it (WHATWG HTML, server-sent events). */
  listen(userId: string, session: string, response: Response, version: number): void;
  /** Something of this person changed here, and has this version now. */
  tell(userId: string, version: number): void;
  /** Something was said to this person. */
  said(userId: string): void;
  /** A session has ended: its windows hear nothing more. */
  leave(session: string): void;
  stop(): void;
}

/**
 * Tells windows of changes, with the version that they lead to: a window that has it already asks for
 * nothing. Those of this server are told at once, those of others on the same database by looking at
 * versions, and for notices that are new, while anyone listens.
 * @param alive those of these sessions that have not ended
 */
export function makeLive(
  db: Database,
  log: Log,
  alive: (sessions: readonly string[]) => Promise<ReadonlySet<string>>,
): Live {
  const listening = new Map<string, Set<Window>>();
  /** The last version that was told of each person. */
  const told = new Map<string, number>();
  /** The notices of which it was told, by their running numbers; null before they are first looked at. */
  let toldNotices: Set<number> | null = null;
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;
  const all = () => [...listening.values()].flatMap((windows) => [...windows]);

  const write = (userId: string, event: string) => {
    for (const { response } of listening.get(userId) ?? []) response.write(`${event}\n\n`);
  };
  const tell = (userId: string, version: number) => {
    if ((told.get(userId) ?? 0) >= version) return;
    told.set(userId, version);
    write(userId, `data: ${version}`);
  };
  const said = (userId: string) => write(userId, 'event: said\ndata: ');
  const beat = setInterval(() => {
    for (const { response } of all()) response.write(': still here\n\n');
    letGo().catch((error: unknown) => log.error({ err: error }, 'sessions could not be looked at'));
  }, BEAT);
  beat.unref();

  /** Lets go of windows whose session has ended, here or on another server. */
  async function letGo(): Promise<void> {
    const windows = all();
    if (!windows.length) return;
    const left = await alive([...new Set(windows.map(({ session }) => session))]);
    for (const { session, response } of windows) if (!left.has(session)) response.end();
  }

  async function look(): Promise<void> {
    const ids = [...listening.keys()];
    const users = await db.users.findAll({ attributes: ['id', 'version'], where: { id: ids } });
    for (const { id, version } of users) tell(id, version);
    for (const userId of await freshlySpokenTo(ids)) said(userId);
  }

  /**
   * To whom of these something was said since it was last looked at. Running numbers are given by each node, and seen
   * as each transaction ends: a lower one may come later, so that the last ones are looked at again.
   */
  async function freshlySpokenTo(ids: readonly string[]): Promise<Set<string>> {
    const last = ((await db.notices.max('seq')) as number | null) ?? 0;
    const from = last - LOOKED_AT_AGAIN;
    const before = toldNotices;
    const rows = await db.notices.findAll({
      attributes: ['seq', 'userId'],
      where: { seq: { [Op.gt]: from }, userId: [...ids] },
    });
    toldNotices = new Set(rows.map(({ seq }) => seq));
    if (before === null) return new Set();
    return new Set(rows.filter(({ seq }) => !before.has(seq)).map(({ userId }) => userId));
  }

  function schedule(): void {
    if (timer || stopped || !listening.size) return;
    timer = setTimeout(() => {
      look()
        .catch((error: unknown) => log.error({ err: error }, 'changes could not be looked for'))
        .finally(() => {
          timer = null;
          if (!listening.size) toldNotices = null;
          schedule();
        });
    }, LOOK);
  }

  return {
    listen(userId, session, response, version) {
      response.set({
        'Content-Type': 'text/event-stream',
        // Compressed, it would be held back.
        'Cache-Control': 'no-store, no-transform',
        'X-Accel-Buffering': 'no',
      });
      response.write(`retry: 1000\n\ndata: ${version}\n\n`);
      told.set(userId, Math.max(version, told.get(userId) ?? 0));
      const mine = listening.get(userId) ?? new Set<Window>();
      const window = { response, session };
      listening.set(userId, mine.add(window));
      if (mine.size > MOST_WINDOWS) {
        const [oldest] = mine;
        mine.delete(oldest!);
        // It is told, so that it does not come back by itself.
        oldest!.response.end('event: enough\ndata: \n\n');
      }
      response.once('close', () => {
        mine.delete(window);
        if (mine.size || listening.get(userId) !== mine) return;
        listening.delete(userId);
        told.delete(userId);
      });
      schedule();
    },
    tell,
    said,
    leave(ended) {
      for (const { session, response } of all()) if (session === ended) response.end();
    },
    stop() {
      stopped = true;
      if (timer) clearTimeout(timer);
      clearInterval(beat);
      for (const { response } of all()) response.end();
    },
  };
}

import type { Response } from 'express';
import { Op } from 'sequelize';
import type { Log } from '../log.ts';
import type { Database } from '../store/database.ts';

/** How often another server's changes are looked for: a second window hears of them within a second. */
const LOOK = 400;
/** A line now and then keeps the way open through proxies. */
const BEAT = 20_000;

/** Windows that want to hear at once when something of their person changed. */
export interface Live {
  /** Keeps this answer open and writes to it (WHATWG HTML, server-sent events). */
  listen(userId: string, response: Response): void;
  /** Something of this person changed here. */
  tell(userId: string): void;
  stop(): void;
}

/**
 * Tells windows of changes: of this server at once, of others on the same database by looking for
 * actions and notices that are new, while anyone listens.
 */
export function makeLive(db: Database, log: Log): Live {
  const listening = new Map<string, Set<Response>>();
  /** Up to which running number each table was looked at. */
  const seen = new Map<string, number>();
  let timer: NodeJS.Timeout | null = null;
  let stopped = false;

  const tell = (userId: string) => {
    for (const response of listening.get(userId) ?? []) response.write('data: changed\n\n');
  };
  const beat = setInterval(() => {
    for (const responses of listening.values())
      for (const response of responses) response.write(': still here\n\n');
  }, BEAT);
  beat.unref();

  async function look(): Promise<void> {
    const users = new Set([...(await freshIn(db.actions)), ...(await freshIn(db.notices))]);
    for (const userId of users) tell(userId);
  }

  /** Whose rows were added to a table since it was last looked at. */
  async function freshIn(table: Database['actions' | 'notices']): Promise<string[]> {
    const last = ((await (table as Database['actions']).max('seq')) as number | null) ?? 0;
    const before = seen.get(table.name);
    seen.set(table.name, last);
    if (before === undefined || last <= before) return [];
    const rows = await (table as Database['actions']).findAll({
      attributes: ['userId'],
      where: { seq: { [Op.gt]: before }, userId: [...listening.keys()] },
    });
    return rows.map(({ userId }) => userId);
  }

  function schedule(): void {
    if (timer || stopped || !listening.size) return;
    timer = setTimeout(() => {
      look()
        .catch((error: unknown) => log.error({ err: error }, 'changes could not be looked for'))
        .finally(() => {
          timer = null;
          if (!listening.size) seen.clear();
          schedule();
        });
    }, LOOK);
  }

  return {
    listen(userId, response) {
      response.set({
        'Content-Type': 'text/event-stream',
        // Compressed, it would be held back.
        'Cache-Control': 'no-store, no-transform',
        'X-Accel-Buffering': 'no',
      });
      response.write('retry: 1000\n\n');
      const mine = listening.get(userId) ?? new Set<Response>();
      listening.set(userId, mine.add(response));
      response.once('close', () => {
        mine.delete(response);
        if (!mine.size && listening.get(userId) === mine) listening.delete(userId);
      });
      schedule();
    },
    tell,
    stop() {
      stopped = true;
      if (timer) clearTimeout(timer);
      clearInterval(beat);
      for (const responses of listening.values()) for (const response of responses) response.end();
    },
  };
}

import type { RequestHandler, Response } from 'express';
import type { Config } from '../config.ts';
import type { Agreeing } from '../clock/agreement.ts';
import type { Clock } from '../clock/clock.ts';
import type { Links } from '../finish/links.ts';
import type { Sender } from '../outbox/sender.ts';
import type { Now } from '../clock/now.ts';
import type { Log } from '../log.ts';
import { readyFor } from '../compute/compute.ts';
import type { Actor } from '../machine/work.ts';
import type { Database } from '../db/database.ts';
import type { UserRow } from '../db/models.ts';
import { HttpError } from './errors.ts';
import type { Gate } from './gate.ts';
import type { Live } from './live.ts';
import type { Metrics } from '../operator/metrics.ts';
import type { Resets } from '../account/forgotten.ts';
import type { Sessions } from '../account/sessions.ts';
import type { Secrets } from '../doors/keys.ts';
import { used } from '../doors/secrets.ts';

declare module 'express-session' {
  interface SessionData {
    userId: string;
    /** What kind of device it is of, in words. */
    device: string;
  }
}

/** What the routes work with. */
export interface Context {
  live: Live;
  metrics: Metrics;
  gate: Gate;
  sessions: Sessions;
  secrets: Secrets;
  config: Config;
  db: Database;
  clock: Clock;
  agreement: Agreeing;
  sender: Sender;
  links: Links;
  resets: Resets;
  now: Now;
  log: Log;
}

declare module 'express-serve-static-core' {
  interface Locals {
    /** Who is signed in, once {@link personal} has seen to it. */
    person?: UserRow;
    /** Whether the request was answered that it took too long. */
    late?: boolean;
    /** Whether a key came in place of a session. */
    byKey?: boolean;
    /** Gives the turn of its session on, where the request stays open. */
    leave?: () => void;
  }
}

/** Waits for a turn until the answer is sent; null where nobody waits for the answer any more. */
async function enter(gate: Gate, key: string, response: Response): Promise<(() => void) | null> {
  const leave = await gate.enter(key);
  if (response.closed) {
    leave();
    return null;
  }
  response.once('close', leave);
  return leave;
}

/** Lets so many requests of one session in at a time, before anything is read for them. */
export function inTurn({ gate }: Pick<Context, 'gate'>): RequestHandler {
  return async (request, response, next) => {
    const { cookie } = request.headers;
    if (cookie !== undefined) {
      const leave = await enter(gate, `cookie ${cookie}`, response);
      if (!leave) return;
      // One that stays open holds up no other.
      if (request.path === '/events') response.locals.leave = leave;
    }
    next();
  };
}

/**
 * Lets those in who are signed in, each with so many requests at a time.
 * @throws HttpError 401 where nobody is, or the session has run out; 429
 */
export function personal({
  db,
  gate,
  sessions,
  secrets,
  now,
}: Pick<Context, 'db' | 'gate' | 'sessions' | 'secrets' | 'now'>): RequestHandler {
  return async (request, response, next) => {
    const key = await secrets.keyOf(request, response);
    const id = key?.userId ?? request.session.userId;
    if (id === undefined) throw NOBODY();
    const leave = await enter(gate, id, response);
    if (!leave) return;
    const user = key
      ? ((await db.users.findByPk(id))?.get() ?? null)
      : await sessions.userOf(request.sessionID, id);
    if (key) {
      response.locals.byKey = true;
      await used(db, key, now(), { counts: false });
    }
    if (!user) throw NOBODY();
    await readyFor(user.settings);
    // A device that takes someone else to be signed in neither sends nor gets what is theirs.
    const by = request.get('Back-Again-Person');
    if (by !== undefined && by !== encodeURIComponent(user.name)) throw NOBODY();
    response.locals.person = user;
    if (request.path === '/events') {
      leave();
      response.locals.leave?.();
    }
    next();
  };
}

const NOBODY = () =>
  new HttpError(401, 'session.none', 'You are not signed in, or your session has run out.');

/** Who is signed in. */
export const personOf = (response: Response): UserRow => response.locals.person!;

/** Who acts, at the server's time. */
export function actorOf({ now }: Pick<Context, 'now'>, response: Response): Actor {
  const { id, settings } = personOf(response);
  const via = response.locals.byKey ? ({ via: 'key' } as const) : {};
  return { userId: id, settings, now: now(), ...via };
}

import type { Request } from 'express';
import type { Config } from '../config.ts';
import type { Clock } from '../clock/clock.ts';
import type { Links } from '../delivery/links.ts';
import type { Sender } from '../delivery/sender.ts';
import type { Now } from '../clock/now.ts';
import type { Log } from '../log.ts';
import type { Actor } from '../store/actions.ts';
import type { Database } from '../store/database.ts';
import type { UserRow } from '../store/models.ts';
import { userById } from '../store/users.ts';
import { HttpError } from './errors.ts';
import type { Live } from './live.ts';

declare module 'express-session' {
  interface SessionData {
    userId: string;
  }
}

/** What the routes work with. */
export interface Context {
  live: Live;
  config: Config;
  db: Database;
  clock: Clock;
  sender: Sender;
  links: Links;
  now: Now;
  log: Log;
}

/**
 * Who is signed in.
 * @throws HttpError 401 where nobody is, or the session has run out
 */
export async function signedIn(context: Context, request: Request): Promise<UserRow> {
  const id = request.session.userId;
  const user = id === undefined ? null : await userById(context.db, id);
  if (!user)
    throw new HttpError(401, 'session.none', 'You are not signed in, or your session has run out.');
  return user;
}

/** Who acts, at the server's time. */
export async function actorOf(context: Context, request: Request): Promise<Actor> {
  return actorFor(context, await signedIn(context, request));
}

/** A person as who acts, at the server's time. */
export function actorFor({ now }: Context, { id, settings }: UserRow): Actor {
  return { userId: id, settings, now: now() };
}

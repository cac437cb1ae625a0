import type { Request, Response } from 'express';
import type { Reach } from '@back-again/contract/doors';
import { makeLimit, type Limit } from '../db/counts.ts';
import type { Database } from '../db/database.ts';
import type { DoorRow } from '../db/models.ts';
import { addressOf } from '../account/tries.ts';
import { HttpError } from '../http/errors.ts';
import { opened } from './secrets.ts';

/** Keys of a person’s own scripts: `Authorization: Bearer …` (RFC 6750 §2.1) in place of a session. */

/** So many requests a minute with one key. */
const MOST_A_MINUTE = 300;
/** So many wrong secrets from one address in a quarter of an hour. */
const MOST_WRONG = 50;

export interface Secrets {
  /** The key that a request comes with; null without one. @throws HttpError 401, 403, 429 */
  keyOf(request: Request, response: Response): Promise<DoorRow | null>;
  /** Lets a secret of an address be tried. @throws HttpError 404, 429 */
  found(request: Request, kind: 'feed' | 'way', secret: string): Promise<DoorRow>;
}

export function makeSecrets(db: Database): Secrets {
  const rate = makeLimit(db, 'key', MOST_A_MINUTE, 60);
  const wrong = makeLimit(db, 'wrong', MOST_WRONG, 900);

  /** Looks a secret up, unless too many wrong ones came from there. */
  async function lookedUp(request: Request, kind: DoorRow['kind'], secret: string) {
    const address = addressOf(request);
    const { left, ms } = await wrong.look(address);
    if (!left) throw tooMany(ms);
    const door = await opened(db, kind, secret);
    if (!door) await wrong.take(address);
    return door;
  }

  return {
    async keyOf(request, response) {
      const { authorization } = request.headers;
      if (authorization === undefined) return null;
      const [, secret] = /^Bearer ([\w.~+/=-]+)$/iu.exec(authorization) ?? [];
      const key = secret === undefined ? null : await lookedUp(request, 'key', secret);
      if (!key) {
        response.set('WWW-Authenticate', 'Bearer');
        throw new HttpError(
          401,
          'key.none',
          'This key opens nothing: it is wrong, or was withdrawn.',
        );
      }
      await within(rate, key.id, response);
      if (!isWithin(key.reach!, request))
        throw new HttpError(403, 'key.reach', 'This key does not open that.');
      return key;
    },
    async found(request, kind, secret) {
      const door = await lookedUp(request, kind, secret);
      if (!door) throw new HttpError(404, 'door.none', 'There is nothing at this address.');
      return door;
    },
  };
}

const tooMany = (ms: number) => {
  const error = new HttpError(429, 'key.rate', 'That is much at once. Try again in a moment.');
  error.retryAfter = Math.max(1, Math.ceil(ms / 1000));
  return error;
};

async function within(rate: Limit, id: string, response: Response): Promise<void> {
  const { isWithin, left, ms } = await rate.take(id);
  if (!isWithin) throw tooMany(ms);
  response.set('RateLimit-Remaining', String(left));
}

/** What a key opens of nothing at all: the account, its devices, other keys, and putting everything back. */
const SHUT = /^\/(account|devices|doors|sessions|everything|session|events)(\/|$)/u;
/** What finishing is. */
const FINISHES = ['done', 'tally'];

function isWithin(reach: Reach, { method, path, body }: Request): boolean {
  const isLook = method === 'GET' || method === 'HEAD';
  if (path === '/everything' && isLook) return reach === 'all';
  if (SHUT.test(path)) return false;
  if (isLook || reach === 'all') return true;
  if (reach === 'read' || path !== '/actions' || method !== 'POST') return false;
  return FINISHES.includes(String((body as { do?: unknown } | undefined)?.do));
}

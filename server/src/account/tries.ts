import { isIPv6 } from 'node:net';
import type { Request } from 'express';
import { makeLimit, type Limit } from '../db/counts.ts';
import type { Database } from '../db/database.ts';
import { HttpError } from '../http/errors.ts';

const WINDOW = 15 * 60;
/** So many times as many tries are taken from one address, or for one account, as from both together. */
const APART = 5;

/** Failed tries to sign in, and accounts that were made, by who made them. */
export interface Tries {
  /**
   * Does something that a stranger may try only so often; what succeeds does not count.
   * @throws HttpError 429
   */
  limited<T>(request: Request, account: string, attempt: () => Promise<T>): Promise<T>;
  /**
   * Counts an account that is made.
   * @throws HttpError 429
   */
  counted(request: Request): Promise<void>;
}

/**
 * Limits by account and by address, together and apart: so neither many accounts from one place, nor
 * one account from many places can be tried for long.
 * @param most failed tries in a quarter of an hour for one account from one address
 */
export function makeTries(db: Database, most: number): Tries {
  const limiter = (prefix: string, points: number) => makeLimit(db, prefix, points, WINDOW);
  const both = limiter('both', most);
  const addresses = limiter('address', most * APART);
  const accounts = limiter('account', most * APART);
  const made = limiter('made', most * APART);
  return {
    async limited(request, account, attempt) {
      const address = addressOf(request);
      const counts: [Limit, string][] = [
        [both, `${address} ${account}`],
        [addresses, address],
        [accounts, account],
      ];
      // Counted before, so that tries at the same time count as well.
      for (const [limit, key] of counts) await taken(limit, key);
      const result = await attempt();
      for (const [limit, key] of counts) await limit.giveBack(key);
      return result;
    },
    counted: (request) => taken(made, addressOf(request)),
  };
}

async function taken(limit: Limit, key: string): Promise<void> {
  const { isWithin } = await limit.take(key);
  if (!isWithin)
    throw new HttpError(429, 'session.tries', 'Too many tries. Wait a quarter of an hour.');
}

/** Who asks: an IPv4 address, or the network of an IPv6 one, of which one person has many (RFC 6177). */
export function addressOf({ ip = '' }: Request): string {
  const plain = ip.replace(/^::ffff:(?=\d+\.)/u, '');
  if (!isIPv6(plain)) return plain;
  const [head = '', tail = ''] = plain.split('::');
  const first = head.split(':').filter(Boolean);
  const last = tail.split(':').filter(Boolean);
  const missing = Array.from({ length: 8 - first.length - last.length }, () => '0');
  return [...first, ...missing, ...last].slice(0, 4).join(':');
}

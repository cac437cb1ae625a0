import { isIPv6 } from 'node:net';
import type { Request } from 'express';
import { RateLimiterMemory, RateLimiterRes } from 'rate-limiter-flexible';
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
export function makeTries(most: number): Tries {
  const limiter = (keyPrefix: string, points: number) =>
    new RateLimiterMemory({ keyPrefix, points, duration: WINDOW });
  const both = limiter('both', most);
  const addresses = limiter('address', most * APART);
  const accounts = limiter('account', most * APART);
  const made = limiter('made', most * APART);
  return {
    async limited(request, account, attempt) {
      const address = addressOf(request);
      const counts: [RateLimiterMemory, string][] = [
        [both, `${address} ${account}`],
        [addresses, address],
        [accounts, account],
      ];
      // Counted before, so that tries at the same time count as well.
      for (const [limit, key] of counts) await taken(limit, key);
      const result = await attempt();
      for (const [limit, key] of counts) await limit.reward(key);
      return result;
    },
    counted: (request) => taken(made, addressOf(request)),
  };
}

async function taken(limit: RateLimiterMemory, key: string): Promise<void> {
  try {
    await limit.consume(key);
  } catch (error) {
    if (!(error instanceof RateLimiterRes)) throw error;
    throw new HttpError(429, 'session.tries', 'Too many tries. Wait a quarter of an hour.');
  }
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

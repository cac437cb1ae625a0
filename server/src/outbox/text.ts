import { createHmac } from 'node:crypto';
import { Refused, type Carrier, type Outgoing } from './carrier.ts';

export interface TextConfig {
  /** Where text messages are handed over: an address of the operator's own. */
  url: string;
  /** What the signature is made with. */
  secret: string;
}

/** How long the service may take, in milliseconds; an answer that comes later counts as lost. */
const LIMIT = 20_000;

/**
 * The signature of a body at a moment, in seconds since 1970: HMAC (RFC 2104) with SHA-256 over `<seconds>.<body>`,
 * in hexadecimal digits. Whoever gets it makes it anew, and refuses what is older than a few minutes.
 */
export function signed(secret: string, seconds: number, body: string): string {
  const mac = createHmac('sha256', secret).update(`${seconds}.${body}`).digest('hex');
  return `t=${seconds}, hmac-sha256=${mac}`;
}

/**
 * Carries text messages by a POST to an address of the operator's, with `{ id, to, text }` as JSON. The id stays
 * the same where it is handed over again: who gets it lets it arrive once. 400 and 422 say that this message is
 * never taken; everything else but 2xx, that it is to be handed over again.
 */
export function makeText({ url, secret }: TextConfig, now: () => number, limit = LIMIT): Carrier {
  return {
    async send({ id, address, text }: Outgoing) {
      const body = JSON.stringify({ id, to: address, text });
      const response = await fetch(url, {
        method: 'POST',
        headers: {
          'Content-Type': 'application/json',
          'Idempotency-Key': id,
          'Back-Again-Signature': signed(secret, Math.floor(now() / 1000), body),
        },
        body,
        redirect: 'error',
        signal: AbortSignal.timeout(limit),
      });
      // The connection is let go of.
      await response.body?.cancel();
      if (response.ok) return;
      const words = `The service for text messages answered ${response.status}.`;
      throw response.status === 400 || response.status === 422
        ? new Refused(words)
        : new Error(words);
    },
  };
}

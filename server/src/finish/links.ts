import { createHmac } from 'node:crypto';
import type { Instant } from '@back-again/core';
import { isSameBytes } from '../sameBytes.ts';

/** How long a link in a message can be used. */
export const LINK_LASTS = 7 * 86_400_000;

/** A link as it was read. */
export interface Opened {
  messageId: string;
  expires: Instant;
  /** The id of the action by which it finishes: only this installation can give it. */
  actionId: string;
  /** The id of the one by which it puts off. */
  laterId: string;
}

/** What a link is good for: finishing the time that one message is about, or putting it off, until it expires. */
export interface Links {
  /** The token of a message that was decided at this moment. */
  token(messageId: string, decidedAt: Instant): string;
  /** What a token is of; null where it was not made here. */
  opened(token: string): Opened | null;
  /** Where a person says that they want no more e-mail; it holds for ever. */
  stopUrl(userId: string, base: string): string;
  /** Whose that is; null where it was not made here. */
  stopOf(token: string): string | null;
}

/** The text of a message with its links: to the time that it is about, or to today. */
export function withLinks(
  { id, text, decidedAt }: { id: string; text: string; decidedAt: Date },
  seriesId: string | null,
  links: Links,
  base: string,
): string {
  if (seriesId === null) return `${text}\n\nOpen today: ${base}/`;
  return [
    text,
    '',
    `Open it: ${base}/todo/${seriesId}`,
    `Done, without signing in: ${base}/finish/${links.token(id, decidedAt.getTime())}`,
  ].join('\n');
}

const ID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/u;

/**
 * Signs and reads the links of messages: id, expiry in seconds, and their HMAC (RFC 2104) with SHA-256,
 * under a key that is derived for this alone.
 */
export function makeLinks(secret: string): Links {
  const key = createHmac('sha256', secret).update('links in messages').digest();
  const sign = (text: string) => createHmac('sha256', key).update(text).digest();
  const stopSign = (userId: string) => sign(`no mail ${userId}`).toString('base64url');
  /** An id in the form of a UUID, version 8 (RFC 9562 §5.8), that only this installation can give. */
  const actionOf = (what: 'finish' | 'later', id: string) => {
    const digits = sign(`${what} ${id}`).toString('hex').slice(0, 32);
    const [a, b, c, d, e] = [0, 8, 13, 17, 20].map((from, i) =>
      digits.slice(from, [8, 12, 16, 20, 32][i]),
    );
    return `${a}-${b}-8${c}-8${d}-${e}`;
  };
  return {
    token(messageId, decidedAt) {
      const text = `${messageId}.${Math.floor((decidedAt + LINK_LASTS) / 1000).toString(36)}`;
      return `${text}.${sign(text).toString('base64url')}`;
    },
    opened(token) {
      const [id = '', expires = '', signature = '', ...rest] = token.split('.');
      if (rest.length || !ID.test(id)) return null;
      const wanted = sign(`${id}.${expires}`);
      const got = Buffer.from(signature, 'base64url');
      if (!isSameBytes(wanted, got)) return null;
      return {
        messageId: id,
        expires: parseInt(expires, 36) * 1000,
        actionId: actionOf('finish', id),
        laterId: actionOf('later', id),
      };
    },
    stopUrl: (userId, base) => `${base}/api/no-mail/${userId}.${stopSign(userId)}`,
    stopOf(token) {
      const [userId = '', signature = '', ...rest] = token.split('.');
      const wanted = Buffer.from(ID.test(userId) && !rest.length ? stopSign(userId) : '');
      const got = Buffer.from(signature);
      return wanted.length && isSameBytes(wanted, got) ? userId : null;
    },
  };
}

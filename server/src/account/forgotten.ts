import { createHash, createHmac } from 'node:crypto';
import { CoreError, type Instant } from '@back-again/core';
import { isSameBytes } from '../sameBytes.ts';
import type { Database } from '../db/database.ts';
import type { UserRow } from '../db/models.ts';
import type { Carrier } from '../outbox/carrier.ts';
import { userById, userNamed } from './users.ts';

/** A forgotten password: a signed link that goes to the address, once, for an hour. */

const LASTS = 3_600_000;
const BROKEN = () =>
  new CoreError(
    'reset.none',
    'token',
    'This link was used, has expired, or is not whole: ask for another.',
  );

export interface Resets {
  /** Sends the link to an address; where there is no such account, nothing: who asks cannot tell. */
  send(name: string, now: Instant): Promise<void>;
  /** Whose link it is. @throws CoreError `reset.none` */
  opened(token: string, now: Instant): Promise<UserRow>;
}

/**
 * What a link signs holds what is known of the password now: once that is another, the link is worth nothing.
 */
export function makeResets({
  db,
  secret,
  carrier,
  base,
}: {
  db: Database;
  secret: string;
  carrier: Carrier;
  base: () => string;
}): Resets {
  const key = createHmac('sha256', secret).update('forgotten passwords').digest();
  const sign = (text: string, user: UserRow) =>
    createHmac('sha256', key).update(`${text} ${user.passwordHash} ${user.name}`).digest();
  return {
    async send(name, now) {
      const user = await userNamed(db, name);
      if (!user) return;
      const text = `${user.id}.${Math.floor((now + LASTS) / 1000).toString(36)}`;
      const token = `${text}.${sign(text, user).toString('base64url')}`;
      await carrier.send({
        id: idOf(`${user.id} ${Math.floor(now / 60_000)}`),
        userId: user.id,
        channel: 'email',
        address: user.name,
        subject: 'A new password for Back Again',
        text: [
          'Somebody, you perhaps, asked for a new password.',
          '',
          `Choose one, within an hour: ${base()}/new-password/${token}`,
          '',
          'If it was not you, there is nothing to do: your password stays as it is.',
        ].join('\n'),
      });
    },
    async opened(token, now) {
      const [id = '', expires = '', signature = '', ...rest] = token.split('.');
      const user = rest.length ? null : await userById(db, id);
      if (!user) throw BROKEN();
      const wanted = sign(`${id}.${expires}`, user);
      const got = Buffer.from(signature, 'base64url');
      if (!isSameBytes(wanted, got)) throw BROKEN();
      if (now >= parseInt(expires, 36) * 1000) throw BROKEN();
      return user;
    },
  };
}

/** One message a minute, however often it is asked for. */
function idOf(text: string): string {
  const digits = createHash('sha256').update(`reset ${text}`).digest('hex');
  return digits.replace(/^(.{8})(.{4}).(.{3}).(.{3})(.{12}).*$/u, '$1-$2-8$3-8$4-$5');
}

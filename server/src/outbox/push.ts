import { request as overHttp } from 'node:http';
import { request as overHttps } from 'node:https';
import webPush from 'web-push';
import type { Pushed } from '@back-again/contract/devices';
import type { PushKeys } from '../push/keys.ts';
import { openLookup } from '../push/reachable.ts';
import { cut } from '../said/notices.ts';
import { Gone, Refused, type Addressed, type Carrier } from './carrier.ts';

export interface PushConfig {
  /** Whom a push service can turn to: mailto: or https: (RFC 8292 §2.1). */
  contact: string;
  /** For tests: sends to loopback, and without HTTPS. */
  anywhere: boolean;
}

/** How long a push service may take, in milliseconds. */
const LIMIT = 20_000;
/** For how long it keeps a message for a device that is not reached, in seconds: a reminder of yesterday is none. */
const KEPT = 24 * 3600;
/** A message has 4,096 bytes with its seal (RFC 8291 §4); what is shown is cut long before. */
const MOST_TITLE = 200;
const MOST_BODY = 400;

/**
 * Carries messages to browsers with no window open (RFC 8030), sealed for each (RFC 8291) and signed (RFC 8292).
 * The Topic is the id of the notice, so that one that is handed over again takes the place of the first while
 * the device is not reached (RFC 8030 §5.4); one that was shown already is replaced by its tag there.
 */
export function makePush({ contact, anywhere }: PushConfig, keys: PushKeys): Carrier {
  return {
    async send({ push }) {
      if (!push) throw new Refused('There is no device that it is for.');
      const { device, shows } = push;
      const { endpoint, method, headers, body } = webPush.generateRequestDetails(
        { endpoint: device.endpoint, keys: { p256dh: device.p256dh, auth: device.auth } },
        JSON.stringify(short(shows)),
        {
          vapidDetails: { subject: contact, ...keys },
          contentEncoding: 'aes128gcm',
          urgency: 'high',
          TTL: KEPT,
          topic: shows.id.replaceAll('-', ''),
        },
      );
      const status = await post(
        endpoint,
        method,
        headers as Record<string, string>,
        body,
        anywhere,
      );
      if (status >= 200 && status < 300) return;
      const words = `The push service answered ${status}.`;
      // RFC 8030 §7.3: 404 for a subscription that is over; 410 is what services say of one that was withdrawn.
      if (status === 404 || status === 410) throw new Gone(words);
      throw status === 400 || status === 413 ? new Refused(words) : new Error(words);
    },
  };
}

const short = (shows: Pushed): Pushed => ({
  ...shows,
  title: cut(shows.title, MOST_TITLE),
  body: cut(shows.body, MOST_BODY),
});

/** Posts a message and gives the status of the answer. */
function post(
  endpoint: Addressed['endpoint'],
  method: string,
  headers: Record<string, string>,
  body: Buffer,
  anywhere: boolean,
): Promise<number> {
  const request = new URL(endpoint).protocol === 'https:' ? overHttps : overHttp;
  return new Promise((resolve, reject) => {
    const asked = request(
      endpoint,
      {
        method,
        headers,
        signal: AbortSignal.timeout(LIMIT),
        ...(anywhere ? {} : { lookup: openLookup as never }),
      },
      (response) => {
        response.resume();
        resolve(response.statusCode ?? 0);
      },
    );
    asked.once('error', reject);
    asked.end(body);
  });
}

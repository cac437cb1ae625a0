import {
  createDecipheriv,
  createECDH,
  createPublicKey,
  hkdfSync,
  randomBytes,
  randomUUID,
  verify,
  type ECDH,
} from 'node:crypto';
import { createServer, type IncomingMessage } from 'node:http';
import type { AddressInfo } from 'node:net';

/** A browser that subscribed: what only it has. */
export interface Receiver {
  ecdh: ECDH;
  auth: Buffer;
}

/** A message as the stand-in got it: what it says once it is opened, and the headers that it came with. */
export interface Got {
  text: string;
  topic: string | undefined;
  ttl: number;
  urgency: string | undefined;
  contact: string;
}

const bytesOf = (text: string) => Buffer.from(text, 'base64url');
const derived = (key: Buffer, salt: Buffer, info: Buffer, length: number) =>
  Buffer.from(hkdfSync('sha256', key, salt, info, length));

/** Opens a message that was sealed for a receiver (RFC 8291 §3.4, RFC 8188 §2: one record). */
export function opened({ ecdh, auth }: Receiver, body: Buffer): string {
  const salt = body.subarray(0, 16);
  const keyLength = body.readUInt8(20);
  const sender = body.subarray(21, 21 + keyLength);
  const sealed = body.subarray(21 + keyLength);
  const info = Buffer.concat([Buffer.from('WebPush: info\0'), ecdh.getPublicKey(), sender]);
  const secret = derived(ecdh.computeSecret(sender), auth, info, 32);
  const key = derived(secret, salt, Buffer.from('Content-Encoding: aes128gcm\0'), 16);
  const nonce = derived(secret, salt, Buffer.from('Content-Encoding: nonce\0'), 12);
  const decipher = createDecipheriv('aes-128-gcm', key, nonce);
  decipher.setAuthTag(sealed.subarray(-16));
  const plain = Buffer.concat([decipher.update(sealed.subarray(0, -16)), decipher.final()]);
  // The last record ends in a byte 2, and zeros behind it.
  const end = plain.findLastIndex((byte) => byte !== 0);
  if (plain[end] !== 2) throw new Error('The record does not end as the last one does.');
  return plain.subarray(0, end).toString();
}

/**
 * Checks who sent a message (RFC 8292 §2, §3; RFC 8725 for the algorithm), and gives whom to turn to.
 * @throws Error in words
 */
export function signedBy(authorization: string, origin: string, now: number): string {
  const [, token, k] = /^vapid t=([\w.-]+), ?k=([\w-]+)$/u.exec(authorization) ?? [];
  if (!token || !k) throw new Error('There is no signature.');
  const point = bytesOf(k);
  const [x, y] = [point.subarray(1, 33), point.subarray(33)].map((it) => it.toString('base64url'));
  const key = createPublicKey({ key: { kty: 'EC', crv: 'P-256', x: x!, y: y! }, format: 'jwk' });
  const [head, claims, signature] = token.split('.') as [string, string, string];
  const { alg } = JSON.parse(bytesOf(head).toString()) as { alg: string };
  const isRight = verify(
    'sha256',
    Buffer.from(`${head}.${claims}`),
    { key, dsaEncoding: 'ieee-p1363' },
    bytesOf(signature),
  );
  if (alg !== 'ES256' || !isRight) throw new Error('The signature is wrong.');
  const { aud, exp, sub } = JSON.parse(bytesOf(claims).toString()) as Record<string, unknown>;
  if (aud !== origin) throw new Error(`It is meant for ${String(aud)}.`);
  if (typeof exp !== 'number' || exp * 1000 < now || exp * 1000 > now + 24 * 3_600_000)
    throw new Error('It holds for too long, or no more.');
  if (!/^(mailto:|https:)/u.test(String(sub))) throw new Error('It does not say whom to turn to.');
  return String(sub);
}

/** A subscription as `PushSubscription.toJSON()` gives it (W3C Push API §9). */
export interface Subscription {
  endpoint: string;
  keys: { p256dh: string; auth: string };
}

/** Stands in for the push service of a browser, on loopback: it takes what is signed, and opens what is sealed. */
export async function startPushService() {
  const receivers = new Map<string, Receiver>();
  const got: Got[] = [];
  const gone = new Set<string>();
  const faults: string[] = [];
  const server = createServer((request, response) => {
    void take(request).then((status) => response.writeHead(status).end());
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const origin = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;

  async function take(request: IncomingMessage): Promise<number> {
    const pieces: Buffer[] = [];
    for await (const piece of request) pieces.push(piece as Buffer);
    const id = request.url!.slice(1);
    const receiver = receivers.get(id);
    if (!receiver) return 404;
    if (gone.has(id)) return 410;
    const { authorization = '', topic, ttl, urgency, 'content-encoding': coding } = request.headers;
    try {
      const contact = signedBy(authorization, origin, Date.now());
      if (coding !== 'aes128gcm') throw new Error(`It is sealed by ${coding}.`);
      if (typeof topic === 'string' && !/^[\w-]{1,32}$/u.test(topic))
        throw new Error('The topic is none (RFC 8030 §5.4).');
      const text = opened(receiver, Buffer.concat(pieces));
      const header = (it: string | string[] | undefined) => it?.toString();
      got.push({
        ...{ text, contact, topic: header(topic), ttl: Number(ttl), urgency: header(urgency) },
      });
      return 201;
    } catch (error) {
      faults.push((error as Error).message);
      return 403;
    }
  }

  return {
    origin,
    got,
    faults,
    /** A browser subscribes. */
    subscribe(): Subscription {
      const ecdh = createECDH('prime256v1');
      ecdh.generateKeys();
      const auth = randomBytes(16);
      const id = randomUUID();
      receivers.set(id, { ecdh, auth });
      const keys = {
        p256dh: ecdh.getPublicKey().toString('base64url'),
        auth: auth.toString('base64url'),
      };
      return { endpoint: `${origin}/${id}`, keys };
    },
    /** The browser withdraws: 410 from now on. */
    withdraw({ endpoint }: Subscription): void {
      gone.add(endpoint.split('/').at(-1)!);
    },
    stop: () =>
      new Promise<void>((resolve) => {
        server.close(() => resolve());
        server.closeAllConnections();
      }),
  };
}

export type PushService = Awaited<ReturnType<typeof startPushService>>;

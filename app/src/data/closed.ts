import type { DevicesView } from '@back-again/contract/devices';
import { ask, type Asked } from './ask.ts';
import { stored } from './storage.ts';
import { WORKER } from './shell.ts';

/** This browser as one that is told of reminders while no window is open (W3C Push API). */

const KEY = 'back-again device';

/** Under which name and address it is told. */
interface Known {
  name: string;
  endpoint: string;
}

const known = (): Known | null =>
  stored((storage) => JSON.parse(storage.getItem(KEY) ?? 'null') as Known | null, null);
const know = (it: Known | null) =>
  stored(
    (storage) => (it ? storage.setItem(KEY, JSON.stringify(it)) : storage.removeItem(KEY)),
    undefined,
  );

/** Whether this browser can be told at all. */
export const canBeTold = () => 'serviceWorker' in navigator && 'PushManager' in globalThis;

async function subscription(): Promise<PushSubscription | null> {
  if (!canBeTold()) return null;
  const registration = await navigator.serviceWorker.getRegistration();
  return (await registration?.pushManager.getSubscription()) ?? null;
}

/** SHA-256 of an address in hexadecimal digits: by this the server names it. */
async function sumOf(endpoint: string): Promise<string> {
  const sum = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(endpoint));
  return [...new Uint8Array(sum)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}

/** By what the server names this browser; null where it is not told. */
export async function thisDevice(): Promise<string | null> {
  const mine = await subscription().catch(() => null);
  return mine && sumOf(mine.endpoint);
}

function asked(name: string, { endpoint, keys }: PushSubscriptionJSON): Asked {
  return { url: '/devices', method: 'POST', body: { name, endpoint, keys } };
}

/**
 * Subscribes this browser, and tells the server.
 * @param key of the server, base64url
 * @throws Error where the browser, or its push service, does not let it
 */
export async function beTold(name: string, key: string): Promise<ReturnType<typeof ask>> {
  await navigator.serviceWorker.register(WORKER);
  const { pushManager } = await navigator.serviceWorker.ready;
  const mine = await pushManager.subscribe({ userVisibleOnly: true, applicationServerKey: key });
  const answered = await ask(asked(name, mine.toJSON()));
  if ('data' in answered) know({ name, endpoint: mine.endpoint });
  return answered;
}

/** Lets the browser forget that it is told. */
export async function beToldNoMore(): Promise<void> {
  know(null);
  await (await subscription())?.unsubscribe();
}

/**
 * Brings this browser and the server together again: what the browser changed by itself is told, and where the
 * device was withdrawn elsewhere, or somebody else is signed in, it is told no more.
 */
export async function keepDevice(): Promise<void> {
  const mine = await subscription();
  const { name, endpoint } = known() ?? {};
  if (!mine || name === undefined) return;
  const answered = await ask({ url: '/devices' });
  if ('error' in answered) return;
  const sum = await sumOf(mine.endpoint);
  const { devices, key } = answered.data as DevicesView;
  const isThere = devices.some((it) => it.sum === sum);
  if (key === null || (!isThere && endpoint === mine.endpoint)) return beToldNoMore();
  const again = await ask(asked(name, mine.toJSON()));
  if ('data' in again) know({ name, endpoint: mine.endpoint });
}

import { WORKER } from './shell.ts';

/** Notifications of the browser (WHATWG Notifications API), shown by a service worker so that phones have them. */

export type Permission = 'granted' | 'denied' | 'default' | 'none';

const KEY = 'back-again told';

/** Whether this browser may say something; `none` where it cannot. */
export function permission(): Permission {
  if (!('Notification' in globalThis) || !('serviceWorker' in navigator)) return 'none';
  return Notification.permission;
}

/** Asks the person; gives what they said. */
export async function ask(): Promise<Permission> {
  if (permission() === 'none') return 'none';
  const said = await Notification.requestPermission();
  if (said === 'granted') await navigator.serviceWorker.register(WORKER);
  return said;
}

export interface ToSay {
  id: string;
  /** Its running number: what this browser has said is not said again. */
  seq: number;
  title: string;
  body: string;
}

function told(): number | null {
  try {
    const text = globalThis.localStorage.getItem(KEY);
    return text === null ? null : Number(text);
  } catch {
    return null;
  }
}

function tell(seq: number): void {
  try {
    globalThis.localStorage.setItem(KEY, String(seq));
  } catch {
    // Then it may be said once more after a reload.
  }
}

/** Says what this browser has not said yet, of what has come up to the number `last`. */
export function notify(all: readonly ToSay[], last: number): void {
  const through = told();
  if (through !== null && last <= through) return;
  tell(last);
  // What was there before this browser was first used is no news.
  if (through === null || permission() !== 'granted') return;
  const fresh = all.filter(({ seq }) => seq > through).sort((a, b) => a.seq - b.seq);
  if (!fresh.length) return;
  void navigator.serviceWorker.register(WORKER).then(async () => {
    const worker = await navigator.serviceWorker.ready;
    for (const { id, title, body } of fresh)
      if (!(await wasShown(id))) await worker.showNotification(title, { body, tag: id });
  });
}

/** Where the worker notes what it has shown of what came to it while no window was open (`speak.js`). */
const SHOWN = 'back-again shown';

/** Whether the worker has shown a notice already; it is then forgotten there. */
async function wasShown(id: string): Promise<boolean> {
  try {
    return await (await caches.open(SHOWN)).delete(`/shown/${id}`);
  } catch {
    return false;
  }
}

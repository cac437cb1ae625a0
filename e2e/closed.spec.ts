import type { BrowserContext, CDPSession, Page, Worker } from '@playwright/test';
import { startPushService, type PushService } from '../server/src/testing/pushService.ts';
import {
  expect,
  expectNothingSerious,
  register,
  SIZES,
  startOwn,
  test as base,
  type Program,
} from './program.ts';
import { todosOf } from './onServer.ts';

// Reminders while no window is open. Headless Chromium has no service to subscribe to: `subscribe` of the page
// names the stand-in, and what came there is delivered to the worker by the browser’s own tools.

/** Of the scope of a service worker (W3C Service Workers §4), what is used here: its types are not those of a page. */
interface Scope extends EventTarget {
  registration: ServiceWorkerRegistration;
  clients: { matchAll: (of: object) => Promise<readonly unknown[]> };
  NotificationEvent: new (
    type: string,
    of: { notification: Notification; action: string },
  ) => Event & { waitUntil: (promise: Promise<unknown>) => void };
}

interface Closed {
  service: PushService;
  program: Program;
}

const test = base.extend<object, Closed>({
  service: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const service = await startPushService();
      await use(service);
      await service.stop();
    },
    { scope: 'worker' },
  ],
  program: [
    async ({ service: _service }, use) => {
      const program = await startOwn('2026-11-24T09:40:00Z', {
        PUSH_CONTACT: 'mailto:operator@example.org',
        PUSH_ANYWHERE: '1',
      });
      await use(program);
      await program.stop();
    },
    { scope: 'worker' },
  ],
});

test.use({ serviceWorkers: 'allow' });

/** Lets each page of a browser subscribe with the stand-in. */
async function withService(context: BrowserContext, service: PushService): Promise<void> {
  const subscription = service.subscribe();
  await context.addInitScript((given) => {
    let mine: object | null = null;
    try {
      mine = JSON.parse(localStorage.getItem('test subscription') ?? 'null') as object | null;
    } catch {
      // A page of no site keeps nothing.
    }
    const made = () => ({
      ...given,
      toJSON: () => given,
      unsubscribe: () => {
        localStorage.removeItem('test subscription');
        mine = null;
        return Promise.resolve(true);
      },
    });
    PushManager.prototype.subscribe = () => {
      localStorage.setItem('test subscription', '{}');
      mine = {};
      return Promise.resolve(made() as unknown as PushSubscription);
    };
    PushManager.prototype.getSubscription = () =>
      Promise.resolve(mine && (made() as unknown as PushSubscription));
  }, subscription);
}

/** Someone who is told in the browser, and on this device while Back Again is closed. */
async function toldHere(page: Page, context: BrowserContext): Promise<void> {
  await context.grantPermissions(['notifications']);
  await register(page.request);
  await page.goto('/settings');
  await page.getByRole('checkbox', { name: 'in the browser' }).click();
  await page.getByLabel('Name of this device').fill('Telephone');
  await page.getByRole('button', { name: 'Remind me on this device' }).click();
  await expect(page.getByText('this device · since today')).toBeVisible();
}

const registrations = async (tools: CDPSession): Promise<string> => {
  const found = new Promise<string>((resolve) =>
    tools.on('ServiceWorker.workerRegistrationUpdated', ({ registrations: [first] }) => {
      if (first) resolve(first.registrationId);
    }),
  );
  await tools.send('ServiceWorker.enable');
  return found;
};

/** What the worker shows just now. */
const shown = (worker: Worker) =>
  worker.evaluate(async () => {
    const { registration } = globalThis as unknown as Scope;
    const all = await registration.getNotifications();
    return all.map((it) => ({
      words: `${it.title}: ${it.body}`,
      actions: (it as Notification & { actions: { title: string }[] }).actions.map(
        ({ title }) => title,
      ),
    }));
  });

/** Closes all that the worker shows. */
const closeAll = (worker: Worker) =>
  worker.evaluate(async () => {
    const { registration } = globalThis as unknown as Scope;
    for (const it of await registration.getNotifications()) it.close();
  });

/** Touches an action of what is shown, as the browser tells the worker of it. */
const touch = (worker: Worker, action: string) =>
  worker.evaluate(async (touched) => {
    const scope = globalThis as unknown as Scope;
    const [notification] = await scope.registration.getNotifications();
    const event = new scope.NotificationEvent('notificationclick', {
      notification: notification!,
      action: touched,
    });
    // Nobody but the browser may keep a worker awake: here the test waits.
    let done: Promise<unknown> = Promise.resolve();
    event.waitUntil = (promise) => (done = Promise.resolve(promise));
    scope.dispatchEvent(event);
    await done;
  }, action);

test('with no window open: a reminder is shown, Done finishes it, Later puts it off', async ({
  page,
  context,
  service,
  program,
  setTime,
  write,
}) => {
  await withService(context, service);
  await toldHere(page, context);
  await write('Grease the stern gland 14 days after done, remind me at 10');
  await write('Send the log today, remind me at 11');
  await expect.poll(async () => (await todosOf(page)).length).toBe(2);
  const worker = context.serviceWorkers()[0] ?? (await context.waitForEvent('serviceworker'));
  // A page that is none of ours: no window of Back Again is open from here on.
  const elsewhere = await context.newPage();
  const tools = await context.newCDPSession(elsewhere);
  const registrationId = await registrations(tools);
  await page.close();
  const windows = () =>
    worker.evaluate(async () => {
      const { clients } = globalThis as unknown as Scope;
      return (await clients.matchAll({ includeUncontrolled: true })).length;
    });
  expect(await windows()).toBe(0);
  const delivered = async (at: string, n: number) => {
    await setTime(at);
    await expect.poll(() => service.got.length).toBe(n);
    const data = service.got.at(-1)!.text;
    await tools.send('ServiceWorker.deliverPushMessage', {
      origin: program.url,
      registrationId,
      data,
    });
    // What is asked for while it is just being shown is let go of by the browser.
    const { id } = JSON.parse(data) as { id: string };
    await expect
      .poll(() => worker.evaluate((path) => caches.match(path).then(Boolean), `/shown/${id}`))
      .toBe(true);
  };

  await delivered('2026-11-24T10:00:00Z', 1);
  await expect
    .poll(() => shown(worker))
    .toEqual([{ words: 'Grease the stern gland: due today', actions: ['Done', 'Later'] }]);
  await touch(worker, 'done');
  expect(await shown(worker)).toEqual([
    { words: 'Grease the stern gland: Done. Back again Tue 8 Dec.', actions: [] },
  ]);
  await closeAll(worker);
  await delivered('2026-11-24T11:00:00Z', 2);
  await expect
    .poll(() => shown(worker))
    .toEqual([{ words: 'Send the log: due today', actions: ['Done', 'Later'] }]);
  await context.setOffline(true);
  await touch(worker, 'later');
  const [lost] = await shown(worker);
  expect(lost!.actions).toEqual(['Done', 'Later']);
  expect(lost!.words).toContain('It did not get through: there was no connection.');
  await context.setOffline(false);
  await touch(worker, 'later');
  expect((await shown(worker))[0]!.words).toBe('Send the log: Said again today, 12:00.');
  expect(await windows()).toBe(0);
  expect(service.faults).toEqual([]);

  // A window that opens later shows how it stands, and says none of it again.
  await closeAll(worker);
  const later = await context.newPage();
  await later.goto('/');
  await expect(later.getByText('Back again Tue 8 Dec')).toBeVisible();
  await expect(later.getByRole('button', { name: 'Done: Send the log' })).toBeVisible();
  await expect(later.getByRole('button', { name: /^Reminders, \d new$/u })).toBeVisible();
  await setTime('2026-11-24T12:00:00Z');
  await expect
    .poll(async () => (await shown(worker)).map(({ words }) => words))
    .toEqual(['Send the log: due today']);
});

test('Settings name each device that is told, and withdraw it', async ({
  page,
  context,
  service,
}) => {
  await withService(context, service);
  await toldHere(page, context);
  for (const size of SIZES) {
    await page.setViewportSize(size);
    await expectNothingSerious(page, String(size.width));
  }
  await page.getByRole('button', { name: 'Withdraw: Telephone' }).click();
  await expect(page.getByText('Nothing reminds you then yet.')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Remind me on this device' })).toBeVisible();
  // Where the service lets nobody in, it is said.
  await page.evaluate(() => {
    PushManager.prototype.subscribe = () => Promise.reject(new Error('no service'));
  });
  await page.getByRole('button', { name: 'Remind me on this device' }).click();
  await expect(page.getByText('This browser let nobody in')).toBeVisible();
});

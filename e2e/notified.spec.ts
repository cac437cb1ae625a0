import { expect, settings, test } from './program.ts';

test.use({ serviceWorkers: 'allow' });

test('the browser says it where it may, once; where it is blocked, Settings say so', async ({
  page,
  context,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await context.grantPermissions(['notifications']);
  await settings(page, async () => {
    await page.getByRole('checkbox', { name: 'in the browser' }).click();
    await expect(page.getByText('This browser says them while a window')).toBeVisible();
  });
  await write('Send the log today, remind me at 10');
  await setTime('2026-11-24T10:00:00Z');
  const shown = () =>
    page.evaluate(async () => {
      const registration = await navigator.serviceWorker.getRegistration();
      const all = (await registration?.getNotifications()) ?? [];
      return all.map(({ title, body }) => `${title}: ${body}`);
    });
  await expect.poll(shown).toEqual(['Send the log: due today']);
  await page.evaluate(async () => {
    const registration = await navigator.serviceWorker.getRegistration();
    for (const it of await registration!.getNotifications()) it.close();
  });
  await page.reload();
  await expect(page.getByRole('button', { name: 'Reminders, 1 new' })).toBeVisible();
  expect(await shown()).toEqual([]);
  await page.addInitScript(() => {
    Object.defineProperty(Notification, 'permission', { get: () => 'denied' });
  });
  await page.goto('/settings');
  await expect(page.getByText('This browser blocks them')).toBeVisible();
});

import type { Page } from '@playwright/test';
import { expect, expectNothingSerious, row, settings, test } from './program.ts';

/** Goes on without a reload: the window hears of what was said. */
const said = (page: Page, title: string) => page.getByTestId(`said ${title}`);

const byEmail = (page: Page) =>
  settings(page, () => page.getByRole('checkbox', { name: 'by e-mail' }).click());

test('set by a sentence: the moments as dates, said at its time, counted aloud, finished from the list', async ({
  page,
  someone,
  setTime,
}) => {
  await someone();
  await page.goto('/write');
  const field = page.getByLabel('What comes back, and how?');
  await field.fill('Grease the stern gland 14 days after done, remind me 2 days before at 18:00');
  await expect(page.getByRole('region', { name: 'When you are reminded' })).toHaveText(
    'No reminder of this time: its moments have gone by.',
  );
  await field.fill('Send the log on 27 November, remind me 2 days before at 18:00 and on the day');
  const moments = page.getByRole('region', { name: 'When you are reminded' });
  await expect(moments).toHaveText('Reminds you tomorrow, 18:00 · Fri 27 Nov, 09:00');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('is kept.')).toBeVisible();
  await setTime('2026-11-25T18:00:00Z');
  await expect(page.getByRole('status').getByText('1 new reminder')).toBeAttached();
  await page.getByRole('button', { name: 'Reminders, 1 new' }).click();
  const it = said(page, 'Send the log');
  await expect(it.getByText('due Fri 27 Nov · said today, 18:00')).toBeVisible();
  await expect(it.getByText('new', { exact: true })).toBeVisible();
  await it.getByRole('button', { name: 'Done: Send the log' }).click();
  await expect(it.getByText('Done today, 18:00')).toBeVisible();
  await it.getByRole('button', { name: 'Undo: Send the log' }).click();
  await expect(it.getByRole('button', { name: 'Skip: Send the log' })).toBeVisible();
  await it.getByRole('button', { name: 'Skip: Send the log' }).click();
  await expect(it.getByText('Skipped today, 18:00')).toBeVisible();
  await page.getByRole('link', { name: 'Today' }).click();
  await expect(page.getByRole('button', { name: 'Reminders', exact: true })).toBeVisible();
  await setTime('2026-11-27T09:00:00Z');
  await page.goto('/said');
  await expect(page.getByRole('listitem')).toHaveCount(1);
});

test('set by controls: how long before, its hour, again until it is done; on the page and the ruler', async ({
  page,
  someone,
  setTime,
}) => {
  await someone();
  await page.goto('/write?text=Send the log on 24 November at 20:00');
  await page.getByRole('button', { name: 'a reminder' }).click();
  await page.getByRole('button', { name: 'Remind me 2 hours before' }).click();
  await page.getByRole('button', { name: 'Remind me the day before' }).click();
  await page.getByRole('button', { name: 'Take away reminder 2' }).click();
  await page.getByRole('button', { name: /Repeat it, or send it another way/ }).click();
  const again = page.getByRole('radiogroup', { name: 'Reminder 1: said again' });
  await again.getByRole('radio', { name: 'every hour' }).click();
  const moments = page.getByRole('region', { name: 'When you are reminded' });
  await expect(moments).toHaveText('Reminds you today, 18:00 · today, 19:00 · today, 20:00');
  await expect(page.getByLabel('What comes back, and how?')).toHaveValue(
    'Send the log on 24 November at 20:00 remind me 2 hours before and again every hour up to 3 times',
  );
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('Next reminder 18:00: Send the log, and 3 more today')).toBeVisible();
  await page.getByRole('button', { name: /^Send the log,/ }).click();
  await row(page, 'Send the log').getByRole('button', { name: 'Open: Send the log' }).click();
  await expect(page.getByRole('region', { name: 'Reminders' })).toHaveText(
    /today, 18:00 · today, 19:00 · today, 20:00 · today, 21:00/u,
  );
  await setTime('2026-11-24T19:00:00Z');
  await page.goto('/said');
  await expect(said(page, 'Send the log').getByText('said today, 19:00')).toBeVisible();
});

test('put off for a while, and until a time; it is said again then', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await write('Send the log today, remind me at 10');
  await setTime('2026-11-24T10:00:00Z');
  await page.goto('/said');
  const it = said(page, 'Send the log');
  await it.getByRole('button', { name: 'Later: Send the log' }).click();
  await it.getByRole('button', { name: 'in an hour' }).click();
  await expect(it.getByText('Said again today, 11:00')).toBeVisible();
  await it.getByRole('button', { name: 'Undo: put off Send the log' }).click();
  await expect(it.getByText('Said again')).toHaveCount(0);
  await it.getByRole('button', { name: 'Later: Send the log' }).click();
  await it.getByLabel('Or at').fill('half past');
  await it.getByRole('button', { name: 'Put off until then' }).click();
  await expect(it.getByText('Write it as 18:30.')).toBeVisible();
  await it.getByLabel('Or at').fill('18:30');
  await it.getByRole('button', { name: 'Put off until then' }).click();
  await expect(it.getByText('Said again today, 18:30')).toBeVisible();
  await setTime('2026-11-24T11:00:00Z');
  await page.goto('/said');
  await expect(it.getByText('said today, 10:00')).toBeVisible();
  await setTime('2026-11-24T18:30:00Z');
  await expect(it.getByText('said today, 18:30, 2 times in all')).toBeVisible();
  await expect(it.getByText('Said again')).toHaveCount(0);
});

test('an e-mail is in the outbox; its link finishes the time without signing in, once', async ({
  page,
  browser,
  baseURL,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await byEmail(page);
  await write('Grease the stern gland 14 days after done, remind me at 10');
  await setTime('2026-11-24T10:00:00Z');
  await page.goto('/said');
  await expect(said(page, 'Grease the stern gland').getByText('e-mail sent')).toBeVisible();
  await page.getByRole('button', { name: 'Outbox' }).click();
  const message = page.getByTestId('message Grease the stern gland, due Tue 24 Nov');
  await expect(message.getByText('Arrived today, 10:00')).toBeVisible();
  await message.getByRole('button', { name: /^Read:/ }).click();
  await message.getByRole('button', { name: 'Done, without signing in' }).click();
  await expect(page).toHaveURL(/\/finish\//u);
  const link = page.url();

  const stranger = await browser.newContext({ baseURL: baseURL!, locale: 'en-GB' });
  const other = await stranger.newPage();
  await other.goto(link);
  await expect(other.getByRole('heading', { name: 'Grease the stern gland' })).toBeVisible();
  await expect(other.getByText('Due today.')).toBeVisible();
  await expectNothingSerious(other);
  await other.getByRole('button', { name: 'Done: Grease the stern gland' }).click();
  await expect(other.getByText('Done. Back again Tue 8 Dec.')).toBeVisible();
  await other.reload();
  await expect(other.getByText('It was used already, or it is older than a week.')).toBeVisible();
  await expect(other.getByText('Grease the stern gland')).toHaveCount(0);
  await other.goto(`${link}x`);
  await expect(other.getByText('This link was not made here')).toBeVisible();
  await stranger.close();

  await page.goto('/');
  await expect(page.getByText('Back again Tue 8 Dec')).toBeVisible();
  await page.getByRole('button', { name: 'Undo: Grease the stern gland' }).click();
  await expect(page.getByRole('button', { name: 'Done: Grease the stern gland' })).toBeVisible();
});

test('quiet hours: what falls into them is said when they end', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await settings(page, async () => {
    await page.getByRole('switch', { name: 'Quiet hours' }).click();
    await page.getByLabel('From', { exact: true }).fill('21:00');
    await page.getByLabel('Until', { exact: true }).fill('6:30');
    await expect(page.getByLabel('Until', { exact: true })).toHaveValue('6:30');
    await page.getByLabel('Until', { exact: true }).blur();
    await expect(page.getByLabel('Until', { exact: true })).toHaveValue('06:30');
  });
  await page.goto('/write?text=Send the log today, remind me at 22:00');
  const moments = page.getByRole('region', { name: 'When you are reminded' });
  await expect(moments).toHaveText('Reminds you tomorrow, 06:30');
  await write('Send the log today, remind me at 22:00');
  await setTime('2026-11-24T23:00:00Z');
  await page.goto('/said');
  await expect(page.getByText('There was no reminder in the last two weeks.')).toBeVisible();
  await setTime('2026-11-25T06:30:00Z');
  await expect(said(page, 'Send the log').getByText('said today, 06:30')).toBeVisible();
});

test('the morning overview, at an hour of their choice', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await settings(page, async () => {
    await page.getByRole('switch', { name: 'Morning overview' }).click();
    await page.getByLabel('At', { exact: true }).fill('07:15');
  });
  await write('Pump out the tank today');
  await write('Check the bilge every day at 18:00');
  await write('Order wax on 27 November');
  await setTime('2026-11-25T07:15:00Z');
  await page.goto('/said');
  const card = page.getByTestId('overview 2026-11-25');
  await expect(card.getByText('1 late, 1 for the day, 1 coming back soon')).toBeVisible();
  await expect(card.getByText('Pump out the tank · yesterday')).toBeVisible();
  await expect(card.getByText('Check the bilge · 18:00')).toBeVisible();
  await expect(card.getByText('Order wax · Fri 27 Nov')).toBeVisible();
});

test('usual reminders go with each new to-do, and can be taken away from one', async ({
  page,
  someone,
}) => {
  await someone();
  await settings(page, async () => {
    await page.getByRole('radio', { name: 'the day before' }).click();
    await page.getByLabel('Your usual hour').fill('08:00');
  });
  await page.goto('/write?text=Order wax on 27 November');
  const moments = page.getByRole('region', { name: 'When you are reminded' });
  await expect(moments.getByText('Reminds you Thu 26 Nov, 08:00')).toBeVisible();
  await expect(moments.getByText('Your usual reminder for new ones')).toBeVisible();
  await page.getByRole('button', { name: /Change: reminders/ }).click();
  await page.getByRole('button', { name: 'Take away reminder 1' }).click();
  await expect(moments).toHaveCount(0);
  await expect(page.getByLabel('What comes back, and how?')).toHaveValue(
    'Order wax on 27 November',
  );
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('is kept.')).toBeVisible();
  await page.goto('/write?text=Send the log on 27 November');
  await page.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText('is kept.')).toBeVisible();
  await page.goto('/all');
  await page.getByRole('button', { name: /^Send the log/ }).click();
  await expect(page.getByRole('region', { name: 'Reminders' })).toHaveText(/Thu 26 Nov, 08:00/u);
  await page.goto('/all');
  await page.getByRole('button', { name: /^Order wax/ }).click();
  await expect(
    page.getByRole('region', { name: 'Next times' }).or(page.getByText('This time')).first(),
  ).toBeVisible();
  await expect(page.getByRole('region', { name: 'Reminders' })).toHaveCount(0);
});

test('a stand-in that fails: tried again after growing waits, and given up visibly after a day', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await byEmail(page);
  await page.goto('/outbox');
  await page.getByRole('button', { name: /^Try what happens when sending fails/ }).click();
  const fails = page.getByRole('radiogroup', { name: 'How often it fails' });
  await fails.getByRole('radio', { name: 'always' }).click();
  await expect(page.getByRole('button', { name: /^Sending fails now and then/ })).toBeVisible();
  await write('Send the log today, remind me at 10');
  await setTime('2026-11-24T10:00:00Z');
  await page.goto('/outbox');
  const message = page.getByTestId('message Send the log, due Tue 24 Nov');
  await expect(message.getByText('Tried once, again today, 10:00')).toBeVisible();
  await setTime('2026-11-24T10:05:00Z');
  await expect(message.getByText('Tried twice, again today, 10:05')).toBeVisible();
  await setTime('2026-11-25T10:05:00Z');
  await expect(
    message.getByText('Could not be sent: tried twice, last today, 10:05'),
  ).toBeVisible();
  await page.goto('/said');
  await expect(said(page, 'Send the log').getByText('e-mail could not be sent')).toBeVisible();
});

test('nothing serious for axe in the list, its putting off, the outbox, Settings and the controls', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await settings(page, async () => {
    await page.getByRole('checkbox', { name: 'by e-mail' }).click();
    await page.getByRole('checkbox', { name: 'by text message' }).click();
    await page.getByLabel('Number for text messages').fill('+441632960000');
    await page.getByRole('switch', { name: 'Morning overview' }).click();
  });
  const check = () => expectNothingSerious(page);
  await check();
  await write('Send the log tomorrow, remind me the day before at 10');
  await setTime('2026-11-25T07:30:00Z');
  await page.goto('/said');
  await page.getByRole('button', { name: 'Later: Send the log' }).click();
  await check();
  await page.goto('/outbox');
  await page.getByRole('button', { name: /^Try what happens when sending fails/ }).click();
  await page
    .getByRole('button', { name: /^Read:/ })
    .first()
    .click();
  await check();
  await page.goto('/write?text=Send the log on 27 November, remind me the day before');
  await page.getByRole('button', { name: /Change: reminders/ }).click();
  await page.getByRole('button', { name: /Repeat it, or send it another way/ }).click();
  await check();
});

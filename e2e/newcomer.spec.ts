import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import {
  act,
  button,
  expect,
  expectNothingSerious,
  isSent,
  openPage,
  row,
  test,
  type,
  understood,
  unfold,
} from './program.ts';
import { todosOf } from './onServer.ts';

// What people stumbled over who had never seen the program, each at the size of a phone.

/** Types a sentence that is understood. */
const reads = async (page: Page, text: string) => {
  await type(page, text);
  await expect(understood(page)).toBeVisible();
};

test.describe('hours typed into a control', () => {
  for (const [typed, shown] of [
    ['18', '18:00'],
    ['6pm', '18:00'],
    ['18.30', '18:30'],
    ['1930', '19:30'],
  ] as const)
    test(`${typed} is read`, async ({ page, someone }) => {
      await someone();
      await reads(page, 'Feed the cat every day at 8');
      await page.getByRole('button', { name: /^at 08:00|^08:00\. Change/ }).click();
      const field = page.getByLabel('Times of day');
      await field.fill(typed);
      await expect(understood(page)).toContainText(shown);
      await field.blur();
      await expect(field).toHaveValue(shown);
    });

  test('25:00 is said at the field, and nothing is kept beside it', async ({ page, someone }) => {
    await someone();
    await reads(page, 'Feed the cat every day at 8');
    await page.getByRole('button', { name: /^08:00\. Change/ }).click();
    const field = page.getByLabel('Times of day');
    await field.fill('25:00');
    await field.blur();
    await expect(page.getByText('There is no “25:00” on a clock')).toBeVisible();
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(field).toBeFocused();
    await expect(page).toHaveURL(/\/write/u);
    await field.fill('20');
    await page.getByRole('button', { name: 'Keep it' }).click();
    await expect(page.getByText('Feed the cat is kept.')).toBeVisible();
  });
});

test('an hour that has gone by today is told, and the first one begins tomorrow on a touch', async ({
  page,
  someone,
}) => {
  await someone();
  await reads(page, 'Feed the cat every day at 8');
  await expect(
    page.getByText('08:00 today has gone by: the first one is late at once.'),
  ).toBeVisible();
  await button(page, 'Begin tomorrow').click();
  await expect(page.getByText('has gone by')).toHaveCount(0);
  await expect(understood(page)).toContainText('Wednesday 25 November');
});

test('put off: it leaves what is late, says for when, and goes back from where it stood', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await write('Pump out the tank 21 days after done');
  await write('Send the mooring log on the 24th of each month');
  await setTime('2026-11-27T09:40:00Z');
  await page.goto('/');
  const late = page.getByRole('region', { name: 'Late' });
  const it = await unfold(page, 'Pump out the tank');
  await it.getByRole('button', { name: /^Move/ }).click();
  await it.getByRole('button', { name: 'another day: Move Pump out the tank' }).click();
  await it.getByRole('button', { name: 'The month after' }).click();
  await it.getByRole('button', { name: /^Saturday 19 December 2026/ }).click();
  await expect(late.getByTestId('row Pump out the tank')).toHaveCount(0);
  await expect(row(page, 'Pump out the tank')).toContainText('for Sat 19 Dec');
  await expect(row(page, 'Pump out the tank')).toContainText('was due Tue 24 Nov');
  await expect(page.getByRole('status').first()).toContainText(
    'Pump out the tank is for Sat 19 Dec',
  );
  await page.goto('/all');
  await expect(
    page.getByRole('button', { name: /^Pump out the tank, for Sat 19 Dec/ }),
  ).toBeVisible();
  await page.goto('/');
  // After a reload it is taken back where one looks for it.
  await page.reload();
  const again = await unfold(page, 'Pump out the tank');
  await again.getByRole('button', { name: 'Undo the move: Pump out the tank' }).click();
  await expect(late.getByTestId('row Pump out the tank')).toContainText('3 days late');
});

test('several late ones are put off at once, and back by the undo that stands there', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  for (const title of ['Pump out the tank', 'Grease the stern gland', 'Check the ropes'])
    await write(`${title} 21 days after done`);
  await setTime('2026-11-27T09:40:00Z');
  await page.goto('/');
  const late = page.getByRole('region', { name: 'Late' });
  await button(page, 'Put several off').click();
  await page.getByRole('checkbox', { name: 'Check the ropes' }).click();
  await button(page, 'Put these 2 off to tomorrow').click();
  await expect(late.getByTestId(/^row /)).toHaveCount(1);
  await expect(late.getByText('2 are for tomorrow.')).toBeVisible();
  await late.getByRole('button', { name: 'Undo: putting several off' }).click();
  await expect(late.getByTestId(/^row /)).toHaveCount(3);
});

test('moved onto the day of the next one, it says what becomes of it', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  const it = await unfold(page, 'Check the bilge');
  await it.getByRole('button', { name: /^Move/ }).click();
  await it.getByRole('button', { name: 'another day: Move Check the bilge' }).click();
  await it.getByRole('button', { name: 'The month after' }).click();
  await it.getByRole('button', { name: /^Tuesday 1 December 2026/ }).click();
  await expect(
    page
      .getByText('The next one comes Tue 1 Dec: this one counts as missed once Tue 1 Dec is over.')
      .first(),
  ).toBeVisible();
});

test('what is not open yet is done ahead, moved and skipped from what is back soon', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Weigh the hives every Friday');
  await write('Order wax every Saturday');
  await write('Check the ropes every Sunday');
  await page.goto('/');
  const soon = page.getByRole('region', { name: 'Coming back soon' });
  await soon.getByRole('button', { name: /^Weigh the hives/ }).click();
  await button(page, 'Done: Weigh the hives').click();
  await expect(soon.getByText('Weigh the hives, Fri 27 Nov: done ahead.')).toBeVisible();
  await expect(soon.getByRole('button', { name: /^Weigh the hives, back Fri 4 Dec/ })).toHaveCount(
    0,
  );
  await soon.getByRole('button', { name: /^Order wax/ }).click();
  await button(page, 'Move to Sunday 29 November: Order wax').click();
  await expect(soon.getByText(/^Order wax: this time only, to Sun 29 Nov/)).toBeVisible();
  await soon.getByRole('button', { name: /^Check the ropes/ }).click();
  await button(page, 'Skip: Check the ropes').click();
  await expect(soon.getByText('Check the ropes, Sun 29 Nov: skipped ahead.')).toBeVisible();
  await soon.getByRole('button', { name: /^Undo/ }).click();
  await expect(soon.getByRole('button', { name: /^Check the ropes/ })).toBeVisible();
});

test('a forgotten finish: any day; a later move stands in the way, beside the row, and gives way', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await write('Pump out the tank 21 days after done');
  await setTime('2026-11-27T09:40:00Z');
  await page.goto('/');
  let it = await unfold(page, 'Pump out the tank');
  await it.getByRole('button', { name: /^Move/ }).click();
  await it.getByRole('button', { name: 'This time only, to tomorrow' }).click();
  await expect(row(page, 'Pump out the tank')).toContainText('for tomorrow');
  await setTime('2026-11-30T09:40:00Z');
  await page.goto('/');
  it = await unfold(page, 'Pump out the tank');
  await it.getByRole('button', { name: 'Done earlier: Pump out the tank' }).click();
  await it.getByRole('button', { name: /^on another day/ }).click();
  await it.getByRole('button', { name: /^Wednesday 25 November 2026/ }).click();
  await expect(it.getByText(/^It was moved to Sat 28 Nov on Fri 27 Nov/)).toBeVisible();
  await it.getByRole('button', { name: 'Done then, all the same: Pump out the tank' }).click();
  // Counted from the day on which it was done.
  await page.goto('/all');
  await expect(page.getByRole('button', { name: /^Pump out the tank, Wed 16 Dec/ })).toBeVisible();
});

test('a missed one asks on which day it was done', async ({ page, someone, setTime, write }) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await isSent(page, 'Check the bilge');
  await setTime('2026-12-02T09:40:00Z');
  await page.goto('/all');
  await page.getByRole('button', { name: /^Check the bilge,/ }).click();
  const record = page.getByRole('region', { name: 'Last times' });
  await record.getByRole('button', { name: 'I did it: Check the bilge, Tue 24 Nov' }).click();
  await record.getByRole('button', { name: /^Thursday 26 November 2026: The day/ }).click();
  await expect(record.getByText('done 2 days late')).toBeVisible();
});

test('undo on the page, for each of its last deeds, on another device too', async ({
  page,
  someone,
  browser,
  baseURL,
  write,
}) => {
  const name = await someone();
  await write('Walk the towpath 3 times a week');
  const it = row(page, 'Walk the towpath');
  await it.getByRole('button', { name: 'Done: Walk the towpath' }).click();
  await expect(it).toContainText('1 of 3');
  await isSent(page, '"tally":1');
  const other = await browser.newContext({
    baseURL: baseURL!,
    extraHTTPHeaders: { Origin: baseURL! },
  });
  await other.request.post('/api/session', { data: { name, password: 'a long password' } });
  const there = await other.newPage();
  await there.goto('/all');
  await there.getByRole('button', { name: /^Walk the towpath,/ }).click();
  const deeds = there.getByRole('region', { name: 'What you did last' });
  await deeds.getByRole('button', { name: /^Undo: Walk the towpath, Done/ }).click();
  await expect(there.getByRole('region', { name: 'This time' })).toContainText('0 of 3 done');
  await other.close();
});

test('undo of what another device has changed since: what was changed there stands', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await unfold(page, 'Check the bilge');
  await button(page, 'Move: Check the bilge').click();
  await button(page, 'This time only, to Thu 26 Nov: Check the bilge').click();
  await expect(page.getByText('Check the bilge is for Thu 26 Nov.').first()).toBeVisible();
  await isSent(page, '"plan":"2026-11-26"');
  const [{ id: todo } = { id: '' }] = await todosOf(page);
  // Elsewhere it is moved on, while this page hears nothing.
  await page.route('**/api/**', (route) => route.abort());
  await act(page.request, { do: 'move', todo, slot: '2026-11-24', plan: '2026-11-28' });
  await button(page, 'Undo: Check the bilge').click();
  await page.unroute('**/api/**');
  // The first move is taken back: the later one was made after it, and is what holds.
  await page.goto('/all');
  await expect(button(page, /^Check the bilge, for Sat 28 Nov/)).toBeVisible();
  await openPage(page, 'Check the bilge');
  const deeds = page.getByRole('region', { name: 'What you did last' });
  await deeds.getByRole('button', { name: /^Undo: Check the bilge, Moved/ }).click();
  await page.goto('/all');
  await expect(button(page, /^Check the bilge, due today/)).toBeVisible();
});

test('taken away, it lies in Taken away and comes back with its record', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every day');
  await row(page, 'Check the bilge').getByRole('button', { name: /^Done/ }).click();
  await page.goto('/all');
  await page.getByRole('button', { name: /^Check the bilge,/ }).click();
  await button(page, 'Take away').click();
  await button(page, 'Remove Check the bilge').click();
  await expect(page.getByText('It lies in Taken away for 30 days.')).toBeVisible();
  await page.goto('/taken-away');
  await button(page, 'Bring back: Check the bilge').click();
  await expect(page.getByText('Nothing was taken away.')).toBeVisible();
  await page.goto('/all');
  await page.getByRole('button', { name: /^Check the bilge,/ }).click();
  await expect(page.getByRole('region', { name: 'Last times' }).getByText('1 done')).toBeVisible();
});

test('a holiday in advance: from one day through another, and Today says so', async ({
  page,
  someone,
  setTime,
  write,
}) => {
  await someone();
  await write('Check the bilge every day');
  await page.goto('/all');
  await button(page, 'Pause everything').click();
  const pause = page.getByRole('group', { name: 'Pause everything' });
  await pause.getByRole('button', { name: /^its first day/ }).click();
  await pause.getByRole('button', { name: /^Friday 27 November 2026: The first day/ }).click();
  await pause.getByRole('button', { name: /^its last day/ }).click();
  await pause.getByRole('button', { name: /^Monday 30 November 2026: The last day/ }).click();
  await expect(
    pause.getByText('From Fri 27 Nov through Mon 30 Nov: back on Tue 1 Dec.'),
  ).toBeVisible();
  await pause.getByRole('button', { name: 'Pause everything so' }).click();
  await page.goto('/');
  await expect(row(page, 'Check the bilge')).toBeVisible();
  await setTime('2026-11-28T09:40:00Z');
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'Paused' })).toContainText(
    'Everything is paused, through Mon 30 Nov, back Tue 1 Dec.',
  );
  await expect(page.getByTestId('row Check the bilge')).toHaveCount(0);
});

test('nothing typed in Settings is lost: kept when it is left; what is wrong is asked about', async ({
  page,
  someone,
}) => {
  await someone();
  await page.goto('/');
  await page.getByRole('button', { name: 'Settings', exact: true }).click();
  await page.getByLabel('Your usual hour').fill('8pm');
  await page.getByRole('link', { name: 'Today' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('November');
  await page.goto('/settings');
  const hour = page.getByLabel('Your usual hour');
  await expect(hour).toHaveValue('20:00');
  await hour.fill('25:00');
  await page.getByRole('link', { name: 'Today' }).click();
  await expect(hour).toBeFocused();
  await expect(page.getByText('Your usual hour is not kept')).toBeVisible();
  await page.getByRole('link', { name: 'Today' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('November');
});

test('zone and holidays by their names, and on and off by switches', async ({ page, someone }) => {
  await someone();
  await page.goto('/settings');
  await button(page, /^Time zone: London/).click();
  await page.getByLabel('Look for: Time zone').fill('new yo');
  await page.getByLabel('Look for: Time zone').press('ArrowDown');
  await expect(page.getByRole('option', { name: /^New York/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(button(page, /^Time zone: New York/)).toBeVisible();
  await page.getByRole('switch', { name: 'Quiet hours' }).click();
  await expect(page.getByLabel('From', { exact: true })).toHaveValue('22:00');
});

test('a row opened low on the screen shows its actions above the bar', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  for (const title of ['a', 'b', 'c', 'd', 'e', 'f', 'g', 'h', 'i'])
    await write(`Check rope ${title} every Tuesday`);
  const last = page.getByTestId(/^row Check rope/).last();
  await last.getByRole('button').first().click();
  await expect(last.getByRole('button', { name: /^Open:/ })).toBeInViewport();
});

test('a double press does one thing', async ({ page, someone, write }) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await row(page, 'Check the bilge').getByRole('button', { name: /^Done/ }).dblclick();
  await expect(row(page, 'Check the bilge')).toContainText('Back again Tue 1 Dec');
  await expect(row(page, 'Check the bilge').getByRole('button', { name: /^Undo/ })).toBeVisible();
});

test('taking away the first of two reminders leaves the second its own words', async ({
  page,
  someone,
}) => {
  await someone();
  await type(
    page,
    'Send the log on 4 December, remind me the day before at 18:00 and a week before at 7:00',
  );
  await page.getByRole('button', { name: /Change: reminders/ }).click();
  await button(page, 'Take away reminder 1').click();
  await expect(
    page.getByRole('group', { name: 'Reminder 1' }).getByLabel('At', { exact: true }),
  ).toHaveValue('07:00');
});

test('while the server is slow nothing is blank, and the touch is answered', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await page.route('**/api/**', async (route) => {
    await new Promise((resolve) => setTimeout(resolve, 3000));
    await route.continue().catch(() => undefined);
  });
  await page.goto('/');
  await row(page, 'Check the bilge').getByRole('button', { name: /^Done/ }).click();
  await expect(row(page, 'Check the bilge')).toContainText('Back again', { timeout: 2000 });
  await page.goto('/taken-away');
  await expect(page.getByRole('status', { name: /on its way/ })).toBeVisible({ timeout: 2000 });
});

test('a network that answers after 10 s: what is done meanwhile is shown, and sent once', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Check the bilge every Tuesday');
  await write('Walk the towpath 3 times a week');
  await isSent(page, 'Walk the towpath');
  const sent: string[] = [];
  await page.route('**/api/actions', async (route) => {
    sent.push((route.request().postDataJSON() as { id: string }).id);
    await new Promise((resolve) => setTimeout(resolve, 10_000));
    await route.continue().catch(() => undefined);
  });
  await page.goto('/');
  await button(page, 'Done: Check the bilge').click();
  await button(page, 'Done: Walk the towpath').click();
  await expect(row(page, 'Check the bilge')).toContainText('Back again Tue 1 Dec');
  await expect(row(page, 'Walk the towpath')).toContainText('1 of 3');
  await page.reload();
  await expect(row(page, 'Walk the towpath')).toContainText('1 of 3');
  await isSent(page, '"tally":1', 40_000);
  expect(new Set(sent).size).toBe(2);
  await page.unroute('**/api/actions');
  await page.reload();
  await expect(row(page, 'Walk the towpath')).toContainText('1 of 3');
});

test('a name of 300 characters is refused where it is typed, in words', async ({
  page,
  someone,
}) => {
  await someone();
  await type(page, `${LONG} every Tuesday`);
  await expect(page.getByText('A title has 200 characters at most.')).toBeVisible();
  await page.goto('/places');
  await page.getByRole('textbox', { name: 'A new place' }).fill(LONG);
  await expect(page.getByText(/^At most 60 characters: these are \d+\.$/)).toBeVisible();
  await button(page, 'Make it').click();
  await expect(page.getByRole('textbox', { name: 'A new place' })).toHaveValue(LONG);
  await expect(page.getByText('The name of a place has 1 to 60 characters.').first()).toBeVisible();
});

test('a password is shown while it is typed, and the commonest are refused', async ({ page }) => {
  await page.goto('/sign-in');
  await button(page, 'Make an account').click();
  const password = page.getByLabel('Password', { exact: true });
  await page.getByLabel('E-mail address').fill('someone@example.org');
  await password.fill('1234567890');
  await expect(password).toHaveAttribute('type', 'password');
  await button(page, 'Show what is typed').click();
  await expect(password).not.toHaveAttribute('type', 'password');
  await page.getByRole('button', { name: 'Make an account', exact: true }).first().click();
  await expect(page.getByText('That is one of the commonest passwords')).toBeVisible();
});

test('by keys alone: write, doubt, keep, finish, move, undo', async ({ page, someone }) => {
  await someone();
  await page.goto('/write');
  await expect(page.getByLabel('What comes back, and how?')).toBeFocused();
  await page.keyboard.type('Ring the yard at 3 every Tuesday');
  const doubt = page.getByTestId(/^doubt /).first();
  await expect(doubt).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(doubt.getByRole('button').first()).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('What comes back, and how?')).toBeFocused();
  await expect(page.getByTestId(/^doubt /)).toHaveCount(0);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Keep it' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByText('Ring the yard is kept.')).toBeVisible();
  const it = row(page, 'Ring the yard');
  await it.getByRole('button').first().focus();
  await page.keyboard.press('Enter');
  await it.getByRole('button', { name: /^Move/ }).focus();
  await page.keyboard.press('Enter');
  await it.getByRole('button', { name: /^another day/ }).focus();
  await page.keyboard.press('Enter');
  await it.getByRole('button', { name: /^Tuesday 24 November 2026/ }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Ring the yard')).toContainText('for Thu 26 Nov');
  // The focus is somewhere, always.
  await expect.poll(() => page.evaluate(() => document.activeElement !== document.body)).toBe(true);
  await button(page, 'Undo: Ring the yard').focus();
  await page.keyboard.press('Enter');
  await expect(row(page, 'Ring the yard')).not.toContainText('for Thu');
  await expect.poll(() => page.evaluate(() => document.activeElement !== document.body)).toBe(true);
  await it.getByRole('button', { name: /^Done/ }).focus();
  await page.keyboard.press('Enter');
  await expect(it).toContainText('Back again');
  await expect(it.getByRole('button', { name: /^Undo/ })).toBeFocused();
});

test('by keys alone: settings, and a pause', async ({ page, someone, write }) => {
  await someone();
  await write('Check the bilge every day');
  await page.goto('/settings');
  const zone = button(page, /^Time zone: London/);
  await zone.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('Look for: Time zone')).toBeFocused();
  await page.keyboard.type('lisbon');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  // What opened it has the focus again.
  await expect(button(page, /^Time zone: Lisbon/)).toBeFocused();
  await page
    .getByRole('radiogroup', { name: 'Your week starts on' })
    .getByRole('radio', { name: 'Monday' })
    .focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('radio', { name: 'Sunday' })).toBeChecked();
  await page.getByRole('switch', { name: 'Quiet hours' }).focus();
  await page.keyboard.press('Space');
  await expect(page.getByLabel('From', { exact: true })).toBeVisible();
  await expect(page.getByText('Kept.', { exact: true })).toBeVisible();
  await page.keyboard.press('Escape');
  await page.getByRole('heading', { level: 1 }).click();
  await page.keyboard.press('a');
  await expect(page).toHaveURL(/\/all$/u);
  const pause = button(page, 'Pause everything');
  await pause.focus();
  await page.keyboard.press('Enter');
  const group = page.getByRole('group', { name: 'Pause everything' });
  await group.getByRole('button', { name: /^its last day/ }).focus();
  await page.keyboard.press('Enter');
  await group.getByRole('button', { name: /^Tuesday 24 November 2026/ }).focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await group.getByRole('button', { name: 'Pause everything so' }).focus();
  await page.keyboard.press('Enter');
  await expect(
    page.getByText('One to-do: paused through Tue 1 Dec, back on Wed 2 Dec.'),
  ).toBeVisible();
  await expect.poll(() => page.evaluate(() => document.activeElement !== document.body)).toBe(true);
});

test('a visible label goes to its field; the same words are heard twice', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await page.goto('/settings');
  await page.getByText('Your day starts at', { exact: true }).click();
  await expect(page.getByLabel('Your day starts at')).toBeFocused();
  await write('Check the bilge every Tuesday');
  await page.goto('/');
  const status = page.getByRole('status').first();
  const it = row(page, 'Check the bilge');
  for (const time of ['once', 'again'])
    await test.step(time, async () => {
      await it.getByRole('button', { name: /^Done/ }).click();
      await expect(status.locator('> *').nth(1)).toHaveText('Back again Tue 1 Dec');
      await it.getByRole('button', { name: /^Undo/ }).click();
      await expect(status).toHaveText('Check the bilge is open again');
    });
});

const LONG = 'Look at the stern gland and the ropes and the batteries '
  .repeat(6)
  .slice(0, 300)
  .trim();
const SCREENS = [
  '/',
  '/all',
  '/write',
  '/settings',
  '/ahead',
  '/past',
  '/said',
  '/places',
  '/taken-away',
  '/unsorted',
];

for (const [name, width, size] of [
  ['320 px', 320, '100%'],
  ['text of 200 %', 390, '200%'],
] as const)
  test(`at ${name} no text is cut or laid over, and a long title neither`, async ({
    page,
    someone,
  }) => {
    await someone();
    await page.setViewportSize({ width, height: 844 });
    await page.addInitScript((it) => {
      const set = () => (document.documentElement.style.fontSize = it);
      if (document.documentElement) set();
      else document.addEventListener('readystatechange', set, { once: true });
    }, size);
    for (const title of [LONG.slice(0, 200), 'Pump out the tank']) {
      const todo = randomUUID();
      await act(page.request, {
        do: 'create',
        todo,
        series: { start: '2026-11-24', repeat: { by: 'completion', every: 'P21D' } },
        details: { title },
      });
    }
    for (const screen of SCREENS) {
      await page.goto(screen);
      await expect(page.getByRole('heading', { level: 1 }).first()).toBeVisible();
      await expect(page.getByRole('status', { name: /on its way/ })).toHaveCount(0);
      expect(await page.evaluate(cutOrOver), screen).toEqual([]);
    }
  });

/** Text that is wider than what it stands in or than the screen, and controls that lie over each other. */
function cutOrOver(): string[] {
  const found: string[] = [];
  const isSeen = (it: Element) => {
    const { width, height } = it.getBoundingClientRect();
    const style = getComputedStyle(it);
    return (
      width > 1 && height > 1 && style.visibility !== 'hidden' && !it.closest('[aria-hidden=true]')
    );
  };
  const all = Array.from(document.querySelectorAll<HTMLElement>('#root *')).filter(isSeen);
  for (const it of all) {
    const own = Array.from(it.childNodes).some(
      (node) => node.nodeType === 3 && node.textContent!.trim(),
    );
    if (!own) continue;
    const box = it.getBoundingClientRect();
    const text = it.textContent!.slice(0, 40);
    if (it.scrollWidth > it.clientWidth + 1 && getComputedStyle(it).display !== 'inline')
      found.push(`cut: ${text}`);
    if (box.right > innerWidth + 1 || box.left < -1)
      found.push(`outside: ${text} ${Math.round(box.right)}`);
  }
  const controls = all.filter(
    (it) =>
      it.matches('button, a[href], input, textarea') && !it.closest('[data-testid=understood]'),
  );
  for (const [i, a] of controls.entries())
    for (const b of controls.slice(i + 1)) {
      if (a.contains(b) || b.contains(a)) continue;
      const [p, q] = [a.getBoundingClientRect(), b.getBoundingClientRect()];
      const wide = Math.min(p.right, q.right) - Math.max(p.left, q.left);
      const high = Math.min(p.bottom, q.bottom) - Math.max(p.top, q.top);
      const isScrolled = (it: Element) => it.closest('[role=navigation]') === null;
      if (wide > 2 && high > 2 && isScrolled(a) === isScrolled(b))
        found.push(`over: ${a.textContent?.slice(0, 30)} / ${b.textContent?.slice(0, 30)}`);
    }
  return found;
}

test('axe finds nothing serious in what is new', async ({ page, someone, setTime, write }) => {
  await someone();
  await write('Pump out the tank 21 days after done');
  await write('Check the ropes every Tuesday');
  await setTime('2026-11-27T09:40:00Z');
  await page.goto('/');
  await button(page, 'Put several off').click();
  await button(page, 'another day: The day to which they are put off').click();
  await expectNothingSerious(page, 'put several off');
  await page.goto('/settings');
  await button(page, /^Time zone/).click();
  await expectNothingSerious(page, 'zones');
  await page.goto('/taken-away');
  await expect(page.getByText('Nothing was taken away.')).toBeVisible();
  await expectNothingSerious(page, 'taken away');
  await page.goto('/all');
  await button(page, 'Pause everything').click();
  await page.getByRole('button', { name: /^its last day/ }).click();
  await expectNothingSerious(page, 'pause');
});

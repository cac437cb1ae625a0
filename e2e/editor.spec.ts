import type { Page } from '@playwright/test';
import { button, expect, field, test, type } from './program.ts';

// 24 November 2026 is a Tuesday; the person lives in England and works from Monday to Friday.

async function nextAre(page: Page, dates: string[]) {
  const next = page.getByRole('region', { name: /^(Next times|When)$/ });
  for (const date of dates) await expect(next.getByText(date).first()).toBeVisible();
}

async function keep(page: Page, title: string) {
  await button(page, 'Keep it').click();
  await expect(page.getByText(`${title} is kept.`)).toBeVisible();
}

async function inEngland(page: Page) {
  const settings = {
    zone: 'Europe/London',
    dayStart: '00:00',
    weekStart: 'MO',
    holidays: 'GB-ENG',
  };
  expect((await page.request.put('/api/settings', { data: settings })).status()).toBe(200);
}

test.describe('one of each kind, by its controls', () => {
  test.beforeEach(async ({ page, someone }) => {
    await someone();
    await inEngland(page);
  });

  test('day of the month, weekday of the month, its last one, its last day', async ({ page }) => {
    await type(page, 'Pay the fee on the 24th of each month');
    await button(page, /^on the 24th of each month\. Change/).click();
    await button(page, 'the fourth Tuesday').click();
    await expect(field(page)).toHaveValue('Pay the fee on the fourth Tuesday of each month');
    await nextAre(page, ['Tue 24 Nov', 'Tue 22 Dec', 'Tue 26 Jan']);
    await button(page, 'the last Tuesday').click();
    await nextAre(page, ['Tue 24 Nov', 'Tue 29 Dec', 'Tue 26 Jan']);
    await button(page, 'its last day').click();
    await nextAre(page, ['Mon 30 Nov', 'Thu 31 Dec', 'Sun 31 Jan']);
    await keep(page, 'Pay the fee');
  });

  test('working days: the last of the month, with the holidays of England; each third', async ({
    page,
  }) => {
    await type(page, 'Send the invoices on the 24th of each month starting 1 May 2027');
    await button(page, /^on the 24th of each month\. Change/).click();
    await button(page, 'its last working day').click();
    // Monday 31 May 2027 is a holiday.
    await nextAre(page, ['Fri 28 May', 'Wed 30 Jun']);
    await button(page, 'day').click();
    await button(page, 'my working days').click();
    await expect(field(page)).toHaveValue(/^Send the invoices every working day/);
    await keep(page, 'Send the invoices');
  });

  test('a closed day: the working day before, the nearest, not at all', async ({ page }) => {
    await type(page, 'Ring the office on the 1st of each month starting 1 April 2027');
    await button(page, 'Add something else').click();
    await button(page, 'Add what to do on closed days').click();
    await button(page, 'the working day before').click();
    await nextAre(page, ['Thu 1 Apr', 'Fri 30 Apr', 'Tue 1 Jun']);
    await button(page, 'not at all').click();
    await nextAre(page, ['Thu 1 Apr', 'Tue 1 Jun', 'Thu 1 Jul']);
    await expect(page.getByTestId('understood')).toContainText('if closed, not at all');
    await keep(page, 'Ring the office');
  });

  test('a day that some months lack: their last day, or left out', async ({ page }) => {
    await type(page, 'Read the meter on the 31st of each month');
    await nextAre(page, ['Mon 30 Nov', 'Thu 31 Dec', 'Sun 31 Jan', 'Sun 28 Feb']);
    await button(page, /^on the 31st of each month or its last day\. Change/).click();
    await button(page, 'left out').click();
    await nextAre(page, ['Thu 31 Dec', 'Sun 31 Jan', 'Wed 31 Mar']);
    await keep(page, 'Read the meter');
  });

  test('on dates that are picked from a small calendar', async ({ page }) => {
    await type(page, 'Open the lock today');
    await button(page, /^once\. Change/).click();
    await button(page, 'on dates I pick').click();
    await button(page, 'Friday 27 November 2026').click();
    await button(page, 'The month after').click();
    await button(page, 'Friday 18 December 2026').click();
    await expect(field(page)).toHaveValue(
      'Open the lock on 24 November, 27 November, 1 December and 18 December',
    );
    await nextAre(page, ['Tue 24 Nov', 'Fri 27 Nov', 'Tue 1 Dec', 'Fri 18 Dec']);
    await keep(page, 'Open the lock');
  });

  test('after I finish, in working days and onto a weekday, from the sentence', async ({
    page,
  }) => {
    await type(page, 'Answer the yard 10 working days after done');
    await nextAre(page, ['Tue 24 Nov', 'Tue 8 Dec', 'Tue 22 Dec']);
    await type(page, 'Swap the gas bottle 40 days after done, on a Saturday, starting 5 December');
    await expect(page.getByTestId('understood')).toContainText('then on the next Saturday');
    await nextAre(page, ['Sat 5 Dec', 'Sat 16 Jan', 'Sat 27 Feb']);
    await keep(page, 'Swap the gas bottle');
  });

  test('when it was last done is chosen: its first time is counted from there', async ({
    page,
  }) => {
    await type(page, 'Turn the compost 3 weeks after done');
    await expect(page.getByText('Its first time is due today.')).toBeVisible();
    await button(page, 'I did it before').click();
    await button(page, 'Count it from when I last did it').click();
    const days = page.getByRole('group', { name: 'The day on which you last did it' });
    await days.getByRole('button', { name: 'Friday 13 November 2026', exact: true }).click();
    await expect(days.getByText('so it is first due Fri 4 Dec')).toBeVisible();
    await nextAre(page, ['Fri 4 Dec', 'Fri 25 Dec']);
    await type(page, 'Turn the compost 3 weeks after done, last done 13 November');
    await nextAre(page, ['Fri 4 Dec', 'Fri 25 Dec']);
    await keep(page, 'Turn the compost');
  });

  test('a reminder on a weekday before, and one when it is due', async ({ page }) => {
    await type(page, 'Send the log every Monday at 9');
    await button(page, 'Add a reminder').click();
    await button(page, 'Remind me on the Friday before').click();
    await button(page, 'Remind me when it is due').click();
    await expect(page.getByRole('region', { name: 'When you are reminded' })).toHaveText(
      /Fri 27 Nov, 09:00 · Mon 30 Nov, 09:00/u,
    );
    await expect(field(page)).toHaveValue(/on the Friday before and when it is due/u);
    await keep(page, 'Send the log');
  });

  test('what is vague, and a slip of the key, is asked about with ways to say it', async ({
    page,
  }) => {
    await type(page, 'Water the cactus most Sundays');
    await button(page, /^every other Sunday/).click();
    await expect(field(page)).toHaveValue('Water the cactus every other Sunday');
    await type(page, 'Water the basil evry Wensday');
    await expect(page.getByText('Was “every, Wednesday” meant?')).toBeVisible();
    await keep(page, 'Water the basil');
  });

  test('in some months of the year', async ({ page }) => {
    await type(page, 'Open the vents every Friday');
    await button(page, /^every Friday\. Change/).click();
    await button(page, 'in some months').click();
    await button(page, 'June').click();
    await button(page, 'July').click();
    await button(page, 'November').click();
    await expect(field(page)).toHaveValue('Open the vents every Friday in June and July');
    await nextAre(page, ['Fri 4 Jun', 'Fri 11 Jun']);
    await button(page, 'in all months').click();
    await nextAre(page, ['Fri 27 Nov', 'Fri 4 Dec']);
    await type(page, 'Service the stove on the 1st of March and September');
    await nextAre(page, ['Mon 1 Mar', 'Wed 1 Sep']);
    await keep(page, 'Service the stove');
  });

  test('several times a day: each turns up at its time, and can be done ahead', async ({
    page,
  }) => {
    await type(page, 'Feed the hens every day at 8:00');
    await button(page, /^08:00\. Change/).click();
    await button(page, '18:00').click();
    await expect(field(page)).toHaveValue('Feed the hens every day at 08:00 and 18:00');
    await page.getByLabel('Times of day').fill('8:00, 13:00, 20:30');
    await expect(field(page)).toHaveValue('Feed the hens every day at 08:00, 13:00 and 20:30');
    await nextAre(page, ['Tue 24 Nov, 08:00', 'Tue 24 Nov, 13:00', 'Wed 25 Nov, 08:00']);
    await keep(page, 'Feed the hens');
    const rows = page.getByTestId(/^row Feed the hens/);
    await expect(rows).toHaveCount(3);
    await button(page, 'Done: Feed the hens, 20:30').click();
    await expect(button(page, 'Undo: Feed the hens, 20:30')).toBeVisible();
    await expect(button(page, 'Done: Feed the hens, 08:00')).toBeVisible();
    await expect(rows).toHaveCount(3);
  });

  test('without some dates', async ({ page }) => {
    await type(page, 'Weigh the hives every Friday except on 25 December and 1 January');
    await nextAre(page, ['Fri 18 Dec', 'Fri 8 Jan']);
    await expect(
      page.getByRole('region', { name: 'Next times' }).getByText('Fri 25 Dec'),
    ).toHaveCount(0);
    await keep(page, 'Weigh the hives');
  });
});

test('working days and a region are set in Settings, by the name of the region', async ({
  page,
  someone,
}) => {
  await someone();
  await page.goto('/settings');
  await button(page, 'Saturday').last().click();
  await button(page, /^Public holidays of: None/).click();
  await page.getByLabel('Look for: Public holidays of').fill('berl');
  await page.getByRole('option', { name: /^Berlin/ }).click();
  await expect(page.getByText('Kept.', { exact: true })).toBeVisible();
  await type(page, 'Ring the office every working day');
  await nextAre(page, ['Tue 24 Nov', 'Fri 27 Nov', 'Sat 28 Nov']);
});

import {
  button,
  expect,
  expectNothingSerious,
  field,
  row,
  test,
  type,
  understood,
} from './program.ts';

// 24 November 2026 is a Tuesday.

test.beforeEach(async ({ someone }) => {
  await someone();
});

test('a part is changed in its control and in the text, and the other words stay', async ({
  page,
}) => {
  await type(page, 'At 9 water the beans, every 2 days in the greenhouse');
  await expect(understood(page)).toHaveText(
    'water the beans in the greenhouse comes back every 2 days at 09:00, first on Tuesday 24 November.',
  );
  await button(page, /^every 2 days\. Change/).click();
  await button(page, 'Every how many: one more').click();
  await expect(field(page)).toHaveValue('At 9 water the beans, every 3 days in the greenhouse');
  await button(page, /^09:00\. Change/).click();
  await button(page, '13:00').click();
  await expect(field(page)).toHaveValue(
    'at 09:00 and 13:00 water the beans, every 3 days in the greenhouse',
  );
  await field(page).fill('at 18:00 water the beans, every 4 days until 1 May');
  await expect(understood(page)).toContainText('every 4 days at 18:00, until 1 May');
  await expect(page.getByLabel('Times of day')).toBeVisible();
  await button(page, /^1 May\. Change/).click();
  await button(page, 'no end').click();
  await expect(field(page)).toHaveValue('at 18:00 water the beans, every 4 days');
});

test('a part goes back into the title, and the rest is read', async ({ page }) => {
  await type(page, 'Read Every Day every week');
  await expect(
    page.getByText('Not understood: “every week”. It stays in the title.'),
  ).toBeVisible();
  await button(page, /^every day\. Change/).click();
  await button(page, 'Leave “Every Day” in the title').click();
  await expect(field(page)).toHaveValue('“Read Every Day” every week');
  await expect(field(page)).toBeFocused();
  await expect(page.getByText('Not understood')).toHaveCount(0);
  await expect(button(page, /^every week\. Change/)).toBeVisible();
  await button(page, 'Keep it').click();
  await expect(row(page, 'Read Every Day')).toBeVisible();
});

test('fixed or after I finish: the other is one touch away, both with when they are back', async ({
  page,
}) => {
  await type(page, 'Swap the gas bottle every 40 days');
  const doubt = page.getByTestId('doubt fixedOrAfter');
  await expect(doubt).toContainText('Back again Sun 3 Jan, also when done 3 days late');
  await expect(doubt).toContainText('Back again Sun 3 Jan, or Wed 6 Jan when done 3 days late');
  await expect(button(page, /^every 40 days by the calendar/)).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await button(page, /^40 days after done/).click();
  await expect(field(page)).toHaveValue('Swap the gas bottle 40 days after done');
  await expect(doubt).toHaveCount(0);
  await expect(understood(page)).toContainText('40 days after you finish it');
  await field(page).fill('Swap the gas bottle every 40 days');
  await button(page, /^every 40 days by the calendar/).click();
  await expect(doubt).toHaveCount(0);
  await button(page, 'Keep it').click();
  await expect(row(page, 'Swap the gas bottle').getByText('every 40 days')).toBeVisible();
});

test('“next Friday” on a Thursday and “the 5th” are asked', async ({ page, setTime }) => {
  await setTime('2026-11-26T09:40:00Z');
  await type(page, 'Meet the surveyor next Friday');
  await expect(understood(page)).toContainText('Friday 27 November');
  await button(page, 'Friday 4 December').click();
  await expect(field(page)).toHaveValue('Meet the surveyor Friday 4 December');
  await expect(page.getByTestId(/^doubt/)).toHaveCount(0);
  await field(page).fill('Pay the fee on the 5th');
  await button(page, /^on the 5th of each month/).click();
  await expect(field(page)).toHaveValue('Pay the fee on the 5th of each month');
  await expect(page.getByRole('region', { name: 'Next times' })).toContainText('Tue 5 Jan');
});

test('reminders, how long it takes and where it belongs: by the sentence and by their controls', async ({
  page,
}) => {
  await type(page, 'Weigh the hives every Friday, remind me the day before, belongs to Bees');
  await expect(understood(page)).toContainText('remind me 1 day before, belongs to Bees');
  await button(page, /^1 day before\. Change/).click();
  await page.getByLabel('At', { exact: true }).fill('18:30');
  await expect(field(page)).toHaveValue(
    'Weigh the hives every Friday, remind me 1 day before at 18:30, belongs to Bees',
  );
  await button(page, 'Remind me a week before').click();
  await expect(understood(page)).toContainText('1 day before at 18:30 and 1 week before');
  await button(page, 'Take away reminder 1').click();
  await button(page, 'Add how long it takes').click();
  await page.getByRole('textbox', { name: 'Minutes' }).fill('45');
  await expect(field(page)).toHaveValue(
    'Weigh the hives every Friday, remind me 1 week before, belongs to Bees takes 45 minutes',
  );
  await button(page, 'Keep it').click();
  await expect(page.getByText('Weigh the hives is kept.')).toBeVisible();
  // The place is known from now on, and “in Bees” is one.
  await type(page, 'Order wax tomorrow in Bees, takes 15 min');
  await expect(understood(page)).toContainText('belongs to Bees');
  await button(page, /^Bees\. Change/).click();
  await button(page, 'nowhere yet').click();
  await expect(field(page)).toHaveValue('Order wax tomorrow, takes 15 min');
  await button(page, 'Keep it').click();
  await page.goto('/all');
  await page.getByLabel('Search').fill('bees');
  await expect(button(page, /^Weigh the hives,/)).toBeVisible();
  await expect(button(page, /^Order wax,/)).toHaveCount(0);
});

test('what cannot be says which words, and what was typed is kept', async ({ page }) => {
  await type(page, 'Pay the fee every month until 31 June');
  await expect(page.getByText('“until 31 June”. There is no 31 June.')).toBeVisible();
  await button(page, 'Keep it').click();
  await expect(field(page)).toHaveAttribute('aria-invalid', 'true');
  await page.reload();
  await expect(field(page)).toHaveValue('Pay the fee every month until 31 June');
  await field(page).fill('Pay the fee every month until 30 June');
  await expect(understood(page)).toContainText('until 30 June');
});

test('by keyboard alone: a part is opened, changed, left in the title, and it is kept', async ({
  page,
}) => {
  await page.goto('/write');
  await expect(field(page)).toBeFocused();
  await page.keyboard.type('Mend Every Day lamp every 2 weeks at 9');
  const to = async (name: string | RegExp, key = 'Tab') => {
    const wanted = button(page, name);
    for (let i = 0; i < 40; i++) {
      await page.keyboard.press(key);
      if (await wanted.evaluate((it) => it === document.activeElement).catch(() => false)) return;
    }
    throw new Error(`${String(name)} is not reached.`);
  };
  await to(/^every day\. Change/);
  await page.keyboard.press('Enter');
  await to('Leave “Every Day” in the title');
  await page.keyboard.press('Enter');
  await expect(field(page)).toBeFocused();
  await expect(field(page)).toHaveValue('“Mend Every Day lamp” every 2 weeks at 9');
  await to(/^every 2 weeks\. Change/);
  await page.keyboard.press('Enter');
  await to('Every how many: one more');
  await page.keyboard.press('Enter');
  await expect(field(page)).toHaveValue('“Mend Every Day lamp” every 3 weeks at 9');
  await to(/^3 weeks after done/, 'Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(field(page)).toHaveValue('“Mend Every Day lamp” 3 weeks after done at 9');
  await to('Keep it', 'Shift+Tab');
  await page.keyboard.press('Enter');
  await expect(row(page, 'Mend Every Day lamp')).toBeVisible();
});

const LONG =
  'Look at the stern gland and the ropes every 2 weeks on Tuesday at 9 until 1 October except in August, if closed the day before, opens 2 days before, missed if not done, remind me the day before, takes 45 minutes, belongs to Aboard';

test('the lines of a sentence stand close, and each part of it is 48 px to touch', async ({
  page,
}) => {
  await type(page, LONG);
  const parts = understood(page).getByRole('button');
  await expect(parts.first()).toBeVisible();
  const boxes = await parts.evaluateAll((all) =>
    all.map((it) => it.getBoundingClientRect()).map(({ top, height }) => ({ top, height })),
  );
  const tops = [...new Set(boxes.map(({ top }) => Math.round(top)))].sort((a, b) => a - b);
  const apart = tops.slice(1).map((top, i) => top - tops[i]!);
  expect(boxes.every(({ height }) => height >= 48)).toBe(true);
  // A part that takes two lines is as much higher.
  expect(Math.min(...apart)).toBeLessThanOrEqual(40);
  const box = (await understood(page).boundingBox())!;
  const lines = boxes.reduce((n, { height }) => n + Math.round((height - 24) / 36), 0);
  expect(box.height).toBeLessThanOrEqual(40 * (lines + 1));
});

test('each part has its name for a screen reader, and axe finds nothing serious', async ({
  page,
}) => {
  const clean = (what: string) => expectNothingSerious(page, what);
  await type(page, LONG);
  const parts = understood(page).getByRole('button');
  await expect(parts.first()).toBeVisible();
  const names = await parts.evaluateAll((all) => all.map((it) => it.getAttribute('aria-label')));
  expect(names).toEqual([
    'every 2 weeks on Tuesday except in August. Change: how it comes back',
    '09:00. Change: time of day',
    '1 October 2027. Change: until when',
    'Tuesday 24 November. Change: first on',
    'if closed, the working day before. Change: when that day is closed',
    '2 days before. Change: when it opens',
    'missed once it is over. Change: when it is left unfinished',
    '1 day before. Change: reminders',
    '45 minutes. Change: how long it takes',
    'Aboard. Change: where it belongs',
  ]);
  for (const [i, name] of names.entries()) {
    await parts.nth(i).click();
    await expect(parts.nth(i)).toHaveAttribute('aria-expanded', 'true');
    if (/ (opens|reminders|takes|belongs)$/u.test(name!)) await clean(name!);
  }
  for (const text of [
    'Swap the gas bottle every 40 days',
    'Pay the fee on 30 February',
    'Clean every blue moon',
  ]) {
    await type(page, text);
    await expect(page.getByText(/Taken for now|There is no|Not understood/u).first()).toBeVisible();
    await clean(text);
  }
});

import { randomUUID } from 'node:crypto';
import type { APIRequestContext, Locator, Page } from '@playwright/test';
import { SIZES, act, button, expect, expectNothingSerious, row, test } from './program.ts';

// The days ahead: looked at, carried about, evened out, laid out; on a phone and wide. It is Tuesday 24
// November 2026, 9:40.

async function create(
  request: APIRequestContext,
  series: object,
  details: object,
): Promise<string> {
  const todo = randomUUID();
  await act(request, {
    do: 'create',
    todo,
    series: { start: null, repeat: null, ...series },
    details,
  });
  return todo;
}

const calendar = (rule: string) => ({ by: 'calendar', rule });

/** A day of the week that is shown, by its name in full. */
const day = (page: Page, name: string) => page.getByRole('group', { name, exact: true });
const TUE = 'Tuesday 24 November';
const WED = 'Wednesday 25 November';
const THU = 'Thursday 26 November';
const FRI = 'Friday 27 November';
const on = (page: Page, name: string, title: string) =>
  day(page, name).getByRole('button', { name: new RegExp(`^${title}.*Open$`) });
const grip = (page: Page, title: string) =>
  page.getByRole('button', { name: new RegExp(`^Move ${title}, `) });
const undo = (page: Page) => page.getByRole('button', { name: /^Undo/ });

async function middle(it: Locator): Promise<{ x: number; y: number }> {
  await it.scrollIntoViewIfNeeded();
  const box = (await it.boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

const CARRIED = 'This time only, to';

for (const size of SIZES)
  test.describe(`${size.width}`, () => {
    test.use({ viewport: size, hasTouch: true });

    test('carried by the mouse: said before it is let go, one action, an undo; outside nothing changes', async ({
      page,
      someone,
    }) => {
      await someone();
      const rule = calendar('FREQ=WEEKLY;BYDAY=WE');
      await create(
        page.request,
        { start: '2026-11-25', repeat: rule },
        { title: 'Check the bilge' },
      );
      await page.goto('/ahead');
      await expect(on(page, WED, 'Check the bilge')).toBeVisible();
      const from = await middle(grip(page, 'Check the bilge'));
      await page.mouse.move(from.x, from.y);
      await page.mouse.down();
      const to = await middle(day(page, THU).getByRole('heading'));
      await page.mouse.move(to.x, to.y, { steps: 8 });
      const said = page.getByRole('status').filter({ hasText: CARRIED });
      await expect(said).toHaveText('This time only, to Thu 26 Nov; it stays due Wed 25 Nov');
      await page.mouse.up();
      await expect(on(page, THU, 'Check the bilge')).toBeVisible();
      await expect(on(page, WED, 'Check the bilge')).toHaveCount(0);
      // Let go over nothing: it stays.
      await day(page, THU).scrollIntoViewIfNeeded();
      const again = await middle(grip(page, 'Check the bilge'));
      await page.mouse.move(again.x, again.y);
      await page.mouse.down();
      await page.mouse.move(again.x + 20, again.y + 20, { steps: 3 });
      await page.mouse.move(again.x, 4, { steps: 4 });
      await expect(page.getByRole('status')).toContainText('Let go here, and it stays');
      await page.mouse.up();
      await expect(on(page, THU, 'Check the bilge')).toBeVisible();
      await undo(page).click();
      await expect(on(page, WED, 'Check the bilge')).toBeVisible();
    });

    test('held at the edge, another week comes; onto a ruler, it gets that hour', async ({
      page,
      someone,
    }) => {
      await someone();
      await create(page.request, { start: '2026-11-28' }, { title: 'Order wax' });
      await page.goto('/ahead');
      await expect(on(page, 'Saturday 28 November', 'Order wax')).toBeVisible();
      const from = await middle(grip(page, 'Order wax'));
      await page.mouse.move(from.x, from.y);
      await page.mouse.down();
      const bottom = size.width < 1000 ? size.height - 100 : size.height - 20;
      await page.mouse.move(from.x + 30, bottom - 40, { steps: 4 });
      await page.mouse.move(from.x + 30, bottom, { steps: 4 });
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('30 November to 6 December');
      await page.mouse.move(from.x + 30, size.height / 2);
      const ruler = page.locator('[data-ruler="2026-12-02"]');
      await expect(ruler).toBeVisible();
      const box = (await ruler.boundingBox())!;
      await page.mouse.move(box.x + box.width / 2, box.y + 10, { steps: 5 });
      await expect(page.getByRole('status')).toContainText('To Wed 2 Dec, 14:00');
      await page.mouse.up();
      await expect(on(page, 'Wednesday 2 December', 'Order wax')).toContainText('14:00');
      await undo(page).click();
      await button(page, 'This week').click();
      await expect(on(page, 'Saturday 28 November', 'Order wax')).toBeVisible();
    });

    test('one sphere in sight: the others’ minutes are counted on request', async ({
      page,
      someone,
    }) => {
      await someone();
      const [aboard, bees] = [randomUUID(), randomUUID()];
      for (const [place, name] of [
        [aboard, 'Aboard'],
        [bees, 'Bees'],
      ])
        await act(page.request, { do: 'place', place, parts: { kind: 'sphere', name } });
      const start = '2026-11-26';
      await create(page.request, { start }, { title: 'Order wax', takes: 30, place: bees });
      await create(page.request, { start }, { title: 'Mend the pump', takes: 45, place: aboard });
      await act(page.request, { do: 'focus', place: aboard });
      await page.goto('/ahead');
      await expect(on(page, THU, 'Mend the pump')).toBeVisible();
      await expect(on(page, THU, 'Order wax')).toHaveCount(0);
      await expect(day(page, THU)).toContainText('45 min');
      await button(page, 'Count the other spheres too').click();
      await expect(day(page, THU)).toContainText('1 h 15');
      await expect(on(page, THU, 'Order wax')).toHaveCount(0);
    });

    test('carried by keys, with a screen reader told of each day', async ({ page, someone }) => {
      await someone();
      const every = { by: 'completion', every: 'P20D' };
      await create(
        page.request,
        { start: '2026-11-25', repeat: every },
        { title: 'Grease the stern gland', takes: 20 },
      );
      await page.goto('/ahead');
      // After I finish: the pending one, due on Wednesday.
      await expect(on(page, WED, 'Grease the stern gland')).toContainText('expected');
      await grip(page, 'Grease the stern gland').focus();
      await page.keyboard.press('Enter');
      await page.keyboard.press('ArrowDown');
      await page.keyboard.press('ArrowDown');
      await expect(page.getByRole('status')).toContainText(
        'This time only, to Fri 27 Nov; it stays due Wed 25 Nov',
      );
      await page.keyboard.press('ArrowUp');
      await page.keyboard.press('ArrowUp');
      await page.keyboard.press('ArrowUp');
      await page.keyboard.press('ArrowUp');
      await expect(page.getByRole('status')).toContainText('Mon 23 Nov has gone by.');
      await page.keyboard.press('Escape');
      await expect(on(page, WED, 'Grease the stern gland')).toBeVisible();
      await grip(page, 'Grease the stern gland').focus();
      await page.keyboard.press('Enter');
      await page.keyboard.press('PageDown');
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('30 November to 6 December');
      await page.keyboard.press('Enter');
      await expect(on(page, 'Wednesday 2 December', 'Grease the stern gland')).toBeVisible();
      // The keys go on with what was carried.
      await expect(grip(page, 'Grease the stern gland')).toBeFocused();
      await undo(page).click();
      await page.getByRole('button', { name: 'This week' }).click();
      await expect(on(page, WED, 'Grease the stern gland')).toBeVisible();
    });

    test('carried by a finger: its mark carries, its words scroll', async ({ page, someone }) => {
      await someone();
      await create(page.request, { start: '2026-11-25' }, { title: 'Order wax' });
      await page.goto('/ahead');
      await expect(on(page, WED, 'Order wax')).toBeVisible();
      await day(page, THU).scrollIntoViewIfNeeded();
      const from = await middle(grip(page, 'Order wax'));
      const to = await middle(day(page, THU).getByRole('heading'));
      const start = await middle(grip(page, 'Order wax'));
      expect(start.y).toBe(from.y);
      const touch = await page.context().newCDPSession(page);
      const send = (type: 'touchStart' | 'touchMove' | 'touchEnd', at?: { x: number; y: number }) =>
        touch.send('Input.dispatchTouchEvent', { type, touchPoints: at ? [at] : [] });
      await send('touchStart', start);
      for (let i = 1; i <= 8; i++)
        await send('touchMove', {
          x: start.x + ((to.x - start.x) * i) / 8,
          y: start.y + ((to.y - start.y) * i) / 8,
        });
      await expect(page.getByRole('status')).toContainText(
        'To Thu 26 Nov; it stays due Wed 25 Nov',
      );
      await send('touchEnd');
      await expect(on(page, THU, 'Order wax')).toBeVisible();
      await undo(page).click();
      await expect(on(page, WED, 'Order wax')).toBeVisible();
    });

    test('from the margin, a period’s and by menu; done ahead and skipped where it stands', async ({
      page,
      someone,
    }) => {
      await someone();
      await create(page.request, {}, { title: 'Ask about the mooring' });
      await create(
        page.request,
        { start: '2026-11-23', repeat: { by: 'quota', times: 2, per: 'week' } },
        { title: 'Walk the towpath', takes: 40 },
      );
      await page.goto('/ahead');
      // The two that are missing stand on the last days of the week.
      await expect(on(page, 'Sunday 29 November', 'Walk the towpath')).toBeVisible();
      await on(page, 'Saturday 28 November', 'Walk the towpath').click();
      await button(page, `Move to ${WED}: Walk the towpath`).click();
      await expect(on(page, WED, 'Walk the towpath')).toBeVisible();
      await expect(on(page, 'Sunday 29 November', 'Walk the towpath')).toBeVisible();
      // Outside of its week it does not go.
      await on(page, WED, 'Walk the towpath').click();
      await button(page, 'Another day: Move Walk the towpath').click();
      await button(page, 'The month after').click();
      await button(page, 'Wednesday 2 December 2026: Move Walk the towpath').click();
      await expect(page.getByRole('main').getByText('It belongs to its week.')).toBeVisible();
      // Undated, from the margin by keys.
      await grip(page, 'Ask about the mooring').focus();
      await page.keyboard.press('Enter');
      await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Enter');
      await expect(on(page, WED, 'Ask about the mooring')).toBeVisible();
      await on(page, WED, 'Ask about the mooring').click();
      await button(page, 'Done: Ask about the mooring').click();
      await expect(on(page, TUE, 'Ask about the mooring')).toContainText('done');
      await undo(page).click();
      await expect(on(page, WED, 'Ask about the mooring')).toBeVisible();
    });

    test('evened out in part: each with its reason, one undo', async ({ page, someone }) => {
      await someone();
      const holds = { TU: 60, WE: 60, TH: 60 };
      const days = { zone: 'Europe/London', dayStart: '00:00', weekStart: 'MO', holds };
      expect((await page.request.put('/api/settings', { data: days })).status()).toBe(200);
      for (const [title, takes] of [
        ['Sew new straps', 45],
        ['Mend the pump', 40],
        ['Sort the spare parts', 50],
      ] as const)
        await create(page.request, { start: '2026-11-26' }, { title, takes });
      await page.goto('/ahead');
      await expect(day(page, THU)).toContainText('2 h 15, 1 h 15 over');
      await button(page, 'Even out').click();
      const panel = page.getByRole('region', { name: 'Evening out' });
      await expect(panel.getByText('Thursday holds 60, has 135.')).toHaveCount(2);
      const moves = panel.getByRole('checkbox');
      await expect(moves).toHaveCount(2);
      await moves.first().click();
      await panel.getByRole('button', { name: 'Take over 1' }).click();
      await expect(panel).toHaveCount(0);
      await expect(day(page, THU)).not.toContainText('2 h 15');
      await undo(page).click();
      await expect(day(page, THU)).toContainText('2 h 15, 1 h 15 over');
    });

    test('a day laid out and taken over, missed, and laid out on the next', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      await create(
        page.request,
        { start: '2026-11-25' },
        { title: 'Splice the rope', takes: 30, window: { from: '10:00', to: '12:00' } },
      );
      await page.goto('/ahead');
      await expect(day(page, WED)).toContainText('10:00 Splice the rope');
      await button(page, `Take these hours: ${WED}`).click();
      await expect(on(page, WED, 'Splice the rope')).toContainText('10:00');
      await undo(page).click();
      await expect(day(page, WED)).toContainText('Take these hours');
      await button(page, `Take these hours: ${WED}`).click();
      await expect(on(page, WED, 'Splice the rope')).toContainText('10:00');
      await setTime('2026-11-26T07:00:00Z');
      await page.reload();
      await expect(day(page, THU)).toContainText('10:00 Splice the rope');
      await expect(button(page, `Take these hours: ${THU}`)).toBeVisible();
    });

    test('a bundle: written, laid in, carried, kept, undone, laid again with what is missing', async ({
      page,
      someone,
    }) => {
      await someone();
      await page.goto('/ahead');
      await button(page, 'Bundles').click();
      await button(page, 'Write a bundle').click();
      await page.getByLabel('Name of the bundle').fill('The honey fair');
      await page.getByLabel('What to do, 1').fill('Print the labels');
      await button(page, 'Wednesday').click();
      await button(page, 'Monday').click();
      await page.getByLabel('Minutes, 1').fill('30');
      await page.getByLabel('Steps, one a line, 1').fill('choose the paper\nprint');
      await button(page, 'Another to-do').click();
      await page.getByLabel('What to do, 2').fill('Load the van');
      const second = page.getByRole('group', { name: 'To-do 2' });
      await second.getByRole('button', { name: 'Saturday' }).click();
      await second.getByRole('button', { name: 'Monday' }).click();
      await button(page, 'Keep the bundle').click();
      await expect(
        page.getByRole('main').getByText('The honey fair is kept as a bundle.'),
      ).toBeVisible();
      await button(page, 'Lay into this week: The honey fair').click();
      const bar = page.getByRole('region', { name: 'Laying in' });
      await expect(bar).toContainText('The honey fair: 2 to lay in.');
      await expect(
        day(page, WED).getByRole('button', { name: 'Print the labels, 30 min. Proposed' }),
      ).toBeVisible();
      // Carried to another day before it is kept.
      await grip(page, 'Print the labels').focus();
      await page.keyboard.press('Enter');
      await page.keyboard.press('ArrowDown');
      await expect(page.getByRole('status')).toContainText('To Thu 26 Nov');
      await page.keyboard.press('Enter');
      await bar.getByRole('button', { name: 'Keep them' }).click();
      await expect(on(page, THU, 'Print the labels')).toBeVisible();
      await expect(on(page, 'Saturday 28 November', 'Load the van')).toBeVisible();
      // One undo takes all away.
      await undo(page).click();
      await expect(on(page, THU, 'Print the labels')).toHaveCount(0);
      await expect(on(page, 'Saturday 28 November', 'Load the van')).toHaveCount(0);
      // Laid again; then nothing is missing, and once one is taken away it alone is.
      await button(page, 'Bundles').click();
      await button(page, 'Lay into this week: The honey fair').click();
      await bar.getByRole('button', { name: 'Keep them' }).click();
      await expect(on(page, WED, 'Print the labels')).toBeVisible();
      await button(page, 'Bundles').click();
      await button(page, 'Lay into this week: The honey fair').click();
      await expect(
        page.getByRole('main').getByText('The honey fair lies in this week already.'),
      ).toBeVisible();
      await on(page, WED, 'Print the labels').click();
      await button(page, 'Its page: Print the labels').click();
      await expect(page.getByText(/choose the paper/).first()).toBeVisible();
    });

    test('axe finds nothing serious in any view; a screen reader finds the load of a day', async ({
      page,
      someone,
    }) => {
      await someone();
      await create(
        page.request,
        { start: '2026-11-24', repeat: calendar('FREQ=DAILY') },
        { title: 'Write up the log', takes: 20 },
      );
      await page.goto('/ahead');
      await expect(on(page, FRI, 'Write up the log')).toBeVisible();
      await expectNothingSerious(page, 'week');
      await on(page, FRI, 'Write up the log').click();
      // It is a dialog once it has the focus.
      await expect(page.getByRole('dialog', { name: 'Write up the log' })).toBeVisible();
      await expectNothingSerious(page, 'sheet');
      await page.getByRole('button', { name: /^Close/ }).click();
      await page.getByRole('tab', { name: 'Month' }).click();
      const friday = page.getByRole('button', { name: `${FRI}, 1 to do, 20 min` });
      await friday.click();
      await expect(on(page, FRI, 'Write up the log')).toBeVisible();
      await expectNothingSerious(page, 'month');
      await page.getByRole('tab', { name: 'From here on' }).click();
      await expect(on(page, 'Tuesday 8 December', 'Write up the log')).toBeVisible();
      await expectNothingSerious(page, 'from here on');
    });
  });

test('the same week in two windows, and without a connection', async ({
  page,
  someone,
  context,
}) => {
  await someone();
  await create(page.request, { start: '2026-11-25' }, { title: 'Order wax' });
  await create(
    page.request,
    { start: '2026-11-27' },
    { title: 'Splice the rope', takes: 30, window: { from: '10:00', to: '12:00' } },
  );
  const other = await context.newPage();
  for (const window of [page, other]) {
    await window.goto('/ahead');
    await expect(on(window, WED, 'Order wax')).toBeVisible();
  }
  await on(page, WED, 'Order wax').click();
  await button(page, `Move to ${THU}: Order wax`).click();
  await expect(on(other, THU, 'Order wax')).toBeVisible();
  await context.setOffline(true);
  await on(page, THU, 'Order wax').click();
  await button(page, `Move to ${FRI}: Order wax`).click();
  await expect(on(page, FRI, 'Order wax')).toBeVisible();
  await expect(on(other, FRI, 'Order wax')).toBeVisible();
  await undo(page).click();
  await expect(on(page, THU, 'Order wax')).toBeVisible();
  // Hours, evening out and a bundle need no connection either.
  await button(page, `Take these hours: ${FRI}`).click();
  await expect(on(page, FRI, 'Splice the rope')).toContainText('10:00');
  await button(page, 'Bundles').click();
  await button(page, 'Write a bundle').click();
  await page.getByLabel('Name of the bundle').fill('A guest on board');
  await page.getByLabel('What to do, 1').fill('Make up the berth');
  await button(page, 'Saturday').click();
  await button(page, 'Monday').click();
  await button(page, 'Keep the bundle').click();
  await button(page, 'Lay into this week: A guest on board').click();
  await button(page, 'Keep them').click();
  await expect(on(page, 'Saturday 28 November', 'Make up the berth')).toBeVisible();
  await expect(on(other, 'Saturday 28 November', 'Make up the berth')).toBeVisible();
  await button(page, 'Even out').click();
  await expect(page.getByText('No day has a measure yet')).toBeVisible();
  await context.setOffline(false);
  await page.goto('/');
  await expect(page.getByText('Order wax').first()).toBeVisible();
  await expect(row(page, 'Order wax')).toHaveCount(0);
});

test('on the page of a to-do: a time to come is moved, skipped and taken back where it stands', async ({
  page,
  someone,
}) => {
  await someone();
  const todo = await create(
    page.request,
    { start: '2026-11-25', repeat: calendar('FREQ=WEEKLY;BYDAY=WE') },
    { title: 'Check the bilge' },
  );
  await page.goto(`/todo/${todo}`);
  const next = page.getByRole('region', { name: 'Next times' });
  const second = next.getByRole('button', { name: /^Wed 2 Dec: do it ahead/ });
  await second.click();
  await button(page, 'Move to Thursday 3 December: Check the bilge').click();
  await expect(next).toContainText('Thu 3 Dec, due Wed 2 Dec');
  await next.getByRole('button', { name: /^Undo/ }).click();
  await expect(next).not.toContainText('Thu 3 Dec');
  await second.click();
  await button(page, 'Skip: Check the bilge').click();
  await expect(second).toHaveCount(0);
  await next.getByRole('button', { name: /^Undo/ }).click();
  await expect(second).toBeVisible();
});

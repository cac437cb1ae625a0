import { randomUUID } from 'node:crypto';
import type { Page } from '@playwright/test';
import { button, expect, openPage, row, test, unfold } from './program.ts';

// What a person does with a to-do between its opening and its end. 24 November 2026 is a Tuesday.

const nextTimes = (page: Page) => page.getByRole('region', { name: 'Next times' });

/** What the server has of the person. */
async function kept(page: Page) {
  const answer = await page.request.get('/api/changes?since=0');
  const { todos } = (await answer.json()) as {
    todos: { id: string; details: { title: string } }[];
  };
  return todos;
}

test.beforeEach(async ({ someone }) => {
  await someone();
});

test('put off to the weekend, part of it done, a note with it', async ({
  page,
  write,
  setTime,
}) => {
  await write('Check the bilge every Tuesday');
  await unfold(page, 'Check the bilge');
  await button(page, 'Part done: Check the bilge').click();
  const part = page.getByRole('slider', { name: 'How much of this time is done: Check the bilge' });
  await part.press('End');
  await expect(part).toHaveAttribute('aria-valuetext', '95 %');
  for (let n = 0; n < 9; n++) await part.press('ArrowLeft');
  await button(page, 'Keep: 50 %').click();
  await expect(row(page, 'Check the bilge').getByText('50 % done')).toBeVisible();
  await unfold(page, 'Check the bilge');
  await button(page, 'Move: Check the bilge').click();
  await button(page, 'This time only, to the weekend').click();
  const early = page.getByRole('region', { name: 'Can be done already' });
  await expect(early.getByText('for Sat 28 Nov')).toBeVisible();
  await openPage(page, 'Check the bilge');
  await button(page, 'Write a note').click();
  await page.getByLabel('Note for this time').fill('The pump ran dry.');
  await button(page, 'Keep the note').click();
  await expect(page.getByText('The pump ran dry.')).toBeVisible();
  await setTime('2026-11-28T09:40:00Z');
  await page.goto('/');
  await expect(row(page, 'Check the bilge').getByText('4 days late')).toBeVisible();
});

test('moved to another day by dragging, and by keyboard alone', async ({ page, write }) => {
  await write('Check the bilge every Tuesday');
  await unfold(page, 'Check the bilge');
  await button(page, 'Move: Check the bilge').click();
  const stone = page.getByRole('slider', { name: 'Drag to another day: Check the bilge' });
  const from = (await stone.boundingBox())!;
  const middle = { x: from.x + from.width / 2, y: from.y + from.height / 2 };
  await page.mouse.move(middle.x, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + from.width * 1.4, middle.y, { steps: 8 });
  await page.mouse.move(middle.x + from.width * 2, middle.y, { steps: 8 });
  await expect(stone).toHaveAttribute('aria-valuetext', 'Thu 26 Nov');
  await page.mouse.up();
  const early = page.getByRole('region', { name: 'Can be done already' });
  await expect(early.getByText('for Thu 26 Nov', { exact: true })).toBeVisible();

  // By keyboard: unfold, Move, three days on, Enter.
  await early.getByRole('button', { name: /^Check the bilge,/u }).focus();
  await page.keyboard.press('Enter');
  await button(page, 'Move: Check the bilge').focus();
  await page.keyboard.press('Enter');
  await stone.focus();
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  await expect(stone).toHaveAttribute('aria-valuetext', 'Sun 29 Nov');
  await page.keyboard.press('Enter');
  await expect(early.getByText('for Sun 29 Nov', { exact: true })).toBeVisible();
});

test('so many times a week: tallied, taken back, full', async ({ page, write }) => {
  await write('Swim at the weir twice a week');
  const it = row(page, 'Swim at the weir');
  await button(page, 'Done: Swim at the weir').click();
  await expect(it.getByText('1 of 2')).toBeVisible();
  await button(page, 'Undo: Swim at the weir').click();
  await expect(it.getByText('0 of 2')).toBeVisible();
  await button(page, 'Done: Swim at the weir').click();
  await expect(it.getByText('1 of 2')).toBeVisible();
  await button(page, 'Done: Swim at the weir').click();
  await expect(it.getByText('2 of 2 done')).toBeVisible();
});

test('changed from this time on: its record stays, the next times are the new ones', async ({
  page,
  write,
  setTime,
}) => {
  await write('Check the bilge every Tuesday');
  await button(page, 'Done: Check the bilge').click();
  await expect(row(page, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  await setTime('2026-12-01T09:40:00Z');
  await openPage(page, 'Check the bilge');
  await button(page, 'Change it').click();
  const field = page.getByLabel('What comes back, and how?');
  await expect(field).toHaveValue(/^Check the bilge every Tuesday/);
  await field.fill('Check the bilge and the pump every Thursday at 9');
  await expect(
    page.getByRole('region', { name: 'Next times' }).getByText('Thu 3 Dec').first(),
  ).toBeVisible();
  await button(page, 'Keep it').click();
  await expect(
    page.getByRole('heading', { name: 'Check the bilge and the pump', level: 1 }),
  ).toBeVisible();
  await expect(nextTimes(page).getByText('Thu 3 Dec, 09:00')).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Last times' }).getByText('done on its day'),
  ).toHaveCount(1);
});

test('this time is taken away, and then what follows; ended, it keeps its record', async ({
  page,
  write,
}) => {
  await write('Check the bilge every Tuesday');
  await openPage(page, 'Check the bilge');
  await button(page, 'Take away').click();
  await button(page, 'Only Tue 24 Nov').click();
  await expect(page.getByText('Tue 24 Nov is taken away.').first()).toBeVisible();
  await expect(page.getByRole('region', { name: 'This time' })).toHaveCount(0);
  await button(page, 'Take away').click();
  await button(page, 'All that is to come: Check the bilge').click();
  await expect(nextTimes(page).getByText('It has ended: nothing more will come.')).toBeVisible();
  await button(page, 'Undo: Nothing more comes of it. Its record stays.').click();
  await expect(nextTimes(page).getByText('Tue 1 Dec')).toBeVisible();
  await button(page, 'Take away').click();
  await button(page, 'All that is to come: Check the bilge').click();
  await button(page, 'Bring it back').click();
  await expect(nextTimes(page).getByText('Tue 1 Dec')).toBeVisible();
});

test('tried out before it is kept: finished late, fixed and after I finish side by side', async ({
  page,
}) => {
  await page.goto('/write');
  await page
    .getByLabel('What comes back, and how?')
    .fill('Grease the stern gland 14 days after done');
  await button(page, 'Try it out').click();
  await button(page, 'Tuesday 1 Dec: nothing').click();
  const after = page.getByRole('group', { name: 'After I finish, as it is now' });
  await expect(after.getByText('done 7 days late')).toBeVisible();
  await expect(after.getByText('Tue 15 Dec:')).toBeVisible();
  const fixed = page.getByRole('group', { name: 'By the calendar', exact: true });
  await expect(fixed.getByText('Tue 8 Dec:')).toBeVisible();
  await expect(fixed.getByText('missed')).toBeVisible();
  await button(page, 'Tuesday 1 Dec: finished').click();
  await expect(after.getByText('skipped')).toBeVisible();
});

test('paused for a holiday, all at once, and one resumed', async ({ page, write, setTime }) => {
  await write('Check the bilge every day');
  await write('Grease the stern gland 2 days after done');
  await page.goto('/all');
  await button(page, 'Pause everything').click();
  await button(page, 'Pause everything for two weeks').click();
  await expect(page.getByText('2 to-dos: paused through Mon 7 Dec')).toBeVisible();
  await expect(
    page.getByRole('region', { name: 'Paused' }).getByText('paused through Mon 7 Dec'),
  ).toHaveCount(2);
  await setTime('2026-11-30T09:40:00Z');
  await page.goto('/');
  await expect(page.getByRole('region', { name: 'Late' })).toHaveCount(0);
  await openPage(page, 'Check the bilge');
  await button(page, 'Resume').click();
  await expect(page.getByText('It comes back, from today on.').first()).toBeVisible();
  await page.goto('/');
  await expect(row(page, 'Check the bilge')).toBeVisible();
  await expect(row(page, 'Grease the stern gland')).toHaveCount(0);
});

test('without a connection: it waits, is marked, and is sent once, across a reload', async ({
  page,
  context,
  write,
}) => {
  await write('Check the bilge every Tuesday');
  await write('Weigh the hives every Tuesday');
  await page.goto('/');
  await expect(row(page, 'Weigh the hives')).toBeVisible();
  await context.route('**/api/actions', (route) => route.abort('internetdisconnected'));
  await button(page, 'Done: Check the bilge').click();
  await expect(page.getByText('1 change is kept on this device')).toBeVisible();
  await expect(row(page, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  await unfold(page, 'Weigh the hives');
  await button(page, 'Skip: Weigh the hives').click();
  await expect(page.getByText('2 changes are kept on this device')).toBeVisible();
  await page.reload();
  await expect(page.getByText('2 changes are kept on this device')).toBeVisible();
  await context.unroute('**/api/actions');
  await expect(page.getByText('kept on this device')).toHaveCount(0);
  await expect(row(page, 'Check the bilge').getByText('Back again Tue 1 Dec')).toBeVisible();
  await expect(row(page, 'Weigh the hives').getByText('Skipped.')).toBeVisible();
  await openPage(page, 'Check the bilge');
  await expect(page.getByText('1 done')).toBeVisible();
});

test('finished at night without a connection and sent in the morning: it counts from the night', async ({
  page,
  context,
  write,
  setTime,
}) => {
  await write('Grease the stern gland 14 days after done');
  await setTime('2026-11-24T23:30:00Z');
  await page.goto('/');
  await expect(row(page, 'Grease the stern gland')).toBeVisible();
  await context.route('**/api/actions', (route) => route.abort('internetdisconnected'));
  await button(page, 'Done: Grease the stern gland').click();
  await expect(page.getByText('1 change is kept on this device')).toBeVisible();
  await setTime('2026-11-25T07:10:00Z');
  await context.unroute('**/api/actions');
  await expect(page.getByText('kept on this device')).toHaveCount(0);
  await openPage(page, 'Grease the stern gland');
  await expect(page.getByText('Tue 8 Dec').first()).toBeVisible();
});

const ANSWERS = [
  { name: 'a proxy that fails', status: 502, contentType: 'text/html', body: 'Bad gateway' },
  { name: 'a server that fails', status: 500, contentType: 'application/json', body: '{}' },
  { name: 'one that is busy', status: 429, contentType: 'application/json', body: '{}' },
  {
    name: 'the sign-in page of a hotel',
    status: 200,
    contentType: 'text/html',
    body: '<h1>Welcome</h1>',
  },
];

test('what waits is kept whatever comes first, and is sent once the server answers', async ({
  page,
  context,
  write,
}) => {
  const titles = ['Check the bilge', 'Weigh the hives', 'Air the cabin'];
  for (const title of titles) await write(`${title} every Tuesday`);
  await page.goto('/');
  await context.route('**/api/actions', (route) => route.abort('internetdisconnected'));
  for (const title of titles) await button(page, `Done: ${title}`).click();
  const waits = page.getByText('3 changes are kept on this device');
  await expect(waits).toBeVisible();
  for (const { name, ...answer } of ANSWERS) {
    let answered = 0;
    // Each goes before those above: nothing gets through between them.
    await context.route('**/api/actions', (route) => {
      answered++;
      return route.fulfill(answer);
    });
    await expect.poll(() => answered, name).toBeGreaterThan(1);
    await expect(waits, name).toBeVisible();
  }
  await context.unroute('**/api/actions');
  await expect(page.getByText('kept on this device')).toHaveCount(0);
  for (const title of titles)
    await expect(row(page, title).getByText('Back again Tue 1 Dec')).toBeVisible();
});

test('two windows without a connection: each keeps what was done in it, and all of it is sent', async ({
  page,
  context,
  write,
}) => {
  for (const title of ['Check the bilge', 'Weigh the hives']) await write(`${title} every Tuesday`);
  await page.goto('/');
  const other = await context.newPage();
  await other.goto('/');
  await context.route('**/api/actions', (route) => route.abort('internetdisconnected'));
  await button(page, 'Done: Check the bilge').click();
  await expect(other.getByText('1 change is kept on this device')).toBeVisible();
  await button(other, 'Done: Weigh the hives').click();
  for (const one of [page, other])
    await expect(one.getByText('2 changes are kept on this device')).toBeVisible();
  await other.close();
  await context.unroute('**/api/actions');
  await expect(page.getByText('kept on this device')).toHaveCount(0);
  for (const title of ['Check the bilge', 'Weigh the hives'])
    await expect(row(page, title).getByText('Back again Tue 1 Dec')).toBeVisible();
});

test('what cannot be done any more when it is sent at last is told, each of it', async ({
  page,
  context,
  write,
}) => {
  for (const title of ['Check the bilge', 'Weigh the hives', 'Air the cabin'])
    await write(`${title} every Tuesday`);
  await page.goto('/');
  await context.route('**/api/actions', (route) => route.abort('internetdisconnected'));
  for (const title of ['Check the bilge', 'Weigh the hives', 'Air the cabin'])
    await button(page, `Done: ${title}`).click();
  await expect(page.getByText('3 changes are kept on this device')).toBeVisible();
  for (const { id, details } of await kept(page))
    if (details.title !== 'Air the cabin')
      await page.request.post('/api/actions', {
        data: { do: 'remove', id: randomUUID(), todo: id },
      });
  await context.unroute('**/api/actions');
  for (const title of ['Check the bilge', 'Weigh the hives'])
    await expect(
      page.getByText(`${title}: a change could not be made any more.`).first(),
    ).toBeVisible();
  await expect(row(page, 'Air the cabin').getByText('Back again Tue 1 Dec')).toBeVisible();
  await button(page, 'Hide').click();
  await expect(button(page, 'Hide')).toHaveCount(0);
});

test('after a bad answer a window listens again', async ({ page, context, write }) => {
  await write('Grease the stern gland 14 days after done');
  let answered = 0;
  await context.route('**/api/events', (route) =>
    answered++ ? route.continue() : route.fulfill({ status: 502, body: 'Bad gateway' }),
  );
  await page.goto('/');
  await expect.poll(() => answered, { timeout: 15_000 }).toBeGreaterThan(1);
  const todos = await kept(page);
  await expect
    .poll(
      async () => {
        const id = randomUUID();
        await page.request.post('/api/actions', { data: { do: 'done', id, todo: todos[0]!.id } });
        return row(page, 'Grease the stern gland').getByText('Back again Tue 8 Dec').isVisible();
      },
      { timeout: 15_000 },
    )
    .toBe(true);
});

test('two windows: one sees what the other did, and is told what happened in the meantime', async ({
  page,
  context,
  write,
}) => {
  await write('Grease the stern gland 14 days after done');
  await page.goto('/');
  const other = await context.newPage();
  await other.goto('/');
  await expect(row(other, 'Grease the stern gland')).toBeVisible();
  await button(page, 'Done: Grease the stern gland').click();
  await expect(row(page, 'Grease the stern gland').getByText('Back again Tue 8 Dec')).toBeVisible();
  await expect(row(other, 'Grease the stern gland').getByText('Back again Tue 8 Dec')).toBeVisible({
    timeout: 2000,
  });
  await button(other, 'Undo: Grease the stern gland').click();
  await expect(button(page, 'Done: Grease the stern gland')).toBeVisible({ timeout: 2000 });
  // A window that has not heard yet is told, and nothing is doubled.
  await other.route('**/api/events', (route) => route.abort());
  await other.reload();
  await expect(button(other, 'Done: Grease the stern gland')).toBeVisible();
  await button(page, 'Done: Grease the stern gland').click();
  await expect(row(page, 'Grease the stern gland').getByText('Back again Tue 8 Dec')).toBeVisible();
  // The windows of one browser tell each other, whatever else is lost.
  await expect(
    row(other, 'Grease the stern gland').getByText('Back again Tue 8 Dec'),
  ).toBeVisible();
});

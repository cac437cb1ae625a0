import { randomUUID } from 'node:crypto';
import type { APIRequestContext, Page } from '@playwright/test';
import {
  SIZES,
  act,
  beside,
  expect,
  expectNothingSerious,
  openStory,
  row,
  test,
} from './program.ts';

// What belongs to a to-do, and where it belongs: on a phone and wide, by touch and by keyboard.

async function place(request: APIRequestContext, name: string, more: object = {}) {
  const id = randomUUID();
  await act(request, { do: 'place', place: id, parts: { kind: 'sphere', name, ...more } });
  return id;
}

const kept = (page: Page) => expect(page.getByText('is kept.')).toBeVisible();

for (const size of SIZES)
  test.describe(`${size.width}`, () => {
    test.use({ viewport: size });

    test('with all details by one sentence: ticked, finished with some left, answered, taken back', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      await page.goto('/write');
      await page
        .getByLabel('What comes back, and how?')
        .fill(
          'Weigh the hives every Tuesday, belongs to Bees, takes 25 min, important, tagged weights, steps: smoke, lift and weigh, ask for “hive one” in kg, ask how they were from 1 to 5, then feed the light one 2 days later',
        );
      await expect(page.getByTestId('understood')).toContainText('steps: smoke, lift and weigh');
      await page.keyboard.press('Control+Enter');
      await kept(page);
      const it = row(page, 'Weigh the hives');
      await expect(it).toContainText('25 min');
      await expect(it).toContainText('important');

      await it.getByRole('button', { name: /^Weigh the hives,/ }).click();
      const told = beside(page, it);
      await told.getByRole('checkbox', { name: 'smoke' }).click();
      await expect(told.getByRole('checkbox', { name: 'smoke' })).toBeChecked();
      const end = it.getByRole('button', { name: /^Done: Weigh the hives/ });
      await expect(end).toHaveText('1 of 3');
      await told.getByRole('button', { name: /Another step, this time only/ }).click();
      await told.getByLabel('A step for this time alone').fill('look for mites');
      await told.getByLabel('A step for this time alone').press('Enter');
      await expect(end).toHaveText('1 of 4');

      // Not yet: it stays as it is.
      await end.click();
      await expect(it.getByText('3 steps are left.')).toBeVisible();
      await it.getByRole('button', { name: /^Not yet/ }).click();
      await expect(end).toHaveText('1 of 4');
      // Finished, with what is left as a one-off.
      await end.click();
      await it.getByRole('button', { name: /keep what is left/ }).click();
      await expect(it.getByText('Back again Tue 1 Dec')).toBeVisible();
      await expect(row(page, 'The rest of: Weigh the hives')).toBeVisible();
      await expect(page.getByRole('button', { name: /^Feed the light one,/ })).toBeVisible();

      const hive = it.getByLabel('Hive one, in kg');
      await hive.fill('many');
      await expect(it.getByText('A number, as 34.2')).toBeVisible();
      await hive.fill('34,2');
      await hive.press('Enter');
      await it.getByRole('button', { name: 'How they were: 4 of 5' }).click();
      await it.getByLabel('Minutes, in min').fill('20');
      await it.getByLabel('Minutes, in min').blur();

      // Taken back: what it made goes with it.
      await it.getByRole('button', { name: 'Undo: Weigh the hives' }).click();
      await expect(row(page, 'The rest of: Weigh the hives')).toHaveCount(0);
      await expect(page.getByRole('button', { name: /^Feed the light one,/ })).toHaveCount(0);
      await end.click();
      await it.getByRole('button', { name: /without what is left/ }).click();
      await expect(row(page, 'The rest of: Weigh the hives')).toHaveCount(0);
      await it.getByLabel('Hive one, in kg').fill('35');
      await it.getByLabel('Hive one, in kg').press('Enter');

      // The next time is fresh, with the last answer beside the field.
      await setTime('2026-12-01T09:40:00Z');
      await page.reload();
      await expect(end).toHaveText('0 of 3');
      await end.click();
      await it.getByRole('button', { name: /without what is left/ }).click();
      await expect(it.getByText('last time 35 kg')).toBeVisible();
      await expectNothingSerious(page, 'finished, with questions');
      await openStory(page, it);
      const last = page.getByRole('region', { name: 'Last times' });
      await expect(last.getByText('hive one: 35 kg')).toBeVisible();
      // What was left out is filled in later.
      await last.getByRole('button', { name: /^Write down: Weigh the hives, .*1 Dec/ }).click();
      await last.getByLabel('Hive one, in kg').fill('36.5');
      await last.getByLabel('Hive one, in kg').press('Enter');
      await expect(last.getByText('hive one: 36.5 kg')).toBeVisible();
    });

    test('with all details by controls alone, and changed without losing them', async ({
      page,
      someone,
    }) => {
      await someone();
      await page.goto('/write');
      await page.getByLabel('What comes back, and how?').fill('Service the engine every month');
      const add = async (label: string) => {
        const offer = page.getByRole('button', { name: `Add ${label}`, exact: true });
        if (!(await offer.count()))
          await page.getByRole('button', { name: 'Add something else' }).click();
        await offer.click();
      };
      await add('how important it is');
      await page.getByRole('radio', { name: 'important', exact: true }).click();
      await add('steps');
      for (const step of ['warm it up', 'drain the oil, and store it']) {
        await page.getByLabel('Another step').fill(step);
        await page.getByRole('button', { name: 'Add the step' }).click();
      }
      await add('what to write down');
      await page.getByLabel('Another question').fill('hours of the engine');
      await page.getByLabel('In which unit').fill('h');
      await page.getByRole('button', { name: 'Add the question' }).click();
      await add('a note');
      await page
        .getByRole('textbox', { name: 'Notes' })
        .fill('The **filter** is under the bench: <b>left</b> [x](javascript:alert(1))');
      await add('what comes after it');
      await page.getByRole('textbox', { name: 'What comes then' }).fill('Take the oil away');
      await add('where it belongs');
      await page.getByLabel('A new place').fill('Aboard');
      await expect(page.getByTestId('understood')).toContainText('belongs to Aboard');
      await page.getByRole('button', { name: 'Keep it' }).click();
      await kept(page);
      const it = row(page, 'Service the engine');
      await it.getByRole('button', { name: /^Service the engine,/ }).click();
      const told = beside(page, it);
      await expect(told.getByRole('checkbox')).toHaveCount(2);
      // Markdown is shown; HTML and what is no link to the web stay text.
      await expect(told.getByText('<b>left</b> x (javascript:alert(1))')).toBeVisible();
      await expect(told.getByRole('link', { name: 'x' })).toHaveCount(0);
      await openStory(page, it);
      await page.getByRole('button', { name: 'Change it' }).click();
      await page
        .getByLabel('What comes back, and how?')
        .fill('Service the engine every 2 months, belongs to Aboard, important');
      await page.getByRole('button', { name: 'Keep it' }).click();
      await page.goto('/');
      await it.getByRole('button', { name: /^Service the engine,/ }).click();
      await expect(
        told.getByRole('checkbox', { name: 'drain the oil, and store it' }),
      ).toBeVisible();
    });

    test('above all: three a day, these alone, and the next day offers what was left', async ({
      page,
      someone,
      setTime,
      write,
    }) => {
      await someone();
      for (const what of ['bilge', 'ropes', 'stove', 'hives'])
        await write(`Check the ${what} every day`);
      await page.goto('/');
      const put = async (what: string) => {
        const it = row(page, `Check the ${what}`);
        await it.getByRole('button', { name: new RegExp(`^Check the ${what},`, 'u') }).click();
        await it.getByRole('button', { name: `Above all: Check the ${what}` }).click();
        await it.getByRole('button', { name: new RegExp(`^Check the ${what},`, 'u') }).click();
      };
      for (const what of ['bilge', 'ropes', 'stove']) await put(what);
      const above = page.getByRole('region', { name: 'Above all today' });
      await expect(above).toContainText('0 of 3 done');
      const fourth = row(page, 'Check the hives');
      await fourth.getByRole('button', { name: /^Check the hives,/ }).click();
      await fourth.getByRole('button', { name: 'Above all: Check the hives' }).click();
      await expect(page.getByText(/Three are above all today already/).first()).toBeVisible();
      await above.getByRole('button', { name: 'Done: Check the ropes' }).click();
      await expect(above).toContainText('1 of 3 done');
      await above.getByRole('button', { name: 'These alone' }).click();
      await expect(fourth).toHaveCount(0);
      await expectNothingSerious(page, 'above all');
      await setTime('2026-11-25T09:40:00Z');
      await page.reload();
      await expect(page.getByRole('region', { name: 'Morning' }).or(fourth).first()).toBeVisible();
      await expect(above).toHaveCount(0);
    });

    test('focus on two devices, without a connection too; what is late elsewhere is told', async ({
      page,
      browser,
      someone,
      setTime,
      baseURL,
    }) => {
      const name = await someone();
      const { request } = page;
      const [aboard, work] = [await place(request, 'Aboard'), await place(request, 'Work')];
      for (const [title, of] of [
        ['Check the bilge', aboard],
        ['Send the log', work],
      ])
        await act(request, {
          do: 'create',
          todo: randomUUID(),
          series: { start: '2026-11-24', repeat: { by: 'calendar', rule: 'FREQ=WEEKLY' } },
          details: { title, place: of },
        });
      await setTime('2026-11-26T09:40:00Z');
      await page.goto('/');
      await expect(row(page, 'Send the log')).toBeVisible();
      await page.context().setOffline(true);
      await page.getByRole('button', { name: /^In sight: all spheres/ }).click();
      await page.getByRole('radio', { name: 'Aboard', exact: true }).click();
      await expect(row(page, 'Send the log')).toHaveCount(0);
      await page.getByRole('button', { name: 'Show 1 late elsewhere' }).click();
      await expect(row(page, 'Send the log')).toBeVisible();
      await page.context().setOffline(false);
      const other = await browser.newContext({ baseURL: baseURL!, viewport: size });
      const second = await other.newPage();
      const signedIn = await second.request.post('/api/session', {
        data: { name, password: 'a long password' },
        headers: { Origin: baseURL! },
      });
      expect(signedIn.status()).toBe(200);
      await second.goto('/');
      await expect(second.getByRole('button', { name: /^In sight: Aboard/ })).toBeVisible();
      await expect(row(second, 'Send the log')).toHaveCount(0);
      await other.close();
    });

    test('unsorted, to empty: each says what it lacks, and is mended in place', async ({
      page,
      someone,
      write,
    }) => {
      await someone();
      await place(page.request, 'Aboard');
      await write('Order wax');
      await write('Check the ropes tomorrow');
      await page.goto('/unsorted');
      await expect(page.getByRole('heading', { name: 'Unsorted, 2' })).toBeVisible();
      await page.getByRole('button', { name: 'Check the ropes belongs to Aboard' }).click();
      await expect(page.getByRole('heading', { name: 'Unsorted, 1' })).toBeVisible();
      await expect(page.getByText('Sorted', { exact: true })).toHaveCount(1);
      await page.getByRole('button', { name: 'Order wax belongs to Aboard' }).click();
      await page.getByRole('button', { name: 'Order wax is for someday' }).click();
      await expect(page.getByText('All is sorted')).toBeVisible();
      await page.getByRole('button', { name: 'Undo: Order wax' }).click();
      await expect(page.getByRole('heading', { name: 'Unsorted, 1' })).toBeVisible();
      await expectNothingSerious(page, 'unsorted');
    });

    test('several are chosen, moved and taken back; search at each key', async ({
      page,
      someone,
    }) => {
      await someone();
      const aboard = await place(page.request, 'Aboard');
      for (let i = 0; i < 14; i++)
        await act(page.request, {
          do: 'create',
          todo: randomUUID(),
          series: { start: null, repeat: null },
          details: {
            title: i < 12 ? `Look at rope ${i}` : `Look at bolt ${i}`,
            note: `bench ${i}`,
          },
        });
      await page.goto('/all');
      const search = page.getByLabel('Search in all to-dos');
      await search.pressSequentially('ro');
      await expect(page.getByRole('button', { name: /^Look at rope/ })).toHaveCount(12);
      await expect(page.getByRole('button', { name: /^Look at bolt/ })).toHaveCount(0);
      await page.getByRole('button', { name: 'Choose several' }).click();
      await page.getByRole('button', { name: 'Choose all' }).click();
      await expect(page.getByText('12 of 12 chosen')).toBeVisible();
      await page.getByRole('button', { name: 'Move to' }).click();
      await page.getByRole('button', { name: 'Move these to Aboard' }).click();
      await expect(page.getByText('12 moved to Aboard.')).toBeVisible();
      await expect(page.getByRole('region', { name: 'Aboard' })).toBeVisible();
      await page.getByRole('button', { name: 'Undo: 12 moved to Aboard.' }).click();
      await expect(page.getByRole('region', { name: 'Aboard' })).toHaveCount(0);
      await page.getByRole('button', { name: 'Stop choosing' }).click();
      await search.fill('BENCH 13');
      await expect(page.getByRole('button', { name: /^Look at bolt 13/ })).toHaveCount(1);
      await search.fill('without a place');
      await expect(page.getByRole('button', { name: /^Look at/ })).toHaveCount(14);
      await search.fill('in aboard');
      await expect(page.getByText('Nothing here has')).toBeVisible();
      await expectNothingSerious(page, 'search');
      expect(aboard).toBeTruthy();
    });

    test('a strand rests over its due days and goes on; its place has a page', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      const { request } = page;
      const aboard = await place(request, 'Aboard');
      const strand = await place(request, 'Boat upkeep', { kind: 'strand', in: aboard });
      await act(request, {
        do: 'create',
        todo: randomUUID(),
        series: { start: '2026-11-25', repeat: { by: 'calendar', rule: 'FREQ=WEEKLY' } },
        details: { title: 'Check the bilge', place: strand },
      });
      await page.goto(`/place/${strand}`);
      await expect(page.getByRole('heading', { name: 'Boat upkeep' })).toBeVisible();
      // The server has it before its time moves on.
      const rested = page.waitForResponse((it) => it.url().endsWith('/api/actions'));
      await page.getByRole('button', { name: 'Let it rest' }).click();
      await rested;
      await expect(page.getByText('Boat upkeep rests: nothing in it comes.')).toBeVisible();
      await setTime('2026-12-06T09:40:00Z');
      await page.goto('/');
      // Until the device has heard what time it is, it goes on from when it was last heard.
      await expect(page.getByRole('heading', { name: '6 December' })).toBeVisible();
      await expect(page.getByText('Check the bilge')).toHaveCount(0);
      await page.keyboard.press('p');
      await page.getByRole('button', { name: 'Boat upkeep' }).click();
      await page.getByRole('button', { name: 'Let it go on' }).click();
      await expect(page.getByText('Wed 9 Dec')).toBeVisible();
      await page.getByRole('button', { name: 'Rename' }).click();
      await page.getByLabel('What it is called').fill('Hull');
      await page.getByRole('button', { name: 'Keep it' }).click();
      await expect(page.getByRole('heading', { name: 'Hull' })).toBeVisible();
      await expectNothingSerious(page, 'a place');
      await page.getByRole('button', { name: 'Take away Hull' }).click();
      await expect(page.getByText('What belonged to it is unsorted.')).toBeVisible();
      await page.getByRole('button', { name: 'Undo: take away Hull' }).click();
      await expect(page.getByRole('heading', { name: 'Hull' })).toBeVisible();
    });
  });

test('on its page too it is asked what becomes of steps that are left', async ({
  page,
  someone,
  write,
}) => {
  await someone();
  await write('Pump out the tank every Tuesday, steps: hose and pump');
  await page.goto('/');
  const it = row(page, 'Pump out the tank');
  await it.getByRole('button', { name: /^Pump out the tank,/ }).click();
  await openStory(page, it);
  const end = page.getByRole('button', { name: /^Done: Pump out the tank/ });
  await expect(end).toHaveText('0 of 2');
  await page.getByRole('checkbox', { name: 'hose' }).click();
  await expect(end).toHaveText('1 of 2');
  await end.click();
  await expect(page.getByText('One step is left.')).toBeVisible();
  await page.getByRole('button', { name: /^Not yet/ }).click();
  await end.click();
  await page.getByRole('button', { name: /keep what is left/ }).click();
  await expect(page.getByRole('region', { name: 'Last times' })).toContainText('1 of 2 steps');
  await page.goto('/');
  await expect(row(page, 'The rest of: Pump out the tank')).toBeVisible();
});

test('by keys alone: write one, keep it, and what the keys are', async ({ page, someone }) => {
  await someone();
  await page.goto('/');
  await expect(page.getByText('Nothing comes back yet.')).toBeVisible();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await expectNothingSerious(page, 'the keys');
  await page.keyboard.press('Escape');
  await page.keyboard.press('w');
  await expect(page.getByLabel('What comes back, and how?')).toBeFocused();
  await page.keyboard.type('Order wax');
  await page.keyboard.press('Control+Enter');
  await kept(page);
  await page.keyboard.press('u');
  await expect(page.getByRole('heading', { name: 'Unsorted, 1' })).toBeVisible();
});

test('a second habit is asked about, and begins when the first has ended', async ({
  page,
  someone,
}) => {
  await someone();
  const write = async (sentence: string) => {
    await page.goto('/write');
    await page.getByLabel('What comes back, and how?').fill(sentence);
    await page.getByRole('button', { name: 'Keep it', exact: true }).click();
  };
  await write('Stretch every day for 66 days, taking it up');
  await kept(page);
  await expect(row(page, 'Stretch')).toContainText('taking up, day 1 of 66');
  await write('Swim at the weir every day for 66 days, taking it up');
  const asked = page.getByRole('group', { name: 'A second habit' });
  await expect(asked).toContainText('You are taking up “Stretch”, day 1 of 66.');
  await asked.getByRole('button', { name: /^Begin it when that has ended/ }).click();
  await expect(asked).toHaveCount(0);
  await expect(page.getByTestId('understood')).toContainText('Friday 29 January');
  await page.getByRole('button', { name: 'Keep it', exact: true }).click();
  await kept(page);
});

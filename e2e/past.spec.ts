import { randomUUID } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { APIRequestContext, Page } from '@playwright/test';
import Papa from 'papaparse';
import { whatOf, whenOf } from '../core/src/index.ts';
import { read } from '../core/src/reading.ts';
import { SIZES, act, button, expect, expectNothingSerious, test } from './program.ts';

// What really happened: looked at day by day, to-do by to-do, in totals and week by week, on a phone and wide.

type SetTime = (at: string) => Promise<void>;
const NOW = '2026-11-24T09:40:00Z';

/** Keeps what a sentence says, as on a day. */
async function keep(
  request: APIRequestContext,
  sentence: string,
  on: string,
  details: object = {},
) {
  const todo = randomUUID();
  const { series } = read(sentence, on);
  await act(request, {
    do: 'create',
    todo,
    series: whenOf(series),
    details: { ...whatOf(series), ...details },
  });
  return todo;
}

/** Every 21 days after it was done, and really done every 25; the litres of one time were forgotten. */
const PUMPED = [
  '2026-06-01',
  '2026-06-26',
  '2026-07-21',
  '2026-08-15',
  '2026-09-09',
  '2026-10-04',
  '2026-10-29',
];
const FORGOTTEN = '2026-10-04';

async function pumped(request: APIRequestContext, setTime: SetTime): Promise<string> {
  await setTime('2026-06-01T06:00:00Z');
  const sentence = 'Pump out the tank 21 days after done, takes 45 min, ask for litres';
  const todo = await keep(request, sentence, '2026-06-01');
  for (const [i, day] of PUMPED.entries()) {
    await setTime(`${day}T10:00:00Z`);
    const answers = day === FORGOTTEN ? {} : { answers: { 1: 140 + 10 * i } };
    await act(request, { do: 'done', todo, ...answers });
  }
  await setTime(NOW);
  return todo;
}

const says = (page: Page, words: string | RegExp) =>
  expect(page.getByRole('main').getByText(words).first()).toBeVisible();

for (const size of SIZES)
  test.describe(`${size.width}`, () => {
    test.use({ viewport: size });

    test('a forgotten answer is filled in on its day, and each figure follows', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      const todo = await pumped(page.request, setTime);
      await page.goto(`/past/totals?what=asked:litres:litres&by=month&todo=${todo}`);
      await says(page, '1000 litres in all: 6 answers, usually 160 litres, from 140 to 200.');
      await page.goto(`/past?on=${FORGOTTEN}`);
      await says(page, '1 done, none missed. 45 min, all estimated.');
      const left = page.getByRole('region', { name: 'Not filled in' });
      await left.getByRole('button', { name: 'Fill in: Pump out the tank' }).click();
      await left.getByLabel('Litres', { exact: true }).fill('400');
      await left.getByLabel('Litres', { exact: true }).press('Enter');
      const done = page.getByRole('region', { name: 'Done', exact: true });
      await expect(done).toContainText('400 litres');
      await expect(left).toHaveCount(0);
      // The minutes too: what was estimated is no more.
      await done.getByRole('button', { name: /^Pump out the tank:/u }).click();
      await done.getByLabel('Minutes, in min').fill('30');
      await done.getByLabel('Minutes, in min').press('Enter');
      await says(page, '1 done, none missed. 30 min.');
      await done.getByRole('button', { name: 'The record of Pump out the tank' }).click();
      await says(page, 'usually 170 litres, from 140 to 400; 1400 litres in all');
      await says(page, 'It took 5 h, of them 4 h 30 estimated.');
      await page.goto(`/past/totals?what=asked:litres:litres&by=month&todo=${todo}`);
      await says(page, '1400 litres in all: 7 answers, usually 170 litres, from 140 to 400.');
    });

    test('the trail and its words agree, and its table with both', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      const todo = await pumped(page.request, setTime);
      await page.goto(`/past/todo/${todo}`);
      await says(
        page,
        'Done 7 of 7 times, 100 %. Usually 4 days late, 4 days at most, and really about every 25 days, not every 21 days.',
      );
      const trail = page.getByRole('region', { name: 'How it came back' });
      const words = await trail.getByText(/^The last \d+ times/u).textContent();
      const [, all, kept, late] = /(\d+) times.*: (\d+) on the day or before, (\d+) late\./u.exec(
        words!,
      )!;
      await trail.getByRole('button', { name: /^As a table/u }).click();
      const cells = await trail.getByRole('cell').allTextContents();
      const ends = cells.filter((_, i) => i % 2 === 1);
      expect(ends).toHaveLength(Number(all));
      expect(ends.filter((it) => it === 'done on its day')).toHaveLength(Number(kept));
      expect(ends.filter((it) => it === 'done 4 days late')).toHaveLength(Number(late));
      // Drawn: a dot for each, and a stretch along the ground for each that was late, all of one length.
      await expect(trail.locator('svg circle')).toHaveCount(Number(all));
      const runs = trail.locator('svg path[stroke-width="4"]');
      await expect(runs).toHaveCount(Number(late));
      const lengths = await runs.evaluateAll((paths) =>
        paths.map((path) => (path as SVGPathElement).getTotalLength()),
      );
      const arch = await trail
        .locator('svg path[stroke-dasharray]')
        .first()
        .evaluate((path) => (path as SVGGraphicsElement).getBBox().width);
      for (const length of lengths) expect(length / arch).toBeCloseTo(4 / 21, 1);
    });

    test('another interval is tried out, taken, undone, declined, and not offered again', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      const todo = await pumped(page.request, setTime);
      await page.goto(`/past/todo/${todo}`);
      // Nothing changes before it was tried out.
      await button(page, 'Make it 25 days').first().click();
      const tried = page.getByRole('region', { name: 'Try it out' });
      await button(page, 'Try it out').click();
      await expect(tried).toHaveCount(0);
      await button(page, 'Try it out').click();
      await expect(tried.getByRole('group', { name: 'Every 21 days, as it is now' })).toContainText(
        '6 of 6 late',
      );
      await expect(tried.getByRole('group', { name: 'Every 25 days, instead' })).toContainText(
        '0 of 6 late',
      );
      await tried.getByRole('button', { name: 'Make it so: every 25 days' }).click();
      await says(page, 'Pump out the tank comes back every 25 days from the next time on.');
      await says(page, /really about every 25 days, as it is meant\.$/u);
      await expect(button(page, 'Make it 25 days')).toHaveCount(0);
      await button(page, /^Undo: /u).click();
      await says(page, /really about every 25 days, not every 21 days\.$/u);
      await button(page, 'Leave it so').click();
      await says(page, /25 days are not offered again\.$/u);
      await expect(button(page, 'Make it 25 days')).toHaveCount(0);
      await page.reload();
      await says(page, /not every 21 days\.$/u);
      await expect(button(page, 'Make it 25 days')).toHaveCount(0);
    });

    test('totals by each word of their sentence, back and forward, and as CSV what is on the screen', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      await pumped(page.request, setTime);
      const place = randomUUID();
      await act(page.request, { do: 'place', place, parts: { kind: 'sphere', name: 'Bees' } });
      const hives = await keep(page.request, 'Weigh the hives today, takes 25 min', '2026-11-24', {
        place,
        tags: ['weights'],
      });
      await act(page.request, { do: 'done', todo: hives, spent: 35 });
      await page.goto('/past/totals');
      await says(page, '5 h 50 in all, of them 5 h 15 estimated. Most: Unsorted, 5 h 15.');
      const choose = async (word: string, option: string) => {
        await page.getByRole('button', { name: word }).click();
        await page.getByRole('radio', { name: option, exact: true }).click();
      };
      await choose('By what: strand and project', 'to-do');
      await says(page, /Most: Pump out the tank, 5 h 15\.$/u);
      await choose('How it is divided: month by month', 'in all');
      await choose('In which span: 2026', 'November 2026');
      await says(page, '35 min in all.');
      await choose('Of what: all spheres', 'Bees');
      await choose('What is totalled: Hours', 'times done');
      await says(page, '1 done, none missed.');
      expect(new URL(page.url()).searchParams.get('place')).toBe(place);
      // Any combination has an address that can be opened again, and the browser goes back and forward.
      await page.reload();
      await expect(page.getByRole('button', { name: 'Of what: Bees' })).toBeVisible();
      await page.goBack();
      await expect(page.getByRole('button', { name: 'What is totalled: Hours' })).toBeVisible();
      await page.goBack();
      await expect(page.getByRole('button', { name: 'Of what: all spheres' })).toBeVisible();
      await page.goForward();
      await expect(page.getByRole('button', { name: 'Of what: Bees' })).toBeVisible();
      await choose('In which span: November 2026', '2026');
      await choose('Of what: Bees', 'all spheres');
      await expect(page.getByRole('row')).toHaveCount(2);

      const [download] = await Promise.all([
        page.waitForEvent('download'),
        page.getByRole('button', { name: 'These totals as CSV' }).click(),
      ]);
      expect(download.suggestedFilename()).toBe('Totals 2026-01-01 to 2026-12-31.csv');
      const text = readFileSync(await download.path(), 'utf8').replace('\uFEFF', '');
      const [heads, ...lines] = Papa.parse<string[]>(text).data;
      expect(heads).toEqual(['Under', 'To-do', 'Minutes', 'Of them estimated']);
      const asShown = (minutes: string) => {
        const [h, m] = [Math.floor(Number(minutes) / 60), Number(minutes) % 60];
        return h ? `${h} h ${String(m).padStart(2, '0')}` : `${m} min`;
      };
      const shown = await page
        .getByRole('row')
        .evaluateAll((rows) =>
          rows.map((row) => [
            row.querySelector('[role=rowheader]')!.textContent,
            row.querySelector('[role=cell]')!.firstElementChild!.textContent,
          ]),
        );
      expect(lines.map(([, name, minutes]) => [name, asShown(minutes!)])).toEqual(shown);

      // Two days that make no span, and two that do.
      await page.getByRole('button', { name: 'In which span: 2026' }).click();
      await page.getByLabel('From', { exact: true }).fill('2026-11-30');
      await page.getByLabel('To', { exact: true }).fill('2026-11-01');
      await page.getByRole('button', { name: 'Show these days' }).click();
      await says(page, 'It ends before it begins.');
      await page.getByLabel('From', { exact: true }).fill('2026-10-28');
      await page.getByRole('button', { name: 'Show these days' }).click();
      await says(page, '45 min in all, all estimated.');
      await page.goto('/past/totals?from=1900-01-01&to=2099-12-31');
      await says(page, 'A hundred years at most are looked at at once.');
    });

    test('a look-back fills itself, is written, leafed through, switched off and on again', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      const { request } = page;
      await setTime('2026-11-06T10:00:00Z');
      const sentence = 'Look over the week every Sunday at 17:00, ask how it went from 1 to 5';
      const look = await keep(request, sentence, '2026-11-06');
      const log = await keep(request, 'Write up the log every day, takes 20 min', '2026-11-06');
      const fender = await keep(request, 'Mend the stern fender on 12 November', '2026-11-06');
      await act(request, { do: 'done', todo: log });
      for (const plan of ['2026-11-14', '2026-11-18', '2026-11-24'])
        await act(request, { do: 'move', todo: fender, slot: '2026-11-12', plan });
      await setTime('2026-11-08T17:30:00Z');
      await page.goto(`/todo/${look}`);
      await button(page, 'Make it a look-back').click();
      await button(page, 'Look back: Look over the week').click();
      const main = page.getByRole('main');
      await expect(main.getByRole('heading', { level: 1 })).toHaveText('Since Sun 1 November');
      await says(page, '1 done, 1 missed. 20 min, all estimated.');
      await expect(main.getByRole('region', { name: 'What was done' })).toContainText(
        'Write up the log',
      );
      await expect(main.getByRole('region', { name: 'What was missed' })).toContainText(
        'Write up the log',
      );
      await expect(main.getByRole('region', { name: 'Moved three times and more' })).toContainText(
        'Mend the stern fendermoved 3 times',
      );
      await expect(main.getByRole('region', { name: 'What comes' })).toContainText('7 times');
      await main.getByRole('button', { name: 'How it went: 4 of 5' }).click();
      await main.getByRole('button', { name: 'Done: Look over the week' }).click();
      await says(page, /^It comes next Sun 15 Nov/u);

      await setTime('2026-11-15T18:00:00Z');
      await act(request, { do: 'done', todo: look });
      await page.goto(`/past/look/${look}`);
      await button(page, 'The one before').click();
      await expect(main.getByRole('heading', { level: 1 })).toHaveText(
        'Sun 8 November to Sun 15 November',
      );
      await says(page, 'none done, 7 missed.');
      await expect(main.getByRole('region', { name: 'Late then' })).toContainText('3 days late');
      await button(page, 'The one before').click();
      await expect(main.getByRole('region', { name: 'What you wrote then' })).toContainText(
        '4 of 5',
      );
      await expect(button(page, 'The one before')).toHaveCount(0);
      await button(page, 'The one after').click();
      await says(page, 'none done, 7 missed.');
      await button(page, 'The one now').click();
      await expect(main.getByRole('heading', { level: 1 })).toHaveText('Since Sun 15 November');

      // Switched off it is a pause, and its weeks are not missed.
      await page.goto(`/todo/${look}`);
      await button(page, 'Pause').click();
      await button(page, /^Pause .* until I resume it$/).click();
      await says(page, 'Paused until you resume it.');
      await expect(page.getByText('waits to be sent')).toHaveCount(0);
      await setTime('2026-11-30T10:00:00Z');
      await page.reload();
      await button(page, 'Resume').click();
      await says(page, 'It comes back, from today on.');
      await page.goto(`/past/todo/${look}`);
      await says(page, /^Done 2 of 2 times, 100 %\./u);
    });

    test('a day far back, what was missed and done after all, and what was taken away', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      const { request } = page;
      await setTime('2026-11-01T10:00:00Z');
      const todo = await keep(request, 'Check the bilge every day, takes 10 min', '2026-11-01');
      await setTime(NOW);
      await page.goto('/past?on=1999-02-28');
      await says(page, 'Nothing ended then.');
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('Sun 28 February 1999');
      await page.getByRole('button', { name: 'The day after: Mon 1 March 1999' }).click();
      await expect(page.getByRole('heading', { level: 1 })).toHaveText('Mon 1 March 1999');

      await page.goto('/past?on=2026-02-30');
      await says(page, 'There is no day “2026-02-30” in the calendar: this is today.');

      // By the calendar, with the keyboard alone.
      await page.goto('/past');
      if (size.width < 1000) await button(page, 'Another day').press('Enter');
      const day = page.getByRole('button', { name: 'Tuesday 3 November: none done, 1 missed' });
      await day.focus();
      await page.keyboard.press('Enter');
      const missed = page.getByRole('region', { name: 'Missed' });
      await missed.getByRole('button', { name: /^Check the bilge:/u }).press('Enter');
      await missed
        .getByRole('button', { name: 'I did it that day: Check the bilge' })
        .press('Enter');
      await expect(page.getByRole('region', { name: 'Done', exact: true })).toContainText(
        'Check the bilge',
      );
      await says(page, '1 done, none missed. 10 min, all estimated.');

      await page.goto(`/past/year?todo=${todo}`);
      await expect(page.getByRole('button', { name: 'November: 1 done, 22 missed' })).toBeVisible();
      await act(request, { do: 'remove', todo });
      await page.goto('/past?on=2026-11-03');
      await says(page, /taken away since/u);
      await page.getByRole('button', { name: /^Check the bilge:/u }).click();
      await button(page, 'The record of Check the bilge').click();
      await says(page, 'It was taken away (today). Its record stays until it is removed for good.');
      await button(page, 'Bring back Check the bilge').click();
      await expect(page.getByText('It was taken away')).toHaveCount(0);
      await act(request, { do: 'remove', todo });
      await page.reload();
      await button(page, 'Remove Check the bilge for good').click();
      await button(page, 'Yes, remove Check the bilge with its record').click();
      await expect(page).toHaveURL(/\/past$/u);
      await page.goto('/past?on=2026-11-03');
      await says(page, 'Nothing ended then.');
    });

    test('axe finds nothing serious in what looks back, unfolded and with its tables', async ({
      page,
      someone,
      setTime,
    }) => {
      await someone();
      const todo = await pumped(page.request, setTime);
      await act(page.request, { do: 'describe', todos: [todo], details: { looksBack: true } });
      for (const [path, see, press] of [
        [`/past?on=${FORGOTTEN}`, 'Not filled in', [/^Pump out the tank:/u]],
        [`/past/todo/${todo}`, 'How it came back', ['Try it out', /^As a table/u]],
        ['/past/totals', 'Totals', [/^In which span/u]],
        ['/past/year', '2026', [/^As a table/u, /^Of what/u]],
        [`/past/look/${todo}`, 'What was done', []],
      ] as const) {
        await page.goto(path);
        await says(page, see);
        await expect(page.getByRole('status', { name: 'What happened is on its way' })).toHaveCount(
          0,
        );
        for (const name of press) await page.getByRole('button', { name }).first().click();
        await expectNothingSerious(page, path);
      }
    });
  });

import { Buffer } from 'node:buffer';
import { appendFileSync, cpSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { CHROMIUM_ARGS } from './lib/chromium.mjs';
import { startMariadb } from './lib/mariadb.mjs';
import { startProgram } from './lib/program.mjs';
import { ROOT, ensureChromium, ensureMariadb, ensurePackages, say } from './lib/setup.mjs';
import { buildWeb } from './lib/web.mjs';

/** `npm run shots`: every picture in docs/screenshots/, from the demo data at a fixed day. */

const NOW = '2026-11-24T09:40:00Z';
const PHONE = { width: 390, height: 844 };
const WIDE = { width: 1280, height: 800 };
const BOTH = [PHONE, WIDE];
const TALL = { width: 390, height: 1760 };
const WIDE_TALL = { width: 1280, height: 1760 };
const GAP = 24;
const SWAP = 'Swap the gas bottle every 40 days until end of May';
const LONG =
  'Look at the stern gland, the batteries and the ropes every 2 weeks on Tuesday at 9 until 1 October except in August, if closed the day before, remind me the day before at 18:00, takes 45 minutes, in Aboard';
const DICTATED =
  'okay so I need to turn the compost every three weeks on a Saturday and please remind me the evening before and it takes about forty minutes';
const AIR = 'Air the cabin every 2 weeks on Tue and Sat at 9';
const write = (text) => `/write?text=${encodeURIComponent(text)}`;
const press = (name) => (page) => page.getByRole('button', { name }).first().click();

const event = (uid, ...lines) => ['BEGIN:VEVENT', `UID:${uid}`, ...lines, 'END:VEVENT'];
/** As another program writes it, with an hour of another zone and an entry without a date. */
const CALENDAR = {
  name: 'calendar.ics',
  text: [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    ...event('1', 'SUMMARY:Turn the compost', 'DTSTART;VALUE=DATE:20261128', 'RRULE:FREQ=WEEKLY'),
    ...event(
      '2',
      'SUMMARY:Call the yard',
      'DTSTART;TZID=America/New_York:20261130T090000',
      'DURATION:PT30M',
      'RRULE:FREQ=WEEKLY;BYDAY=MO',
    ),
    ...event(
      '3',
      'SUMMARY:Renew the mooring licence',
      'DTSTART;VALUE=DATE:20270301',
      'RRULE:FREQ=YEARLY',
    ),
    'BEGIN:VTODO',
    'UID:4',
    'SUMMARY:Check the flares',
    'RRULE:FREQ=DAILY',
    'END:VTODO',
    'END:VCALENDAR',
  ].join('\r\n'),
};
const TABLE = {
  name: 'chores.csv',
  text: 'Chore;How often;Notes;List;Minutes\nWax the skis;every year in November;Cold wax first;Winter;60\nWater the figs;every 3 days;;Bees;10\nClean the gutters;every 6 months;;;90\n',
};

const SHOTS = [
  { name: 'sign-in', path: '/sign-in', signedIn: false, see: 'Password' },
  {
    name: 'today',
    parts: [
      { path: '/', see: 'Coming back soon' },
      { path: '/', see: 'Coming back soon', scheme: 'dark' },
      {
        path: '/',
        see: 'Coming back soon',
        act: press(/^Pump out the tank,/),
        then: 'Attach a file',
      },
      {
        path: '/',
        see: 'Coming back soon',
        act: async (page) => {
          await page.getByRole('button', { name: /^Pump out the tank,/u }).click();
          await page.getByRole('button', { name: 'Move: Pump out the tank' }).click();
          await page.getByRole('slider').scrollIntoViewIfNeeded();
        },
      },
    ],
  },
  {
    name: 'finishing',
    path: '/',
    see: 'Coming back soon',
    sizes: BOTH,
    act: async (page) => {
      await page.getByRole('button', { name: /^Weigh the hives,/u }).click();
      await page.getByLabel('Hive one, in kg').scrollIntoViewIfNeeded();
      await page.getByLabel('Minutes, in min').scrollIntoViewIfNeeded();
    },
  },
  {
    name: 'above',
    path: '/',
    see: 'Coming back soon',
    sizes: BOTH,
    act: async (page) => {
      await page.getByRole('button', { name: /^In sight/u }).click();
      await page.getByRole('radio', { name: 'Aboard', exact: true }).click();
      for (const title of ['Send the mooring log', 'Grease the stern gland', 'Check the bilge']) {
        const row = page.getByTestId(`row ${title}`);
        await row.getByRole('button').first().click();
        const above = row.getByRole('button', { name: new RegExp(`bove all: ${title}$`, 'u') });
        await above.waitFor();
        // At the second size it is so already.
        if ((await above.textContent()) === 'Above all') await above.click();
        await row.getByRole('button').first().click();
      }
      await page.getByRole('region', { name: 'Above all today' }).scrollIntoViewIfNeeded();
      await page.mouse.move(200, 400);
      await page.mouse.wheel(0, -4000);
    },
    after: async (page) => {
      await page.getByRole('button', { name: /^In sight/u }).click();
      await page.getByRole('radio', { name: 'all spheres' }).click();
    },
  },
  {
    name: 'editor-easy',
    sizes: BOTH,
    parts: [
      { path: write(AIR), see: 'Next times' },
      { path: write(SWAP), see: 'Taken for now' },
    ],
  },
  {
    name: 'editor-long',
    sizes: BOTH,
    parts: [
      { path: write(LONG), see: 'Next times' },
      {
        path: write('Pay the mooring fee every month until 31 June'),
        see: 'There is no 31 June',
      },
    ],
  },
  {
    name: 'editor-controls',
    parts: [
      { path: write(AIR), see: 'Next times', act: press(/^every 2 weeks/) },
      {
        path: write('Send the invoices on the last working day of each month'),
        see: 'Next times',
        act: press(/^on the last working day/),
      },
      {
        path: write('Open the lock on 27 November, 5 December and 18 December'),
        see: 'Next times',
        act: press(/^on 27 November/),
      },
      {
        path: write('Feed the hens every day in June and July at 8, 13 and 20'),
        see: 'Next times',
        act: press(/^every day in June/),
      },
      {
        path: write('Renew the mooring every year on 12 June, remind me 2 weeks before at 18:00'),
        see: 'Reminds you',
        act: async (page) => {
          await page.getByRole('button', { name: /Change: reminders/u }).click();
          await page.getByRole('group', { name: 'Reminder 1', exact: true }).waitFor();
        },
      },
      {
        path: write('Weigh the hives every Friday, steps: smoke, lift and weigh'),
        see: 'Next times',
        act: press(/^steps: smoke/),
      },
    ],
  },
  {
    name: 'editor-try-it-out',
    parts: [
      {
        path: write('Grease the stern gland 14 days after done'),
        see: 'Next times',
        act: async (page) => {
          await page.getByRole('button', { name: 'Try it out' }).click();
          await page.getByRole('button', { name: 'Tuesday 1 Dec: nothing' }).click();
          await page.getByRole('region', { name: 'Try it out' }).scrollIntoViewIfNeeded();
          await page.mouse.wheel(0, 3000);
        },
      },
      { path: write('Water the cactus every week but not on market days'), see: 'leave it out' },
      { path: write('Water the cactus most Sundays at 9'), see: 'That is not exact' },
      { path: write(DICTATED), see: 'Reminds you' },
      {
        path: write('Send the log every Monday, remind me on the Friday before at 10'),
        see: 'Reminds you',
        act: async (page) => {
          await page.getByRole('button', { name: /Change: reminders/u }).click();
          await page.getByRole('group', { name: 'Reminder 1', exact: true }).waitFor();
        },
      },
      {
        path: write('Turn the compost 3 weeks after done'),
        see: 'Its first time is due today',
        act: async (page) => {
          await page.getByRole('button', { name: 'I did it before' }).click();
          await page.getByRole('button', { name: 'Count it from when I last did it' }).click();
        },
      },
    ],
  },
  {
    name: 'device',
    parts: [
      {
        path: '/',
        see: 'Coming back soon',
        act: async (page) => {
          await page.context().setOffline(true);
          await page.getByRole('button', { name: 'Done: Send the mooring log' }).click();
          await page.getByText('1 change is kept').waitFor();
        },
      },
      { path: '/', see: 'Coming back soon', act: newerProgram },
      {
        path: '/',
        see: 'Coming back soon',
        act: async (page) => {
          await page.context().setOffline(true);
          await page.getByRole('button', { name: 'Done: Change the mite board' }).click();
          await page.getByText('1 change is kept').waitFor();
          await removedElsewhere('Change the mite board');
          await page.context().setOffline(false);
          await page.getByText('could not be made any more').first().waitFor();
        },
      },
    ],
  },
  {
    name: 'all',
    parts: [
      { path: '/all', see: 'Boat upkeep' },
      {
        path: '/all',
        see: 'Boat upkeep',
        act: async (page) => {
          await page.getByRole('button', { name: 'Choose several' }).click();
          for (const n of [0, 2, 3]) await page.getByRole('checkbox').nth(n).click();
          await page.getByRole('button', { name: 'Importance' }).click();
        },
      },
      {
        path: '/all',
        see: 'Boat upkeep',
        act: (page) => page.getByLabel('Search in all to-dos').fill('hi'),
        then: 'Weigh the',
      },
    ],
  },
  {
    name: 'place',
    sizes: BOTH,
    parts: [
      { path: '/places', see: 'Boat upkeep', act: press('Boat upkeep'), then: 'What was done' },
      { path: '/unsorted', see: 'Each lacks' },
    ],
  },
  {
    name: 'todo',
    parts: [
      {
        path: '/all',
        see: 'Boat upkeep',
        act: press(/^Pump out the tank,/),
        then: 'Last times',
        sizes: BOTH,
      },
      // Beside Today on a wide screen.
      {
        path: '/',
        see: 'Coming back soon',
        act: async (page) => {
          await press(/^Pump out the tank,/)(page);
          await page
            .getByRole('button', { name: /^Attach a file/u })
            .first()
            .waitFor();
        },
        then: 'Last times',
        sizes: [WIDE],
      },
    ],
  },
  {
    name: 'reminders',
    sizes: BOTH,
    parts: [
      {
        path: '/said',
        see: 'Pump out the tank',
        act: async (page) => {
          await page.getByRole('button', { name: 'Later: Pump out the tank' }).click();
          await page
            .getByRole('button', { name: 'Open: Pump out the tank' })
            .scrollIntoViewIfNeeded();
        },
      },
      { path: '/outbox', see: 'Outbox', act: press(/^Read: Pump out the tank/) },
    ],
  },
  {
    name: 'ahead',
    sizes: BOTH,
    parts: [
      { path: '/ahead', see: 'Feed the cat' },
      {
        path: '/ahead',
        see: 'Feed the cat',
        act: async (page) => {
          await page.getByRole('tab', { name: 'Month' }).click();
          const day = page.getByRole('button', { name: /^Saturday 28 November, \d/u });
          await day.click();
          await page.getByRole('group', { name: 'Saturday 28 November' }).waitFor();
        },
      },
    ],
  },
  {
    name: 'ahead-carried',
    parts: [
      { path: '/ahead', see: 'Feed the cat', act: carried },
      { path: '/ahead', see: 'Feed the cat', act: press('Even out'), then: 'Take them over' },
      {
        path: '/ahead',
        see: 'Feed the cat',
        act: async (page) => {
          await page
            .getByRole('button', { name: /^Take these hours/u })
            .first()
            .click();
          await page.getByText('an hour now').first().waitFor();
          const wednesday = page.getByRole('group', { name: 'Wednesday 25 November' });
          await wednesday.scrollIntoViewIfNeeded();
        },
        after: press(/^Undo/),
      },
      {
        path: '/ahead',
        see: 'Feed the cat',
        act: async (page) => {
          await page.getByRole('button', { name: 'Bundles', exact: true }).click();
          await page.getByRole('button', { name: 'Lay into this week: The honey fair' }).click();
          await page
            .getByRole('button', { name: /^Move Fetch the float/u })
            .scrollIntoViewIfNeeded();
        },
      },
    ],
  },
  {
    name: 'past',
    parts: [
      { path: '/past?on=2026-11-22', see: 'Not filled in' },
      { path: '/all', see: 'Boat upkeep', act: recordOf('Pump out the tank'), then: 'Litres' },
      {
        path: '/all',
        see: 'Boat upkeep',
        act: async (page) => {
          await recordOf('Write up the log')(page);
          await page.getByText('What was seen').first().scrollIntoViewIfNeeded();
          await page.mouse.move(200, 400);
          await page.mouse.wheel(0, 260);
        },
      },
      {
        path: '/past',
        see: 'Past',
        act: async (page) => {
          await press('Look back: Look over the week')(page);
          await press('The one before')(page);
        },
        then: 'The one now',
      },
      { path: '/past/year?year=2026', see: 'November' },
    ],
  },
  {
    name: 'past-wide',
    parts: [
      { path: '/past/totals', see: 'Small bars', sizes: [WIDE] },
      { path: '/all', see: 'Boat upkeep', act: tried, then: 'instead', sizes: [WIDE] },
    ],
  },
  { name: 'settings', path: '/settings', see: 'Your days', sizes: [TALL, WIDE_TALL] },
  {
    name: 'doors',
    parts: [
      { path: '/doors/in', see: 'Choose a file', act: broughtIn(CALENDAR), then: 'to-dos in' },
      {
        path: '/doors/in',
        see: 'Choose a file',
        act: broughtIn(TABLE),
        then: 'to-dos in',
        sizes: [WIDE],
      },
      { path: '/doors', see: 'Make a key' },
      { path: '/all', see: 'Boat upkeep', act: withCode, then: 'it is shown only now' },
      { path: '/account', see: 'this one' },
    ],
  },
];

ensurePackages();
ensureMariadb();
const executablePath = ensureChromium();
const { chromium } = await import('@playwright/test');
const only = process.argv.slice(2);
const to = join(ROOT, 'docs/screenshots');
mkdirSync(to, { recursive: true });

const folder = mkdtempSync(join(tmpdir(), 'back-again-shots-'));
const database = await startMariadb(folder);
const web = join(folder, 'web');
cpSync(await buildWeb(), web, { recursive: true });
for (const packed of ['worker.js.br', 'worker.js.gz']) rmSync(join(web, packed));
const program = await startProgram({
  DATABASE_URL: database.url,
  SESSION_SECRET: 'for pictures alone',
  WEB_DIR: web,
  PORT: '0',
  DEMO: '1',
  TEST_CLOCK: '1',
  TEST_NOW: NOW,
  LOG: 'warn',
  SIGN_IN_TRIES: '1000',
});
const browser = await chromium.launch({ executablePath, args: CHROMIUM_ARGS });

for (const shot of SHOTS) {
  const { name, sizes = [shot.size ?? PHONE], parts = [shot] } = shot;
  if (only.length && !only.includes(name)) continue;
  const views = parts.flatMap((part) => (part.sizes ?? sizes).map((size) => ({ part, size })));
  const pictures = [];
  for (const { part, size } of views) pictures.push(await taken(part, size));
  const shown = views.map(({ size }) => size);
  writeFileSync(join(to, `${name}.png`), pictures[1] ? await beside(pictures, shown) : pictures[0]);
  say(`docs/screenshots/${name}.png`);
}

await browser.close();
await program.stop();
await database.stop();
rmSync(folder, { recursive: true, force: true });

/** A picture of one view at one size. */
async function taken({ path, see, then, act, after, scheme = 'light', signedIn = true }, size) {
  const context = await browser.newContext({
    baseURL: program.url,
    viewport: size,
    colorScheme: scheme,
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    reducedMotion: 'reduce',
  });
  const page = await context.newPage();
  if (signedIn)
    await context.request.post('/api/session', {
      data: { name: 'demo@example.org', password: 'comes back again' },
      headers: { Origin: program.url },
    });
  await page.goto(path);
  await page.getByText(see).first().waitFor();
  await act?.(page);
  if (then) await page.getByText(then).first().waitFor();
  // What a screen loads for itself is there too, and has been for half a second.
  await page.waitForFunction(() => {
    const waits = globalThis.document.querySelector('[role=status][aria-busy]');
    globalThis.calm = waits ? 0 : (globalThis.calm ?? 0) + 1;
    return globalThis.calm > 30;
  });
  await page.evaluate(() => document.fonts.ready);
  await page.evaluate(() => document.activeElement?.blur());
  const picture = await page.screenshot({ animations: 'disabled' });
  await after?.(page);
  await context.close();
  return picture;
}

/** A file that is chosen to come in. */
function broughtIn({ name, text }) {
  return async (page) => {
    const asked = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Choose a file' }).click();
    await (await asked).setFiles({ name, mimeType: '', buffer: Buffer.from(text) });
  };
}

/** The code of a to-do, made on the page of its own. */
async function withCode(page) {
  await page
    .getByRole('button', { name: /^Grease the stern gland,/u })
    .first()
    .click();
  await page.getByRole('button', { name: 'A way of its own: Grease the stern gland' }).click();
  await page.getByRole('button', { name: 'Make its code' }).click();
}

/** The record of a to-do, from the list of all. */
function recordOf(title) {
  return async (page) => {
    await page
      .getByRole('button', { name: new RegExp(`^${title},`, 'u') })
      .first()
      .click();
    await page.getByRole('button', { name: `The record of ${title}`, exact: true }).click();
    await page.getByText('How it came back').waitFor();
  };
}

/** The interval that it really has, side by side with the one that is defined. */
async function tried(page) {
  await recordOf('Pump out the tank')(page);
  await page.getByRole('button', { name: 'Try it out' }).click();
}

/** A time is carried to the next day, and not yet let go. */
async function carried(page) {
  const grip = page.getByRole('button', { name: /^Move Sort the spare parts/u }).first();
  await grip.scrollIntoViewIfNeeded();
  const box = await grip.boundingBox();
  await page.mouse.move(box.x + 10, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 120, { steps: 6 });
  await page.mouse.move(box.x + 70, box.y + 240, { steps: 6 });
  await page.getByText('This time only').first().waitFor();
}

/** A newer program comes to be while a window is open. */
async function newerProgram(page) {
  await page.evaluate(() => globalThis.navigator.serviceWorker.ready.then(() => undefined));
  await page.reload();
  await page.getByText('Coming back soon').waitFor();
  appendFileSync(join(web, 'worker.js'), '\n// newer');
  await page.evaluate(async () => {
    const registration = await globalThis.navigator.serviceWorker.ready;
    await registration.update();
  });
  await page.getByText('A newer Back Again is ready').waitFor();
}

/** Another device of the person removes a to-do. */
async function removedElsewhere(title) {
  const { request } = await browser.newContext({
    baseURL: program.url,
    extraHTTPHeaders: { Origin: program.url },
  });
  await request.post('/api/session', {
    data: { name: 'demo@example.org', password: 'comes back again' },
  });
  const { todos } = await (await request.get('/api/changes?since=0')).json();
  const todo = todos.find(({ details }) => details.title === title).id;
  const id = globalThis.crypto.randomUUID();
  await request.post('/api/actions', { data: { do: 'remove', id, todo } });
}

/** Several pictures in one, side by side. */
async function beside(pictures, sizes) {
  const width = sizes.reduce((sum, size) => sum + size.width, GAP * (sizes.length - 1));
  const height = Math.max(...sizes.map((size) => size.height));
  const page = await browser.newPage({ viewport: { width, height } });
  const images = pictures.map((it) => `<img src="data:image/png;base64,${it.toString('base64')}">`);
  await page.setContent(
    `<body style="margin:0;display:flex;gap:${GAP}px;align-items:flex-start;background:#888">${images.join('')}`,
  );
  const picture = await page.screenshot();
  await page.close();
  return picture;
}

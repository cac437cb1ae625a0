import { randomUUID } from 'node:crypto';
import { request as ask } from 'node:http';
import { gzipSync } from 'node:zlib';
import fc from 'fast-check';
import type { Running } from '../server.ts';
import { Client, startTestServer } from '../testing/harness.ts';

// Whatever is sent is answered, and never as a fault of the server. A few in each run; FUZZ names how
// many bodies in a long one.

const FUZZ = Number(process.env.FUZZ ?? 700);

let server: Running;
let client: Client;
let todo: string;
beforeAll(async () => {
  server = await startTestServer();
  client = await new Client(server.url).register();
  todo = await client.write('Check the bilge every day');
});
afterAll(() => server.stop());

/** Text with what databases and encodings stumble over. */
const anyText = fc.oneof(
  fc.string({ unit: 'binary' }),
  fc.string(),
  fc.constantFrom('\uD800', 'a\uDC00b', '\0', 'İ'.repeat(200), '𝕊'.repeat(400), '__proto__', '’'),
  fc.string({ minLength: 200, maxLength: 4000 }),
);
const anyDay = fc.constantFrom(
  '2027-06-01',
  '0001-01-01',
  '1900-01-01',
  '2200-12-31',
  '9999-12-31',
  '2027-02-30',
  '-000001-01-01',
);
const anySpan = fc.constantFrom(
  'P1D',
  'P2Y',
  'P100Y',
  'PT15M',
  'PT876600H',
  'P0D',
  'P1M',
  'P1',
  'PT',
);
const anyTime = fc.constantFrom('00:00', '09:00', '23:59', '24:00', '9');
const anySettings = fc.record(
  {
    zone: fc.oneof(fc.constantFrom('UTC', 'Europe/London', 'Etc/GMT+12', 'Nowhere', ''), anyText),
    dayStart: fc.oneof(anyTime, fc.anything()),
    weekStart: fc.constantFrom('MO', 'SU', 'XX'),
    workdays: fc.oneof(fc.subarray(['MO', 'TU', 'SU']), fc.anything()),
    holidays: fc.constantFrom('', 'GB', 'GB-ENG', 'QQ', 'GB-QQQ', '../..', '__proto__'),
    remindAt: fc.oneof(anyTime, fc.anything()),
    quiet: fc.oneof(fc.record({ from: anyTime, to: anyTime }), fc.anything()),
    channels: fc.oneof(fc.subarray(['browser', 'email', 'text', 'app']), fc.anything()),
    phone: fc.constantFrom('', '+441234567890', '0', '+'),
    newReminders: fc.anything(),
    overview: anyTime,
  },
  { requiredKeys: ['zone', 'dayStart', 'weekStart'] },
);
const anyReminder = fc.record(
  {
    before: fc.oneof(anySpan, anyText),
    on: fc.constantFrom('MO', 'XX'),
    at: fc.oneof(anyTime, anyText),
    of: fc.constantFrom('due', 'plan', 'opens', 'x'),
    channel: fc.constantFrom('app', 'email', 'x'),
    again: fc.record({ every: anySpan, atMost: fc.integer({ min: -1, max: 120 }) }),
  },
  { requiredKeys: [] },
);
const anyRepeat = fc.oneof(
  fc.constant(null),
  fc.record({
    by: fc.constant('calendar'),
    rule: fc.oneof(
      fc.constantFrom(
        'FREQ=DAILY',
        'FREQ=DAILY;INTERVAL=9999',
        'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30',
        'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13;BYSETPOS=-1',
        'FREQ=DAILY;COUNT=2147483648',
        'FREQ=DAILY;UNTIL=99991231T235959Z',
        'FREQ=WEEKLY;BYDAY=XX',
        'FREQ=HOURLY',
        '',
      ),
      anyText,
    ),
    except: fc.array(fc.oneof(anyDay, anyText), { maxLength: 3 }),
    extra: fc.array(fc.oneof(anyDay, anyText), { maxLength: 3 }),
  }),
  fc.record({
    by: fc.constant('calendar'),
    workday: fc.integer(),
    per: fc.constantFrom('month', 'year'),
  }),
  fc.record({ by: fc.constant('calendar'), everyWorkdays: fc.integer() }),
  fc.record({
    by: fc.constant('completion'),
    every: anySpan,
    onto: fc.constantFrom('FREQ=WEEKLY', ''),
  }),
  fc.record({ by: fc.constant('completion'), every: anySpan }),
  fc.record({
    by: fc.constant('dates'),
    dates: fc.array(fc.oneof(anyDay, anyText), { maxLength: 5 }),
  }),
  fc.record({
    by: fc.constant('quota'),
    times: fc.integer(),
    per: fc.constantFrom('day', 'week', 'month'),
  }),
  fc.anything(),
);
const anySeries = fc.record(
  {
    start: fc.oneof(anyDay, fc.constant(null), anyText),
    at: fc.oneof(fc.array(anyTime, { maxLength: 3 }), fc.anything()),
    repeat: anyRepeat,
    ends: fc.oneof(
      fc.record({ on: anyDay }),
      fc.record({ after: fc.integer() }),
      fc.record({ within: anySpan }),
      fc.anything(),
    ),
    opensBefore: fc.oneof(anySpan, anyText),
    late: fc.constantFrom('roll', 'wait', 'lapse', 'x'),
    grace: anySpan,
    owe: fc.constantFrom('latest', 'every', 'x'),
    closedDays: fc.constantFrom('keep', 'drop', 'before', 'after', 'nearest', 'x'),
    pauses: fc.array(fc.record({ from: anyDay, to: fc.oneof(anyDay, fc.constant(null)) }), {
      maxLength: 3,
    }),
    reminders: fc.array(anyReminder, { maxLength: 3 }),
  },
  { requiredKeys: [] },
);
const anyDetails = fc.oneof(
  fc.record(
    {
      title: fc.oneof(fc.constantFrom('Weigh the hives', '𝕊'.repeat(100)), anyText, fc.integer()),
      takes: fc.oneof(fc.integer(), fc.constant(30), anySpan),
      place: fc.oneof(anyText, fc.constant(null)),
    },
    { requiredKeys: [] },
  ),
  fc.anything(),
);
/** Extreme ones that are mostly let through. */
const anyGoodSeries = fc.record(
  {
    start: fc.constantFrom('2027-06-01', '1900-01-01', '2200-12-31', '2027-05-01'),
    at: fc.constantFrom(['09:00'], ['00:00', '23:59'], undefined),
    repeat: fc.constantFrom(
      { by: 'calendar', rule: 'FREQ=DAILY' },
      { by: 'calendar', rule: 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30' },
      { by: 'calendar', everyWorkdays: 9999 },
      { by: 'completion', every: 'P100Y' },
      { by: 'dates', dates: ['2027-06-01', '9999-12-31'] },
      null,
    ),
    opensBefore: fc.constantFrom('P365D', 'PT1H', undefined),
    late: fc.constantFrom('roll', 'wait', 'lapse'),
    owe: fc.constantFrom('latest', 'every'),
    pauses: fc.constantFrom(
      [{ from: '2027-07-01', to: '9999-12-31' }],
      [{ from: '2027-07-01', to: null }],
      [],
    ),
    reminders: fc.constantFrom([{ before: 'P2Y' }], [{ again: { every: 'P2Y', atMost: 99 } }], []),
  },
  { requiredKeys: ['start', 'repeat'] },
);
const PARTS: Record<string, string[]> = {
  create: ['todo', 'series', 'details'],
  describe: ['todos', 'details'],
  done: ['todo', 'slot', 'when'],
  skip: ['todo', 'slot'],
  tally: ['todo', 'slot', 'when'],
  part: ['todo', 'slot', 'part'],
  note: ['todo', 'slot', 'note'],
  later: ['todo', 'slot', 'to'],
  move: ['todo', 'slot', 'plan', 'due'],
  bring: ['times', 'to'],
  pause: ['todos', 'from', 'to'],
  resume: ['todos'],
  change: ['todo', 'slot', 'series', 'details'],
  end: ['todo', 'slot'],
  reopen: ['todo'],
  drop: ['todo', 'slot'],
  undo: ['of'],
  remove: ['todo'],
};
const DEEDS = [...Object.keys(PARTS), '__proto__'];
const anyAction = fc
  .record(
    {
      do: fc.constantFrom(...DEEDS),
      mine: fc.boolean(),
      of: fc.oneof(fc.uuid(), anyText),
      slot: fc.oneof(anyDay, fc.constantFrom('undated', '2027-06-01T25:00'), anyText),
      when: fc.oneof(
        fc.constantFrom('2027-06-01T09:00:00Z', '0001-01-01T00:00:00Z', '9999-12-31T23:59:59Z'),
        anyText,
      ),
      to: fc.oneof(anyDay, fc.constant('2027-06-02T09:00:00Z'), fc.constant(null), anyText),
      from: anyDay,
      plan: fc.oneof(anyDay, anyText),
      due: fc.oneof(anyDay, fc.constant('2027-06-01T25:00'), anyText),
      part: fc.oneof(fc.integer(), fc.double()),
      note: fc.oneof(anyText, fc.constant('é'.repeat(2000))),
      times: fc.anything(),
      todos: fc.anything(),
      series: fc.oneof(anySeries, fc.anything()),
      details: anyDetails,
    },
    { requiredKeys: ['do', 'mine'] },
  )
  .chain(({ do: deed, mine, ...parts }) =>
    fc.subarray(Object.hasOwn(PARTS, deed) ? PARTS[deed]! : Object.keys(parts)).map((keys) => ({
      do: deed,
      id: randomUUID(),
      ...(deed === 'bring' || deed === 'undo' ? {} : { todo: mine ? todo : randomUUID() }),
      ...Object.fromEntries(
        keys.flatMap((key) =>
          key in parts ? [[key, (parts as Record<string, unknown>)[key]]] : [],
        ),
      ),
    })),
  );
const anyBody = fc.oneof(
  { weight: 6, arbitrary: anyAction as fc.Arbitrary<unknown> },
  {
    weight: 3,
    arbitrary: fc.tuple(anySeries, anyDetails).map(([series, details]) => ({
      do: 'create',
      id: randomUUID(),
      todo: randomUUID(),
      series,
      details,
    })),
  },
  {
    weight: 2,
    arbitrary: anySeries.map((series) => ({ do: 'change', id: randomUUID(), todo, series })),
  },
  {
    weight: 3,
    arbitrary: anyGoodSeries.map((series) => ({
      do: 'create',
      id: randomUUID(),
      todo: randomUUID(),
      series,
      details: { title: 'Weigh the hives' },
    })),
  },
  {
    weight: 3,
    arbitrary: anyGoodSeries.map((series) => ({ do: 'change', id: randomUUID(), todo, series })),
  },
  { weight: 2, arbitrary: anySettings },
  { weight: 1, arbitrary: fc.json().map((text) => text as unknown) },
  { weight: 1, arbitrary: anyText },
  { weight: 1, arbitrary: fc.record({ name: anyText, password: anyText, zone: anyText }) },
  {
    weight: 1,
    arbitrary: fc.record({
      through: fc.anything(),
      failsOneIn: fc.integer(),
      doublesOneIn: fc.integer(),
      delay: fc.integer(),
    }),
  },
);
const anyRoute = fc.constantFrom<[string, string]>(
  ['POST', '/actions'],
  ['POST', '/actions'],
  ['POST', '/actions'],
  ['PUT', '/settings'],
  ['PUT', '/said/seen'],
  ['PUT', '/stand-in'],
  ['POST', '/session'],
  ['POST', '/accounts'],
  ['POST', '/finish/a.b.c'],
  ['PUT', '/test/clock'],
  ['DELETE', '/session/none'],
  ['POST', '/take-in'],
  ['POST', '/take-in'],
  ['POST', '/doors'],
  ['DELETE', '/doors/%00'],
  ['POST', '/ways/baw_0'],
  ['POST', '/forgotten'],
  ['POST', '/new-password'],
  ['POST', '/account/password'],
  ['POST', '/account/address'],
  ['POST', '/everything'],
  ['GET', '/feeds/%27.ics'],
  ['GET', '/calendar.ics?todo=1&todo=2'],
  ['GET', '/todos/%E0%A4%A'],
  ['GET', '/past/day?on=0000-00-00&on=1'],
  ['GET', '/past/totals?from=2027-01-01&to=2027-12-31&by=month&asks=%27%22%5c%00'],
  ['GET', "/past/todos/'%20OR%201=1?from=9999-12-31"],
);
const READ = [
  '/past/day?on=2027-06-01',
  '/past/days?from=2027-01-01&to=2027-12-31',
  '/past/totals?from=2027-01-01&to=2027-12-31&by=tag&each=week',
  '/doors',
  '/account/sessions',
  '/today',
  '/todos',
  '/said',
  '/outbox',
  '/session',
  '/now',
  '/health',
];

test('any body at any route is answered, and never as a fault of the server', async () => {
  let n = 0;
  let taken = 0;
  await fc.assert(
    fc.asyncProperty(anyRoute, anyBody, async ([method, path], body) => {
      const { status } = await client.send(method, path, method === 'GET' ? undefined : body);
      if (status === 200 && path === '/actions') taken++;
      expect([method, path, body, status >= 500]).toEqual([method, path, body, false]);
      // What was let through can be read.
      if (++n % 25 === 0)
        for (const read of [...READ, `/todos/${todo}`])
          expect([read, (await client.send('GET', read)).status < 500]).toEqual([read, true]);
    }),
    { numRuns: FUZZ, seed: 12, endOnFailure: true },
  );
  expect(taken).toBeGreaterThan(FUZZ / 40);
}, 3_600_000);

describe('what is sent raw', () => {
  const raw = (body: Buffer | string, headers: Record<string, string> = {}) =>
    new Promise<{ status: number; where: string }>((resolve, reject) => {
      const sent = ask(
        `${server.url}/api/actions`,
        {
          method: 'POST',
          headers: {
            'Content-Type': 'application/json',
            Origin: server.url,
            Cookie: client.cookies,
            ...headers,
          },
        },
        (answer) => {
          let text = '';
          answer.on('data', (some: Buffer) => (text += some.toString()));
          answer.on('end', () => {
            const { error } = JSON.parse(text || '{}') as { error?: { where: string } };
            resolve({ status: answer.statusCode!, where: error?.where ?? '' });
          });
        },
      );
      sent.on('error', reject);
      sent.end(body);
    });
  const note = (text: string) =>
    `{"do":"note","id":"${randomUUID()}","todo":"${todo}","note":"${text}"}`;
  const deep = (n: number) => `{"do":"create","series":${'['.repeat(n)}${']'.repeat(n)}}`;

  test.each<[string, () => ReturnType<typeof raw>, number, string]>([
    [
      'compressed in a way that there is none',
      () => raw('{}', { 'Content-Encoding': 'none' }),
      415,
      'body',
    ],
    [
      'said to be compressed, and not',
      () => raw('{}', { 'Content-Encoding': 'gzip' }),
      415,
      'body',
    ],
    ['compressed', () => raw(gzipSync('{}'), { 'Content-Encoding': 'gzip' }), 415, 'body'],
    [
      'in another alphabet',
      () => raw('{}', { 'Content-Type': 'application/json; charset=ebcdic' }),
      415,
      'body',
    ],
    ['51 deep', () => raw(deep(51)), 400, 'body'],
    ['30,000 deep', () => raw(deep(30_000)), 400, 'body'],
    ['half a character', () => raw(note('Heavy \\ud83d')), 400, 'note'],
    ['the other half', () => raw(note('\\udc1d heavy')), 400, 'note'],
    ['no character at all', () => raw(note('a\\u0000b')), 400, 'note'],
    [
      'bytes that are no text',
      () => raw(Buffer.from([0x7b, 0x22, 0xff, 0xfe, 0x22, 0x7d])),
      400,
      'body',
    ],
    ['too much', () => raw(note('x'.repeat(70_000))), 413, 'body'],
    ['nothing', () => raw(''), 400, 'do'],
  ])('%s', async (_name, send, status, where) => expect(await send()).toEqual({ status, where }));

  test('a name that grows in lower case', async () => {
    const name = `${'İ'.repeat(242)}@example.org`;
    expect(name).toHaveLength(254);
    const account = { name, password: 'a long password', zone: 'UTC' };
    const { status, body } = await new Client(server.url).send('POST', '/accounts', account);
    expect([status, body.error.where]).toEqual([400, 'name']);
  });

  test('a one-off that would open before the year 1', async () => {
    const series = { start: '0001-01-01', repeat: null, opensBefore: 'P1Y' };
    const details = { title: 'Wax' };
    const create = { do: 'create', id: randomUUID(), todo: randomUUID(), series, details };
    const { status, body } = await client.send('POST', '/actions', create);
    expect([status, body.error.where]).toEqual([400, 'series.start']);
  });
});

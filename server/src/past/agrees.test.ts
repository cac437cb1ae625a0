import { randomUUID } from 'node:crypto';
import {
  DEFAULT_SETTINGS,
  beginLongAgo,
  checkSeries,
  clockOf,
  formatDay,
  formatInstant,
  parseDay,
  type Settings,
} from '@back-again/core';
import { insight, type InsightInput, type Outcome } from '@back-again/core/past';
import { addUser } from '../account/users.ts';
import { randomFrom } from '../demo/random.ts';
import type { Running } from '../server.ts';
import { startTestServer } from '../testing/harness.ts';
import { pastDays } from './days.ts';
import { pastTodo } from './todo.ts';
import { totals } from './totals.ts';

// What the server groups in SQL is held against what the core says of the same record.

const FROM = parseDay('2027-01-01');
const NOW = Date.UTC(2028, 0, 1);
const SPAN = { from: '2027-03-10', to: '2027-11-20' };
const ZONES: Partial<Settings>[] = [
  {},
  { zone: 'Europe/London', dayStart: '04:00' },
  { zone: 'America/St_Johns', dayStart: '02:30' },
  { zone: 'Pacific/Auckland' },
  { zone: 'Pacific/Apia', dayStart: '12:00' },
  { zone: 'Asia/Kathmandu', weekStart: 'SU' },
];
const EACH = 50;

let server: Running;
beforeAll(async () => {
  server = await startTestServer('2028-01-01T00:00:00Z');
});
afterAll(() => server.stop());

type Time = InsightInput['times'][number];

/** A made-up record: done early and late, at any hour, with what was written down. */
function anyTimes(random: ReturnType<typeof randomFrom>, count: number): Time[] {
  return Array.from({ length: count }, (): Time => {
    const day = formatDay(FROM + random.below(360));
    const hour = String(random.below(24)).padStart(2, '0');
    const due = random.below(10) ? (random.below(3) ? day : `${day}T${hour}:15`) : null;
    const closedAt = (parseDay(day) - 2 + random.below(8)) * 86_400_000 + random.below(86_400_000);
    const answers = random.below(3) ? { litres: random.below(2000) / 10 } : { litres: 'much' };
    return {
      slot: due ?? 'undated',
      due,
      status: (['done', 'done', 'skipped', 'missed'] as Outcome[])[random.below(4)]!,
      closedAt: formatInstant(closedAt),
      ...(random.below(2) ? { spent: random.below(90) } : {}),
      ...(random.below(2) ? { answers } : {}),
    };
  });
}

test.each(ZONES)('on 50 records of a person, %j', async (more) => {
  const { db } = server;
  const random = randomFrom(JSON.stringify(more).length * 7919);
  const settings = { ...DEFAULT_SETTINGS, ...more };
  const user = await addUser(db, {
    name: `${randomUUID()}@example.org`,
    password: 'a long password',
    settings,
    now: NOW,
  });
  const series = checkSeries({ start: '2027-01-01', repeat: { by: 'completion', every: 'P9D' } });
  const questions = [{ id: 'litres', asks: 'litres', kind: 'number', unit: 'l' }] as const;
  const details = { takes: 25, questions: [...questions] };
  const actor = { userId: user.id, settings, now: NOW };
  const isDone = ({ status }: Time) => status === 'done';

  for (let i = 0; i < EACH; i++) {
    const id = randomUUID();
    const times = anyTimes(random, random.below(40));
    await db.series.create({
      id,
      userId: user.id,
      title: 'Pump out the tank',
      place: null,
      details: details as never,
      definition: series,
      progress: { ...beginLongAgo(series, NOW), through: NOW },
      ended: false,
      createdAt: new Date(0),
      countedAs: null,
    });
    await db.occurrences.bulkCreate(
      times.map((time, n) => ({
        userId: user.id,
        seriesId: id,
        number: n + 1,
        slot: time.slot,
        due: time.due,
        plan: null,
        planBy: 'due' as const,
        moved: false,
        status: time.status,
        openedAt: null,
        closedAt: new Date(time.closedAt),
        rolled: 0,
        filled: { ...(time.answers ? { answers: time.answers } : {}), spent: time.spent! },
      })),
    );
    const said = insight({ series, details, settings, times, ...SPAN });
    const asked = { ...SPAN, todo: id, by: 'month', asks: 'Litres', unit: 'l' } as const;
    const { rows, all } = await totals(db, actor, asked);
    const { litres } = said.answers;
    expect({ ...all, asked: all.asked ?? undefined }).toEqual({
      done: said.done,
      skipped: said.skipped,
      missed: said.missed,
      kept: said.kept,
      minutes: said.months.reduce((sum, { minutes }) => sum + minutes, 0),
      estimated: said.months.reduce((sum, { estimated }) => sum + estimated, 0),
      asked: litres,
    });
    const something = rows.filter((row) => row.done + row.skipped + row.missed + row.minutes);
    expect(
      something.map(({ key, name: _n, under: _u, isGone: _g, parts: _p, asked: _a, ...row }) => ({
        month: key.slice(0, 7),
        ...row,
      })),
    ).toEqual(said.months.filter((it) => it.done + it.skipped + it.missed + it.minutes));
    expect((await pastTodo(db, actor, id, SPAN)).insight).toEqual(said);

    const { days } = await pastDays(db, actor, { ...SPAN, todo: id });
    const clock = clockOf(settings);
    const doneDays = times
      .filter(isDone)
      .map(({ closedAt }) => formatDay(clock.dayAt(Date.parse(closedAt))))
      .filter((day) => day >= SPAN.from && day <= SPAN.to);
    expect(days.reduce((sum, { doneOn }) => sum + doneOn, 0)).toBe(doneDays.length);
    for (const day of doneDays) expect(days.map(({ date }) => date)).toContain(day);
  }
});

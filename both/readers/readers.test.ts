import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { parseDay } from '../../core/src/calendar/day.ts';
import { checkSeries, whatOf, whenOf } from '../../core/src/definition/check.ts';
import { SENTENCES } from '../../core/src/phrase/check/sentences.ts';
import { read } from '../../core/src/phrase/meaning/read.ts';
import type { Series } from '../../core/src/series/definition/definition.ts';
import { DEFAULT_SETTINGS } from '../../core/src/series/person/settings.ts';
import type { SlottedPlan } from '../../core/src/series/plan/plan.ts';
import { plannerOf } from '../../core/src/series/plan/planner.ts';
import { MOST, slotsFrom } from '../../core/src/exchange/slots.ts';
import { toIcal } from '../../core/src/exchange/out.ts';

// What goes out is read by python3-icalendar (its dates by python3-recurring-ical-events) and by libical, as
// Debian 12 ships them.

const LONDON = { ...DEFAULT_SETTINGS, zone: 'Europe/London' };
const NOW = '2027-06-01T10:00:00Z';
const [FROM, TO] = ['2027-06-01', '2028-05-31'];

interface Answer {
  errors: { icalendar: unknown[]; libical: number };
  icalendar: Record<string, string[]>;
  libical: Record<string, string[]>;
}

function readBy(ical: string): Answer {
  const script = join(__dirname, 'readers.py');
  const ran = spawnSync('/usr/bin/python3', [script, FROM, '2028-06-01'], {
    input: ical,
    maxBuffer: 1 << 28,
  });
  if (ran.status !== 0)
    throw new Error(`The readers failed (npm test installs them): ${ran.stderr}`);
  return JSON.parse(String(ran.stdout)) as Answer;
}

const SPOKEN = SENTENCES.map(([text]) => text as string).flatMap((text) => {
  const { series: definition, problems } = read(text, FROM);
  if (problems.length) return [];
  const series = checkSeries(whenOf(definition));
  return [{ text, series, details: { ...whatOf(definition), place: null } }];
});

/** Slots of which the calendar yields each, by the core: no more than are written one by one. */
function ours(series: Series): string[] {
  const { repeat } = series;
  const isListed = repeat?.by === 'dates' || (repeat?.by === 'calendar' && !('rule' in repeat));
  const from = Math.max(parseDay(FROM), parseDay(series.start!));
  const plan = plannerOf(LONDON)(series) as SlottedPlan;
  return slotsFrom(plan, from, parseDay(TO), isListed ? MOST : 1000).map(({ slot }) => slot);
}

test('both read it without an error, and expand the same dates as the core', () => {
  const compared = SPOKEN.filter(
    ({ series: { repeat, at } }) =>
      repeat && repeat.by !== 'completion' && repeat.by !== 'quota' && (at?.length ?? 0) < 2,
  );
  const todos = compared.map(({ series, details }, i) => ({ id: `t${i}`, series, details }));
  const answer = readBy(toIcal({ todos, settings: LONDON, now: NOW }).ical);
  expect(answer.errors).toEqual({ icalendar: [], libical: 0 });
  expect(compared.length).toBeGreaterThan(140);
  compared.forEach(({ text, series }, i) => {
    const wanted = ours(series);
    const { ends, repeat } = series;
    for (const reader of ['icalendar', 'libical'] as const) {
      let [found, expected] = [answer[reader][`t${i}`] ?? [], wanted];
      found = found.filter((it) => it <= `${TO}~` && it >= FROM);
      // libical takes the hours of RDATE for UTC in icalcomponent_foreach_recurrence: their days are compared.
      const isByHours = reader === 'libical' && series.at && !(repeat && 'rule' in repeat);
      if (isByHours)
        [found, expected] = [found, expected].map((all) => all.map((it) => it.slice(0, 10))) as [
          string[],
          string[],
        ];
      // python3-recurring-ical-events 2.0.1 takes UNTIL by the offset of DTSTART: the last one of a summer is lost.
      const isCut = reader === 'icalendar' && series.at && ends && 'on' in ends;
      if (isCut && found.length === expected.length - 1) expected = expected.slice(0, -1);
      expect([reader, text, found]).toEqual([reader, text, expected]);
    }
  });
});

test('times that ended, several a day, counted ones, alarms and what others keep are read without an error', () => {
  const todos = SPOKEN.map(({ series, details }, i) => ({
    id: `all ${i}`,
    series: {
      ...series,
      ...(series.start === null
        ? {}
        : { reminders: [{ before: 'P1D', at: '18:00' }, { channel: 'email' as const }] }),
    },
    details: { ...details, note: 'Ä; long, '.repeat(30), tags: ['a, b', 'c;d'] },
    times:
      series.start === null
        ? []
        : [
            {
              slot: series.at?.[0] ? `${series.start}T${series.at[0]}` : series.start,
              due: series.start,
              status: 'done' as const,
              closedAt: '2027-06-01T09:00:00Z',
              note: 'Rain; and, wind\nthen sun',
            },
          ],
    kept: [['x-theirs', { 'x-p': 'a;b' }, 'unknown', 'c:d']] as never,
  }));
  const { ical } = toIcal({
    todos: todos as never,
    settings: { ...LONDON, email: 'demo@example.org' } as never,
    now: NOW,
  });
  expect(readBy(ical).errors).toEqual({ icalendar: [], libical: 0 });
});

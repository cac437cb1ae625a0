import { chance } from '../../chance.ts';
import { parseInstant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import { wakeAt } from '../life/advance.ts';
import { beginLongAgo } from '../life/begin.ts';
import { checkSeries } from '../../definition/check.ts';
import { forecast } from './forecast.ts';
import { pass } from '../life/record.ts';
import { rehearse, type Rehearsal, type RehearsalStep } from '../life/rehearse.ts';
import { checkSettings } from '../person/settings.ts';
import { plannerOf } from './planner.ts';
import { isSlotted } from './plan.ts';

// Rules R1, R5, R11 and R16 for a to-do that comes back several times a day; results by hand.

const DAILY = {
  title: 'Feed the hens',
  start: '2027-06-01',
  at: ['08:00', '13:00', '20:00'],
  repeat: { by: 'calendar', rule: 'FREQ=DAILY' },
};

const play = (
  series: unknown,
  until: string,
  steps: RehearsalStep[] = [],
  more: Partial<Rehearsal> = {},
) => rehearse({ series, steps, until, ...more });
const brief = (result: ReturnType<typeof rehearse>) =>
  result.times.map((time) => `${time.slot.slice(5)} ${time.status}`);
const slots = (series: unknown, settings = {}) => {
  const planner = plannerOf(checkSettings(settings));
  return forecast(planner, beginLongAgo(checkSeries(series), 0), 0, undefined, 40).map(
    ({ slot }) => slot,
  );
};

describe('single times of a day are excepted and added (R1)', () => {
  const EDITED = {
    start: '2027-06-01',
    at: ['08:00', '13:00', '20:00'],
    repeat: {
      by: 'calendar',
      rule: 'FREQ=DAILY;INTERVAL=2;COUNT=4',
      except: [
        '2027-06-01T13:00',
        '2027-06-05',
        '2027-06-07T08:00',
        '2027-06-07T13:00',
        '2027-06-07T20:00',
      ],
      extra: ['2027-06-02T20:00', '2027-06-05T08:00', '2027-06-06', '2027-06-03T13:00'],
    },
  };
  const EXPECTED = [
    ...['2027-06-01T08:00', '2027-06-01T20:00', '2027-06-02T20:00'],
    ...['2027-06-03T08:00', '2027-06-03T13:00', '2027-06-03T20:00'],
    ...['2027-06-06T08:00', '2027-06-06T13:00', '2027-06-06T20:00'],
  ];

  test('a date has all of them, a date and time that one; what is excepted stays so', () => {
    expect(slots(EDITED)).toEqual(EXPECTED);
    expect(slots({ ...EDITED, ends: { after: 4 } })).toEqual(EXPECTED.slice(0, 4));
  });

  test('forward, back and counted are one, with whatever is edited', () => {
    for (let seed = 1; seed <= 200; seed++) {
      const below = chance(seed);
      const moment = () => {
        const day = `2027-06-${String(1 + below(12)).padStart(2, '0')}`;
        return below(3) ? `${day}T${EDITED.at[below(3)]}` : day;
      };
      const some = () => Array.from({ length: below(6) }, moment);
      const [except, extra] = [some(), some()];
      const series = checkSeries({
        ...EDITED,
        repeat: {
          by: 'calendar',
          rule: `FREQ=DAILY;INTERVAL=${1 + below(3)};UNTIL=20270612`,
          except,
          extra,
        },
      });
      const plain = slots({
        ...series,
        repeat: { by: 'calendar', rule: (series.repeat as { rule: string }).rule },
      });
      const all = (it: string) =>
        it.length > 10 ? [it] : EDITED.at.map((time) => `${it}T${time}`);
      const gone = new Set(except.flatMap(all));
      const wanted = [...new Set([...plain, ...extra.flatMap(all)])]
        .filter((it) => !gone.has(it))
        .sort();
      const plan = plannerOf(checkSettings({}))(series);
      if (!isSlotted(plan)) throw new Error('The calendar yields them.');
      const forward: string[] = [];
      for (let it = plan.slotAfter(null); it; it = plan.slotAfter(it.slot)) forward.push(it.slot);
      const back: string[] = [];
      for (let it = plan.slotBefore('2027-07-01'); it; it = plan.slotBefore(it)) back.unshift(it);
      expect([seed, forward]).toEqual([seed, wanted]);
      expect([seed, back]).toEqual([seed, wanted]);
      expect(wanted.map((it) => plan.countTo(it))).toEqual(wanted.map((_, i) => i + 1));
    }
  });

  test('a time that is none of the day is refused by name', () => {
    const repeat = { ...EDITED.repeat, extra: ['2027-06-02T09:00'] };
    expect(() => checkSeries({ ...EDITED, repeat })).toThrow('at none of its times of day');
  });
});

describe('what is open', () => {
  test('the first opens with the day, each further one at its own time and ends the one before', () => {
    expect(brief(play(DAILY, '2027-06-01T00:00:00Z'))).toEqual(['06-01T08:00 open']);
    expect(brief(play(DAILY, '2027-06-01T12:59:00Z'))).toEqual(['06-01T08:00 open']);
    expect(brief(play(DAILY, '2027-06-01T13:00:00Z'))).toEqual([
      '06-01T08:00 missed',
      '06-01T13:00 open',
    ]);
    const next = play(DAILY, '2027-06-02T07:00:00Z');
    expect(brief(next)).toEqual([
      '06-01T08:00 missed',
      '06-01T13:00 missed',
      '06-01T20:00 missed',
      '06-02T08:00 open',
    ]);
    expect(next.times.map((time) => time.closedAt)).toEqual([
      '2027-06-01T13:00:00Z',
      '2027-06-01T20:00:00Z',
      '2027-06-02T00:00:00Z',
      undefined,
    ]);
    expect(next.next).toBe('2027-06-02T13:00');
  });

  test('what is still to come that day can be finished ahead, and closes that slot alone', () => {
    const result = play(DAILY, '2027-06-01T19:00:00Z', [
      { at: '2027-06-01T09:00:00Z', do: 'done' },
      { at: '2027-06-01T09:05:00Z', do: 'done', slot: '2027-06-01T20:00' },
    ]);
    expect(brief(result)).toEqual(['06-01T08:00 done', '06-01T13:00 open', '06-01T20:00 done']);
    expect(result.next).toBe('2027-06-02T08:00');
  });

  test('one that the person moved stays until its day is over', () => {
    const result = play(DAILY, '2027-06-01T21:00:00Z', [
      { at: '2027-06-01T09:00:00Z', do: 'move', due: '2027-06-01T18:00' },
    ]);
    expect(brief(result)).toEqual(['06-01T08:00 open', '06-01T13:00 missed', '06-01T20:00 open']);
  });

  test('two at night is the last of the evening before, where days begin at four', () => {
    const series = { ...DAILY, at: ['02:00', '20:00'] };
    const settings = { dayStart: '04:00' };
    expect(brief(play(series, '2027-06-01T12:00:00Z', [], { settings }))).toEqual([
      '06-01T02:00 missed',
      '06-01T20:00 open',
    ]);
    expect(brief(play(series, '2027-06-02T03:00:00Z', [], { settings }))).toEqual([
      '06-01T02:00 missed',
      '06-01T20:00 missed',
      '06-02T02:00 open',
    ]);
  });

  test('opened days before: the first of a day then, the further ones at their own times', () => {
    const series = { ...DAILY, at: ['08:00', '20:00'], opensBefore: 'P2D' };
    const result = play(series, '2027-06-02T12:00:00Z');
    expect(brief(result)).toEqual([
      '06-01T08:00 missed',
      '06-01T20:00 missed',
      '06-02T08:00 open',
      '06-03T08:00 open',
      '06-04T08:00 open',
    ]);
    expect(result.next).toBe('2027-06-02T20:00');
    const planner = plannerOf(checkSettings());
    const { progress } = pass(
      planner,
      beginLongAgo(checkSeries(series), 0),
      parseInstant('2027-06-02T12:00:00Z'),
    );
    expect(wakeAt(planner, progress)).toBe(parseInstant('2027-06-02T20:00:00Z'));
    expect(forecast(planner, progress, 0, undefined, 3).map(({ due }) => due)).toEqual([
      '2027-06-02T20:00',
      '2027-06-03T20:00',
      '2027-06-04T20:00',
    ]);
  });

  test('a one-off has each of its times on its day', () => {
    const series = { ...DAILY, repeat: null };
    const result = play(series, '2027-06-03T00:00:00Z', [
      { at: '2027-06-01T08:10:00Z', do: 'done' },
    ]);
    expect(brief(result)).toEqual(['06-01T08:00 done', '06-01T13:00 missed', '06-01T20:00 open']);
    expect(
      play(series, '2027-06-01T21:00:00Z', [{ at: '2027-06-01T20:10:00Z', do: 'done' }]),
    ).toMatchObject({ ended: true, next: null });
  });
});

describe('slots', () => {
  test('times are in order and each is there once', () => {
    expect(slots({ ...DAILY, at: ['20:00', '08:00', '20:00'] }).slice(0, 3)).toEqual([
      '2027-06-01T08:00',
      '2027-06-01T20:00',
      '2027-06-02T08:00',
    ]);
  });

  test('COUNT counts dates, “so many times” counts times', () => {
    expect(
      slots({ ...DAILY, repeat: { by: 'calendar', rule: 'FREQ=DAILY;COUNT=2' } }),
    ).toHaveLength(6);
    const five = slots({ ...DAILY, ends: { after: 5 } });
    expect(five).toHaveLength(5);
    expect(five.at(-1)).toBe('2027-06-02T13:00');
    expect(slots({ ...DAILY, ends: { after: 6 } }).at(-1)).toBe('2027-06-02T20:00');
    expect(slots({ ...DAILY, ends: { after: 1 } })).toEqual(['2027-06-01T08:00']);
  });

  test('“so many times” with a date left out and one added', () => {
    const repeat = {
      by: 'calendar',
      rule: 'FREQ=WEEKLY;BYDAY=TU',
      except: ['2027-06-08'],
      extra: ['2027-06-10'],
    };
    expect(slots({ ...DAILY, at: ['08:00', '20:00'], repeat, ends: { after: 5 } })).toEqual([
      '2027-06-01T08:00',
      '2027-06-01T20:00',
      '2027-06-10T08:00',
      '2027-06-10T20:00',
      '2027-06-15T08:00',
    ]);
  });

  test('UNTIL in UTC is brought to the person’s zone (RFC 5545 §3.3.10), its last instant included', () => {
    const until = (text: string, at = DAILY.at) =>
      slots(
        { ...DAILY, at, repeat: { by: 'calendar', rule: `FREQ=DAILY;UNTIL=${text}` } },
        { zone: 'America/New_York' },
      ).at(-1);
    // 20:00 in New York in June is 00:00 UTC of the next day (UTC−4).
    expect(until('20270604T000000Z')).toBe('2027-06-03T20:00');
    expect(until('20270603T235959Z')).toBe('2027-06-03T13:00');
    expect(until('20270603T110000Z')).toBe('2027-06-02T20:00');
    expect(until('20270604T000000Z', ['20:00'])).toBe('2027-06-03T20:00');
    expect(until('20270603T235900Z', ['20:00'])).toBe('2027-06-02T20:00');
    expect(until('20270604T000000Z', [])).toBe('2027-06-03');
  });

  test('a time that the clock skips moves forward by the gap, the slot keeps its name (R16)', () => {
    const settings = { zone: 'Europe/London' };
    const series = { ...DAILY, start: '2027-03-28', at: ['01:30', '12:00'] };
    const result = play(series, '2027-03-28T11:30:00Z', [], { settings });
    expect(result.times.map(({ slot, due }) => [slot, due])).toEqual([
      ['2027-03-28T01:30', '2027-03-28T02:30'],
      ['2027-03-28T12:00', '2027-03-28T12:00'],
    ]);
    // In autumn 01:30 comes twice: the first, at 00:30 UTC, is meant.
    const autumn = { ...DAILY, start: '2027-10-31', at: ['01:15', '01:30'] };
    const [first] = play(autumn, '2027-10-31T00:30:00Z', [], { settings }).times;
    expect(first).toMatchObject({ status: 'missed', closedAt: '2027-10-31T00:30:00Z' });
  });
});

test.each([
  [{ ...DAILY, repeat: { by: 'completion', every: 'P3D' } }, 'at'],
  [{ ...DAILY, at: ['08:00', '25:00'] }, 'at.1'],
  [{ ...DAILY, at: Array.from({ length: 49 }, () => '08:00') }, 'at'],
  [{ ...DAILY, start: null, repeat: null }, 'at'],
])('refuses %j', (series, where) => {
  expect(() => checkSeries(series)).toThrow(expect.objectContaining({ where }));
  expect(() => checkSeries(series)).toThrow(CoreError);
});

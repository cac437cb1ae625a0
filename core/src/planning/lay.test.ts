import { chance } from '../chance.ts';
import { formatTime, parseTime } from '../calendar/time.ts';
import { GRID, layOut, type LayInput, type LayTime } from './lay.ts';

// The four criteria of laying out a day, held against all ways there are, written here from the text alone.

type Way = { id: string; start: number; takes: number }[];

const minute = (text: string) => (text === '24:00' ? 1440 : parseTime(text));
const meet = (a: number, aEnd: number, b: number, bEnd: number) => a < bEnd && b < aEnd;

function* ways({ up, now, fixed, times }: LayInput, from = 0): Generator<Way> {
  const time = times[from];
  if (!time) {
    yield [];
    return;
  }
  const first = Math.max(minute(up.from), minute(time.from), now ? minute(now) : 0);
  const last = Math.min(minute(up.to), minute(time.to)) - time.takes;
  for (const way of ways({ up, fixed, times, ...(now ? { now } : {}) }, from + 1)) {
    yield way;
    for (let start = 0; start <= last; start += GRID) {
      const end = start + time.takes;
      if (start < first) continue;
      if (way.some((it) => meet(start, end, it.start, it.start + it.takes))) continue;
      const isTaken = fixed.some((it) => {
        const at = minute(it.from);
        return it.minutes > 0 && meet(start, end, at, at + it.minutes);
      });
      if (!isTaken) yield [{ id: time.id, start, takes: time.takes }, ...way];
    }
  }
}

function bestOf(input: LayInput): (number | string)[] {
  let best: (number | string)[] | null = null;
  for (const way of ways(input)) {
    const laid = new Set(way.map(({ id }) => id));
    const left = input.times.filter(({ id }) => !laid.has(id));
    const worth = [
      left.filter(({ importance }) => importance === 'high').length,
      left.length,
      way.reduce((sum, { start }) => sum + start, 0),
      written(way.map(({ id, start }) => ({ id, at: formatTime(start) }))),
    ];
    const at = best === null ? 0 : worth.findIndex((it, i) => it !== best![i]);
    if (best === null || (at >= 0 && worth[at]! < best[at]!)) best = worth;
  }
  return best!;
}

const written = (laid: { id: string; at: string }[]) =>
  [...laid]
    .sort((a, b) => (a.id < b.id ? -1 : 1))
    .map(({ id, at }) => `${id} ${at}`)
    .join('|');

/** A made-up morning: short, so that all ways can be gone through. */
function anyDay(seed: number, most: number, until = 10): LayInput {
  const below = chance(seed);
  const at = (n: number) => (n >= 288 ? '24:00' : formatTime(n * GRID));
  const from = 12 * 7 + below(6);
  const to = 12 * until + below(6);
  const times: LayTime[] = Array.from({ length: 1 + below(most) }, (_, i) => {
    const first = from - 3 + below(to - from);
    return {
      id: `t${below(9)}${i}`,
      takes: [5, 7, 15, 20, 40, 60][below(6)]!,
      from: at(first),
      to: at(first + 1 + below(30)),
      importance: (['high', 'normal', 'low'] as const)[below(3)]!,
    };
  });
  return {
    up: { from: formatTime(from * GRID + below(2) * 3), to: at(to) },
    ...(below(2) ? { now: formatTime(from * GRID + below(60)) } : {}),
    fixed: Array.from({ length: below(3) }, () => ({
      from: formatTime(from * GRID + below(120)),
      minutes: [0, 10, 25, 45][below(4)]!,
    })),
    times,
  };
}

test('1,000 made-up days: as good as the best of all ways, in all four', () => {
  for (let seed = 1; seed <= 1000; seed++) {
    const day = anyDay(seed, 4);
    const { laid, left } = layOut(day);
    const sum = laid.reduce((all, { at }) => all + parseTime(at), 0);
    const high = day.times.filter((it) => left.includes(it.id) && it.importance === 'high');
    expect([seed, high.length, left.length, sum, written(laid)]).toEqual([seed, ...bestOf(day)]);
  }
});

test('eight and more: none overlap, each lies in its window, and the same input gives the same', () => {
  for (const most of [8, 30])
    for (let seed = 1; seed <= 15; seed++) {
      const day = anyDay(seed, most, 20);
      const answer = layOut(day);
      expect(layOut({ ...day, times: [...day.times].reverse() })).toEqual(answer);
      const ids = [...answer.laid.map(({ id }) => id), ...answer.left].sort();
      expect(ids).toEqual(day.times.map(({ id }) => id).sort());
      const taken = [
        ...day.fixed.filter(({ minutes }) => minutes).map((it) => [minute(it.from), it.minutes]),
      ];
      for (const { id, at } of answer.laid) {
        const time = day.times.find((it) => it.id === id)!;
        const start = parseTime(at);
        expect(start % GRID).toBe(0);
        expect(start).toBeGreaterThanOrEqual(Math.max(minute(time.from), minute(day.up.from)));
        expect(start + time.takes).toBeLessThanOrEqual(
          Math.min(minute(time.to), minute(day.up.to)),
        );
        expect(taken.some(([s, n]) => meet(start, start + time.takes, s!, s! + n!))).toBe(false);
        taken.push([start, time.takes]);
      }
    }
});

const DAY: LayInput = { up: { from: '07:00', to: '22:00' }, fixed: [], times: [] };
const TIME: LayTime = { id: 'a', takes: 30, from: '08:00', to: '12:00', importance: 'normal' };

test.each<[string, LayInput, { laid: string[]; left?: string[] }]>([
  ['as early as it may', { ...DAY, times: [TIME] }, { laid: ['a 08:00'] }],
  ['not before now', { ...DAY, now: '09:02', times: [TIME] }, { laid: ['a 09:05'] }],
  [
    'around what is fixed, which may end off the grid',
    { ...DAY, fixed: [{ from: '07:50', minutes: 33 }], times: [TIME] },
    { laid: ['a 08:25'] },
  ],
  [
    'one of no length blocks nothing',
    { ...DAY, fixed: [{ from: '08:10', minutes: 0 }], times: [TIME] },
    { laid: ['a 08:00'] },
  ],
  [
    'up to midnight',
    {
      ...DAY,
      up: { from: '00:00', to: '24:00' },
      times: [{ ...TIME, from: '23:30', to: '24:00' }],
    },
    { laid: ['a 23:30'] },
  ],
  [
    'longer than its window',
    { ...DAY, times: [{ ...TIME, takes: 300 }] },
    { laid: [], left: ['a'] },
  ],
  ['longer than the day', { ...DAY, times: [{ ...TIME, takes: 3000 }] }, { laid: [], left: ['a'] }],
  [
    'one important before two that are not',
    {
      ...DAY,
      times: [
        { ...TIME, takes: 240, importance: 'high' },
        { ...TIME, id: 'b' },
        { ...TIME, id: 'c', importance: 'low' },
      ],
    },
    { laid: ['a 08:00'], left: ['b', 'c'] },
  ],
])('%s', (_name, input, { laid, left = [] }) => {
  const answer = layOut(input);
  expect(answer.laid.map(({ id, at }) => `${id} ${at}`)).toEqual(laid);
  expect(answer.left).toEqual(left);
});

test.each<[string, unknown, string]>([
  [
    'a window that does not end after it begins',
    { ...DAY, times: [{ ...TIME, to: '08:00' }] },
    'lay.hours',
  ],
  ['hours of the night', { ...DAY, up: { from: '22:00', to: '06:00' } }, 'lay.hours'],
  ['ids that are not unique', { ...DAY, times: [TIME, TIME] }, 'lay.id'],
  ['no minutes', { ...DAY, times: [{ ...TIME, takes: 0 }] }, 'lay.minutes'],
  ['no time of day', { ...DAY, times: [{ ...TIME, to: '25:00' }] }, 'time.form'],
  ['no list', { up: DAY.up, fixed: [] }, 'lay.form'],
  [
    'importance that is none',
    { ...DAY, times: [{ ...TIME, importance: 'urgent' }] },
    'lay.importance',
  ],
])('refused: %s', (_name, input, code) => {
  expect(() => layOut(input as LayInput)).toThrow(expect.objectContaining({ code }));
});

import { formatDay } from '../calendar/day.ts';
import { formatInstant } from '../calendar/zone.ts';
import { chance } from '../chance.ts';
import { CoreError } from '../errors.ts';
import { checkSeries } from '../definition/check.ts';
import type { Deed } from '../series/deeds/deeds.ts';
import { advance, hasEnded } from '../series/life/advance.ts';
import { forecast } from '../series/plan/forecast.ts';
import { Life } from '../series/life/life.ts';
import type { Progress } from '../series/life/progress.ts';
import { checkSettings } from '../series/person/settings.ts';
import { plannerOf } from '../series/plan/planner.ts';
import type { Planner } from '../series/plan/plan.ts';
import { fromIcal, toIcal } from '../exchange.ts';
import { seriesTold, settle, timesTold } from './settling.ts';

const DAY = 86_400_000;
const BORN = Date.UTC(2027, 5, 1, 10);
const SETTINGS = checkSettings({ zone: 'Europe/London', dayStart: '04:00' });
const planner = plannerOf(SETTINGS);

const rule = (text: string) => ({ by: 'calendar', rule: text });
const DEFINITIONS = [
  { repeat: rule('FREQ=DAILY') },
  { repeat: rule('FREQ=DAILY'), at: ['08:00', '13:00', '20:00'] },
  { repeat: rule('FREQ=WEEKLY;BYDAY=TU,FR'), late: 'wait', opensBefore: 'P3D' },
  { repeat: rule('FREQ=DAILY;INTERVAL=2'), ends: { after: 9 } },
  { repeat: { by: 'completion', every: 'P3D' } },
  { repeat: { by: 'completion', every: 'P2D' }, ends: { after: 4 } },
  { repeat: { by: 'completion', every: 'PT9H' } },
  { repeat: { by: 'quota', times: 3, per: 'week' } },
  { repeat: { by: 'dates', dates: ['2027-06-02', '2027-06-03', '2027-06-08', '2027-06-20'] } },
  { repeat: null },
].map((parts) => checkSeries({ title: 'Weigh the hives', start: '2027-05-30', ...parts }));

const brief = (of: Planner, progress: Progress, at: number) => ({
  open: progress.open.map(({ slot, due, part, tally, note, filled }) => ({
    slot,
    due,
    part,
    tally,
    note,
    answers: filled?.answers,
  })),
  coming: forecast(of, progress, at, undefined, 8).map(({ slot, due }) => [slot, due]),
  over: hasEnded(of, progress),
  done: progress.done,
  // When one of so many a period was last done stands in no time.
  lastDone: progress.series.repeat?.by === 'quota' ? null : progress.lastDone,
});

test('a to-do that comes in with its record stands as where it came from, and goes on the same', () => {
  let compared = 0;
  for (let seed = 1; seed <= 1200; seed++) {
    const below = chance(seed);
    const series = DEFINITIONS[seed % DEFINITIONS.length]!;
    const life = new Life(planner, { series, at: BORN });
    let at = BORN;
    for (let i = 0; i < below(7); i++) {
      at += 60_000 + below(3 * DAY);
      life.pass(at);
      const time = life.progress.open[below(Math.max(1, life.progress.open.length))];
      if (!time) continue;
      const { slot } = time;
      const due = formatDay(Math.floor(at / DAY) + 1 + below(2));
      const deeds: Deed[] = [
        { do: 'done', slot },
        { do: 'done', slot, answers: { kg: below(40) } },
        { do: 'skip', slot },
        { do: 'tally', slot },
        { do: 'part', slot, part: 1 + below(98) },
        { do: 'note', slot, note: `Rain ${below(9)}` },
        { do: 'answer', slot, answers: { kg: below(40) } },
        // Among several a day a moved one stands where it was when the others opened, which no time tells.
        series.at ? { do: 'note', slot, note: 'Wind' } : { do: 'move', slot, due },
      ];
      try {
        life.do({ key: `${i}`, at, deed: deeds[below(deeds.length)]! });
      } catch (error) {
        if (!(error instanceof CoreError)) throw error;
      }
    }
    at += 1 + below(DAY);
    life.pass(at);
    const ended = life.times.filter(({ status }) => status !== 'open');
    const times = timesTold(life.progress, ended);
    const told = { id: 'a', series: seriesTold(life.progress), times };
    // By way of a calendar, or from hand to hand.
    const now = formatInstant(at);
    const todo =
      seed % 2 || !times.length
        ? told
        : (fromIcal({
            ...toIcal({ todos: [told], settings: SETTINGS, now }),
            settings: SETTINGS,
            now,
          }).todos[0] as typeof told);
    const settled = settle(planner, todo.series, todo.times ?? [], at);
    expect([seed, settled.lost]).toEqual([seed, []]);
    const { progress } = advance(planner, settled.begun, at);
    expect([seed, series.repeat, brief(planner, progress, at)]).toEqual([
      seed,
      series.repeat,
      brief(planner, life.progress, at),
    ]);
    expect(settled.ended.map(({ slot, status, closedAt }) => [slot, status, closedAt])).toEqual(
      ended.map(({ slot, status, closedAt }) => [slot, status, closedAt]),
    );
    compared += ended.length;
  }
  expect(compared).toBeGreaterThan(1500);
});

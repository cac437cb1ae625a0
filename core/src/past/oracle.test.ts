import { Temporal } from 'temporal-polyfill';
import { chance } from '../chance.ts';
import { insight, type InsightInput } from './insight.ts';
import type { Outcome } from './times.ts';

// The same figures worked out another way, from the text of “How it is counted” (8-past) alone: days by
// Temporal (TC39), everything else by going through the list again and again.

type Time = InsightInput['times'][number];
const ZONES = ['UTC', 'Europe/London', 'America/St_Johns', 'Australia/Lord_Howe', 'Pacific/Apia'];
const STARTS = ['00:00', '04:00', '05:30'];
const QUESTIONS = [
  { id: 'kg', asks: 'kg', kind: 'number', unit: 'kg' },
  { id: 'how', asks: 'how', kind: 'scale', to: 5 },
  { id: 'ok', asks: 'ok', kind: 'yesno' },
  { id: 'say', asks: 'say', kind: 'text' },
] as const;

/** The date of a moment on a clock, or of the day before, where the day has not begun. */
function dateAt(date: string, time: string, dayStart: string): string {
  const day = Temporal.PlainDate.from(date);
  return (time < dayStart ? day.subtract({ days: 1 }) : day).toString();
}

function oracle({ times, from, to, settings, details }: InsightInput) {
  const { zone = 'UTC', dayStart = '00:00' } = settings ?? {};
  const takes = (details?.takes as number | undefined) ?? 0;
  const all = times.map((time) => {
    const at = Temporal.Instant.from(time.closedAt).toZonedDateTimeISO(zone);
    const ended = dateAt(at.toPlainDate().toString(), at.toPlainTime().toString(), dayStart);
    const [date, hour] = (time.due ?? '').split('T');
    const due = !date ? ended : hour ? dateAt(date, hour, dayStart) : date;
    return { ...time, ended, due };
  });
  const between = (a: string, b: string) => Temporal.PlainDate.from(a).until(b).days;
  const isIn = (date: string) => date >= from && date <= to;
  const due = all.filter((time) => isIn(time.due));
  const done = all
    .filter(({ status, ended }) => status === 'done' && isIn(ended))
    .sort((a, b) => (a.ended < b.ended ? -1 : a.ended > b.ended ? 1 : 0));
  const count = (of: readonly { status: Outcome }[], status: Outcome) =>
    of.filter((time) => time.status === status).length;
  const kept = (of: readonly { status: Outcome }[]) => {
    const [d, m] = [count(of, 'done'), count(of, 'missed')];
    // Halves up: the whole per cent that is at most half a per cent below.
    for (let per = 100; per >= 0 && d + m > 0; per--)
      if ((2 * per - 1) * (d + m) <= 200 * d) return per;
    return null;
  };
  const spread = (values: readonly number[]) => {
    if (!values.length) return null;
    // The lower middle: the least of which at least half are no greater.
    const sorted = values.toSorted((a, b) => a - b);
    const usual = sorted.find((it) => 2 * values.filter((v) => v <= it).length >= values.length)!;
    return { usual, least: sorted[0]!, greatest: sorted.at(-1)! };
  };
  const gaps = done.slice(1).map((time, i) => between(done[i]!.ended, time.ended));
  const order = due.toSorted(
    (a, b) =>
      a.due.localeCompare(b.due) ||
      (a.slot < b.slot ? -1 : a.slot > b.slot ? 1 : 0) ||
      a.closedAt.localeCompare(b.closedAt),
  );
  const runs = order
    .map(({ status }) => (status === 'done' ? 'd' : status === 'missed' ? 'm' : ''))
    .join('')
    .split('m')
    .map((run) => run.length);
  const last = gaps.slice(-12);
  const usual = spread(last)?.usual ?? 0;
  const isOther = usual >= 1 && Math.abs(usual - 10) >= 2 && Math.abs(usual - 10) / 10 >= 0.15;
  const spentOf = ({ spent }: Time) => spent ?? takes;
  const monthsWith = [
    ...due.map((time) => time.due.slice(0, 7)),
    ...done.filter((time) => spentOf(time) > 0).map(({ ended }) => ended.slice(0, 7)),
  ].sort();
  const months = [];
  for (let month = monthsWith[0]; month !== undefined && month <= monthsWith.at(-1)!;) {
    const own = due.filter((time) => time.due.startsWith(month!));
    const took = done.filter(({ ended }) => ended.startsWith(month!));
    const sum = (of: readonly Time[]) => of.reduce((total, time) => total + spentOf(time), 0);
    months.push({
      month,
      done: count(own, 'done'),
      skipped: count(own, 'skipped'),
      missed: count(own, 'missed'),
      kept: kept(own),
      minutes: sum(took),
      estimated: sum(took.filter(({ spent }) => spent === undefined)),
    });
    month = Temporal.PlainYearMonth.from(month).add({ months: 1 }).toString();
  }
  const said = (id: string) =>
    done.flatMap(({ answers }) => (answers?.[id] === undefined ? [] : [answers[id]]));
  const [kg, how, ok, say] = [said('kg'), said('how'), said('ok'), said('say')];
  const tenths = kg.reduce<number>((sum, n) => sum + Math.round(Number(n) * 10), 0);
  const yes = ok.filter(Boolean).length;
  return {
    done: count(due, 'done'),
    skipped: count(due, 'skipped'),
    missed: count(due, 'missed'),
    kept: kept(due),
    lateness: spread(
      due
        .filter(({ status }) => status === 'done')
        .map((time) => (time.due === time.ended ? 0 : between(time.due, time.ended))),
    ),
    gaps: gaps.length ? { ...spread(gaps), last } : null,
    inARow: { now: runs.at(-1)!, most: Math.max(...runs) },
    instead: last.length >= 6 && isOther ? `P${usual}D` : null,
    months,
    answers: {
      ...(kg.length ? { kg: { ...spread(kg as number[]), sum: tenths / 10, of: kg.length } } : {}),
      ...(how.length ? { how: { ...spread(how as number[]), of: how.length } } : {}),
      ...(ok.length
        ? {
            ok: {
              counts: {
                ...(yes ? { true: yes } : {}),
                ...(ok.length - yes ? { false: ok.length - yes } : {}),
              },
              of: ok.length,
            },
          }
        : {}),
      ...(say.length ? { say: { of: say.length } } : {}),
    },
  };
}

test('1,000 made-up records say the same, worked out another way', () => {
  for (let seed = 1; seed <= 1000; seed++) {
    const below = chance(seed);
    const pick = <T>(all: readonly T[]): T => all[below(all.length)]!;
    const two = (n: number) => String(n).padStart(2, '0');
    const spread = 5 + below(400);
    const times = Array.from({ length: below(40) }, (): Time => {
      const day = Temporal.PlainDate.from('2027-01-01').add({ days: below(spread) });
      const hour = `${two(below(24))}:${pick(['00', '15', '30'])}`;
      const due = below(9) ? (below(3) ? day.toString() : `${day.toString()}T${hour}`) : null;
      const closed = day.add({ days: below(8) - 2 });
      const answers = {
        ...(below(2) ? { kg: below(400) / 10 } : {}),
        ...(below(2) ? { how: 1 + below(5) } : {}),
        ...(below(3) ? {} : { ok: below(2) > 0 }),
        ...(below(3) ? {} : { say: 'a word' }),
      };
      return {
        slot: due ?? 'undated',
        due,
        status: pick(['done', 'done', 'done', 'skipped', 'missed'] as const),
        closedAt: `${closed.toString()}T${two(below(24))}:${two(below(60))}:${two(below(60))}Z`,
        ...(below(2) ? { spent: below(60) } : {}),
        ...(Object.keys(answers).length ? { answers } : {}),
      };
    });
    const from = Temporal.PlainDate.from('2027-01-01').add({ days: below(60) });
    const input: InsightInput = {
      series: { start: '2027-01-01', repeat: { by: 'completion', every: 'P10D' } },
      details: { questions: QUESTIONS, ...(below(2) ? { takes: 1 + below(50) } : {}) },
      settings: { zone: pick(ZONES), dayStart: pick(STARTS) },
      times,
      from: from.toString(),
      to: from.add({ days: below(420) }).toString(),
    };
    expect([seed, insight(input)]).toEqual([seed, oracle(input)]);
  }
});

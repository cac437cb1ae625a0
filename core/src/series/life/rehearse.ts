import { parseDay, type LocalDate } from '../../calendar/day.ts';
import type { LocalMoment } from '../../calendar/time.ts';
import { formatInstant, parseInstant, type Instant } from '../../calendar/zone.ts';
import { CoreError } from '../../errors.ts';
import type { Deed } from '../deeds/deeds.ts';
import { hasEnded, wakeAt } from './advance.ts';
import { checkSeries } from '../../definition/check.ts';
import { startDay, type Series } from '../definition/definition.ts';
import { forecast, nextDue, type Ahead } from '../plan/forecast.ts';
import { Life } from './life.ts';
import type { Occurrence, Status } from './progress.ts';
import type { Born } from './record.ts';
import { hasReminders, remindersIn, type Reminding } from '../reminding/reminding.ts';
import { checkSettings, type Settings } from '../person/settings.ts';
import { plannerOf } from '../plan/planner.ts';
import type { Planner } from '../plan/plan.ts';

/** One step of a rehearsal, with instants as ISO 8601 text. */
export interface RehearsalStep {
  at: string;
  do: 'done' | 'skip' | 'move' | 'tally' | 'undo' | 'pause' | 'resume' | 'change' | 'later';
  slot?: LocalMoment;
  plan?: LocalDate;
  due?: LocalMoment;
  /** With `later`: the instant until which nothing is said. */
  to?: string;
  /** With `change`: the parts of the definition that are other from this time on. */
  series?: Partial<Series>;
  /** With `done`: finished at this earlier instant. */
  when?: string;
}

export interface Rehearsal {
  series: unknown;
  /** When the to-do came to be, as ISO 8601 text; left out: so long ago that it hinders nothing. */
  made?: string;
  settings?: Partial<Settings>;
  /** Public holidays, as dates. */
  holidays?: LocalDate[];
  steps?: RehearsalStep[];
  /** Inclusive. */
  until: string;
  /** Adds the forecast up to this date. */
  ahead?: LocalDate;
}

export interface RehearsedTime {
  slot: LocalMoment;
  due: LocalMoment | null;
  plan: LocalDate | null;
  status: Status;
  closedAt?: string;
  rolled: number;
  tally?: number;
}

export interface Rehearsed {
  /** Open and ended times in order of slot. */
  times: RehearsedTime[];
  ended: boolean;
  next: LocalMoment | null;
  /** What was said about it up to `until`, in order (R17). */
  reminders: { slot: LocalMoment; at: string }[];
  ahead?: Omit<Ahead, 'slot'>[];
}

/**
 * Plays out what becomes of a to-do when a person does these things at these instants. A step
 * that finds no time is ignored.
 * @throws CoreError for a definition, setting, instant or step that is wrong, with its place.
 */
export function rehearse(it: Rehearsal): Rehearsed {
  const settings = checkSettings(it.settings);
  const planner = plannerOf(settings, it.holidays);
  const series = checkSeries(it.series);
  const until = parseInstant(it.until, 'until');
  const steps = placed(it.steps);
  const born = bornOf(it, series, planner, [until, ...steps.map((step) => step.instant)]);

  const played = new Played(planner, born);
  const { life } = played;
  const said: Reminding[] = [];
  const keys = new Set<string>();
  let saidThrough = born.at - 1;
  const sayUpTo = (to: Instant) => {
    const isLater = to > saidThrough && hasReminders(life.progress);
    for (const it of isLater ? remindersIn(planner, life.progress, settings, saidThrough, to) : [])
      if (!keys.has(it.key)) {
        keys.add(it.key);
        said.push(it);
      }
    saidThrough = Math.max(saidThrough, to);
  };
  /** Lets time pass, and says on the way what there is to say: it stands as it is between two wakings. */
  const letPass = (to: Instant) => {
    for (;;) {
      const wake = hasReminders(life.progress) ? (wakeAt(planner, life.progress) ?? to) : to;
      const at = Math.min(to, Math.max(wake, saidThrough + 1));
      sayUpTo(at - 1);
      life.pass(at);
      sayUpTo(at);
      if (at === to) return;
    }
  };

  for (const step of steps) {
    if (step.instant > until) break;
    letPass(step.instant);
    played.take(step);
    // What comes to be now may be set for this very moment.
    saidThrough = Math.min(saidThrough, step.instant - 1);
  }
  letPass(until);

  return {
    times: life.times.map(shownTime),
    ended: hasEnded(planner, life.progress),
    next: nextDue(planner, life.progress),
    reminders: said.map(({ slot, at }) => ({ slot, at: formatInstant(at) })),
    ...(it.ahead === undefined
      ? {}
      : {
          ahead: forecast(planner, life.progress, until, parseDay(it.ahead, 'ahead')).map(
            ({ due, kind }) => ({ due, kind }),
          ),
        }),
  };
}

type Placed = RehearsalStep & { instant: Instant; key: string };

/** Steps of a rehearsal with their instants and keys. */
export function placed(steps: readonly RehearsalStep[] = [], where = 'steps'): Placed[] {
  return steps.map((step, i) => ({
    ...step,
    instant: parseInstant(step.at, `${where}.${i}.at`),
    key: `${where}.${i}`,
  }));
}

/** A to-do to which steps are done one after another; the last of them can be taken back. */
export class Played {
  readonly life: Life;
  private readonly order: string[] = [];

  constructor(planner: Planner, born: Born) {
    this.life = new Life(planner, born);
  }

  /** Does a step, or takes the last one back; one that finds no time is ignored. */
  take(step: Placed): void {
    const { life, order } = this;
    const { instant, key } = step;
    if (step.do === 'undo') {
      const last = order.pop();
      if (last !== undefined) life.undo(last, instant);
      return;
    }
    const deed = deedOf(step);
    const when = step.when === undefined ? instant : parseInstant(step.when, `${key}.when`);
    if (when > instant)
      throw new CoreError('when.future', `${key}.when`, 'A finish cannot lie ahead.');
    const did = { key, at: when, deed };
    const found = when < instant ? life.doEarlier(did, instant) : life.do(did);
    if (found) order.push(key);
  }
}

/**
 * How the to-do came to be. Where that is not said, before anything could be said of it: two years
 * before its start at the latest (R19), and before all that is done to it.
 * @throws CoreError `made.late` where something is done before it is made
 */
export function bornOf(
  { made }: Pick<Rehearsal, 'made'>,
  series: Series,
  { clock }: Planner,
  moments: readonly Instant[],
): Born {
  const first = Math.min(...moments);
  if (made === undefined) {
    const start = startDay(series);
    const early = start === null ? first : clock.startOf(start - LONG_BEFORE);
    return { series, at: Math.min(first, early), longAgo: true };
  }
  const at = parseInstant(made, 'made');
  if (at > first)
    throw new CoreError('made.late', 'made', 'Nothing can be done to it before it is made.');
  return { series, at };
}

const LONG_BEFORE = 800;

function deedOf(step: RehearsalStep): Deed {
  const slot = step.slot === undefined ? {} : { slot: step.slot };
  switch (step.do) {
    case 'done':
    case 'skip':
    case 'tally':
      return { do: step.do, ...slot };
    case 'pause':
    case 'resume':
      return { do: step.do };
    case 'later':
      return { do: 'later', ...slot, to: step.to ?? '' };
    case 'change':
      return { do: 'change', ...slot, series: step.series ?? {} };
    case 'move':
      return {
        do: 'move',
        ...slot,
        ...(step.plan === undefined ? {} : { plan: step.plan }),
        ...(step.due === undefined ? {} : { due: step.due }),
      };
    default:
      throw new CoreError(
        'step.do',
        'steps',
        `“${String(step.do)}” is not something to do with a time.`,
      );
  }
}

function shownTime(time: Occurrence): RehearsedTime {
  const { slot, due, plan, status, rolled, tally } = time;
  return {
    slot,
    due,
    plan,
    status,
    ...(time.closedAt === null ? {} : { closedAt: formatInstant(time.closedAt) }),
    rolled,
    ...(tally === undefined ? {} : { tally }),
  };
}

import { formatDay, parseDay } from '../calendar/day.ts';
import { addToDay, isClockSpan, parseSpan } from '../calendar/span.ts';
import type { Instant } from '../calendar/zone.ts';
import type { Series } from '../series/definition/definition.ts';
import type { Occurrence } from '../series/life/progress.ts';
import type { PersonalClock } from '../series/person/settings.ts';
import { NO_DETAILS, type Details, type StepText } from './details.ts';
import { MOST_TITLE } from './whatChecks.ts';

/** What follows from finishing a time beside the time itself: other to-dos that it makes. */

/** What becomes of steps that are left when a time is finished: let go of, or kept as a one-off. */
export type Left = 'drop' | 'keep';

/** A to-do that an action makes. */
export interface Made {
  id: string;
  series: Series;
  details: Details;
}

const PURPOSES = { then: 0x5a17_c0de, left: 0x2b1d_f00d } as const;

/**
 * The id of the to-do that an action makes: of the action’s own id, so that all who work it out come to
 * the same.
 * @param action a UUID
 */
export function madeId(action: string, purpose: keyof typeof PURPOSES): string {
  const head = (Number.parseInt(action.slice(0, 8), 16) ^ PURPOSES[purpose]) >>> 0;
  return head.toString(16).padStart(8, '0') + action.slice(8);
}

/** The steps of a time: those of the to-do, and its own. */
export function stepsOf(
  { steps }: Pick<Details, 'steps'>,
  time: Pick<Occurrence, 'filled'> | null,
): StepText[] {
  return [...steps, ...(time?.filled?.added ?? [])];
}

/** The steps of a time that are not ticked. */
export function leftSteps(
  details: Pick<Details, 'steps'>,
  time: Pick<Occurrence, 'filled'> | null,
): StepText[] {
  const ticks = new Set(time?.filled?.ticks);
  return stepsOf(details, time).filter(({ id }) => !ticks.has(id));
}

/** The to-dos that finishing a time makes: what comes then, and what was left of its steps. */
export function madeBy(
  clock: PersonalClock,
  action: string,
  of: { details: Details; time: Pick<Occurrence, 'filled'>; at: Instant; left: Left | undefined },
): Made[] {
  const { details, time, at, left } = of;
  const { place, tags, then } = details;
  const made: Made[] = [];
  if (then)
    made.push({
      id: madeId(action, 'then'),
      series: onceAfter(clock, at, then.after),
      details: { ...NO_DETAILS, title: capital(then.title), place },
    });
  const steps = left === 'keep' ? leftSteps(details, time) : [];
  if (steps.length)
    made.push({
      id: madeId(action, 'left'),
      series: { start: formatDay(clock.dayAt(at)), repeat: null },
      details: { ...NO_DETAILS, title: restOf(details.title), place, tags, steps },
    });
  return made;
}

const capital = (text: string) => text.charAt(0).toLocaleUpperCase('en') + text.slice(1);
const restOf = (title: string) => `The rest of: ${title}`.slice(0, MOST_TITLE);

/** A one-off that is due so long after an instant: on that day, or at that time of it. */
function onceAfter(clock: PersonalClock, at: Instant, after: string): Series {
  const span = parseSpan(after);
  if (!isClockSpan(span))
    return { start: formatDay(addToDay(clock.dayAt(at), span)), repeat: null };
  const { minute } = clock.civilAt(at);
  const day = addToDay(parseDay(clock.momentAt(at).slice(0, 10)), span);
  const due = clock.momentAt(clock.instantAt(day, minute) + span.minutes * 60_000);
  return { start: due.slice(0, 10), at: [due.slice(11)], repeat: null };
}

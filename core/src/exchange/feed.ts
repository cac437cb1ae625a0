import { formatDay, parseDay, type LocalDate } from '../calendar/day.ts';
import { parseMoment, type LocalMoment } from '../calendar/time.ts';
import type { Instant } from '../calendar/zone.ts';
import type { Occurrence, Progress } from '../series/life/progress.ts';
import { forecast } from '../series/plan/forecast.ts';
import type { Planner } from '../series/plan/plan.ts';
import { later } from './entry.ts';
import {
  instantProperty,
  momentsProperty,
  textProperty,
  writtenEntry,
  type Property,
} from './jcal.ts';

/** The times of a to-do as events of a calendar that others subscribe to (RFC 5545 §3.6.1). */

export interface FeedTodo {
  id: string;
  title: string;
  /** Minutes; null for not said. */
  takes: number | null;
  progress: Progress;
  /** Those of its times that were done within the span. */
  done: readonly Pick<Occurrence, 'slot' | 'number' | 'due' | 'closedAt' | 'filled'>[];
}

/** So many events of one to-do at most. */
const MOST = 800;

/**
 * One event for each time of a to-do: open ones on the day for which they are planned, firm and expected
 * ones to come, and done ones at their moment. What has no hour is of the whole day, and takes up no time.
 * @param until the last day, inclusive
 * @param said when it was last said, as an instant: the DTSTAMP of each
 */
export function feedEvents(
  planner: Planner,
  { id, title, takes, progress, done }: FeedTodo,
  {
    zone,
    now,
    from,
    until,
    said,
  }: { zone: string; now: Instant; from: LocalDate; until: LocalDate; said: Instant },
): string {
  const { clock } = planner;
  const stamp = instantProperty('dtstamp', said);
  const event = (uid: string, name: string, when: Property[], more: Property[] = []) =>
    writtenEntry([
      'vevent',
      [textProperty('uid', `${id}-${uid}`), stamp, textProperty('summary', name), ...when, ...more],
      [],
    ]);
  const at = (moment: LocalMoment) => whenOf(moment, takes, zone);
  const texts = done.flatMap(({ slot, number, due, closedAt, filled }) => {
    if (closedAt === null) return [];
    const minutes = Math.max(1, filled?.spent ?? takes ?? 1);
    const start = closedAt - minutes * 60_000;
    return event(
      `${slot}-${number}`,
      `${title} (done)`,
      [instantProperty('dtstart', start), instantProperty('dtend', closedAt)],
      [
        textProperty(
          'description',
          due === null ? 'Done.' : `Done. It was due on ${due.replace('T', ' at ')}.`,
        ),
        textProperty('transp', 'TRANSPARENT'),
      ],
    );
  });
  const open = progress.open.flatMap((time) => {
    const on = standsOn(time);
    return on === null || on.slice(0, 10) < from || on.slice(0, 10) > until
      ? []
      : event(`${time.slot}-${time.number}`, title, at(on));
  });
  const coming = forecast(planner, progress, now, parseDay(until), MOST).map((time) => {
    const on = standsOn({ ...time, plan: time.plan ?? formatDay(clock.dayOfMoment(time.due)) });
    return time.kind === 'firm'
      ? event(time.slot, title, at(on!))
      : event(`${time.slot}-expected`, `${title} (expected)`, at(on!), [
          textProperty('status', 'TENTATIVE'),
          textProperty('description', 'When it comes depends on when the one before is done.'),
        ]);
  });
  return [...texts, ...open, ...coming].join('');
}

/** The day for which it is planned, with its hour where it has one there. */
function standsOn({
  due,
  plan,
  planAt,
}: Pick<Occurrence, 'due' | 'plan' | 'planAt'>): LocalMoment | null {
  if (planAt !== undefined) return planAt;
  if (plan === null) return due;
  return due?.startsWith(plan) ? due : plan;
}

function whenOf(moment: LocalMoment, takes: number | null, zone: string): Property[] {
  if (parseMoment(moment).minute === null)
    return [momentsProperty('dtstart', [moment], zone), textProperty('transp', 'TRANSPARENT')];
  const until = later(moment, takes ?? 0);
  return [
    momentsProperty('dtstart', [moment], zone),
    ...(takes === null
      ? [textProperty('transp', 'TRANSPARENT')]
      : [momentsProperty('dtend', [until], zone), textProperty('transp', 'OPAQUE')]),
  ];
}

import {
  DEFAULT_REMIND_AT,
  awake,
  clockOf,
  formatDay,
  formatInstant,
  parseMoment,
  type Instant,
  type Settings,
} from '@back-again/core';

/** A moment to which a reminder can be put off. */
export interface LaterChoice {
  label: string;
  /** ISO 8601. */
  to: string;
}

const HOUR = 3_600_000;
const EVENING = '18:00';

/** To when a reminder can be put off in one touch: an hour, three, this evening, tomorrow, in a week. */
export function laterChoices(now: Instant, settings: Settings): LaterChoice[] {
  const clock = clockOf(settings);
  const { day, minute } = parseMoment(clock.momentAt(now));
  const on = (later: number, time: string) => clock.instantOf(`${formatDay(day + later)}T${time}`);
  const hour = settings.remindAt ?? DEFAULT_REMIND_AT;
  const choices = [
    { label: 'in an hour', at: now + HOUR },
    { label: 'in 3 hours', at: now + 3 * HOUR },
    ...(minute! < 17 * 60 ? [{ label: `this evening, ${EVENING}`, at: on(0, EVENING) }] : []),
    { label: `tomorrow, ${hour}`, at: on(1, hour) },
    { label: 'in a week', at: on(7, hour) },
  ];
  return choices.map(({ label, at }) => ({ label, to: formatInstant(at) }));
}

/** The next moment with a time of day, written as 18:30, 18.30 or 8; null where it is none. */
export function laterAt(text: string, now: Instant, settings: Settings): string | null {
  const found = /^(\d{1,2})(?:[:.](\d{2}))?$/u.exec(text.trim());
  if (!found || Number(found[1]) > 23 || Number(found[2] ?? 0) > 59) return null;
  const clock = clockOf(settings);
  const { day } = parseMoment(clock.momentAt(now));
  const time = `${found[1]!.padStart(2, '0')}:${found[2] ?? '00'}`;
  const [today, tomorrow] = [0, 1].map((n) => clock.instantOf(`${formatDay(day + n)}T${time}`));
  return formatInstant(today! > now ? today! : tomorrow!);
}

/** When something that was put off is said: quiet hours hold it until they end. */
export function saidAgain(to: string, settings: Settings): string {
  return formatInstant(awake(clockOf(settings), settings, Date.parse(to)));
}

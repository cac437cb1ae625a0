import type { MessageChannel, MessageState, SaidRow } from '@back-again/contract';
import { daysLate, momentText, type LocalDate, type Settings } from '@back-again/core';
import { days, instantText } from '../../ui/dates.ts';

export const CHANNEL_NAMES: Record<MessageChannel, string> = {
  email: 'e-mail',
  text: 'text message',
  push: 'notification',
};

const STATES: Record<MessageState, string> = {
  waiting: 'on its way',
  sent: 'sent',
  dropped: 'not needed any more',
  'given up': 'could not be sent',
};

/** What stands under a title: first when it is due, then when, how often and how it was said. */
export function lineOf(
  row: SaidRow,
  today: LocalDate,
  settings: Settings,
): { lead: string; late: number; rest: string } {
  const { due, time, times, saidAt, sent } = row;
  const late = time?.status === 'open' ? daysLate(time, today, settings) : 0;
  const lead = late
    ? `${days(late)} late`
    : due === null
      ? 'no date'
      : `due ${momentText(due, today, true)}`;
  const said = `said ${instantText(saidAt, today, settings)}`;
  const often = times > 1 ? `, ${times} times in all` : '';
  const ways = sent.map(({ channel, state }) => `${CHANNEL_NAMES[channel]} ${STATES[state]}`);
  return { lead, late, rest: [` · ${said}${often}`, ...ways].join(' · ') };
}

/** What became of the time; null while it is open or to come. */
export function becameOf({ time }: SaidRow, today: LocalDate, settings: Settings): string | null {
  if (!time || time.status === 'open') return null;
  const how = { done: 'Done', skipped: 'Skipped', missed: 'Missed' }[time.status];
  return time.closedAt ? `${how} ${instantText(time.closedAt, today, settings)}` : how;
}

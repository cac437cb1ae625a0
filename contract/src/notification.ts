import { momentText, type LocalDate, type LocalMoment } from '@back-again/core';
import type { OverviewContent } from './views.ts';

/** What a notification of a device shows, whoever shows it: of a to-do, or of a morning overview. */
export function notificationWords(
  title: string | null,
  due: LocalMoment | null,
  overview: OverviewContent | null,
  today: LocalDate,
): { title: string; body: string } {
  if (overview) {
    const { late, today: forToday, more } = overview;
    const [nLate, nToday] = [late.length + (more?.late ?? 0), forToday.length + (more?.today ?? 0)];
    return { title: 'This morning', body: `${nLate} late, ${nToday} for today` };
  }
  return { title: title ?? 'Back Again', body: due ? `due ${momentText(due, today, true)}` : '' };
}

/** What a sentence is meant to say: the parts of the definition that it names, or that it has to be asked about. */

import type { Reading } from '../meaning/reading.ts';

export type Meant = 'ask' | Record<string, unknown>;
export type Said = readonly [who: string, text: string, meant: Meant];

export const rule = (text: string, more: object = {}) => ({
  repeat: { by: 'calendar', rule: `FREQ=${text}`, ...more },
});
export const after = (every: string, more: object = {}) => ({
  repeat: { by: 'completion', every, ...more },
});
export const quota = (times: number, per: string) => ({ repeat: { by: 'quota', times, per } });
export const workday = (nth: number, per: string) => ({
  repeat: { by: 'calendar', workday: nth, per },
});
export const dates = (...days: string[]) => ({ repeat: { by: 'dates', dates: days } });
export const once = (start: string | null, ...at: string[]) => ({
  start,
  repeat: null,
  ...(at.length ? { at } : {}),
});

/** Whether something of a reading is asked about, or said to be wrong or not understood. */
export const isLoud = ({
  doubts,
  problems,
  notUnderstood,
}: Pick<Reading, 'doubts' | 'problems' | 'notUnderstood'>): boolean =>
  doubts.length > 0 || problems.length > 0 || notUnderstood.length > 0;

import { formatTime, type LocalTime } from '../calendar/time.ts';
import { time } from './grammar/times.ts';
import { tokensOf } from './grammar/tokens.ts';

/** What a typed hour comes to, or what is wrong with it, in words. */
export type TypedHours = { times: LocalTime[] } | { wrong: string };

/**
 * Hours as people type them into a field, read as in a sentence behind *at*: “18”, “6pm”, “18.30”, “1930”,
 * “noon”, “half past 9”; several with commas or *and* between them. Gives each as `HH:MM`, in the order in
 * which they were typed and each once; nothing typed is no time.
 *
 * @example hoursIn('8, 6pm') // { times: ['08:00', '18:00'] }
 */
export function hoursIn(text: string): TypedHours {
  const typed = text.trim();
  if (!typed) return { times: [] };
  const found: number[] = [];
  for (const part of typed.split(/\s*(?:[,;&]|\band\b)\s*/iu).filter(Boolean)) {
    const tokens = tokensOf(`at ${part}`);
    const read = time(tokens, 1);
    if (!read || read.next !== tokens.length) return { wrong: `“${part}” is no hour: ${HOW}` };
    if (read.value.minute < 0)
      return { wrong: `There is no “${part}” on a clock: hours go from 0:00 to 23:59.` };
    found.push(read.value.minute);
  }
  return { times: [...new Set(found.map(formatTime))] };
}

const HOW = 'write it as 18, 18:30 or 6pm.';

/** One hour typed into a field, as {@link hoursIn}; more than one is wrong there. */
export function hourIn(text: string): { time: LocalTime | null } | { wrong: string } {
  const read = hoursIn(text);
  if ('wrong' in read) return read;
  return read.times.length > 1 ? { wrong: 'One hour alone.' } : { time: read.times[0] ?? null };
}

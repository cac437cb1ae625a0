import { formatTime, type LocalTime } from '../calendar/time.ts';

/** What a typed hour comes to, or what is wrong with it, in words. */
export type TypedHours = { times: LocalTime[] } | { wrong: string };

/** “18”, “18:30”, “18.30”, “1930”, each with am or pm perhaps. */
const WRITTEN = /^(?:(\d{1,2})(?:[:.](\d{2}))?|(\d{2})(\d{2}))\s*(am|pm|a\.m\.?|p\.m\.?)?$/u;
const NAMED: Record<string, number> = { noon: 720, midday: 720, midnight: 0 };

/** Minutes since midnight; −1 where there is no such time; null where it is no hour at all. */
function minuteOf(text: string): number | null {
  const low = text
    .toLowerCase()
    .replaceAll('’', "'")
    .replace(/\s*o'clock$/u, '');
  const named = NAMED[low];
  if (named !== undefined) return named;
  const found = WRITTEN.exec(low);
  if (!found) return null;
  const [hour, minute] = [Number(found[1] ?? found[3]), Number(found[2] ?? found[4] ?? 0)];
  const half = found[5]?.[0];
  const isOff = minute > 59 || (half ? hour < 1 || hour > 12 : hour > 23);
  if (isOff) return -1;
  return ((half ? hour % 12 : hour) + (half === 'p' ? 12 : 0)) * 60 + minute;
}

/**
 * Hours as people type them into a field: “18”, “6pm”, “18.30”, “1930”, “noon”; several with commas or *and*
 * between them. They come to what a sentence says with them (`hours.test.ts` holds the two against each
 * other), without all that reads sentences. Gives each as `HH:MM`, in the order in which they were typed and
 * each once; nothing typed is no time.
 * @param most how many it takes; any number, unless said
 *
 * @example hoursIn('8, 6pm') // { times: ['08:00', '18:00'] }
 */
export function hoursIn(text: string, most = Infinity): TypedHours {
  const typed = text.trim();
  if (!typed) return { times: [] };
  const found: number[] = [];
  for (const part of typed.split(/\s*(?:[,;&]|\band\b)\s*/iu).filter(Boolean)) {
    const minute = minuteOf(part);
    if (minute === null) return { wrong: `“${part}” is no hour: ${HOW}` };
    if (minute < 0)
      return { wrong: `There is no “${part}” on a clock: hours go from 0:00 to 23:59.` };
    found.push(minute);
  }
  const times = [...new Set(found.map(formatTime))];
  return times.length > most ? { wrong: 'One hour alone.' } : { times };
}

const HOW = 'write it as 18, 18:30 or 6pm.';

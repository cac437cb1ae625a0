import { CoreError, formatTime, parseTime } from '@back-again/core';

/** A typed time of day, `8:00` among them, as `HH:MM`; null while it is none. */
export function timeIn(text: string): string | null {
  try {
    return formatTime(parseTime(text.padStart(5, '0')));
  } catch (error) {
    if (error instanceof CoreError) return null;
    throw error;
  }
}

import type { Reminder, Definition } from '@back-again/core';

/** A definition that says no reminders of its own with the usual ones; what has no date has none. */
export function withUsual(series: Definition, usual: readonly Reminder[] | undefined): Definition {
  if (!usual?.length || series.reminders || series.start === null) return series;
  return { ...series, reminders: [...usual] };
}

/** The same without them, as long as they are the usual ones. */
export function withoutUsual(series: Definition, usual: readonly Reminder[]): Definition {
  if (JSON.stringify(series.reminders) !== JSON.stringify(usual)) return series;
  const { reminders: _usual, ...rest } = series;
  return rest;
}

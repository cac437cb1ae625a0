import type { Reminder, Series } from '@back-again/core';

/** A definition that says no reminders of its own with the usual ones; what has no date has none. */
export function withUsual(series: Series, usual: readonly Reminder[] | undefined): Series {
  if (!usual?.length || series.reminders || series.start === null) return series;
  return { ...series, reminders: [...usual] };
}

/** The same without them, as long as they are the usual ones. */
export function withoutUsual(series: Series, usual: readonly Reminder[]): Series {
  if (JSON.stringify(series.reminders) !== JSON.stringify(usual)) return series;
  const { reminders: _usual, ...rest } = series;
  return rest;
}

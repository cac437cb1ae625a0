import { clockOf, formatInstant, type LocalDate, type Settings } from '@back-again/core';

/** The middle of a day, as an instant: at which hour it was, nobody knows any more. */
export const noonOf = (date: LocalDate, settings: Settings): string =>
  formatInstant(clockOf(settings).instantOf(`${date}T12:00`));

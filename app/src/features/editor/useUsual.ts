import type { Definition, Settings } from '@back-again/core';
import type { Reading } from '@back-again/core/reading';
import { useState } from 'react';
import { withUsual, withoutUsual } from './usual.ts';

/** The definition with the person's usual reminders, where it is new and says none of its own. */
export function useUsual(text: string, reading: Reading, settings: Settings, isNew: boolean) {
  /** The sentence for which they were taken away. */
  const [refused, setRefused] = useState(false);
  if (refused && !text.trim()) setRefused(false);
  const usual = isNew && !refused ? settings.newReminders : undefined;
  const series = withUsual(reading.series, usual);
  const isUsual = series !== reading.series;
  return {
    series,
    isUsual,
    /** A changed definition as it is written down: usual reminders are not. */
    without(next: Definition): Definition {
      if (!isUsual) return next;
      if (!next.reminders) setRefused(true);
      return withoutUsual(next, usual!);
    },
  };
}

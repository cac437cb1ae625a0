import type { TodoState } from '@back-again/contract';
import { NO_DETAILS, parseInstant } from '@back-again/core';
import { configureStore } from '@reduxjs/toolkit';
import { local } from './local/slice.ts';

/** When all is in tests of what a device keeps. */
export const NOW = '2027-06-01T10:00:00Z';

/** A to-do as a server says it, of which only its id and version matter. */
export const todo = (id: string, version: number): TodoState => ({
  id,
  made: parseInstant(NOW),
  version,
  details: { ...NO_DETAILS, title: 'Weigh the hives' },
  describedAt: null,
  progress: { series: { start: null, repeat: null } } as never,
  changesAt: null,
  speaksAt: null,
  nextDue: null,
  over: false,
  lately: [],
});

/** What a page holds of what its device keeps. */
export const newStore = () =>
  configureStore({
    reducer: { local: local.reducer },
    middleware: (defaults) => defaults({ immutableCheck: false, serializableCheck: false }),
  });

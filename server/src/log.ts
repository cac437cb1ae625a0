import { pino, type Logger } from 'pino';
import type { Config } from './config.ts';

export type Log = Logger;

/** The log: what happened and how long it took, never titles, names, bodies or cookies. */
export function logFor(level: Config['log']): Log {
  return pino({ level, base: null, timestamp: pino.stdTimeFunctions.isoTime });
}

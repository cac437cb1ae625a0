import { pino, type DestinationStream, type Logger } from 'pino';
import type { Config } from './config.ts';

export type Log = Logger;

/** The log: what happened and how long it took, never titles, names, bodies or cookies. */
export function logFor(level: Config['log'], to?: DestinationStream): Log {
  const options = {
    level,
    base: null,
    timestamp: pino.stdTimeFunctions.isoTime,
    serializers: { err: withoutContent },
  };
  return to ? pino(options, to) : pino(options);
}

/**
 * What an error says of the code and nothing of what people wrote: a database names the values in
 * its message and its statement, so that only its kind, its code and the places in the code are kept.
 */
function withoutContent(error: unknown): object {
  if (!(error instanceof Error)) return { type: typeof error };
  const { original } = error as { original?: { code?: unknown; errno?: unknown } };
  const places = (error.stack ?? '').split('\n').filter((line) => /^\s+at /u.test(line));
  return {
    type: error.name,
    ...(original ? { code: original.code, errno: original.errno } : {}),
    ...(isOfDatabase(error) ? {} : { message: error.message }),
    stack: places.slice(0, 12).map((line) => line.trim()),
  };
}

function isOfDatabase(error: unknown): boolean {
  return error instanceof Error && (error.name.startsWith('Sequelize') || 'sql' in error);
}

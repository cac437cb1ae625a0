import type { Log } from '../log.ts';

/** What a person did that concerns the safety of their account (OWASP ASVS 5.0, 16.3.1). */
export type SafetyEvent =
  | 'registered'
  | 'signed in'
  | 'signed out'
  | 'session ended'
  | 'password changed'
  | 'address changed'
  | 'link asked for'
  | 'account removed';

/**
 * Writes what concerns safety to the log: what, and of whom by their id. Never a name, an address or a password; the
 * moment is that of the line.
 */
export function noteSafety(log: Log, event: SafetyEvent, user?: string): void {
  log.info({ event, ...(user === undefined ? {} : { user }) }, 'safety');
}

/** Refusals that may be somebody who tries what is not theirs (16.3.2, 16.3.3). */
const REFUSALS: ReadonlySet<string> = new Set([
  'session.wrong',
  'session.tries',
  'password.wrong',
  'reset.none',
  'key.none',
  'key.reach',
  'key.rate',
  'door.none',
  'link.none',
  'origin.other',
  'origin.none',
  'device.address',
]);

/** Writes to the log that something was refused which concerns safety; the rest is of no matter here. */
export function noteRefusal(log: Log, code: string, route: string): void {
  if (REFUSALS.has(code)) log.warn({ event: 'refused', code, route }, 'safety');
}

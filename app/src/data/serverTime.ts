/**
 * The server's time as this device last heard it, so that its own clock may be wrong: what is done
 * without a connection counts from then.
 */
let heard: { server: number; here: number } | null = null;

/** Takes the time from an answer that has it. */
export function hearTime(answer: unknown): void {
  const { now } = (answer ?? {}) as { now?: unknown };
  const server = typeof now === 'string' ? Date.parse(now) : Number.NaN;
  if (!Number.isNaN(server)) heard = { server, here: performance.now() };
}

/** The server's time now, as an ISO 8601 instant; this device's where none was heard yet. */
export function serverNow(): string {
  const ms = heard ? heard.server + (performance.now() - heard.here) : Date.now();
  return new Date(ms).toISOString();
}

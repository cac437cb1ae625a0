/**
 * The server's time as this device last heard it, so that its own clock may be wrong: what is done
 * without a connection counts from then.
 */
interface Heard {
  server: number;
  /** By the clock of the device, and by the one that never jumps but may stand still in its sleep. */
  date: number;
  steady: number;
}

let heard: Heard | null = null;

/** How far the server's time may be from what was thought before that is news. */
const JUMP = 2000;
const listening = new Set<() => void>();

/** Hears when the time turns out to be another than was thought, until it is called. */
export function onJump(heard: () => void): () => void {
  listening.add(heard);
  return () => listening.delete(heard);
}

export function hearTime(now: string): void {
  const server = Date.parse(now);
  const isJump = Math.abs(server - serverNow()) > JUMP;
  if (!Number.isNaN(server)) heard = { server, date: Date.now(), steady: performance.now() };
  if (isJump) for (const tell of listening) tell();
}

/** By how much the server's time is ahead of this device's; null where it was not heard. */
export const aheadBy = () => heard && heard.server - heard.date;

/** What was kept of it: it holds until the server is heard. */
export function startTime(ahead: number): void {
  const date = Date.now();
  heard ??= { server: date + ahead, date, steady: performance.now() };
}

/** The server's time now, in milliseconds; this device's where none was heard yet. */
export function serverNow(): number {
  if (!heard) return Date.now();
  const passed = Math.max(performance.now() - heard.steady, Date.now() - heard.date);
  return heard.server + passed;
}

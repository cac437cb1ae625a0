import { timingSafeEqual } from 'node:crypto';

/** Whether what was shown is what is wanted; how long that takes does not tell how much of it is right. */
export const isSameBytes = (wanted: Buffer, got: Buffer): boolean =>
  wanted.length === got.length && timingSafeEqual(wanted, got);

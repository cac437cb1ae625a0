import type { MessageChannel } from '@back-again/contract';
import type { Pushed } from '@back-again/contract/devices';
import type { DeviceRow } from '../db/models.ts';

/** A message as it is handed over. */
export interface Outgoing {
  /** The same id twice is the same message: who carries it must let it arrive once. */
  id: string;
  userId: string;
  channel: MessageChannel;
  /** An e-mail address, or a telephone number (ITU-T E.164). */
  address: string;
  subject: string;
  text: string;
  /** Where whoever gets it can say that they want no more of them; none for what they asked for themselves. */
  stop?: string;
  /** By push: the browser that it is for, and what it shows. */
  push?: { device: Addressed; shows: Pushed };
}

/** A browser as its push service knows it. */
export type Addressed = Pick<DeviceRow, 'endpoint' | 'p256dh' | 'auth'>;

/** Who carries e-mail and text messages. */
export interface Carrier {
  /**
   * Hands a message over; once it returns the message is on its way.
   * @throws Refused where it never will be; Error where that is not known: it is then handed over again, with its id
   */
  send(message: Outgoing): Promise<void>;
  /** Lets go of what it keeps open. */
  close?(): void;
}

/** Whoever carries it said that this message is not taken, now or later: there is no such address. */
export class Refused extends Error {}

/** Whom it is for is no more: nothing will ever reach them there. */
export class Gone extends Refused {}

/** One carrier for each channel. */
export function byChannel(of: Record<MessageChannel, Carrier>): Carrier {
  return {
    send: (message) => of[message.channel].send(message),
    close: () => Object.values(of).forEach((it) => it.close?.()),
  };
}
